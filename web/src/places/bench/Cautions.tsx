import type { AnswerView, BatterView, Verdict } from "../../api/client";
import { allergen } from "../../pure/format";

type CautionProps = {
  batter: BatterView;
  answer: AnswerView | undefined;
  trial: Verdict | null;
  diets: string[];
  labels: Map<string, string>;
};

/** Technique, cautions and allergens of what stands on the bench, and why it does not fit where it does not. */
export function Cautions({ batter, answer, trial, diets, labels }: CautionProps) {
  const words = answer ? [...answer.technique, ...answer.cautions] : batter.warnings.map((w) => w.text);
  const reasons = trial
    ? diets.flatMap((d) => (batter.guests.diets[d]?.reasons ?? []).map((r) => `${labels.get(d)}: ${r.text}`))
    : [];
  return (
    <section aria-label="Cautions" className="mt-4 text-[0.95rem]">
      {reasons.length > 0 && <p className="mb-1 font-semibold text-error">{reasons.join(" · ")}</p>}
      <ul className="grid gap-x-8 gap-y-0.5 wrap-anywhere lg:grid-cols-2">
        {words.map((w) => (
          <li key={w} className="flex gap-2">
            <span aria-hidden="true" className="mt-2 size-1.5 shrink-0 rotate-45 bg-base-content" />
            {w}
          </li>
        ))}
      </ul>
      <p className="mt-1">
        <b>Contains:</b> {batter.guests.contains.map(allergen).join(", ") || "none of the listed allergens"}.
        {batter.guests.may_contain.length > 0 && (
          <>
            {" "}
            <b>May contain:</b> {batter.guests.may_contain.map(allergen).join(", ")}.
          </>
        )}
      </p>
    </section>
  );
}
