import { Suspense, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { type BatchView, letGo, send, sendAgain, useRefused, useWaiting } from "../../api/queue";
import { useKeys } from "../../app/keys";
import { Timers } from "../../app/Timers";
import { Button } from "../../kit/Button";
import { Mark } from "../../kit/Mark";
import { part } from "../../kit/part";
import { useSettled } from "../../kit/settled";
import { VerdictShape, verdictWords } from "../../kit/Verdict";
import { hour } from "../../pure/clock";
import { counted } from "../../pure/counted";
import { useAwake } from "./awake";
import { BesideIt } from "./BesideIt";
import { BowlSheet } from "./BowlSheet";
import { Cook } from "./Cook";
import { Finish } from "./Finish";
import { Judge } from "./Judge";
import { Last } from "./Last";
import { Mix } from "./Mix";
import { Ready } from "./Ready";
import { Rest } from "./Rest";
import { BatchProvider, useBatch, useInHand } from "./useBatch";
import { useTakeBack } from "./useTakeBack";
import { Weigh } from "./Weigh";

type Stage = BatchView["stage"];
const cross = part(() => import("./CrossSheet"));
const STAGES: readonly (readonly [Stage, string])[] = [
  ["ready", "Ready"],
  ["weigh", "Weigh out"],
  ["mix", "Mix"],
  ["judge", "Judge"],
  ["rest", "Rest"],
  ["last", "Last in"],
  ["cook", "Cook"],
  ["finish", "Finish"],
];
const SHOWN = {
  ready: Ready,
  weigh: Weigh,
  mix: Mix,
  judge: Judge,
  rest: Rest,
  last: Last,
  cook: Cook,
  finish: Finish,
};

const ACTS: Partial<Record<string, string>> = {
  went: "A change of step",
  prep_started: "Something begun",
  prep_done: "Something made ready",
  scale_used: "The scale on or off",
  none_left: "None left",
  moment_chosen: "The moment of the leavening",
  judged: "A look at the bowl",
  rest_started: "The rest begun",
  rest_ended: "The rest ended",
  surface_chosen: "The surface chosen",
  heat_on: "The heat on",
  heat_set: "The heat set",
  test_judged: "A test piece judged",
  cared: "The surface cared for",
  faults_seen: "What was wrong",
  kept: "Something kept",
  finished: "The end of the batch",
  poured: "A line poured",
  tared: "The scale tared",
  retargeted: "Amounts worked out again",
  step_done: "A step done",
  load_on: "A load put on",
  turned: "A load turned",
  off: "A load taken off",
  rated: "A rating",
  noted: "A note",
  undone: "Something undone",
};

/** One batch in hand: its step, one thing at a time, its clocks, and a way back from every touch. */
export function BatchHand({ id }: { id: string }) {
  const batch = useBatch(id);
  const waiting = useWaiting(id);
  if (batch.isError && !batch.data)
    return (
      <p role="alert" className="mt-6 text-lg">
        {batch.error.message}{" "}
        <Link to="/stove" className="underline">
          To the batches that are under way
        </Link>
      </p>
    );
  if (!batch.data) return <p className="mt-6 text-lg">Opening the batch…</p>;
  return (
    <BatchProvider value={{ view: batch.data, waiting, say: (...events) => send(id, ...events) }}>
      <Hand />
    </BatchProvider>
  );
}

function Hand() {
  const { view, waiting, say } = useInHand();
  const [open, setOpen] = useState<"bowl" | "cross" | null>(null);
  useAwake();
  const undo = useTakeBack();
  const redo = () => view.redo && say({ kind: "undone", event: view.redo });
  useKeys({
    u: undo,
    r: redo,
    n: () => document.querySelector<HTMLElement>("[data-act]")?.click(),
    "ctrl+z": undo,
    "ctrl+shift+z": redo,
  });
  const Shown = SHOWN[view.stage];
  const next = nextWords(view);
  const heading = useTurn(next);
  // What nothing comes last in needs no such step.
  const stages = STAGES.filter(([key]) => key !== "last" || view.stage === "last" || view.mixing.last.length > 0);
  const at = stages.findIndex(([key]) => key === view.stage);
  const steps = useRef<HTMLElement>(null);
  const whole = useRef<HTMLElement>(null);
  const shown = useRef(view.stage);
  // A step begins at its top, wherever the last touch of the one before lay.
  useEffect(() => {
    if (shown.current === view.stage) return;
    shown.current = view.stage;
    if (whole.current && whole.current.getBoundingClientRect().top < 0) whole.current.scrollIntoView();
  }, [view.stage]);
  // On a phone the steps run in one row: the one in turn is brought into sight. The row's scroll is an outside system.
  useEffect(() => {
    const row = steps.current;
    const step = row?.children[at];
    if (row && step instanceof HTMLElement)
      row.scrollLeft = step.offsetLeft - row.offsetLeft - (row.clientWidth - step.offsetWidth) / 2;
  }, [at]);
  return (
    <article ref={whole} aria-label={view.name} aria-busy={waiting.length > 0}>
      <header className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 max-sm:mt-1 max-sm:flex-nowrap max-sm:gap-x-2">
        <Mark mark={view.mark} large />
        <h2 className="min-w-0 truncate text-2xl font-bold">{view.name}</h2>
        <span className="hidden min-w-0 truncate text-lg opacity-85 sm:inline">
          {[view.from_mix, view.whom && `for ${view.whom}`].filter(Boolean).join(", ")}
          {view.first_at ? `, first piece ${hour(view.first_at)}` : ""}
        </span>
        <span className="ml-auto flex shrink-0 flex-wrap gap-2 max-sm:gap-1 max-sm:[&>button]:px-2.5">
          <Button disabled={!view.undo && waiting.length === 0} onClick={undo}>
            Undo
            {view.undo_kind && view.undo_kind in ACTS && (
              <span className="max-sm:sr-only">{`: ${ACTS[view.undo_kind]?.toLowerCase()}`}</span>
            )}
          </Button>
          {/* Where it comes and goes, it stands before Undo, which stays where the finger is. */}
          <Button disabled={!view.redo} onClick={redo} className={view.redo ? "max-sm:order-first" : "max-sm:hidden"}>
            Redo
          </Button>
          {view.cooking.chosen && <Button onClick={() => setOpen("cross")}>The piece</Button>}
          <Button onClick={() => setOpen("bowl")}>The bowl</Button>
        </span>
      </header>
      <Guests />
      <nav
        aria-label="Steps of the work"
        ref={steps}
        className="mt-2 flex gap-px overflow-x-auto max-sm:-mx-3 max-sm:mt-1 sm:grid sm:auto-cols-fr sm:grid-flow-col"
      >
        {stages.map(([key, words], n) => (
          <button
            key={key}
            type="button"
            aria-current={key === view.stage ? "step" : undefined}
            className={`min-h-11 border-b-4 px-3 text-base max-sm:shrink-0 sm:px-0 sm:text-lg ${key === view.stage ? "border-primary font-bold text-primary" : n < at ? "border-secondary" : "border-base-300 opacity-90"}`}
            onClick={() => say({ kind: "went", stage: key })}
          >
            {words}
          </button>
        ))}
      </nav>
      <OnTheWay touches={waiting.length} />
      <Refused batch={view.id} />
      <p ref={heading} tabIndex={-1} aria-live="polite" className="sr-only">
        {next}
      </p>
      <Shown />
      {view.stage !== "ready" && <BesideIt />}
      <Timers view={view} />
      {open === "bowl" && <BowlSheet onClose={() => setOpen(null)} />}
      {open === "cross" && (
        <Suspense>
          <cross.Part onClose={() => setOpen(null)} />
        </Suspense>
      )}
    </article>
  );
}

const LATE_MS = 700;

/** What the server has yet to hear, where it is late with it: beside the steps, so that nothing moves under the next touch. */
function OnTheWay({ touches }: { touches: number }) {
  const late = useSettled(touches > 0, LATE_MS);
  return (
    <div className="pointer-events-none relative" role="status">
      {late && touches > 0 && (
        <p className="absolute top-0 right-0 z-10 rounded-b-field bg-neutral px-3 py-1 text-sm text-neutral-content">
          {counted(touches, {
            one: "1 touch is kept here and on the way to the server.",
            other: "# touches are kept here and on the way to the server.",
          })}
        </p>
      )}
    </div>
  );
}

/** The words of what is in turn: they take the focus after an act, so that a screen reader says them and the tab key goes on from there. What
 * is being typed into, chosen or read keeps it. */
function useTurn(words: string) {
  const heading = useRef<HTMLParagraphElement>(null);
  const was = useRef(words);
  // The focus is an outside system.
  useEffect(() => {
    if (was.current === words) return;
    was.current = words;
    const at = document.activeElement;
    if (at === null || at === document.body || at.matches("[data-act], nav button, p"))
      heading.current?.focus({ preventScroll: true });
  }, [words]);
  return heading;
}

/** The one thing in turn, as it is heard where it is not seen. */
function nextWords(view: BatchView): string {
  const w = view.weighing;
  const line = w.lines.find((l) => l.at === w.current && l.part === w.part);
  const vessel = w.vessels.find((v) => v.key === line?.vessel);
  const words = STAGES.find(([key]) => key === view.stage)?.[1] ?? "";
  if (view.stage === "weigh" && line && vessel) return `${line.name}, into the ${vessel.name}`;
  if (view.stage === "mix")
    return `${words}: ${view.mixing.steps.find((m) => m.done === null)?.title ?? "it is mixed"}`;
  if (view.stage === "last")
    return `${words}: ${view.mixing.last.find((m) => m.done === null)?.title ?? "all of it is in"}`;
  return words;
}

/** What the server would not take: kept, shown with its reason, and sent again or let go by a touch. */
function Refused({ batch }: { batch: string }) {
  const refused = useRefused(batch);
  if (refused.length === 0) return null;
  return (
    <section aria-label="Not taken" role="alert" className="mt-2 border-l-[6px] border-error bg-base-100 px-4 py-2">
      <b className="text-error">Not taken, and kept here. The rest went through.</b>
      <ul>
        {refused.map((act) => (
          <li key={act.event.id} className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
            <span>
              {ACTS[act.event.kind] ?? act.event.kind.replaceAll("_", " ")} at {hour(act.event.at)}: {act.refused}
            </span>
            <Button onClick={() => sendAgain(act)}>Send it again</Button>
            <Button onClick={() => letGo(act)}>Remove it</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** For whom this is, and whether it may be served to them: never more than is confirmed. */
function Guests() {
  const { view } = useInHand();
  if (view.table.guests.length === 0) return null;
  return (
    <ul aria-label="Guests" className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
      {view.table.guests.map((g) => (
        <li
          key={g.key}
          className={`flex flex-wrap items-center gap-2 ${g.verdict === "fits" ? "text-success" : g.verdict === "conflicts" ? "font-bold text-error" : "font-semibold text-warning"}`}
        >
          <VerdictShape verdict={g.verdict} />
          {verdictWords(g.verdict, g.label.toLowerCase())}
          {g.reason && <span className="font-normal text-base-content">{g.reason}</span>}
        </li>
      ))}
    </ul>
  );
}
