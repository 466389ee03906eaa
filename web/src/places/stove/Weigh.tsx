import { useState } from "react";
import { useBeat } from "../../api/counter";
import type { BatchView } from "../../api/queue";
import { Acts, Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { Offers } from "./Offers";
import { useInHand } from "./useBatch";
import { VesselPicture } from "./VesselPicture";

type Line = BatchView["weighing"]["lines"][number];
type Vessel = BatchView["weighing"]["vessels"][number];
const same = (a: Line | undefined, b: Line | undefined) => a?.at === b?.at && a?.part === b?.part;

/** Weighing out, a vessel at a time: one thing against the scale, or by spoons and cups; too much and none left are answered at once. */
export function Weigh() {
  const { grams } = useNumbers();
  const { view, say } = useInHand();
  const [none, setNone] = useState<Line | null>(null);
  const [picked, setPicked] = useState<Line | null>(null);
  const w = view.weighing;
  const first = w.lines.find((l) => l.at === w.current && l.part === w.part);
  const own = picked ? w.lines.find((l) => same(l, picked) && !l.settled) : undefined;
  const line = first && first.over > 0 ? first : (own ?? first);
  const gone = none && w.lines.find((l) => same(l, none));
  const vessel = w.vessels.find((v) => v.key === line?.vessel);
  return (
    <section aria-label="Weigh out" className="mt-4 grid gap-5">
      <div className={`grid gap-x-8 gap-y-3 ${vessel ? "lg:grid-cols-[22rem_1fr]" : ""}`}>
        {vessel && line && <Into vessel={vessel} line={line} />}
        <div className="min-w-0">
          {gone ? (
            <Offers
              line={gone}
              why="none_left"
              onDone={(targets, words) => {
                say({ kind: "none_left", line: gone.at }, { kind: "retargeted", targets, why: words });
                setNone(null);
              }}
              onBack={() => setNone(null)}
            />
          ) : line && line.over > 0 ? (
            <Offers
              line={line}
              why="over"
              onDone={(targets, words) => {
                const answered = {
                  kind: "step_done",
                  key: `over_${line.at}_${line.slot}`,
                  wets: false,
                  leavens: false,
                } as const;
                if (targets.length > 0) say(answered, { kind: "retargeted", targets, why: words });
                else say(answered);
              }}
            />
          ) : line && w.before ? (
            <Before />
          ) : line && vessel ? (
            <One
              key={`${line.at} ${line.part} ${line.slot}`}
              line={line}
              vessel={vessel}
              onNone={() => setNone(line)}
            />
          ) : (
            <>
              <p className="text-3xl font-bold">Everything is in: {grams(w.bowl_g)} g.</p>
              {view.judging.held_g >= 1 && (
                <p className="mt-2 text-xl">
                  {grams(view.judging.held_g)} g of the {view.judging.held_name} stay in a cup until the bowl is judged.
                </p>
              )}
              {w.why && <p className="mt-2 text-xl">{w.why}</p>}
              <Acts>
                <Button kind="next" onClick={() => say({ kind: "went", stage: "mix" })}>
                  Mix
                </Button>
              </Acts>
            </>
          )}
        </div>
      </div>
      <Shelf line={line} onPick={setPicked} />
    </section>
  );
}

/** The vessel that is filled now: how full it is, and where the line in turn is to end. */
function Into({ vessel, line }: { vessel: Vessel; line: Line }) {
  const { view } = useInHand();
  const beat = useBeat();
  const lines = view.weighing.lines.filter((l) => l.vessel === vessel.key);
  const whole = lines.reduce((sum, l) => sum + Math.max(l.target - l.held, l.poured), 0) || 1;
  const live = beat?.line === line.at && beat.slot === line.slot ? Math.max(0, beat.pour.poured ?? 0) : 0;
  const share = (value: number) => (0.9 * value) / whole;
  return (
    <div className="flex items-center gap-4 lg:block">
      <p className="text-xl">
        Into the <b className="text-3xl">{vessel.name}</b>
      </p>
      <VesselPicture
        vessel={vessel.key}
        share={share(vessel.grams + live)}
        aim={share(vessel.grams + line.missing)}
        className="w-28 lg:mt-2 lg:w-full"
      />
    </div>
  );
}

/** What must be mixed before the next thing is scattered over it. */
function Before() {
  const { view, say } = useInHand();
  const step = view.weighing.before!;
  return (
    <>
      <h3 className="text-4xl font-bold">{step.title}</h3>
      <p className="mt-2 max-w-3xl text-2xl leading-snug">{step.text}</p>
      <p className="mt-2 text-lg opacity-90">{step.why}</p>
      <Acts>
        <Button
          kind="next"
          onClick={() => say({ kind: "step_done", key: step.key, wets: step.wets, leavens: step.leavens })}
        >
          Done
        </Button>
      </Acts>
    </>
  );
}

/** The shelf: every vessel in its order, what goes into it and what of that is in. */
function Shelf({ line, onPick }: { line: Line | undefined; onPick: (line: Line) => void }) {
  const { grams } = useNumbers();
  const { view, say } = useInHand();
  const gross = useBeat()?.pour.gross ?? null;
  const w = view.weighing;
  const pick = (l: Line) => {
    onPick(l);
    // What comes now is counted from where the scale stands, where the vessel on it stays the same.
    if (l.by === "scale" && w.zero !== null && gross !== null && l.vessel === line?.vessel)
      say({ kind: "tared", line: l.at, part: l.part, gross });
  };
  return (
    <aside aria-label="What goes in" className="border-t-4 border-base-content/70 pt-3">
      <ol className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        {w.vessels.map((v) => {
          const lines = v.held ? [] : w.lines.filter((l) => l.vessel === v.key && !l.bagged);
          const mix = v.held ? [] : w.lines.filter((l) => l.vessel === v.key && l.bagged);
          const now = v.key === line?.vessel && !v.held;
          return (
            <li key={v.key} className={`rounded-box px-3 py-2 ${now ? "bg-primary/10" : ""}`}>
              <p className="flex items-center gap-3">
                <VesselPicture
                  vessel={v.key}
                  share={v.held ? 0.5 : v.settled ? 0.8 : v.grams > 0 ? 0.4 : 0}
                  className="w-12 shrink-0"
                />
                <b className={`text-lg ${now ? "text-primary" : ""}`}>{v.name}</b>
                {!v.held && v.settled && <span>all in, {grams(v.grams)} g</span>}
              </p>
              {v.held && <p>{v.names.join(", ")}</p>}
              {mix.length > 0 && (
                <p className="flex gap-2">
                  <span className="w-5 shrink-0" aria-hidden="true">
                    {mix.every((l) => l.settled) ? "✓" : ""}
                  </span>
                  <span className="min-w-0 flex-1">dry mix{mix.every((l) => l.settled) && ", is in"}</span>
                  <span className="figure">{grams(mix.reduce((sum, l) => sum + l.target, 0))} g</span>
                </p>
              )}
              <ul>
                {lines.map((l) => (
                  <li key={`${l.at} ${l.part}`}>
                    <button
                      type="button"
                      disabled={l.settled}
                      aria-current={same(l, line) ? "true" : undefined}
                      className={`flex min-h-11 w-full items-center gap-2 text-left ${same(l, line) ? "font-bold text-primary" : l.settled ? "" : "hover:bg-base-200"}`}
                      onClick={() => pick(l)}
                    >
                      <span className="w-5 shrink-0" aria-hidden="true">
                        {l.none_left ? "×" : l.settled ? "✓" : ""}
                      </span>
                      <span className="min-w-0 flex-1">
                        {l.name}
                        <span className="sr-only">{l.none_left ? ", none left" : l.settled ? ", is in" : ""}</span>
                      </span>
                      <span className={l.settled || l.by === "scale" ? "figure" : "kitchen"}>
                        {!l.settled && l.by !== "scale" && l.words
                          ? l.words
                          : `${grams(l.settled ? l.poured : l.target - l.held)} g`}
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
            </li>
          );
        })}
      </ol>
      <div className="mt-2">
        <Button kind="large" pressed={!w.with_scale} onClick={() => say({ kind: "scale_used", on: !w.with_scale })}>
          Without a scale
        </Button>
      </div>
    </aside>
  );
}

/** A line in its part: what of it goes in, and how that is told. */
const taken = (line: Line) =>
  ({
    kind: "poured",
    line: line.at,
    part: line.part,
    closes: true,
    slot: line.slot,
    done: line.last,
    held: line.last && line.holds,
  }) as const;

function One({ line, vessel, onNone }: { line: Line; vessel: Vessel; onNone: () => void }) {
  const { grams } = useNumbers();
  const { view, waiting, say } = useInHand();
  const beat = useBeat();
  const own = beat?.line === line.at && beat.slot === line.slot ? beat : null;
  const busy = waiting.some((e) => e.kind === "poured" && e.line === line.at && e.slot === line.slot);
  const pour = own?.pour ?? null;
  const take = (more: { grams: number; gross?: number | null; by?: Line["by"] }) => {
    if (busy) return;
    say({ ...taken(line), by: line.by, ...more });
  };
  const scale = line.by === "scale";
  if (scale && view.weighing.zero === null)
    return (
      <TakeVessel line={line} vessel={vessel} gross={beat?.pour.gross ?? null} stands={beat?.pour.stands === true} />
    );
  return (
    <>
      <h3 className="text-4xl font-bold sm:text-5xl">{line.name}</h3>
      {scale ? (
        <Scale line={line} pour={pour} />
      ) : (
        <p className="kitchen figure mt-2 text-[clamp(3.5rem,11vw,8rem)] leading-none text-primary">
          {line.words || `${grams(line.missing)} g`}
        </p>
      )}
      {!scale && (
        <p className="mt-2 text-xl">
          {line.by === "spoon" ? "Level spoons: too little for the scale" : "By your own cups and spoons"} (
          {grams(line.measured_g)} g).
        </p>
      )}
      {line.note && <p className="mt-2 text-xl">{line.note}</p>}
      {line.poured > 0 && (
        <p className="mt-1 text-lg">
          {grams(line.poured)} g of {grams(line.target)} g are in already.
        </p>
      )}
      {scale && pour?.trouble && <Trouble line={line} words={pour.words} trouble={pour.trouble} gross={pour.gross} />}
      {scale && !pour && (
        <p role="alert" className="mt-3 text-xl font-semibold text-warning">
          Nothing is heard from the scale. What was poured stands.
        </p>
      )}
      <Acts>
        {scale ? (
          <Button
            kind="next"
            disabled={pour?.poured === null || pour?.poured === undefined || Math.abs(pour.poured) < 0.5 || busy}
            onClick={() => pour?.poured !== null && pour && take({ grams: pour.poured ?? 0, gross: pour.gross })}
          >
            {line.auto ? "That is all of it" : "Those are the eggs"}
          </Button>
        ) : (
          <Button kind="next" disabled={busy} onClick={() => take({ grams: line.measured_g })}>
            It is in
          </Button>
        )}
        <Whole vessel={vessel} />
        <Button kind="large" onClick={onNone}>
          I have none
        </Button>
        {scale && (
          <Button
            kind="large"
            disabled={pour?.gross === null || pour?.gross === undefined}
            onClick={() => say({ kind: "tared", line: line.at, part: line.part, gross: pour?.gross ?? 0 })}
          >
            Tare
          </Button>
        )}
        {scale && (
          <Button kind="large" disabled={busy} onClick={() => take({ grams: line.measured_g, by: "measure" })}>
            {line.words ? `${line.words} by measure` : "By measure"}
          </Button>
        )}
      </Acts>
    </>
  );
}

/** The next vessel: what it takes, and nothing is counted before it stands on the scale. */
function TakeVessel({
  line,
  vessel,
  gross,
  stands,
}: {
  line: Line;
  vessel: Vessel;
  gross: number | null;
  stands: boolean;
}) {
  const { grams } = useNumbers();
  const { view, say } = useInHand();
  const before = view.weighing.vessels.find((v) => v.settled && !v.held && v.grams > 0);
  return (
    <>
      <h3 className="text-4xl font-bold">Take the {vessel.name}</h3>
      <p className="mt-2 text-xl">
        {before && "Set the one before aside. "}It takes {vessel.names.join(", ")}.
      </p>
      <p className="mt-2 text-xl">
        The scale shows{" "}
        <b className="figure text-3xl">{gross === null ? "nothing" : `${grams(Math.max(0, gross))} g`}</b>. What is
        poured is counted from there; no tare is needed.
      </p>
      <Acts>
        <Button
          kind="next"
          disabled={gross === null || !stands}
          onClick={() => say({ kind: "tared", line: line.at, part: line.part, gross: gross ?? 0 })}
        >
          The {vessel.name} is on
        </Button>
        <Whole vessel={vessel} />
        <Button kind="large" onClick={() => say({ kind: "scale_used", on: false })}>
          Without a scale
        </Button>
      </Acts>
    </>
  );
}

/** A whole vessel at once, by spoons and cups: taken at its word. */
function Whole({ vessel }: { vessel: Vessel }) {
  const { view, waiting, say } = useInHand();
  const open = view.weighing.lines.filter((l) => l.vessel === vessel.key && !l.settled);
  if (view.weighing.with_scale || open.length < 2) return null;
  return (
    <Button
      kind="large"
      disabled={waiting.some((e) => e.kind === "poured")}
      onClick={() => say(...open.map((l) => ({ ...taken(l), by: "measure", grams: l.measured_g }) as const))}
    >
      All of the {vessel.name} is in
    </Button>
  );
}

type Pour = NonNullable<ReturnType<typeof useBeat>>["pour"];

/** The pour, large: what is in of what is wanted, and a band in which it is near enough. */
function Scale({ line, pour }: { line: Line; pour: Pour | null }) {
  const { grams } = useNumbers();
  const known = pour?.poured ?? null;
  const poured = known ?? 0;
  const most = Math.max(line.missing * 1.25, line.missing + 3 * line.tolerance, 1);
  const share = (value: number) => `${Math.min(100, Math.max(0, (100 * value) / most))}%`;
  const over = poured > line.missing + line.tolerance;
  return (
    <>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-4 leading-none">
        <span
          role="status"
          aria-label="On the scale"
          className={`figure text-[clamp(5rem,17vw,12rem)] ${over ? "text-error" : "text-primary"}`}
        >
          {known === null ? "–" : Math.round(poured * 10) / 10}
        </span>
        <span className="figure text-[clamp(1.8rem,5vw,3.5rem)]">of {grams(line.missing)} g</span>
        <span className="text-xl">± {grams(line.tolerance)} g</span>
        {line.words && <span className="kitchen text-xl">about {line.words}</span>}
      </p>
      <svg viewBox="0 0 1000 40" preserveAspectRatio="none" className="mt-4 h-10 w-full max-w-3xl" aria-hidden="true">
        <rect width="1000" height="40" rx="6" fill="var(--color-base-300)" />
        <rect
          x={share(line.missing - line.tolerance)}
          width={`${(200 * line.tolerance) / most}%`}
          height="40"
          fill="color-mix(in oklab, var(--color-success) 45%, transparent)"
        />
        <rect width={share(poured)} y="9" height="22" rx="3" fill={over ? "var(--color-error)" : "var(--berry)"} />
        <rect x={share(line.missing)} width="3" height="40" fill="var(--color-base-content)" />
      </svg>
      {over && (
        <p className="mt-1 text-2xl font-bold text-error">
          {grams(poured - line.missing)} g too much. Spoon some out, or see fixes.
        </p>
      )}
    </>
  );
}

/** What is wrong with the scale, in plain words, with what can be done. */
function Trouble({
  line,
  words,
  trouble,
  gross,
}: {
  line: Line;
  words: string;
  trouble: string;
  gross: number | null;
}) {
  const { say } = useInHand();
  return (
    <div role="alert" className="mt-3 max-w-3xl border-l-8 border-warning bg-base-100 px-4 py-2">
      <p className="text-xl font-semibold">{words}</p>
      {(trouble === "lifted" || trouble === "elsewhere") && gross !== null && (
        <div className="mt-2">
          <Button kind="large" onClick={() => say({ kind: "tared", line: line.at, part: line.part, gross })}>
            {trouble === "elsewhere" ? "Use the scale here" : "It is back: count from here"}
          </Button>
        </div>
      )}
    </div>
  );
}
