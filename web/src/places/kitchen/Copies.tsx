import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { api, got } from "../../api/client";
import { copiesQuery } from "../../api/queries";
import { outOfDate, useWrite } from "../../api/write";
import { useNumbers } from "../../kit/numbers";
import { useTell } from "../../kit/Toast";
import { counted } from "../../pure/counted";
import { day } from "../../pure/format";

const BUTTON = "inline-flex min-h-11 items-center rounded-field border border-base-300 px-4";

/** The copies of the book: those that are made by themselves, one to take along, and the way back. */
export function Copies() {
  const { places } = useNumbers();
  const queries = useQueryClient();
  const tell = useTell();
  const file = useRef<HTMLInputElement>(null);
  const copies = useQuery(copiesQuery);
  const make = useWrite(() => got(api.POST("/api/copies")), { changes: "copies" });
  const restored = async (name: string) => {
    await outOfDate(queries, []);
    tell(`The book is as ${name} has it.`);
  };
  const back = useWrite(
    (name: string) =>
      got(api.POST("/api/restore", { params: { query: { name } }, body: "", bodySerializer: (b) => b })),
    { done: (_, name) => restored(name) },
  );
  const send = useWrite(
    async (given: File) =>
      got(api.POST("/api/restore", { body: given as unknown as string, bodySerializer: (b: unknown) => b as Blob })),
    { done: (_, given) => restored(given.name) },
  );
  const failed = copies.error ?? make.error ?? back.error ?? send.error;
  return (
    <section aria-label="Copies" className="max-w-3xl">
      {copies.data?.damage && (
        <p role="alert" className="mb-4 border-l-[6px] border-error bg-base-100 px-4 py-2">
          <b className="text-error">The book is damaged and open for reading alone.</b> Save what can be read, then put
          a copy back. What was found: {copies.data.damage}{" "}
          <a className="underline" href="/api/salvage" download="mutabilis-salvage.json">
            Save what can be read
          </a>
        </p>
      )}
      <p className="mb-4 text-lg">
        A copy is made every day and before each upgrade; the last seven are kept beside the book. Take one along now
        and then: a copy on the same disk goes when the disk goes.
      </p>
      <p className="mb-5 flex flex-wrap gap-2">
        <a className="btn btn-accent min-h-11 px-5 text-base" href="/api/backup" download="mutabilis-backup.sqlite3">
          Save a backup
        </a>
        <button type="button" className={BUTTON} onClick={() => make.mutate(undefined)}>
          {make.isPending ? "Copying…" : "Make a copy now"}
        </button>
        <button type="button" className={BUTTON} onClick={() => file.current?.click()}>
          {send.isPending ? "Putting it back…" : "Put a backup back…"}
        </button>
        <input
          ref={file}
          type="file"
          accept=".sqlite3"
          aria-label="A backup to put back"
          className="hidden"
          onChange={(event) => {
            const given = event.target.files?.[0];
            if (given) send.mutate(given);
            event.target.value = "";
          }}
        />
      </p>
      {failed && (
        <p role="alert" className="mb-3 text-error">
          {failed.message}
        </p>
      )}
      {copies.data && copies.data.copies.length === 0 && <p>No copy is kept yet; the first is made today.</p>}
      {copies.data && copies.data.copies.length > 0 && (
        <table className="w-full">
          <thead>
            <tr className="text-left">
              <th className="font-normal">made</th>
              <th className="font-normal">why</th>
              <th className="text-right font-normal">size</th>
              <th className="sr-only">acts</th>
            </tr>
          </thead>
          <tbody>
            {copies.data.copies.map((c) => (
              <tr key={c.name} className="border-b border-base-300/60">
                <td className="py-1.5 pr-4">
                  {day(c.at)}, {new Date(c.at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })}
                </td>
                <td className="pr-4">{c.why}</td>
                <td className="figure pr-4 text-right">{places(c.size / 1000, 0)} kB</td>
                <td className="text-right">
                  <a
                    className="mr-3 underline underline-offset-4"
                    href={`/api/backup?name=${encodeURIComponent(c.name)}`}
                  >
                    Save
                  </a>
                  <button type="button" className={BUTTON} onClick={() => back.mutate(c.name)}>
                    Put it back
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {copies.data && copies.data.photos > 0 && (
        <p className="mt-3">
          {counted(copies.data.photos, { one: "One photo weighs", other: "# photos weigh" })}{" "}
          {places(copies.data.photo_bytes / 1_000_000, 1)} MB of it.
        </p>
      )}
      <p className="mt-3 text-sm opacity-85">
        Before a copy is put back, the book as it stands is copied too, so that this can be undone.
      </p>
    </section>
  );
}
