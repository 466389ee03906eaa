import { useState } from "react";
import type { BatchView } from "../../api/queue";
import { Acts, Button } from "../../kit/Button";
import { Look, type LookKey } from "../../kit/Look";
import { useNow } from "../../kit/moment";
import { span } from "../../pure/clock";
import { PanSteps } from "./PanSteps";
import { useInHand } from "./useBatch";

const BUBBLES: readonly (readonly [LookKey, string])[] = [
  ["bubbles early", "too soon"],
  ["bubbles now", "now"],
  ["bubbles late", "late"],
];
type Load = BatchView["cooking"]["loads"][number];

/** A load on the surface: when to turn it and take it off, by the clock and by its signs. The taps correct the next times. */
export function OnTheSurface({ load, sent }: { load: Load; sent: (kind: string, load: number) => boolean }) {
  const { view, say } = useInHand();
  const moment = useNow(250);
  const [good, setGood] = useState(load.pieces);
  const turnTimer = view.timers.find((t) => t.key === `turn:${load.n}`);
  const timer = turnTimer ?? view.timers.find((t) => t.key === `off:${load.n}`);
  const left = timer ? timer.due - moment : 0;
  const turning = turnTimer !== undefined && !sent("turned", load.n);
  return (
    <div className="mb-4 border-b border-base-300 pb-4">
      <h3 className="text-3xl font-bold">
        {load.test ? "Test piece" : `Load ${load.n + 1}, ${load.pieces} pieces`}: {turning ? "turn" : "take off"} in
      </h3>
      <p
        role="timer"
        className={`figure text-[clamp(5rem,17vw,12rem)] leading-none ${left <= 0 ? "text-error" : "text-primary"}`}
      >
        {span(left)}
      </p>
      <PanSteps when={turning || view.form !== "griddle" ? "on" : "turned"} />
      {!turning && view.form !== "griddle" && <PanSteps when="turned" />}
      <ul className="mt-1 flex flex-wrap gap-x-5 text-xl">
        {view.cooking.signs.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ul>
      {turning && view.form === "griddle" && (
        <ul aria-label="Bubbles at the moment to turn" className="mt-2 flex max-w-xl gap-3">
          {BUBBLES.map(([look, words]) => (
            <li key={look} className={`flex-1 text-center ${look === "bubbles now" ? "font-bold" : "opacity-75"}`}>
              <Look of={look} className="h-16 w-full" />
              {words}
            </li>
          ))}
        </ul>
      )}
      <Acts>
        {turning ? (
          <>
            <Button kind="next" onClick={() => say({ kind: "turned", load: load.n })}>
              Turned
            </Button>
            <Button kind="large" onClick={() => say({ kind: "off", load: load.n, good })}>
              Off without turning
            </Button>
          </>
        ) : (
          <>
            <Button kind="next" disabled={sent("off", load.n)} onClick={() => say({ kind: "off", load: load.n, good })}>
              {load.pieces === 1 ? "It is off" : `${good} good ones off`}
            </Button>
            {load.pieces > 1 && (
              <>
                <Button kind="large" disabled={good === 0} onClick={() => setGood(good - 1)}>
                  One fewer good
                </Button>
                <Button kind="large" disabled={good === load.pieces} onClick={() => setGood(good + 1)}>
                  One more
                </Button>
              </>
            )}
          </>
        )}
      </Acts>
    </div>
  );
}
