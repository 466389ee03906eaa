import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, got } from "../api/client";
import { ingredientQuery } from "../api/queries";
import { useWrite } from "../api/write";
import { allergen } from "../pure/format";
import { Button } from "./Button";
import { useLists } from "./lists";
import { knownReader, rememberReader } from "./reader";
import { Sheet } from "./Sheet";
import { Tick } from "./Tick";
import { useTell } from "./Toast";

/** What someone reads on a pack: who, when, which pack, and what it says. It stands for that pack until another is in use. */
export function ReadPackSheet({ id, name, onClose }: { id: string; name: string; onClose: () => void }) {
  const known = useQuery(ingredientQuery(id));
  const tell = useTell();
  const [by, setBy] = useState(knownReader);
  const [pack, setPack] = useState<string | null>(null);
  const [contains, setContains] = useState<string[]>([]);
  const [may, setMay] = useState<string[]>([]);
  const [certified, setCertified] = useState(false);
  const [vegan, setVegan] = useState(false);
  const [noSugar, setNoSugar] = useState(false);
  const back = useWrite(
    (reading: string) => got(api.DELETE("/api/readings/{id_}", { params: { path: { id_: reading } } })),
    { changes: "reading" },
  );
  const keep = useWrite(
    () =>
      got(
        api.POST("/api/readings", {
          body: {
            reading: {
              ingredient: id,
              pack: (pack ?? known.data?.item.pack ?? name).trim() || name,
              by: by.trim(),
              on: new Date().toLocaleDateString("sv-SE"),
              contains,
              may_contain: may,
              part: false,
              answers: [],
              certified_gluten_free: certified,
              vegan: vegan || null,
              added_sugar: noSugar ? false : null,
            },
          },
        }),
      ),
    {
      changes: "reading",
      done: (out) => {
        rememberReader(by.trim());
        tell(`Read and kept for ${out.reading.pack}.`, () => back.mutate(out.id));
        onClose();
      },
    },
  );
  return (
    <Sheet title={`Read the pack: ${name}`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate(undefined);
        }}
      >
        <p className="mb-3">
          Say only what stands on the pack in your hand. The reading counts for that pack, and lapses when another one
          is in use.
        </p>
        <div className="mb-3 grid gap-3 sm:grid-cols-2">
          <label>
            <span className="mb-0.5 block font-semibold">Who reads</span>
            <input
              data-first
              className="input w-full"
              required
              maxLength={80}
              value={by}
              onChange={(e) => setBy(e.target.value)}
            />
          </label>
          <label>
            <span className="mb-0.5 block font-semibold">Which pack</span>
            <input
              className="input w-full"
              required
              maxLength={120}
              value={pack ?? known.data?.item.pack ?? name}
              onChange={(e) => setPack(e.target.value)}
            />
          </label>
        </div>
        <fieldset className="mb-3 flex flex-wrap gap-x-6 gap-y-1">
          <legend className="mb-1 font-semibold">It says</legend>
          <Tick label="certified gluten-free" on={certified} onChange={setCertified} />
          <Tick label="vegan" on={vegan} onChange={setVegan} />
          <Tick label="no added sugar" on={noSugar} onChange={setNoSugar} />
        </fieldset>
        <Ticks legend="It contains" chosen={contains} onChange={setContains} />
        <Ticks legend="It may contain traces of" chosen={may} onChange={setMay} />
        {keep.isError && (
          <p role="alert" className="mb-2 text-error">
            {keep.error.message}
          </p>
        )}
        <Button type="submit" kind="strong" disabled={keep.isPending}>
          {keep.isPending ? "Keeping…" : "That is what it says"}
        </Button>
      </form>
    </Sheet>
  );
}

function Ticks({ legend, chosen, onChange }: { legend: string; chosen: string[]; onChange: (list: string[]) => void }) {
  const { allergens } = useLists();
  return (
    <fieldset className="mb-3 flex flex-wrap gap-x-4 gap-y-0.5">
      <legend className="mb-1 font-semibold">{legend}</legend>
      {allergens.map((a) => (
        <Tick
          key={a}
          label={allergen(a)}
          on={chosen.includes(a)}
          onChange={(on) => onChange(on ? [...chosen, a] : chosen.filter((x) => x !== a))}
        />
      ))}
    </fieldset>
  );
}
