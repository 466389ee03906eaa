import { useQuery } from "@tanstack/react-query";
import type { AnswerView, BatterView } from "../../api/client";
import { pieceQuery } from "../../api/queries";
import { useNumbers } from "../../kit/numbers";
import { useSettled } from "../../kit/settled";
import { counted } from "../../pure/counted";

/** How much to pour and hold back, and what the answer loses: said where no line is touched. */
export function Pour({ batter, answer }: { batter: BatterView; answer: AnswerView | undefined }) {
  const { grams } = useNumbers();
  const plan = batter.pieces.hold_back;
  return (
    <>
      {plan && (
        <p className="text-lg">
          <b>
            Start with <span className="figure">{grams(plan.pour_g)} g</span> of the {plan.name}; hold back{" "}
            <span className="figure">{grams(plan.hold_g)} g</span>.
          </b>{" "}
          <span className="text-base opacity-85">
            Most bowls need more, rarely above {grams(plan.enough_g)} g in all. By cups, hold back{" "}
            {grams(batter.pieces.hold_back_cups?.hold_g ?? plan.hold_g)} g.
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
  const piece = useQuery({ ...pieceQuery(settled), enabled: batter.pieces.yields.whole > 0 });
  return piece.data ? <p>{piece.data.words}</p> : null;
}

export const UNPRICED = { one: "1 ingredient has no price", other: "# ingredients have no price" };

/** What a piece is: how big, what it holds, what it costs. */
export function PieceWords({ batter }: { batter: BatterView }) {
  const { places, whole } = useNumbers();
  const { yields: y, per_piece: n, cost } = batter.pieces;
  if (y.whole < 1 || n.kcal === undefined) return null;
  return (
    <>
      {y.whole} pieces of {whole(y.portion_ml)} mL
      {y.diameter_cm !== null && `, about ${whole(y.diameter_cm)} cm across`}; a piece has {whole(n.kcal)} kcal,{" "}
      {places(n.net_carb_g ?? 0, 1)} g net carbohydrate, {places(n.protein_g ?? 0, 1)} g protein
      {cost &&
        `, and costs ${cost.unpriced.length > 0 ? "at least " : ""}${places(cost.per_piece, 2)}${cost.unpriced.length > 0 ? `; ${counted(cost.unpriced.length, UNPRICED)}` : ""}`}
      .
    </>
  );
}
