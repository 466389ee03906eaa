import type { ReactNode } from "react";
import type { BatterView } from "../../api/client";
import { useNumbers } from "../../kit/numbers";
import { VerdictShape, verdictWords } from "../../kit/Verdict";
import { allergen } from "../../pure/format";

type Props = {
  title: string;
  batter: BatterView;
  dietWords: string;
  /** It was judged for the diets that are asked for now. */
  current: boolean;
  children: ReactNode;
};
const COLOUR = { fits: "text-success", conflicts: "text-error", cannot_vouch: "text-warning" };

/** The head of the answer: for whom it is, as far as that is confirmed. */
export function AnswerHead({ title, batter, dietWords, current, children }: Props) {
  const { whole } = useNumbers();
  const verdict = batter.guests.plate_verdict;
  const fits = current && verdict === "fits";
  return (
    <h2 className="flex min-h-9 flex-wrap items-baseline gap-x-2 border-b-2 border-primary pb-1 text-lg font-bold text-primary">
      {dietWords && (
        <span className={`self-center ${current ? COLOUR[verdict] : "text-base-content"}`}>
          {current && <VerdictShape verdict={verdict} />}
        </span>
      )}
      <span>
        {title}
        {dietWords && (fits ? `: ${dietWords}` : "")}
      </span>
      {dietWords && fits && <span className="sr-only">: fits</span>}
      {dietWords && !fits && (
        <span className={`font-sans text-base ${current ? COLOUR[verdict] : "text-base-content"}`}>
          {current ? verdictWords(verdict, dietWords) : "not judged yet"}
        </span>
      )}
      <span className="flex flex-wrap gap-x-3 font-sans text-base font-normal">{children}</span>
      <span className="ml-auto font-sans text-base font-normal whitespace-nowrap">
        <span className="figure">{whole(batter.batter_g)} g</span>
        {batter.hydration_pct !== null && (
          <span title={`${whole(batter.water_g)} g water in all`}>, {whole(batter.hydration_pct)} %</span>
        )}
      </span>
    </h2>
  );
}

/** What the answer holds, and what is new in it: directly under its head. `plate`: the verdict is the plate's. */
export function Contents({ batter, adds, plate }: { batter: BatterView; adds: readonly string[]; plate: boolean }) {
  const { contains, may_contain } = batter.plate;
  return (
    <p aria-live="polite" className="mt-1 mb-1 flex flex-wrap gap-x-3 leading-snug">
      <span>
        <b>Allergens:</b> {contains.map(allergen).join(", ") || "none of those listed"}
        {may_contain.length > 0 && `; traces of ${may_contain.map(allergen).join(", ")}`}.
      </span>
      {adds.length > 0 && <b className="text-warning">Adds {adds.map(allergen).join(", ")}.</b>}
      {plate && <b className={COLOUR[batter.guests.plate_verdict]}>Because of the plate.</b>}
    </p>
  );
}
