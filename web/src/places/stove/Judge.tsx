import { useState } from "react";
import { useBeat } from "../../api/counter";
import type { BatchView } from "../../api/queue";
import { Acts, Button } from "../../kit/Button";
import { Look, type LookKey } from "../../kit/Look";
import { useNow } from "../../kit/moment";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { span } from "../../pure/clock";
import { useInHand } from "./useBatch";

type Way = BatchView["judging"]["ways"][number];
const WORDS: Record<Way, string> = { spread: "On a cold plate", piece: "By a test piece", eye: "By eye" };

/** Judging the bowl: a number for "looks right", what the flour drank, and what is still to be added. */
export function Judge() {
  const { grams, places } = useNumbers();
  const { view, say } = useInHand();
  const { judging } = view;
  const [way, setWay] = useState<Way>(judging.ways[0] ?? "eye");
  const moment = useNow(1000);
  const since = view.resting.wet_at === null ? null : (moment - view.resting.wet_at) / 60;
  const advice = judging.advice;
  return (
    <section aria-label="Judge" className="mt-4 grid gap-8 lg:grid-cols-2">
      <div>
        <fieldset className="flex flex-wrap gap-2">
          <legend className="sr-only">How it is judged</legend>
          {judging.ways.map((w) => (
            <Button kind="large" key={w} pressed={way === w} onClick={() => setWay(w)}>
              {WORDS[w]}
            </Button>
          ))}
        </fieldset>
        {judging.why && <p className="mt-2 text-lg">{judging.why}</p>}
        {since !== null && since < judging.wait_min && way !== "eye" && (
          <p className="mt-2 text-lg font-semibold">
            The flour has hardly drunk: a spread tells more in {span(60 * (judging.wait_min - since))}.
          </p>
        )}
        {way === "spread" && <Spread />}
        {way === "piece" && <TestPiece />}
        {way === "eye" && <Eye />}
      </div>
      <div aria-live="polite">
        {advice ? (
          <>
            <p className="text-3xl leading-snug font-bold">{advice.words}</p>
            <p className="mt-3 text-2xl">
              now <b className="figure text-4xl text-primary">{places(advice.likely_cm, 1)} cm</b>, aim{" "}
              <b className="figure text-4xl">{places(advice.target_cm, 1)} cm</b>
            </p>
            <details className="mt-2">
              <summary className="flex min-h-11 cursor-pointer items-center text-lg underline underline-offset-4">
                How this was reckoned
              </summary>
              <table className="text-lg">
                <tbody>
                  <Row words="seen" value={advice.seen_cm} />
                  <Row words="was to be expected" value={advice.expected_cm} />
                  <Row words={`most likely, ± ${places(advice.doubt_cm, 1)} cm`} value={advice.likely_cm} berry />
                  {advice.add_g > 0 && <Row words="with the addition" value={advice.then_cm} berry />}
                  <Row words="after the rest" value={advice.after_rest_cm} berry />
                </tbody>
              </table>
            </details>
            {advice.add_g > 0 && <Addition />}
            <Acts>
              {advice.add_g > 0 ? (
                <Button kind="large" onClick={() => say({ kind: "went", stage: "rest" })}>
                  Leave it, and rest
                </Button>
              ) : (
                <Button kind="next" onClick={() => say({ kind: "went", stage: "rest" })}>
                  Rest
                </Button>
              )}
            </Acts>
          </>
        ) : (
          <>
            <p className="text-2xl leading-snug">
              {judging.held_g >= 1
                ? `${grams(judging.held_g)} g${judging.held_words && ` (${judging.held_words})`} of the ${judging.held_name} are held back. Judge first; the tool says how much of it to add.`
                : "Judge it, and the tool says how much liquid or flour is still to be added."}
            </p>
            <Acts>
              <Button kind="large" onClick={() => say({ kind: "went", stage: "rest" })}>
                Without judging, rest
              </Button>
            </Acts>
          </>
        )}
      </div>
    </section>
  );
}

function Row({ words, value, berry }: { words: string; value: number; berry?: boolean }) {
  const { places } = useNumbers();
  return (
    <tr>
      <td className="pr-6">{words}</td>
      <td className={`figure text-right text-xl ${berry ? "text-primary" : ""}`}>{places(value, 1)} cm</td>
    </tr>
  );
}

/** What is stirred in is weighed, or taken at its word. */
function Addition() {
  const { grams } = useNumbers();
  const { view, waiting, say } = useInHand();
  const beat = useBeat();
  const { advice, held_line, flour_line } = view.judging;
  const at = advice?.thicker ? flour_line : held_line;
  const parts = view.weighing.lines.filter((l) => l.at === at);
  const line = parts.find((l) => l.held > 0) ?? parts.at(-1);
  const gross = view.weighing.with_scale && beat ? beat.pour.gross : null;
  const [from, setFrom] = useState<number | null>(null);
  if (!advice || !line) return null;
  const busy = waiting.some((e) => e.kind === "poured");
  const weighed = from !== null && gross !== null ? gross - from : null;
  const add = (amount: number, by: "scale" | "measure") =>
    say({
      kind: "poured",
      line: line.at,
      slot: line.slot,
      grams: amount,
      gross: null,
      by,
      closes: false,
      done: true,
      held: !advice.thicker && line.held - amount > 1,
    });
  return (
    <div className="mt-4">
      {weighed !== null && (
        <p className="figure text-7xl text-primary">
          {grams(Math.max(0, weighed))} <span className="text-3xl text-base-content">of {grams(advice.add_g)} g</span>
        </p>
      )}
      <Acts>
        {weighed !== null ? (
          <Button kind="next" disabled={busy || weighed < 0.5} onClick={() => add(weighed, "scale")}>
            That is in
          </Button>
        ) : (
          <Button kind="next" disabled={busy} onClick={() => add(advice.add_g, "measure")}>
            {grams(advice.add_g)} g{view.judging.add_words && ` (${view.judging.add_words})`} are in
          </Button>
        )}
        {gross !== null && from === null && (
          <Button kind="large" onClick={() => setFrom(gross)}>
            Weigh it in
          </Button>
        )}
        {[5, 10].map((more) => (
          <Button kind="large" key={more} disabled={busy} onClick={() => add(more, "measure")}>
            {more} g are in
          </Button>
        ))}
      </Acts>
    </div>
  );
}

/** The scoops there are; the one that is taken. */
function Scoops({ value, onChange }: { value: number; onChange: (ml: number) => void }) {
  const { places } = useNumbers();
  const { view } = useInHand();
  return (
    <fieldset className="mt-3 flex flex-wrap items-center gap-2">
      <legend className="float-left mr-2 text-lg">Scoop</legend>
      {view.judging.scoops.map((s) => (
        <Button kind="large" key={s.ml} pressed={value === s.ml} onClick={() => onChange(s.ml)}>
          {places(s.ml, 0)} mL
        </Button>
      ))}
    </fieldset>
  );
}

function Spread() {
  const { places } = useNumbers();
  const { view, say } = useInHand();
  const [volume, setVolume] = useState(60);
  const [value, setValue] = useState<number | null>(null);
  const [poured, setPoured] = useState<number | null>(null);
  const moment = useNow(250);
  const left = poured === null ? null : 30 - (moment - poured);
  const right = view.judging.scoops.find((s) => s.ml === volume);
  return (
    <form
      className="mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (value !== null) say({ kind: "judged", way: "spread", value, volume_ml: volume });
        setValue(null);
        setPoured(null);
      }}
    >
      <p className="text-xl">
        Let {places(volume, 0)} mL run out onto a cold, level plate; wait half a minute without shaking; measure
        straight across.
        {right && (
          <>
            {" "}
            It should now be{" "}
            <b className="figure text-3xl whitespace-nowrap text-primary">{places(right.plate_cm, 1)} cm</b>.
          </>
        )}
      </p>
      <Scoops value={volume} onChange={setVolume} />
      <div className="mt-4 flex flex-wrap items-center gap-4">
        {left === null ? (
          <Button kind="large" onClick={() => setPoured(moment)}>
            It is on the plate
          </Button>
        ) : (
          <span role="timer" className="figure text-5xl">
            {left > 0 ? span(left) : "measure"}
          </span>
        )}
        <NumberField label="across" unit="cm" value={value} min={2} max={60} onChange={setValue} />
        <Submit ready={value !== null} />
      </div>
    </form>
  );
}

function TestPiece() {
  const { places } = useNumbers();
  const { view, say } = useInHand();
  const [value, setValue] = useState<number | null>(null);
  const [volume, setVolume] = useState(view.judging.portion_ml);
  const right = view.judging.scoops.find((s) => s.ml === volume);
  return (
    <form
      className="mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (value !== null) say({ kind: "judged", way: "piece", value, volume_ml: volume });
        setValue(null);
      }}
    >
      <p className="text-xl">
        Pour one scoop onto the hot surface and measure it across when its rim has set.
        {right && (
          <>
            {" "}
            It should now be about{" "}
            <b className="figure text-3xl whitespace-nowrap text-primary">{places(right.piece_cm, 1)} cm</b>.
          </>
        )}
      </p>
      <Scoops value={volume} onChange={setVolume} />
      <div className="mt-4 flex flex-wrap items-center gap-4">
        <NumberField label="across" unit="cm" value={value} min={2} max={60} onChange={setValue} />
        <Submit ready={value !== null} />
      </div>
    </form>
  );
}

/** The one thing to do next, until something was judged: then what is to be added comes first. */
function Submit({ ready }: { ready: boolean }) {
  const { view } = useInHand();
  const first = view.judging.advice === null;
  return (
    <button
      type="submit"
      disabled={!ready}
      {...(first ? { "data-act": true } : {})}
      className={
        first
          ? "btn btn-accent min-h-16 px-8 text-2xl font-bold"
          : "min-h-14 rounded-field border border-base-content/50 bg-base-100 px-5 text-lg disabled:opacity-50"
      }
    >
      Judge it
    </button>
  );
}

function Eye() {
  const { view, say } = useInHand();
  return (
    <>
      <p className="mt-4 text-xl">Lift a spoonful and let it fall. It is most like:</p>
      <ul className="mt-3 grid grid-cols-2 gap-2 sm:grid-cols-5">
        {view.eye.map((e) => (
          <li key={e.value}>
            <button
              type="button"
              className="flex h-full w-full flex-col items-center gap-2 rounded-box border border-base-content/40 bg-base-100 p-2 text-base hover:border-base-content"
              onClick={() => say({ kind: "judged", way: "eye", value: e.value, volume_ml: 60 })}
            >
              <Look of={`fall ${e.value}` as LookKey} />
              {e.label}
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-2 opacity-90">By eye it is known to about two centimetres of spread: less sure than a plate.</p>
    </>
  );
}
