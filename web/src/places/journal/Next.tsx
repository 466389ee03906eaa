import { useState } from "react";
import { useNavigate } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { freshId, useWrite } from "../../api/write";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { useTell } from "../../kit/Toast";

type View = Answered<"EntryView">;

/** One change, carried to the Bench as a new version. */
export function Next({ view }: { view: View }) {
  const [at, setAt] = useState(0);
  const bench = useBench();
  const go = useNavigate();
  const tell = useTell();
  const causes = view.diagnosis!.causes.filter((c) => c.p >= 0.05);
  const cause = causes[Math.min(at, causes.length - 1)];
  const take = useWrite(
    (name: string) =>
      got(
        api.POST("/api/journal/batches/{batch_id}/take", {
          params: { path: { batch_id: view.line.id } },
          body: { id: freshId(), cause: name },
        }),
      ),
    {
      changes: "book",
      done: (version) => {
        bench.open(version);
        tell("A new version, with that one change.");
        go("/bench");
      },
    },
  );
  if (!cause) return null;
  const taken = view.told.taken;
  return (
    <section
      aria-label="Next time"
      className="mt-5 flex flex-wrap items-center gap-3 border-l-[6px] border-primary bg-base-100 p-4"
    >
      <p className="min-w-0 flex-1 basis-80">
        <b className="text-xl">Next time: {cause.correction.words}</b>
        <span className="block">
          {cause.correction.grams !== null
            ? "One change at a time, so that it teaches something. Its balances were reckoned again, and none gives a warning."
            : "One change at a time, so that it teaches something. The batter itself stays."}
        </span>
        {taken && (
          <span className="block font-semibold">Taken along: it stands in the Book as a version of its own.</span>
        )}
        {view.helped && <span className="block">{view.helped.words}</span>}
      </p>
      {causes.length > 1 && (
        <Button className="print:hidden" onClick={() => setAt((at + 1) % causes.length)}>
          Another change
        </Button>
      )}
      <Button kind="strong" className="print:hidden" disabled={take.isPending} onClick={() => take.mutate(cause.cause)}>
        Take it along
      </Button>
      {take.isError && <p role="alert">{take.error.message}</p>}
    </section>
  );
}
