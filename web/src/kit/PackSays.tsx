import { useState } from "react";
import { api, got } from "../api/client";
import { useWrite } from "../api/write";
import { allergen } from "../pure/format";
import { knownReader, rememberReader } from "./reader";
import { useTell } from "./Toast";

const OUTRIGHT: Record<string, string> = {
  certified_gluten_free: "certified gluten-free",
  vegan: "vegan",
  no_added_sugar: "no added sugar",
};

/** What is in question about a pack, answered in one touch by whoever has it in hand: name, date and pack are kept with it. */
export function PackSays({ ingredient, says }: { ingredient: string; says: string[] }) {
  const [by, setBy] = useState(knownReader);
  const [named, setNamed] = useState(by !== "");
  const tell = useTell();
  const back = useWrite((id_: string) => got(api.DELETE("/api/readings/{id_}", { params: { path: { id_ } } })), {
    changes: "reading",
  });
  const keep = useWrite(
    () =>
      got(
        api.POST("/api/readings/answers", {
          body: { ingredient, by: by.trim(), on: new Date().toLocaleDateString("sv-SE"), says },
        }),
      ),
    {
      changes: "reading",
      done: (kept) => {
        rememberReader(by.trim());
        setNamed(true);
        tell(`${kept.reading.pack}: read by ${kept.reading.by}, today.`, () => back.mutate(kept.id));
      },
    },
  );
  const words = says.map((s) => OUTRIGHT[s] ?? `no ${allergen(s)}`).join(", ");
  return (
    <form
      className="inline-flex flex-wrap items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(undefined);
      }}
    >
      {!named && (
        <input
          aria-label="Who reads the pack"
          placeholder="your name"
          required
          maxLength={80}
          className="input h-9 w-32 pointer-coarse:h-11"
          value={by}
          onChange={(event) => setBy(event.target.value)}
        />
      )}
      <button
        type="submit"
        disabled={keep.isPending || by.trim() === ""}
        className="min-h-9 rounded-field border border-base-content px-3 text-[0.95rem] font-semibold disabled:opacity-60 pointer-coarse:min-h-11"
      >
        The pack says: {words}
      </button>
      {keep.isError && (
        <span role="alert" className="text-error">
          {keep.error.message}
        </span>
      )}
    </form>
  );
}
