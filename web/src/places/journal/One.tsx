import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Answered, api, got } from "../../api/client";
import { entryQuery } from "../../api/queries";
import { freshId, give, useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { Causes } from "../../kit/Causes";
import { day } from "../../pure/format";
import { Happened } from "./Happened";
import { Next } from "./Next";
import { Photos } from "./Photos";
import { FaultsSheet, RemarkSheet } from "./SaidSheets";
import { Shelf } from "./Shelf";
import { Trends } from "./Trends";
import { Trial } from "./Trial";

type Said = Omit<Answered<"Said">, "id">;
/** One batch: what was meant and what happened, why, one question, one change; and how the batter has gone over time. */
export function One({ id, faults }: { id: string; faults: Record<string, string> }) {
  const found = useQuery(entryQuery(id));
  const queries = useQueryClient();
  const [open, setOpen] = useState<"faults" | "remark" | null>(null);
  const say = useWrite(
    (said: Partial<Said> & Pick<Said, "kind">) =>
      got(
        api.POST("/api/journal/batches/{batch_id}/said", {
          params: { path: { batch_id: id } },
          body: { id: freshId(), ...said } as never,
        }),
      ),
    {
      changes: "said",
      order: `journal ${id}`,
      done: (fresh) => give(queries, entryQuery(id).queryKey, fresh),
    },
  );
  const view = found.data;
  if (!view) return found.error ? <p role="alert">{found.error.message}</p> : <p className="text-lg">Opening…</p>;
  const { line, diagnosis } = view;
  return (
    <article>
      <h2 className="text-2xl font-bold">
        {line.name}, {day(line.day)}
      </h2>
      <p className="mb-4">
        Version {line.number}
        {(view.ate || line.whom) && `, for ${view.ate || line.whom}`}; {line.pieces} pieces
        {line.stars !== null && `, ${line.stars} of 5`}
        {line.faults.length > 0 && <b>: {line.faults.map((f) => faults[f] ?? f).join(", ")}</b>}. {view.entry.note}
      </p>
      <div className="grid gap-6 xl:grid-cols-2">
        <Happened view={view} />
        <section aria-label="Why" className="min-w-0">
          <h3 className="mb-1 border-b-2 border-base-content/60 pb-1 text-xl font-bold">
            {line.faults.length > 0 ? `Why ${line.faults.map((f) => faults[f] ?? f).join(", ")}` : "Nothing at fault"}
          </h3>
          {diagnosis ? (
            <Causes found={diagnosis} say={(question, answer) => say.mutate({ kind: "answer", question, answer })} />
          ) : (
            <p>Nobody saw a fault. If there was one after all, say which: it can still be explained.</p>
          )}
          <p className="mt-3 flex flex-wrap gap-2 print:hidden">
            <Button onClick={() => setOpen("faults")}>
              {line.faults.length > 0 ? "Other faults…" : "There was a fault…"}
            </Button>
            <Button onClick={() => setOpen("remark")}>Add a remark…</Button>
            {view.told.last && (
              <Button kind="link" onClick={() => say.mutate({ kind: "unsaid", of: view.told.last })}>
                Undo what was said last
              </Button>
            )}
          </p>
          {say.isError && <p role="alert">{say.error.message}</p>}
        </section>
      </div>
      {diagnosis && <Next view={view} />}
      <Trial
        view={view}
        onBegin={(trial) => say.mutate({ kind: "trial", ...trial } as never)}
        onTried={(of, answer) => say.mutate({ kind: "tried", of, answer })}
      />
      {view.told.remarks.length > 0 && (
        <section aria-label="Remarks" className="mt-5">
          <h3 className="text-lg font-bold">Remarks</h3>
          <ul>
            {view.told.remarks.map((r) => (
              <li key={r.id} className="border-b border-base-300 py-1 break-words">
                {r.who && <b>{r.who}: </b>}
                {r.text}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Photos batch={id} photos={view.photos} />
      <Trends batter={line.batter_id} batch={id} />
      <Shelf batter={line.batter_id} batch={id} />
      {open === "faults" && (
        <FaultsSheet
          faults={faults}
          was={line.faults}
          when={view.told.when ?? null}
          onClose={() => setOpen(null)}
          onSay={(chosen, when) => {
            say.mutate({ kind: "faults", faults: chosen, when } as never);
            setOpen(null);
          }}
        />
      )}
      {open === "remark" && (
        <RemarkSheet
          onClose={() => setOpen(null)}
          onSay={(who, text) => {
            say.mutate({ kind: "remark", who, text });
            setOpen(null);
          }}
        />
      )}
    </article>
  );
}
