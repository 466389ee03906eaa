import type { AnswerView, BatterView } from "../../api/client";
import { grams } from "../../parts/format";
import { Verdict } from "../../parts/Verdict";

type Props = {
  lit: string | null;
  before: BatterView;
  answer: AnswerView | undefined;
  diets: string[];
  labels: Map<string, string>;
};

/** The reason of the change at the line that was touched; where none is, the way in, and what the answer loses. */
export function Why({ lit, before, answer, diets, labels }: Props) {
  if (lit === null) {
    const plan = (answer?.batter ?? before).hold_back;
    return (
      <>
        {plan && (
          <p className="text-lg">
            <b>
              Pour <span className="figure">{grams(plan.pour_g)} g</span> of the {plan.name}, hold back{" "}
              <span className="figure">{grams(plan.hold_g)} g</span>.
            </b>{" "}
            <span className="text-base opacity-85">
              Weighed, 19 bowls in 20 need more than that, and {grams(plan.enough_g)} g is enough; with cups hold back{" "}
              {grams((answer?.batter ?? before).hold_back_cups?.hold_g ?? plan.hold_g)} g.
            </span>
          </p>
        )}
        {answer && answer.worse.length > 0 && (
          <p>
            <b>What it loses:</b> {answer.worse.join("; ")}.
          </p>
        )}
        {!plan && <p className="opacity-80">Touch a line to see what it does and why it changed.</p>}
      </>
    );
  }
  const view = [...(answer?.batter.lines ?? []), ...before.lines].find(
    (l, at) => (l.line.ingredient ?? `line-${at}`) === lit,
  );
  const changes = (answer?.changes ?? []).filter((c) => c.source_id === lit || c.target_id === lit);
  return (
    <div aria-live="polite">
      <p className="mb-1">
        <b>{view?.full_name ?? "This line"}</b>
        {view?.line.note && <span className="opacity-80"> · {view.line.note}</span>}
        {view?.source && (
          <span className="opacity-80">
            {" "}
            · {view.confidence} confidence, source {view.source}
          </span>
        )}
        {view?.line.problem && <span className="text-error"> · {view.line.problem}</span>}
      </p>
      {changes.map((c) => (
        <p key={`${c.source_id}-${c.target_id}`}>
          {c.source && c.target && c.source !== c.target ? (
            <b>
              {c.source} → {c.target}.{" "}
            </b>
          ) : null}
          {c.reason}
        </p>
      ))}
      {answer && changes.length === 0 && <p>Stays as it is.</p>}
      {changes.length === 0 && <Reasons batter={before} lit={lit} diets={diets} labels={labels} />}
    </div>
  );
}

function Reasons({
  batter,
  lit,
  diets,
  labels,
}: {
  batter: BatterView;
  lit: string;
  diets: string[];
  labels: Map<string, string>;
}) {
  const found = diets.flatMap((diet) =>
    (batter.diets[diet]?.reasons ?? [])
      .filter((r) => r.line !== null && (batter.lines[r.line]?.line.ingredient ?? `line-${r.line}`) === lit)
      .map((r) => ({ diet, ...r })),
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
