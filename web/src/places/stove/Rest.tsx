import { Acts, Button } from "../../kit/Button";
import { useNow } from "../../kit/moment";
import { useNumbers } from "../../kit/numbers";
import { hour, span } from "../../pure/clock";
import { useInHand } from "./useBatch";

/** The rest: from when the flour has drunk to when the lift goes, the best minute, and where it stands now. */
export function Rest() {
  const { whole } = useNumbers();
  const { view, say } = useInHand();
  const moment = useNow(500);
  const { window: w, started, ended, wet_at, lift_now, late } = view.resting;
  const since = wet_at ?? started;
  const minute = since === null ? null : (moment - since) / 60;
  const end = Math.max(w.latest_min * 1.1, w.best_min + 5, minute ?? 0);
  const x = (m: number) => 20 + (960 * Math.min(m, end)) / end;
  const running = started !== null && ended === null;
  const last = view.mixing.last.filter((m) => m.done === null);
  const onward = last[0] ? (["last", last[0].title] as const) : (["cook", "Cook"] as const);
  return (
    <section aria-label="Rest" className="mt-4">
      <p className="max-w-4xl text-2xl leading-snug">{w.words}</p>
      {minute !== null && (
        <p className="mt-2 flex flex-wrap items-baseline gap-x-5">
          <span role="timer" className="figure text-[clamp(4rem,14vw,9rem)] leading-none text-primary">
            {span(60 * (w.best_min - minute))}
          </span>
          <span className="text-2xl">
            {minute < w.best_min ? `until the best minute, ${hour(since! + 60 * w.best_min)}` : "past the best minute"}
            <span className="block text-xl">at the latest {hour(since! + 60 * w.latest_min)}</span>
          </span>
        </p>
      )}
      <svg
        viewBox="0 0 1000 110"
        className="mt-4 w-full max-w-4xl"
        role="img"
        aria-label={`From minute ${whole(w.earliest_min)} to minute ${whole(w.latest_min)}, best at ${whole(w.best_min)}`}
      >
        <rect x={x(0)} y="40" width={x(end) - x(0)} height="26" rx="4" fill="var(--color-base-300)" />
        <rect
          x={x(Math.min(w.earliest_min, w.latest_min))}
          y="40"
          width={Math.max(4, x(w.latest_min) - x(Math.min(w.earliest_min, w.latest_min)))}
          height="26"
          fill="color-mix(in oklab, var(--color-success) 45%, transparent)"
        />
        <path d={`M${x(w.best_min)} 34l9-14h-18z`} fill="var(--berry)" />
        <rect x={x(w.best_min) - 1.5} y="34" width="3" height="32" fill="var(--berry)" />
        {minute !== null && (
          <rect x={x(Math.max(0, minute)) - 3} y="30" width="6" height="46" rx="2" fill="currentColor" />
        )}
        <g fontSize="20" fill="currentColor" textAnchor="middle">
          <text x={x(w.earliest_min)} y="96">
            drunk {whole(w.earliest_min)}
          </text>
          <text x={x(w.latest_min)} y="96">
            latest {whole(w.latest_min)}
          </text>
          <text x={x(w.best_min)} y="14">
            best {whole(w.best_min)}
          </text>
        </g>
      </svg>
      {late && (
        <p
          role="alert"
          className="mt-3 max-w-4xl border-l-8 border-warning bg-base-100 px-4 py-2 text-2xl font-semibold"
        >
          {late}
        </p>
      )}
      {lift_now !== null && (
        <p className="mt-2 text-xl">
          Lift left now: <b className="figure text-2xl">{Math.round(100 * lift_now)} %</b>
        </p>
      )}
      {last.length > 0 && (
        <p className="mt-2 text-xl font-semibold">After the rest: {last.map((m) => m.title).join(", ")}.</p>
      )}
      <Acts>
        {!running && ended === null ? (
          <Button kind="next" onClick={() => say({ kind: "rest_started" })}>
            Start the rest
          </Button>
        ) : running ? (
          <Button kind="next" onClick={() => say({ kind: "rest_ended" }, { kind: "went", stage: onward[0] })}>
            {onward[1]}
          </Button>
        ) : (
          <Button kind="next" onClick={() => say({ kind: "went", stage: onward[0] })}>
            {onward[1]}
          </Button>
        )}
        {!running && ended === null && (
          <Button kind="large" onClick={() => say({ kind: "went", stage: onward[0] })}>
            {last.length > 0 ? "No rest" : "No rest, cook"}
          </Button>
        )}
        <Button kind="large" onClick={() => say({ kind: "went", stage: "judge" })}>
          Judge it again
        </Button>
      </Acts>
    </section>
  );
}
