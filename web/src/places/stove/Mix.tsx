import { Acts, Button } from "../../kit/Button";
import { Caution } from "../../kit/Caution";
import { useInHand } from "./useBatch";

/** The mixing: the order and the manner for this batter, and the moment of the leavening. */
export function Mix() {
  const { view, waiting, say } = useInHand();
  const done = (key: string) => waiting.some((e) => e.kind === "step_done" && e.key === key);
  const next = view.mixing.steps.find((m) => m.done === null && !done(m.step.key) && m.step.key !== "leaven");
  const eggs = view.table.contains.includes("egg");
  return (
    <section aria-label="Mix" className="mt-4 grid gap-6 lg:grid-cols-[1fr_22rem]">
      <div>
        {next ? (
          <>
            <h3 className="text-4xl font-bold">{next.step.title}</h3>
            <p className="mt-2 max-w-3xl text-2xl leading-snug">{next.step.text}</p>
            {next.step.why && <p className="mt-2 max-w-3xl text-lg opacity-90">{next.step.why}</p>}
            {next.leavens && <p className="mt-2 text-lg font-semibold">The clock of the lift starts with this step.</p>}
            <Acts>
              <Button
                kind="next"
                onClick={() => say({ kind: "step_done", key: next.step.key, wets: next.wets, leavens: next.leavens })}
              >
                Done
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
        <ol className="mt-6 text-lg">
          {view.mixing.steps.map((m) => (
            <li key={m.step.key} className={m.done !== null || done(m.step.key) ? "opacity-75" : ""}>
              <span className="inline-block w-6" aria-hidden="true">
                {m.done !== null || done(m.step.key) ? "✓" : ""}
              </span>
              {m.step.title}
              {m.done !== null && <span className="sr-only">, done</span>}
            </li>
          ))}
        </ol>
      </div>
      {view.mixing.moments.length > 0 && (
        <fieldset className="rounded-box bg-base-100 px-4 py-3">
          <legend className="float-left mb-2 w-full text-lg font-bold">When is the leavening wetted?</legend>
          {view.mixing.moments.map((m) => (
            <label
              key={m.moment}
              className="clear-both flex min-h-11 cursor-pointer gap-3 border-b border-base-300/60 py-2 last:border-0"
            >
              <input
                type="radio"
                name="moment"
                className="radio mt-1"
                checked={view.mixing.moment === m.moment}
                disabled={view.resting.leavened_at !== null}
                onChange={() => say({ kind: "moment_chosen", moment: m.moment })}
              />
              <span>
                <b>{m.label}</b>
                <span className="block">
                  lift left: <span className="figure text-xl">{Math.round(100 * m.first)} %</span> at the first piece,{" "}
                  <span className="figure text-xl">{Math.round(100 * m.last)} %</span> at the last
                </span>
                <span className="block text-sm opacity-90">{m.why}</span>
              </span>
            </label>
          ))}
        </fieldset>
      )}
    </section>
  );
}
