import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got } from "../../api/client";
import { useWrite } from "../../api/write";
import { Sheet } from "../../kit/Sheet";
import { useTell } from "../../kit/Toast";
import { counted } from "../../pure/counted";

/** A log that was saved whole is read in again; what could not be taken is named. */
export function BringLog() {
  const tell = useTell();
  const queries = useQueryClient();
  const [left, setLeft] = useState<{ batch: string; why: string }[]>([]);
  const bring = useWrite(
    async (file: File) =>
      got(
        api.POST("/api/journal/log", {
          body: (await file.text()) as never,
          bodySerializer: (body: unknown) => body as string,
          headers: { "content-type": "application/json" },
        }),
      ),
    {
      done: (told) => {
        tell(
          `${counted(told.brought, { one: "1 batch read in", other: "# batches read in" })}; ${told.here_already} here already.`,
        );
        setLeft([...told.left]);
        void queries.invalidateQueries();
      },
    },
  );
  return (
    <>
      <label className="inline-flex min-h-11 cursor-pointer items-center underline underline-offset-4 focus-within:outline-2">
        {bring.isPending ? "Reading…" : "Read a log in"}
        <input
          type="file"
          accept="application/json,.json"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) bring.mutate(file);
            event.target.value = "";
          }}
        />
      </label>
      {bring.isError && <span role="alert">{bring.error.message}</span>}
      {left.length > 0 && (
        <Sheet title="Not taken" onClose={() => setLeft([])}>
          <ul>
            {left.map((x) => (
              <li key={x.batch} className="border-b border-base-300 py-1">
                <b>{x.batch}</b>: {x.why}
              </li>
            ))}
          </ul>
        </Sheet>
      )}
    </>
  );
}
