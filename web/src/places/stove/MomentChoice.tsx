import { useInHand } from "./useBatch";

/** When the leavening is wetted: asked before it is weighed, since it decides into which vessel it goes. */
export function MomentChoice() {
  const { view, say } = useInHand();
  if (view.mixing.moments.length === 0) return null;
  return (
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
            disabled={!view.mixing.moment_open}
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
  );
}
