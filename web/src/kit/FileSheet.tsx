import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Batter, Problem } from "../api/client";
import { outOfDate } from "../api/write";
import { counted } from "../pure/counted";
import { type Imported, imported, LARGEST } from "./importing";
import { useNumbers } from "./numbers";
import { Sheet } from "./Sheet";
import { type Measures, SourceMeasures } from "./SourceMeasures";

/** Read a recipe file: what was found is laid out to be looked at; nothing is saved before it was. */
export function FileSheet({ onLay, onClose }: { onLay: (name: string, batter: Batter) => void; onClose: () => void }) {
  const { whole } = useNumbers();
  const queries = useQueryClient();
  const [over, setOver] = useState(false);
  const [measures, setMeasures] = useState<Measures>({});
  const read = useMutation({
    networkMode: "always",
    mutationFn: async (file: File): Promise<Imported> => {
      if (file.size > LARGEST) {
        throw new Problem(
          `“${file.name}” has ${whole(file.size / 1e6)} MB: that is no recipe (10 MB at most). Nothing was changed.`,
          413,
        );
      }
      return imported(file, file.name, measures);
    },
    onSuccess: (found) => {
      if (found.format === "Mutabilis") outOfDate(queries, []);
      else if (found.recipes.length === 1) {
        onLay(found.recipes[0]!.name, found.recipes[0]!.batter);
      }
    },
  });
  const found = read.data;
  return (
    <Sheet title="Read a recipe file" onClose={onClose}>
      <p className="mb-3 flex flex-wrap items-center gap-2">
        The recipe is written <SourceMeasures value={measures} onChange={setMeasures} />
      </p>
      <label
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          const file = event.dataTransfer.files[0];
          if (file) read.mutate(file);
        }}
        className={`block rounded-box border-2 border-dashed p-6 ${over ? "border-primary" : "border-base-300"}`}
      >
        <span className="mb-2 block">
          A saved web page with recipe data, JSON-LD, plain text, Markdown, CSV of lines, or a Book of Mutabilis. Drop
          it here, or choose it:
        </span>
        <input
          type="file"
          className="file-input w-full"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) read.mutate(file);
            event.target.value = "";
          }}
        />
      </label>
      {read.isPending && <p className="mt-3">Reading…</p>}
      {read.isError && (
        <p role="alert" className="mt-3 text-error">
          {read.error.message}
        </p>
      )}
      {found?.format === "Mutabilis" && (
        <div className="mt-3" role="status">
          <p className="font-semibold">
            {counted(found.kept, { one: "1 batter", other: "# batters" })} put in the Book
            {found.already > 0 &&
              `, ${found.already} here already and left as ${found.already === 1 ? "it was" : "they were"}`}
            .
          </p>
          <ul>
            {found.told.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </div>
      )}
      {found && found.recipes.length > 1 && (
        <>
          <h3 className="mt-4 mb-1 font-semibold">{found.recipes.length} recipes in it. Which one?</h3>
          <ul>
            {found.recipes.map((r, n) => {
              const bad = r.batter.lines.filter((line) => line.problem).length;
              return (
                <li key={n}>
                  <button
                    type="button"
                    className="flex min-h-11 w-full items-center gap-3 rounded-field px-3 text-left hover:bg-base-200"
                    onClick={() => onLay(r.name, r.batter)}
                  >
                    <span className="font-semibold">{r.name}</span>
                    <span className="ml-auto text-sm">
                      {r.batter.lines.length} lines{bad > 0 && `, ${bad} to mend`}
                    </span>
                  </button>
                </li>
              );
            })}
          </ul>
        </>
      )}
    </Sheet>
  );
}
