import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Answered, api, got } from "../../api/client";
import { entryQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { Sheet } from "../../kit/Sheet";
import { useTell } from "../../kit/Toast";
import { day } from "../../pure/format";

type Photo = Answered<"EntryView">["photos"][number];

/** Photographs of a batch: taken or chosen, opened, taken away. */
export function Photos({ batch, photos }: { batch: string; photos: readonly Photo[] }) {
  const [open, setOpen] = useState<string | null>(null);
  const queries = useQueryClient();
  const tell = useTell();
  const shown = photos.find((p) => p.id === open);
  const keep = (fresh: readonly Photo[]) =>
    queries.setQueryData(entryQuery(batch).queryKey, (old) => (old ? { ...old, photos: [...fresh] } : old));
  const path = { batch_id: batch };
  const put = useWrite(
    (file: File) =>
      got(
        api.POST("/api/journal/batches/{batch_id}/photos", {
          params: { path },
          body: file as never,
          bodySerializer: (body: unknown) => body as Blob,
          headers: { "content-type": file.type || "application/octet-stream" },
        }),
      ),
    { order: `photos ${batch}`, done: keep },
  );
  const away = useWrite(
    ({ id, back }: { id: string; back: boolean }) =>
      got(
        api.DELETE("/api/journal/batches/{batch_id}/photos/{photo_id}", {
          params: { path: { ...path, photo_id: id }, query: { back } },
        }),
      ),
    { order: `photos ${batch}`, done: keep },
  );
  return (
    <section aria-label="Photos" className="mt-5">
      <h3 className="mb-1 text-lg font-bold">Photos</h3>
      <ul className="flex flex-wrap items-center gap-2">
        {photos.map((p, n) => (
          <li key={p.id}>
            <button type="button" onClick={() => setOpen(p.id)}>
              <img
                src={`/api/photos/${p.id}.jpg?small=true`}
                alt={`${n + 1} of ${photos.length}, ${day(p.at)}`}
                className="h-28 w-auto rounded-field object-cover"
              />
            </button>
          </li>
        ))}
        <li className="print:hidden">
          <label className="inline-flex min-h-11 cursor-pointer items-center rounded-field border border-base-300 bg-base-100 px-4 focus-within:outline-2 hover:border-base-content">
            {put.isPending ? "Taking it in…" : "Add a photo"}
            <input
              type="file"
              accept="image/*"
              className="sr-only"
              disabled={put.isPending}
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (file) put.mutate(file);
                event.target.value = "";
              }}
            />
          </label>
        </li>
      </ul>
      {put.isError && (
        <p role="alert" className="text-error">
          {put.error.message}
        </p>
      )}
      {shown && (
        <Sheet title={`Photo, ${day(shown.at)}`} onClose={() => setOpen(null)}>
          <img src={`/api/photos/${shown.id}.jpg`} alt="" className="max-h-[70vh] w-auto" />
          <p className="mt-3">
            <Button
              onClick={() => {
                away.mutate({ id: shown.id, back: false });
                setOpen(null);
                tell("The photo is taken away; for a day it can be put back.", () =>
                  away.mutate({ id: shown.id, back: true }),
                );
              }}
            >
              Take it away
            </Button>
          </p>
        </Sheet>
      )}
    </section>
  );
}
