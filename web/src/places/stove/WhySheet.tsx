import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got } from "../../api/client";
import { batchQuery, journalQuery, SOUGHT_ALL, whyQuery } from "../../api/queries";
import { freshId, give, useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { Causes } from "../../kit/Causes";
import { Sheet } from "../../kit/Sheet";
import { useTell } from "../../kit/Toast";
import { useInHand } from "./useBatch";

/** The way to the sheet, where something is wrong. */
export function WhyLink() {
  const { view } = useInHand();
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button kind="link" onClick={() => setOpen(true)}>
        Something is wrong with it…
      </Button>
      {open && <WhySheet batch={view.id} onClose={() => setOpen(false)} />}
    </>
  );
}

/** Why it comes out so, while the bowl can still be saved: what is wrong, the likeliest causes, one question, one change, and the act that does it. */
function WhySheet({ batch, onClose }: { batch: string; onClose: () => void }) {
  const [faults, setFaults] = useState<string[]>([]);
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [id] = useState(freshId); // an act whose answer was lost on the way is done once
  const queries = useQueryClient();
  const tell = useTell();
  const known = useQuery(journalQuery(SOUGHT_ALL));
  const found = useQuery(whyQuery(batch, faults, answers));
  const [first] = found.data?.diagnosis.causes ?? [];
  const [now] = found.data?.rescues ?? [];
  const act = useWrite(
    (cause: string) =>
      got(
        api.POST("/api/journal/batches/{batch_id}/do", {
          params: { path: { batch_id: batch } },
          body: { id, cause, faults, answers },
        }),
      ),
    {
      order: `batch ${batch}`,
      done: (view) => {
        give(queries, batchQuery(batch).queryKey, view);
        tell(now?.words ?? "");
        onClose();
      },
    },
  );
  return (
    <Sheet title="What is wrong with it?" onClose={onClose}>
      <div className="flex flex-wrap gap-2">
        {Object.entries(known.data?.faults ?? {}).map(([key, words]) => (
          <Button
            key={key}
            pressed={faults.includes(key)}
            onClick={() => setFaults((was) => (was.includes(key) ? was.filter((f) => f !== key) : [...was, key]))}
          >
            {words}
          </Button>
        ))}
      </div>
      {found.isError && <p role="alert">{found.error.message}</p>}
      {faults.length > 0 && found.data && (
        <div aria-live="polite" className="mt-4">
          {first && now && (
            <div className="mb-3 flex flex-wrap items-center gap-3 border-l-[6px] border-primary bg-base-200 px-3 py-2">
              <p className="min-w-0 flex-1 basis-64 text-lg">
                {now.does === "nothing" ? (
                  <>
                    <b>Next time: {first.correction.words}</b> {now.words}
                  </>
                ) : (
                  <b>Now: {now.words}</b>
                )}
              </p>
              {now.does !== "nothing" && (
                <Button kind="next" disabled={act.isPending} onClick={() => act.mutate(first.cause)}>
                  Do it now
                </Button>
              )}
            </div>
          )}
          {act.isError && <p role="alert">{act.error.message}</p>}
          <Causes
            found={found.data.diagnosis}
            say={(question, answer) => setAnswers({ ...answers, [question]: answer })}
          />
        </div>
      )}
    </Sheet>
  );
}
