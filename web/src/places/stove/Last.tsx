import { Acts, Button } from "../../kit/Button";
import { Look } from "../../kit/Look";
import { useNow } from "../../kit/moment";
import { span } from "../../pure/clock";
import { StepList } from "./StepList";
import { useInHand } from "./useBatch";

/** What comes after the rest: the leavening that was kept apart, and the foam that is folded in; each with its own step and its clock. */
export function Last() {
  const { view, waiting, say } = useInHand();
  const moment = useNow(1000);
  const done = (key: string) => waiting.some((e) => e.kind === "step_done" && e.key === key);
  const steps = view.mixing.last;
  const next = steps.find((m) => m.done === null && !done(m.key));
  const clock = view.timers.find((t) => t.key === "foam") ?? view.timers.find((t) => t.key === "lift");
  return (
    <section aria-label="Last in" className="mt-4">
      {next ? (
        <>
          <h3 className="text-4xl font-bold">{next.title}</h3>
          <p className="mt-2 max-w-3xl text-2xl leading-snug">{next.text}</p>
          {next.peaks && <Look of={`peaks ${next.peaks}`} className="mt-2 h-28 w-40" />}
          {next.done_when && <p className="mt-2 text-xl">Done when {next.done_when}.</p>}
          {next.why && <p className="mt-2 max-w-3xl text-lg opacity-90">{next.why}</p>}
        </>
      ) : (
        <p className="text-3xl font-bold">
          {steps.length > 0 ? "All of it is in. Cook it now." : "Nothing comes last in this batter."}
        </p>
      )}
      {clock && (
        <p className="mt-3 text-2xl">
          {clock.label}: <span className="figure text-5xl text-primary">{span(clock.due - moment)}</span>
        </p>
      )}
      <Acts>
        {next ? (
          <Button
            kind="next"
            onClick={() => say({ kind: "step_done", key: next.key, wets: next.wets, leavens: next.leavens })}
          >
            Done
          </Button>
        ) : (
          <Button kind="next" onClick={() => say({ kind: "went", stage: "cook" })}>
            Cook
          </Button>
        )}
        {next && (
          <Button kind="large" onClick={() => say({ kind: "went", stage: "cook" })}>
            Heat the surface first
          </Button>
        )}
      </Acts>
      <StepList steps={steps} done={done} />
    </section>
  );
}
