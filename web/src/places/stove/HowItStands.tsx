import { useBeat } from "../../api/counter";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { hour, span } from "../../pure/clock";
import { counted } from "../../pure/counted";
import { useInHand } from "./useBatch";

/** Where the cooking stands, and the heat. */
export function HowItStands({ onChange }: { onChange: () => void }) {
  const { grams, places, heat, degrees } = useNumbers();
  const { view, say } = useInHand();
  const beat = useBeat();
  const { cooking } = view;
  const { run, times } = cooking;
  const live = beat?.surface_c ?? null;
  const set = cooking.celsius ?? 0;
  if (!run || !cooking.chosen) return null;
  // A knob is turned by halves of its steps; where nobody said what a step is, by degrees.
  const knob = cooking.chosen.surface.knob_c ?? null;
  const step = knob === null ? heat.step : knob / 2;
  const move = knob === null ? `${Math.round(heat.shown(heat.step) - heat.shown(0))} ${heat.unit}` : "½ step";
  return (
    <aside aria-label="How it stands" className="text-lg">
      <p className="text-xl">
        <b className="figure text-5xl text-primary">{run.made}</b> of about {run.planned} pieces
      </p>
      <p className="mt-1">
        {grams(run.left_g)} g in the bowl;{" "}
        {counted(run.loads_left, { one: "1 load to come", other: "# loads to come" })}
      </p>
      <p className="mt-1">
        The last plate leaves at <b className="figure text-2xl">{hour(run.last_plate)}</b>
      </p>
      <h3 className="mt-5 border-b border-base-300 pb-1 font-bold">Heat</h3>
      <p className="mt-1 flex items-baseline gap-3">
        set to <b className="figure text-2xl">{degrees(set)}</b>
        {live !== null && (
          <span>
            is <b className="figure text-2xl text-primary">{degrees(live)}</b>
          </span>
        )}
      </p>
      {(beat?.heat_words || run.heat_words) && (
        <p className="mt-1 font-semibold text-warning">{beat?.heat_words || run.heat_words}</p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button kind="large" onClick={() => say({ kind: "heat_set", celsius: Math.max(60, set - step) })}>
          −{move}
        </Button>
        <Button kind="large" onClick={() => say({ kind: "heat_set", celsius: Math.min(350, set + step) })}>
          +{move}
        </Button>
        {live !== null && (
          <Button kind="large" onClick={() => say({ kind: "heat_read", celsius: live })}>
            Use {degrees(live)}
          </Button>
        )}
      </div>
      <p className="mt-3 flex flex-wrap items-center gap-x-3">
        A scoop of <b className="figure">{places(cooking.chosen.portion_ml, 0)}</b> mL, {cooking.chosen.per_load} at a
        time.
        <Button kind="link" onClick={onChange}>
          Change scoop or surface
        </Button>
      </p>
      {times && (
        <p className="mt-3">
          {run.turn_s === null ? (
            "Off after"
          ) : (
            <>
              Turn after <b className="figure">{span(run.turn_s)}</b>, off after
            </>
          )}{" "}
          <b className="figure">{span(run.done_s)}</b>
          {Math.abs(run.pace - 1) >= 0.03 && (
            <>
              : here it takes {Math.round(100 * Math.abs(run.pace - 1))} % {run.pace > 1 ? "longer" : "less"} than
              reckoned
            </>
          )}
          .
        </p>
      )}
      {times && times.verdict !== "works" && (
        <p role="alert" className="mt-2 border-l-8 border-warning bg-base-100 px-3 py-1 font-semibold">
          {
            {
              pale: "By the reckoning it stays pale at this heat, and dries: hotter.",
              dark: "By the reckoning it turns dark before it is done: cooler, or smaller pieces. Dark crusts are not for every day.",
              burnt: "By the reckoning it burns before its middle is safe: cooler, or thinner pieces.",
              raw: "By the reckoning its middle is never safe at this heat: hotter.",
            }[times.verdict as "pale" | "dark" | "burnt" | "raw"]
          }
        </p>
      )}
      {cooking.smoke && <p className="mt-2 border-l-8 border-warning bg-base-100 px-3 py-1">{cooking.smoke}</p>}
      {cooking.piece && cooking.piece.grease_g >= 0.1 && (
        <p className="mt-2 text-base">The grease adds about {places(cooking.piece.grease_g, 1)} g of fat a piece.</p>
      )}
      <p className="mt-3 text-base">On a rack, not in a pile: steam softens them.</p>
    </aside>
  );
}
