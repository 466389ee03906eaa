import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { allergen } from "../../pure/format";
import { useInHand } from "./useBatch";

/** What is in the bowl and what that does: the balances as planned and as they will be, the allergens, the warnings. */
export function BowlSheet({ onClose }: { onClose: () => void }) {
  const { figure, grams } = useNumbers();
  const { view } = useInHand();
  return (
    <Sheet title="The bowl" onClose={onClose} wide>
      <p className="text-lg">
        {grams(view.weighing.bowl_g)} g are in; about {Math.round(view.weighing.pieces)} pieces. {view.weighing.why}
      </p>
      <table className="mt-3 w-full max-w-2xl text-lg">
        <thead>
          <tr className="border-b border-base-300 text-left">
            <th className="py-1">Balance</th>
            <th className="text-right text-secondary">planned</th>
            <th className="text-right text-primary">will be</th>
            <th className="pl-3">unit</th>
          </tr>
        </thead>
        <tbody>
          {view.weighing.balances.map((b) => (
            <tr key={b.key} className="border-b border-base-300/60">
              <td className="py-1">{b.label}</td>
              <td className="figure text-right text-secondary">{figure(b.before, b.unit)}</td>
              <td className="figure text-right text-primary">{figure(b.after, b.unit)}</td>
              <td className="pl-3">
                {b.unit} <span className="opacity-80">{b.verdict}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3">
        <b>Contains:</b> {view.table.contains.map(allergen).join(", ") || "none of the listed allergens that is known"}.
        {view.table.may_contain.length > 0 && (
          <>
            {" "}
            <b>May contain:</b> {view.table.may_contain.map(allergen).join(", ")}.
          </>
        )}{" "}
        The pack's own label decides; shared scoops, irons and flour dust carry traces.
      </p>
      {view.table.warnings.map((w) => (
        <p key={w} className="mt-2 border-l-8 border-warning px-3">
          {w}
        </p>
      ))}
    </Sheet>
  );
}
