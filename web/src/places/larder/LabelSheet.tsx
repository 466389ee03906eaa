import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Answered, api, got } from "../../api/client";
import { inferredQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { Choose } from "../../kit/Choose";
import { useLists } from "../../kit/lists";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { useSettled } from "../../kit/settled";
import { Tick } from "../../kit/Tick";
import { useTell } from "../../kit/Toast";
import { allergen } from "../../pure/format";
import { Does } from "./Does";

type Entry = Answered<"LabelEntry">;
const PARTS = [
  ["kcal", "energy", "kcal"],
  ["fat_g", "fat", "g"],
  ["saturates_g", "of which saturates", "g"],
  ["carbohydrate_g", "carbohydrate", "g"],
  ["sugars_g", "of which sugars", "g"],
  ["fibre_g", "fibre", "g"],
  ["protein_g", "protein", "g"],
  ["salt_g", "salt", "g"],
] as const;
type Part = (typeof PARTS)[number][0];
const KINDS = [
  ["flour", "flour or meal"],
  ["drink", "drink"],
  ["spread", "fat or spread"],
  ["powder", "protein powder"],
] as const;

/** An own pack by its label: what it does in a batter is inferred as it is typed, shown with its doubt, and can be set. */
export function LabelSheet({
  label,
  onClose,
  onKept,
}: {
  label?: Answered<"Label">;
  onClose: () => void;
  onKept: (id: string) => void;
}) {
  const lists = useLists();
  const { places } = useNumbers();
  const [name, setName] = useState(label?.name ?? "");
  const [kind, setKind] = useState<Entry["kind"]>(label?.kind ?? "flour");
  const [parts, setParts] = useState<Record<Part, number | null>>(
    () => Object.fromEntries(PARTS.map(([k]) => [k, label?.[k] ?? null])) as Record<Part, number | null>,
  );
  const [basis, setBasis] = useState<NonNullable<Entry["basis"]>>(label?.basis ?? "carb_without_fibre");
  const [contains, setContains] = useState<string[]>(label ? [...label.contains] : []);
  const [may, setMay] = useState<string[]>(label ? [...label.may_contain] : []);
  const [vegan, setVegan] = useState(label?.vegan ?? false);
  const [certified, setCertified] = useState(label?.certified_gluten_free ?? false);
  const [noSugar, setNoSugar] = useState(label?.added_sugar === false);
  const [cup, setCup] = useState<number | null>(label?.cup_g ?? null);
  const [thirst, setThirst] = useState<number | null>(label?.absorption ?? null);
  const tell = useTell();
  const complete = PARTS.every(([k]) => parts[k] !== null);
  const entry = {
    id: label?.id ?? null,
    name: name.trim(),
    kind,
    ...parts,
    basis,
    contains,
    may_contain: may,
    vegan: vegan || null,
    certified_gluten_free: certified,
    added_sugar: noSugar ? false : null,
    cup_g: cup,
    cup_ml: label && cup === label.cup_g ? label.cup_ml : null,
    absorption: thirst,
  } as Entry;
  const asked = useSettled(JSON.stringify(complete ? { ...entry, name: entry.name || "this pack" } : null), 200);
  const inferred = useQuery(inferredQuery(JSON.parse(asked)));
  const archive = useWrite((id: string) => got(api.DELETE("/api/labels/{id_}", { params: { path: { id_: id } } })), {
    changes: "label",
  });
  const back = useWrite((old: Answered<"Label">) => got(api.PUT("/api/labels", { body: old as Entry })), {
    changes: "label",
  });
  const keep = useWrite(() => got(api.PUT("/api/labels", { body: entry })), {
    changes: "label",
    done: (kept) => {
      tell(`${kept.name} is in the Larder, and is offered in answers.`, () =>
        label ? back.mutate(label) : archive.mutate(kept.id),
      );
      onKept(kept.id);
    },
  });
  const toggle = (list: string[], set: (l: string[]) => void, a: string) => (on: boolean) =>
    set(on ? [...list, a] : list.filter((x) => x !== a));
  return (
    <Sheet title={label ? `The label of ${label.name}` : "Enter a pack by its label"} onClose={onClose} wide>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (complete) keep.mutate(undefined);
        }}
      >
        <div className="grid grid-cols-1 gap-x-8 gap-y-4 md:grid-cols-2">
          <div>
            <label className="mb-3 block">
              <span className="mb-0.5 block font-semibold">Name</span>
              <input
                data-first
                className="input w-full text-base"
                required
                maxLength={120}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            </label>
            <Choose label="It is a" stacked options={KINDS} value={kind} onChange={setKind} />
            <h3 className="mt-3 mb-1 font-semibold">In 100 g, as on the pack</h3>
            <div className="grid gap-1.5">
              {PARTS.map(([key, words, unit]) => (
                <span key={key} className="[&>label]:flex [&>label]:justify-between [&_.unit]:w-8">
                  <NumberField
                    label={words}
                    unit={unit}
                    max={key === "kcal" ? 950 : 100}
                    value={parts[key]}
                    onChange={(v) => setParts((old) => ({ ...old, [key]: v }))}
                  />
                </span>
              ))}
            </div>
            <div className="mt-3">
              <Choose
                label="Carbohydrate on this pack"
                stacked
                options={[
                  ["carb_without_fibre", "leaves fibre out (EU)"],
                  ["carb_with_fibre", "includes fibre (US)"],
                ]}
                value={basis}
                onChange={setBasis}
              />
            </div>
          </div>
          <div>
            <fieldset className="mb-3 flex flex-wrap gap-x-5">
              <legend className="font-semibold">It says</legend>
              <Tick label="vegan" on={vegan} onChange={setVegan} />
              <Tick label="certified gluten-free" on={certified} onChange={setCertified} />
              <Tick label="no added sugar" on={noSugar} onChange={setNoSugar} />
            </fieldset>
            <fieldset className="mb-3 flex flex-wrap gap-x-4">
              <legend className="font-semibold">Contains</legend>
              {lists.allergens.map((a) => (
                <Tick
                  key={a}
                  label={allergen(a)}
                  on={contains.includes(a)}
                  onChange={toggle(contains, setContains, a)}
                />
              ))}
            </fieldset>
            <details className="mb-3" open={may.length > 0}>
              <summary className="min-h-9 cursor-pointer font-semibold">May contain traces of…</summary>
              <div className="flex flex-wrap gap-x-4">
                {lists.allergens.map((a) => (
                  <Tick key={a} label={allergen(a)} on={may.includes(a)} onChange={toggle(may, setMay, a)} />
                ))}
              </div>
            </details>
            <NumberField
              label="a cup of it, where you weighed one"
              unit="g"
              min={10}
              max={500}
              value={cup}
              onChange={setCup}
            />
            <section aria-label="Inferred" className="mt-4 border-l-[6px] border-primary bg-base-200 px-4 py-3">
              <h3 className="font-semibold text-primary">What it will do</h3>
              {!complete && <p>Once the eight figures stand, what it does in a batter is inferred here.</p>}
              {complete && inferred.isError && (
                <p role="alert" className="text-error">
                  {inferred.error.message}
                </p>
              )}
              {complete && inferred.data && (
                <>
                  <Does does={inferred.data.does} words />
                  {(kind === "flour" || kind === "powder") && (
                    <div className="mt-2">
                      <NumberField
                        label="drinks"
                        unit="g water a gram"
                        max={20}
                        value={thirst}
                        placeholder={places(inferred.data.absorption, 2)}
                        onChange={setThirst}
                      />
                      <p className="text-sm">
                        A rough guess from starch, fibre and protein: {places(inferred.data.absorption_range.low, 2)} to{" "}
                        {places(inferred.data.absorption_range.high, 2)} g. Leave it empty to use the guess; hold back
                        more liquid until it is known.
                      </p>
                    </div>
                  )}
                  <p className="mt-1 text-sm">
                    Water {places(inferred.data.ingredient.water_g, 1)} g, starch{" "}
                    {places(inferred.data.ingredient.starch_g, 1)} g; low confidence until measured.
                  </p>
                </>
              )}
            </section>
          </div>
        </div>
        {keep.isError && (
          <p role="alert" className="mt-3 text-error">
            {keep.error.message}
          </p>
        )}
        <Button type="submit" disabled={!complete || !name.trim() || keep.isPending} kind="strong" className="mt-4">
          {keep.isPending ? "Keeping…" : "Keep this pack"}
        </Button>
      </form>
    </Sheet>
  );
}
