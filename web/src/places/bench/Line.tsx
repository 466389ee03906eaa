import { Suspense, useState } from "react";
import {
  type Answered,
  type AnswerView,
  api,
  type BatterLine,
  type BatterView,
  got,
  type Judged,
  type LineView,
} from "../../api/client";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { PackSays } from "../../kit/PackSays";
import { part } from "../../kit/part";
import { type Measures, sizes } from "../../kit/SourceMeasures";
import { Sources } from "../../kit/Sources";
import { Verdict } from "../../kit/Verdict";
import type { Act, BenchState } from "../../pure/bench";

const pick = part(() => import("../../kit/PickIngredient"));

type Told = Answered<"Told">;
type Props = {
  view: LineView;
  at: number;
  side: "have" | "make";
  own: { view: LineView; at: number } | undefined;
  state: BenchState;
  before: BatterView;
  batter: BatterView;
  answer: AnswerView | undefined;
  labels: Map<string, string>;
  act: (act: Act) => void;
  onSwap: () => void;
  onPack: () => void;
};

/** What a touched line does, why it changed, and what can be done with it. */
export function LinePanel({ view, at, side, own, state, before, batter, answer, labels, act, onSwap, onPack }: Props) {
  const { grams } = useNumbers();
  const id = view.line.ingredient;
  const changes = id ? (answer?.changes ?? []).filter((c) => c.source_id === id || c.target_id === id) : [];
  const { wish } = state;
  const now = view.line.grams;
  const fits = view.verdict === "fits";
  return (
    <div aria-live="polite" className="w-full">
      <p className="mb-1">
        <b>{view.full_name}</b>
        {view.ranged && (
          <span>
            {" "}
            · “{view.line.text}”: {grams(view.line.low)} to {grams(view.line.high)} g, measuring included
          </span>
        )}
        {view.line.note && <span className="opacity-80"> · {view.line.note}</span>}
        {view.line.problem && <span className="text-error"> · {view.line.problem}</span>}
      </p>
      {own?.view.query && <p className="font-semibold text-warning">{own.view.query}</p>}
      {own && (own.view.line.problem || own.view.could_be.length > 0 || own.view.query) && (
        <Mend view={own.view} at={own.at} measures={state.base} act={act} />
      )}
      {own && <Asks view={own.view} at={own.at} measures={state.base} act={act} onPack={onPack} />}
      {changes.map((c) => (
        <p key={`${c.source_id}-${c.target_id}`}>
          {c.source && c.target && c.source !== c.target ? (
            <b>
              {c.source} → {c.target}.{" "}
            </b>
          ) : null}
          {c.reason}
          {c.figures && <span className="block text-sm opacity-80">{c.figures}</span>}
        </p>
      ))}
      {answer && id && changes.length === 0 && <p>Stays as it is.</p>}
      <Reasons batter={side === "have" ? before : batter} at={at} labels={labels} />
      {id && !view.line.problem && (
        <p className="mt-2 flex flex-wrap gap-1.5">
          {answer && side === "make" && (
            <Button kind="small" onClick={onSwap}>
              Swap by hand…
            </Button>
          )}
          {answer && (
            <Button kind="small" onClick={() => act({ type: "toggleBan", id })}>
              I have none
            </Button>
          )}
          {answer && (
            <Button
              kind="small"
              pressed={id in wish.locked}
              onClick={() => act({ type: "lock", id, grams: id in wish.locked ? null : Math.round(now * 100) / 100 })}
            >
              {id in wish.locked ? "Kept at its amount" : `Keep at ${grams(now)} g`}
            </Button>
          )}
          {answer && fits && (
            <Button kind="small" pressed={wish.pins.includes(id)} onClick={() => act({ type: "togglePin", id })}>
              {wish.pins.includes(id) ? "Kept" : "Keep this ingredient"}
            </Button>
          )}
          {view.pack_says.length > 0 && <PackSays key={id} ingredient={id} says={view.pack_says} />}
          {!fits && view.verdict === "cannot_vouch" && (
            <Button kind="small" onClick={onPack}>
              Read the whole pack…
            </Button>
          )}
        </p>
      )}
      {view.source && (
        <Sources>
          {view.confidence} confidence, {view.source}
        </Sources>
      )}
    </div>
  );
}

/** What a line leaves open, each question answered by one touch; and the foods it counts beside its own. */
function Asks({
  view,
  at,
  measures,
  act,
  onPack,
}: {
  view: LineView;
  at: number;
  measures: Measures;
  act: Props["act"];
  onPack: () => void;
}) {
  const [naming, setNaming] = useState<string | null>(null);
  const answer = useWrite(
    (told: Told) => got(api.POST("/api/answer", { body: { line: view.line, told, ...sizes(measures) } })),
    { done: (line) => act({ type: "replaceLine", line: at, lines: [line] }), changes: "words" },
  );
  if (view.asks.length === 0 && view.beside.length === 0) return null;
  return (
    <div className="my-1 grid gap-1.5">
      {view.asks.map((q) => (
        <p key={`${q.kind} ${q.about}`} className="flex flex-wrap items-center gap-1.5">
          <b className="text-warning">{q.text}</b>
          {q.choices.map((c) => (
            <Button
              kind="small"
              key={c.key}
              onClick={() => {
                if (q.pack && c.key === "yes") onPack();
                else answer.mutate({ kind: q.kind, about: q.about, choice: c.key });
              }}
            >
              {c.label}
            </Button>
          ))}
          {q.search &&
            (naming === q.about ? (
              <span className="w-56">
                <Suspense>
                  <pick.Part
                    label="Which ingredient"
                    autoFocus
                    onPick={(ingredient) => {
                      setNaming(null);
                      answer.mutate({ kind: q.kind, about: q.about, choice: "", ingredient });
                    }}
                  />
                </Suspense>
              </span>
            ) : (
              <Button kind="small" onClick={() => setNaming(q.about)}>
                {q.kind === "word" ? "An ingredient…" : "Something else…"}
              </Button>
            ))}
        </p>
      ))}
      {view.beside.length > 0 && (
        <p className="flex flex-wrap items-center gap-1.5">
          Counts too:
          {view.beside.map((b) => (
            <Button
              kind="small"
              key={b.key}
              onClick={() => answer.mutate({ kind: "beside", about: b.key, choice: "" })}
            >
              {b.label}: leave it out
            </Button>
          ))}
        </p>
      )}
      {answer.isError && (
        <p role="alert" className="text-error">
          {answer.error.message}
        </p>
      )}
    </div>
  );
}

/** A line that was not read, or that asks: mended where it stands. */
function Mend({ view, at, measures, act }: { view: LineView; at: number; measures: Measures; act: Props["act"] }) {
  const [text, setText] = useState<string | null>(null);
  const read = useWrite(
    (given: { text: string; as_ingredient?: string }) =>
      got(api.POST("/api/read", { body: { ...given, ...sizes(measures) } })),
    { done: (lines: BatterLine[]) => lines.length > 0 && act({ type: "replaceLine", line: at, lines }) },
  );
  return (
    <div className="my-1">
      {view.could_be.length > 0 && (
        <p className="mb-1 flex flex-wrap items-center gap-1.5">
          {view.line.problem ? "Is it" : "Which one?"}
          {view.could_be.map((c) => (
            <Button
              kind="small"
              key={c.id}
              pressed={!view.line.problem && view.line.ingredient === c.id}
              onClick={() => read.mutate({ text: view.line.text, as_ingredient: c.id })}
            >
              {c.name}
            </Button>
          ))}
        </p>
      )}
      <form
        className="flex flex-wrap gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          read.mutate({ text: text ?? view.line.text });
        }}
      >
        <input
          aria-label="The line, to be mended"
          data-mend
          className="input min-w-60 flex-1"
          maxLength={2000}
          value={text ?? view.line.text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit">{read.isPending ? "Reading…" : "Read it again"}</Button>
      </form>
      {read.isError && (
        <p role="alert" className="text-error">
          {read.error.message}
        </p>
      )}
    </div>
  );
}

function Reasons({ batter, at, labels }: { batter: BatterView; at: number; labels: Map<string, string> }) {
  const all: [string, Judged][] = Object.entries({ ...batter.plate.diets });
  const found = all.flatMap(([diet, judged]) =>
    batter.guests.diets[diet] ? judged.reasons.filter((r) => r.line === at).map((r) => ({ diet, ...r })) : [],
  );
  return (
    <ul>
      {found.map((r) => (
        <li key={`${r.diet}-${r.text}`} className="flex flex-wrap items-center gap-x-2">
          <Verdict verdict={r.verdict} of={labels.get(r.diet)?.toLowerCase()} /> {r.text}
        </li>
      ))}
    </ul>
  );
}
