import { useState } from "react";
import { useBeat } from "../../api/counter";
import type { BatchView } from "../../api/queue";
import { Acts, Button } from "../../kit/Button";
import { useNow } from "../../kit/moment";
import { useNumbers } from "../../kit/numbers";
import { span } from "../../pure/clock";
import { counted } from "../../pure/counted";
import { ChooseSurface } from "./ChooseSurface";
import { HowItStands } from "./HowItStands";
import { JudgeTest } from "./JudgeTest";
import { OnTheSurface } from "./OnTheSurface";
import { PanSteps } from "./PanSteps";
import { useInHand } from "./useBatch";
import { WhyLink } from "./WhySheet";

/** Cooking: the surface, one test piece, then load after load, with the sign to look for and the clock beside it. */
export function Cook() {
  const { view } = useInHand();
  const [choosing, setChoosing] = useState(false);
  return (
    <section aria-label="Cook" className="mt-4">
      {view.cooking.chosen && !choosing ? (
        <Running onChange={() => setChoosing(true)} />
      ) : (
        <ChooseSurface onDone={view.cooking.chosen ? () => setChoosing(false) : undefined} />
      )}
      {view.cooking.loads.length > 0 && <WhyLink />}
    </section>
  );
}

function Running({ onChange }: { onChange: () => void }) {
  const { view, waiting, say } = useInHand();
  const { cooking } = view;
  const loads = cooking.loads;
  const run = cooking.run;
  const on = loads.filter((l) => l.off === null);
  const test = [...loads].reverse().find((l) => l.test);
  const judge = test && test.off !== null && test.colour === null && loads.at(-1) === test ? test : null;
  const sent = (kind: string, load: number) => waiting.some((e) => e.kind === kind && "load" in e && e.load === load);
  const last = [...loads].reverse().find((l) => l.off !== null);
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
              <p className="text-4xl font-bold">
                {counted(run.next_pieces, { one: "1 piece goes on", other: "# pieces go on" })}
              </p>
            ) : (
              <p className="text-4xl font-bold">That was the last of the bowl.</p>
            )}
            {run.care && <p className="mt-1 text-2xl">{run.care}</p>}
          </>
        )}
        {on.length === 0 && !judge && run && run.loads_left > 0 && <PanSteps when="before" />}
        {last && <Filled load={last} />}
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
      <HowItStands onChange={onChange} />
    </div>
  );
}

/** How the last load filled its iron: said once, it corrects the next. */
function Filled({ load }: { load: BatchView["cooking"]["loads"][number] }) {
  const { whole } = useNumbers();
  const { view, say } = useInHand();
  const { chosen, next_fill } = view.cooking;
  if (chosen?.surface.kind !== "iron" || load.test) return null;
  if (next_fill !== null)
    return (
      <p className="mt-3 flex flex-wrap items-center gap-3 border-l-8 border-primary bg-base-100 px-4 py-2 text-xl">
        <span className="min-w-0 flex-1">
          {load.fill === "over" ? "It ran over" : "It left gaps"}: a place takes about{" "}
          <b className="figure">{whole(next_fill)} mL</b>.
        </span>
        <Button kind="large" onClick={() => say({ ...chosen, kind: "surface_chosen", portion_ml: next_fill })}>
          Take {whole(next_fill)} mL from now on
        </Button>
      </p>
    );
  if (load.fill !== null) return null;
  return (
    <fieldset className="mt-3 flex flex-wrap items-center gap-2 text-lg">
      <legend className="float-left mr-3">The iron was</legend>
      {(
        [
          ["right", "just full"],
          ["over", "run over"],
          ["gaps", "left with gaps"],
        ] as const
      ).map(([fill, words]) => (
        <Button key={fill} kind="large" onClick={() => say({ kind: "filled", load: load.n, fill })}>
          {words}
        </Button>
      ))}
    </fieldset>
  );
}

/** The surface heats: by the thermometer where there is one, by the clock where not. */
function Heating() {
  const { places, heat, degrees } = useNumbers();
  const { view } = useInHand();
  const beat = useBeat();
  const left = useHeatLeft();
  const chosen = view.cooking.chosen!;
  return (
    <>
      <h3 className="text-3xl font-bold">{chosen.surface.name}</h3>
      <p className="flex flex-wrap items-baseline gap-x-5">
        {beat?.surface_c !== null && beat?.surface_c !== undefined ? (
          <span className="figure text-[clamp(4rem,13vw,9rem)] leading-none text-primary">
            {heat.shown(beat.surface_c)}
            <span className="text-4xl text-base-content"> of {degrees(view.cooking.celsius ?? 0)}</span>
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

/** Seconds until the surface is hot: by its thermometer where there is one, else by the clock; null before it heats. */
function useHeatLeft(): number | null {
  const { view } = useInHand();
  const beat = useBeat();
  const moment = useNow(500);
  if (beat) return beat.heat_left_s;
  const left = view.cooking.heat_left_s;
  return left === null ? null : Math.max(0, left - (moment - view.now));
}

function NextLoad() {
  const { degrees } = useNumbers();
  const left = useHeatLeft();
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
  const cold = first && left !== null && left > 0;
  const minutes = Math.ceil((left ?? 0) / 60);
  if (cold)
    return (
      <>
        <p role="status" className="mt-6 text-3xl font-bold">
          Heating: {counted(minutes, { one: "about 1 minute", other: "about # minutes" })}
        </p>
        <Acts>
          <Button kind="large" disabled={busy} onClick={view.form === "tray" ? load : test}>
            It is hot already: {view.form === "tray" ? "the tray is in" : "the test piece is on"}
          </Button>
        </Acts>
      </>
    );
  return (
    <Acts>
      {move !== null && (
        <Button kind="next" onClick={() => say({ kind: "heat_set", celsius: move })}>
          Set it to {degrees(move)}
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
