import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { journalQuery, SOUGHT_ALL, whyQuery } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Causes } from "../../kit/Causes";
import { Sheet } from "../../kit/Sheet";
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

/** Why it comes out so, while the bowl can still be saved: what is wrong, the likeliest causes, one question, one change. */
function WhySheet({ batch, onClose }: { batch: string; onClose: () => void }) {
  const [faults, setFaults] = useState<string[]>([]);
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const known = useQuery(journalQuery(SOUGHT_ALL));
  const found = useQuery(whyQuery(batch, faults, answers));
  const [first] = found.data?.causes ?? [];
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
          {first && (
            <p className="mb-2 border-l-[6px] border-primary bg-base-200 px-3 py-2">
              <b>Now, or next time: {first.correction.words}</b>
              {first.correction.warnings_raised.length > 0 && (
                <span> {first.correction.warnings_raised.join(" ")}</span>
              )}
            </p>
          )}
          <Causes found={found.data} say={(question, answer) => setAnswers({ ...answers, [question]: answer })} />
        </div>
      )}
    </Sheet>
  );
}
