import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type AnswerView, api, type BatterView, got } from "../../api/client";
import { grams, places } from "../../parts/format";
import { useSettled } from "./useBench";

/** How much to pour and hold back, and what the answer loses: said where no line is touched. */
export function Pour({ batter, answer }: { batter: BatterView; answer: AnswerView | undefined }) {
  const plan = batter.hold_back;
  return (
    <>
      {plan && (
        <p className="text-lg">
          <b>
            Pour <span className="figure">{grams(plan.pour_g)} g</span> of the {plan.name}, hold back{" "}
            <span className="figure">{grams(plan.hold_g)} g</span>.
          </b>{" "}
          <span className="text-base opacity-85">
            Weighed, 19 bowls in 20 need more, and {grams(plan.enough_g)} g is enough; by cups hold back{" "}
            {grams(batter.hold_back_cups?.hold_g ?? plan.hold_g)} g.
          </span>
        </p>
      )}
      <Largest batter={batter} />
      {answer && answer.worse.length > 0 && (
        <p>
          <b>What it loses:</b> {answer.worse.join("; ")}.
        </p>
      )}
      {!plan && <p className="opacity-80">Touch a line to see what it does and why it changed.</p>}
    </>
  );
}

/** The largest piece of this batter, its heat and its time. */
function Largest({ batter }: { batter: BatterView }) {
  const settled = useSettled(batter.batter, 400);
  const piece = useQuery({
    queryKey: ["piece", settled],
    queryFn: ({ signal }) => got(api.POST("/api/piece", { body: { batter: settled, diets: [] }, signal })),
    placeholderData: keepPreviousData,
    enabled: batter.yields.whole > 0,
  });
  return piece.data ? <p>{piece.data.words}</p> : null;
}

/** What a piece is: how big, what it holds, what it costs. */
export function PieceWords({ batter }: { batter: BatterView }) {
  const { yields: y, per_piece: n, cost } = batter;
  if (y.whole < 1 || n.kcal === undefined) return null;
  return (
    <>
      {y.whole} pieces of {y.portion_ml.toFixed(0)} mL
      {y.diameter_cm !== null && `, about ${y.diameter_cm.toFixed(0)} cm across`}; a piece has {n.kcal.toFixed(0)} kcal,{" "}
      {places(n.net_carb_g ?? 0, 1)} g net carbohydrate, {places(n.protein_g ?? 0, 1)} g protein
      {cost &&
        `, and costs ${places(cost.per_piece, 2)}${cost.unpriced.length > 0 ? ` and ${cost.unpriced.length} without a price` : ""}`}
      .
    </>
  );
}
