import { useState } from "react";
import { useBeat } from "../../api/counter";
import type { BatchView } from "../../api/queue";
import { Acts, Button } from "../../kit/Button";
import { useNow } from "../../kit/moment";
import { useNumbers } from "../../kit/numbers";
import { hour, span } from "../../pure/clock";
import { counted } from "../../pure/counted";
import { ChooseSurface } from "./ChooseSurface";
import { useInHand } from "./useBatch";

type Load = BatchView["cooking"]["loads"][number];
type Colour = NonNullable<Load["colour"]>;
type Inside = NonNullable<Load["inside"]>;
const COLOURS: readonly (readonly [Colour, string])[] = [
  ["pale", "pale"],
  ["golden", "golden"],
  ["dark", "dark"],
  ["burnt", "burnt"],
];
const INSIDES: readonly (readonly [Inside, string])[] = [
  ["raw", "raw"],
  ["just", "just done"],
  ["dry", "dry"],
];

/** Cooking: the surface, one test piece, then load after load, with the sign to look for and the clock beside it. */
export function Cook() {
  const { view } = useInHand();
  return (
    <section aria-label="Cook" className="mt-4">
      {view.cooking.chosen ? <Running /> : <ChooseSurface />}
    </section>
  );
}

function Running() {
  const { view, waiting, say } = useInHand();
  const { cooking } = view;
  const loads = cooking.loads;
  const run = cooking.run;
  const on = loads.filter((l) => l.off === null);
  const test = [...loads].reverse().find((l) => l.test);
  const judge = test && test.off !== null && test.colour === null && loads.at(-1) === test ? test : null;
  const sent = (kind: string, load: number) => waiting.some((e) => e.kind === kind && "load" in e && e.load === load);
  const late = view.mixing.last.find((m) => m.done === null);
  return (
    <div className="grid gap-8 lg:grid-cols-[1fr_20rem]">
      <div>
        {on.map((load) => (
          <OnTheSurface key={load.n} load={load} sent={sent} />
        ))}
        {judge && <JudgeTest load={judge} />}
        {!judge && on.length === 0 && loads.length === 0 && <Heating />}
        {!judge && on.length === 0 && loads.length > 0 && run && (
          <>
            {cooking.tried && loads.at(-1)?.test && (
              <p className="mb-4 text-3xl leading-snug font-bold">{cooking.tried.words}</p>
            )}
            {run.loads_left > 0 ? (
              <p className="text-4xl font-bold">{run.next_pieces} pieces go on</p>
            ) : (
              <p className="text-4xl font-bold">That was the last of the bowl.</p>
            )}
            {run.care && <p className="mt-1 text-2xl">{run.care}</p>}
          </>
        )}
        {cooking.pan_steps
          .filter((s) => s.done === null && s.due)
          .map((s) => (
            <p
              key={s.key}
              className="mt-3 flex flex-wrap items-center gap-3 border-l-8 border-primary bg-base-100 px-4 py-2 text-xl"
            >
              <span className="min-w-0 flex-1">
                <b>{s.title}:</b> {s.text}
              </span>
              <Button kind="large" onClick={() => say({ kind: "step_done", key: s.key, wets: false, leavens: false })}>
                Done
              </Button>
            </p>
          ))}
        {late && on.length === 0 ? (
          <>
            <p className="mt-4 text-2xl font-bold">{late.text}</p>
            <Acts>
              <Button
                kind="next"
                onClick={() => say({ kind: "step_done", key: late.key, wets: late.wets, leavens: late.leavens })}
              >
                {late.title}: done
              </Button>
            </Acts>
          </>
        ) : (
          !judge && <NextLoad />
        )}
      </div>
      <Aside />
    </div>
  );
}

/** The surface heats: by the thermometer where there is one, by the clock where not. */
function Heating() {
  const { places } = useNumbers();
  const { view } = useInHand();
  const moment = useNow(500);
  const beat = useBeat();
  const chosen = view.cooking.chosen!;
  const started = view.cooking.heat_on;
  const left = started === null ? null : started + 60 * chosen.surface.heat_up_min - moment;
  return (
    <>
      <h3 className="text-3xl font-bold">{chosen.surface.name}</h3>
      <p className="flex flex-wrap items-baseline gap-x-5">
        {beat?.surface_c !== null && beat?.surface_c !== undefined ? (
          <span className="figure text-[clamp(4rem,13vw,9rem)] leading-none text-primary">
            {beat.surface_c}
            <span className="text-4xl text-base-content"> of {places(view.cooking.celsius ?? 0, 0)} °C</span>
          </span>
        ) : (
          <span role="timer" className="figure text-[clamp(4rem,13vw,9rem)] leading-none text-primary">
            {left === null ? "" : span(left)}
          </span>
        )}
      </p>
      <p className="mt-2 max-w-3xl text-xl">
        {view.form === "tray" ? "Hot when its lamp says so." : "Hot when a drop of water dances and is gone."}
        {chosen.surface.lamp && ` Here: ${chosen.surface.lamp}.`}{" "}
        {view.form !== "tray" && `Then one small piece of ${places(view.cooking.test_ml, 0)} mL, to judge the heat by.`}
      </p>
    </>
  );
}

function NextLoad() {
  const { places } = useNumbers();
  const { view, waiting, say } = useInHand();
  const { cooking } = view;
  const run = cooking.run;
  const on = cooking.loads.filter((l) => l.off === null);
  const busy = waiting.some((e) => e.kind === "load_on");
  if (!run) return null;
  const more = run.next_pieces;
  const test = () =>
    say({ kind: "load_on", load: run.next_load, pieces: 1, test: true, portion_ml: Math.round(cooking.test_ml) });
  const load = () => say({ kind: "load_on", load: run.next_load, pieces: more, test: false });
  const first = cooking.loads.length === 0;
  const { tried } = cooking;
  const asked =
    tried !== null && cooking.loads.at(-1)?.test && tried.moved_c !== 0 && cooking.celsius !== tried.celsius;
  const move = asked && on.length === 0 ? tried.celsius : null;
  return (
    <Acts>
      {move !== null && (
        <Button kind="next" onClick={() => say({ kind: "heat_set", celsius: move })}>
          Set it to {places(move, 0)} °C
        </Button>
      )}
      {move !== null && (
        <Button kind="large" disabled={busy} onClick={load}>
          As it is: {more} are on
        </Button>
      )}
      {move === null &&
        on.length === 0 &&
        (run.loads_left === 0 ? (
          <Button kind="next" onClick={() => say({ kind: "went", stage: "finish" })}>
            Finish
          </Button>
        ) : first && view.form !== "tray" ? (
          <Button kind="next" disabled={busy} onClick={test}>
            Test piece is on
          </Button>
        ) : (
          <Button kind="next" disabled={busy} onClick={load}>
            {counted(more, { one: "One piece is on", other: "# pieces are on" })}
          </Button>
        ))}
      {on.length > 0 && run.loads_left > 0 && (
        <Button kind="large" disabled={busy} onClick={load}>
          {more} more are on
        </Button>
      )}
      {on.length === 0 && run.loads_left > 0 && view.form !== "tray" && (
        <Button kind="large" disabled={busy} onClick={first ? load : test}>
          {first ? "No test piece: a load is on" : "Another test piece"}
        </Button>
      )}
      {cooking.loads.length > 0 && (
        <>
          <Button kind="large" onClick={() => say({ kind: "cared", care: "wiped" })}>
            Wiped
          </Button>
          {cooking.chosen?.grease !== "none" && (
            <Button kind="large" onClick={() => say({ kind: "cared", care: "greased" })}>
              Greased
            </Button>
          )}
        </>
      )}
      {run.loads_left > 0 && cooking.loads.length > 0 && (
        <Button kind="large" onClick={() => say({ kind: "went", stage: "finish" })}>
          That is enough
        </Button>
      )}
    </Acts>
  );
}

/** A load on the surface: when to turn it and take it off, by the clock and by its signs. The taps correct the next times. */
function OnTheSurface({ load, sent }: { load: Load; sent: (kind: string, load: number) => boolean }) {
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
      <ul className="mt-1 flex flex-wrap gap-x-5 text-xl">
        {view.cooking.signs.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ul>
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

function JudgeTest({ load }: { load: Load }) {
  const { say } = useInHand();
  const [colour, setColour] = useState<Colour | null>(null);
  const [inside, setInside] = useState<Inside | null>(null);
  return (
    <>
      <h3 className="text-3xl font-bold">Look at the test piece, and cut it</h3>
      <fieldset className="mt-4 flex flex-wrap gap-2">
        <legend className="float-left mr-3 w-28 text-xl">Beneath it is</legend>
        {COLOURS.map(([key, words]) => (
          <Button kind="large" key={key} pressed={colour === key} onClick={() => setColour(key)}>
            {words}
          </Button>
        ))}
      </fieldset>
      <fieldset className="mt-3 flex flex-wrap gap-2">
        <legend className="float-left mr-3 w-28 text-xl">Inside it is</legend>
        {INSIDES.map(([key, words]) => (
          <Button kind="large" key={key} pressed={inside === key} onClick={() => setInside(key)}>
            {words}
          </Button>
        ))}
      </fieldset>
      <Acts>
        <Button
          kind="next"
          disabled={colour === null || inside === null}
          onClick={() => colour && inside && say({ kind: "test_judged", load: load.n, colour, inside })}
        >
          Judge the heat
        </Button>
      </Acts>
    </>
  );
}

/** Where the cooking stands, and the heat. */
function Aside() {
  const { grams, places } = useNumbers();
  const { view, say } = useInHand();
  const beat = useBeat();
  const { cooking } = view;
  const { run, times } = cooking;
  const live = beat?.surface_c ?? null;
  const set = cooking.celsius ?? 0;
  if (!run) return null;
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
        set to <b className="figure text-2xl">{places(set, 0)} °C</b>
        {live !== null && (
          <span>
            is <b className="figure text-2xl text-primary">{live} °C</b>
          </span>
        )}
      </p>
      {(beat?.heat_words || run.heat_words) && (
        <p className="mt-1 font-semibold text-warning">{beat?.heat_words || run.heat_words}</p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button kind="large" onClick={() => say({ kind: "heat_set", celsius: Math.max(60, set - 5) })}>
          −5 °C
        </Button>
        <Button kind="large" onClick={() => say({ kind: "heat_set", celsius: Math.min(350, set + 5) })}>
          +5 °C
        </Button>
        {live !== null && (
          <Button kind="large" onClick={() => say({ kind: "heat_read", celsius: live })}>
            Use {live} °C
          </Button>
        )}
      </div>
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
