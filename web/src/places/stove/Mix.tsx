import { Acts, Button } from "../../kit/Button";
import { Caution } from "../../kit/Caution";
import { Look } from "../../kit/Look";
import { MomentChoice } from "./MomentChoice";
import { StepList } from "./StepList";
import { useInHand } from "./useBatch";

/** The mixing: the order and the manner for this batter, and the moment of the leavening. */
export function Mix() {
  const { view, waiting, say } = useInHand();
  const done = (key: string) => waiting.some((e) => e.kind === "step_done" && e.key === key);
  const next = view.mixing.steps.find((m) => m.done === null && !done(m.key));
  const missing = view.mixing.missing;
  const eggs = view.table.contains.includes("egg");
  return (
    <section aria-label="Mix" className="mt-4 grid gap-6 lg:grid-cols-[1fr_22rem]">
      <div>
        {next ? (
          <>
            <h3 className="text-4xl font-bold">{next.title}</h3>
            <p className="mt-2 max-w-3xl text-2xl leading-snug">{next.text}</p>
            {next.peaks && <Look of={`peaks ${next.peaks}`} className="mt-2 h-28 w-40" />}
            {next.done_when && <p className="mt-2 max-w-3xl text-xl">Done when {next.done_when}.</p>}
            {next.why && <p className="mt-2 max-w-3xl text-lg opacity-90">{next.why}</p>}
            {next.leavens && <p className="mt-2 text-lg font-semibold">The clock of the lift starts with this step.</p>}
            <Acts>
              <Button
                kind="next"
                onClick={() => say({ kind: "step_done", key: next.key, wets: next.wets, leavens: next.leavens })}
              >
                Done
              </Button>
            </Acts>
          </>
        ) : missing.length > 0 ? (
          <>
            <p className="text-3xl leading-snug font-bold">Not in yet: {missing.join(", ")}.</p>
            <Acts>
              <Button kind="next" onClick={() => say({ kind: "went", stage: "weigh" })}>
                Weigh it out
              </Button>
            </Acts>
          </>
        ) : (
          <>
            <p className="text-3xl font-bold">It is mixed.</p>
            {eggs && view.mixing.hands === null && !done("hands") ? (
              <>
                <Caution>
                  Raw egg and raw flour: wash hands, and what they touched, before anything else. Batter is not tasted.
                </Caution>
                <Acts>
                  <Button
                    kind="next"
                    onClick={() => say({ kind: "step_done", key: "hands", wets: false, leavens: false })}
                  >
                    Hands are washed
                  </Button>
                </Acts>
              </>
            ) : (
              <Acts>
                <Button kind="next" onClick={() => say({ kind: "went", stage: "judge" })}>
                  Judge the bowl
                </Button>
              </Acts>
            )}
          </>
        )}
        <StepList steps={view.mixing.steps} done={done} />
      </div>
      <MomentChoice />
    </section>
  );
}
