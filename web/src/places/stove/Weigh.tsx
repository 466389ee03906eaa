import { useState } from "react";
import { useBeat } from "../../api/counter";
import type { BatchView } from "../../api/queue";
import { Acts, Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { Offers } from "./Offers";
import { useInHand } from "./useBatch";

type Line = BatchView["weighing"]["lines"][number];

/** Weighing out: one thing at a time against the scale, or by spoons and cups; too much and none left are answered at once. */
export function Weigh() {
  const { grams } = useNumbers();
  const { view, say } = useInHand();
  const [none, setNone] = useState<number | null>(null);
  const [picked, setPicked] = useState<number | null>(null);
  const first = view.weighing.lines.find((l) => l.at === view.weighing.current);
  const own = view.weighing.lines.find((l) => l.at === picked && !l.settled);
  const line = first && first.over > 0 ? first : (own ?? first);
  const gone = view.weighing.lines.find((l) => l.at === none);
  return (
    <section aria-label="Weigh out" className="mt-4 grid gap-6 lg:grid-cols-[1fr_20rem]">
      <div>
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
        ) : line ? (
          <One key={`${line.at} ${line.slot}`} line={line} onNone={() => setNone(line.at)} />
        ) : (
          <>
            <p className="text-3xl font-bold">Everything is in: {grams(view.weighing.bowl_g)} g.</p>
            {view.judging.held_g >= 1 && (
              <p className="mt-2 text-xl">
                {grams(view.judging.held_g)} g of the {view.judging.held_name} stay in the jug until the bowl is judged.
              </p>
            )}
            {view.weighing.why && <p className="mt-2 text-xl">{view.weighing.why}</p>}
            <Acts>
              <Button kind="next" onClick={() => say({ kind: "went", stage: "mix" })}>
                Mix
              </Button>
            </Acts>
          </>
        )}
      </div>
      <List at={line?.at ?? null} onPick={setPicked} />
    </section>
  );
}

/** All that goes in, and what of it is in; any line can be taken before its turn. */
function List({ at, onPick }: { at: number | null; onPick: (at: number) => void }) {
  const { grams } = useNumbers();
  const { view, say } = useInHand();
  const beat = useBeat();
  const pick = (l: Line) => {
    onPick(l.at);
    // The scale counts for the line that is taken, from where it stands.
    const gross = beat?.pour.gross ?? null;
    if (l.by === "scale" && view.weighing.zero !== null && gross !== null) say({ kind: "tared", line: l.at, gross });
  };
  return (
    <aside aria-label="What goes in">
      <ol className="rounded-box bg-base-100 px-3 py-1">
        {view.weighing.lines.map((l) => (
          <li key={l.at} className="border-b border-base-300/60 last:border-0">
            <button
              type="button"
              disabled={l.settled}
              aria-current={l.at === at ? "true" : undefined}
              className={`flex min-h-11 w-full items-center gap-2 text-left ${l.at === at ? "font-bold text-primary" : l.settled ? "" : "hover:bg-base-200"}`}
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
                {!l.settled && l.by !== "scale" && l.words ? l.words : `${grams(l.settled ? l.poured : l.target)} g`}
              </span>
            </button>
          </li>
        ))}
      </ol>
      <div className="mt-2">
        <Button
          kind="large"
          pressed={!view.weighing.with_scale}
          onClick={() => say({ kind: "scale_used", on: !view.weighing.with_scale })}
        >
          Without a scale
        </Button>
      </div>
    </aside>
  );
}

function One({ line, onNone }: { line: Line; onNone: () => void }) {
  const { grams } = useNumbers();
  const { view, waiting, say } = useInHand();
  const beat = useBeat();
  const own = beat?.line === line.at && beat.slot === line.slot ? beat : null;
  const busy = waiting.some((e) => e.kind === "poured" && e.line === line.at && e.slot === line.slot);
  const pour = own?.pour ?? null;
  const take = (more: { grams: number; gross?: number | null; by?: Line["by"]; done?: boolean }) => {
    if (busy) return;
    say({ kind: "poured", line: line.at, slot: line.slot, by: line.by, done: true, held: line.held > 0, ...more });
  };
  const scale = line.by === "scale";
  if (scale && view.weighing.zero === null)
    return <Bowl line={line} gross={beat?.pour.gross ?? null} stands={beat?.pour.stands === true} />;
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
        <Button kind="large" onClick={onNone}>
          I have none
        </Button>
        {scale && (
          <Button
            kind="large"
            disabled={pour?.gross === null || pour?.gross === undefined}
            onClick={() => say({ kind: "tared", line: line.at, gross: pour?.gross ?? 0 })}
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

/** Before the first pour: the bowl goes on, and what comes then is counted from there. */
function Bowl({ line, gross, stands }: { line: Line; gross: number | null; stands: boolean }) {
  const { grams } = useNumbers();
  const { say } = useInHand();
  return (
    <>
      <h3 className="text-4xl font-bold">Put the bowl on the scale</h3>
      <p className="mt-2 text-xl">
        It shows <b className="figure text-3xl">{gross === null ? "nothing" : `${grams(Math.max(0, gross))} g`}</b>.
        What is poured is counted from there; no tare is needed.
      </p>
      <Acts>
        <Button
          kind="next"
          disabled={gross === null || !stands}
          onClick={() => say({ kind: "tared", line: line.at, gross: gross ?? 0 })}
        >
          The bowl is on
        </Button>
        <Button kind="large" onClick={() => say({ kind: "scale_used", on: false })}>
          Without a scale
        </Button>
      </Acts>
    </>
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
          <Button kind="large" onClick={() => say({ kind: "tared", line: line.at, gross })}>
            The bowl is on: count from here
          </Button>
        </div>
      )}
    </div>
  );
}
