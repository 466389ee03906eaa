import type { Answered } from "../../api/client";
import { useNumbers } from "../../kit/numbers";
import { Verdict } from "../../kit/Verdict";
import { allergen } from "../../pure/format";

type Side = Answered<"SideView">;

/** A dish beside the batter: its name, whom it fits, what it yields, how long it takes, and how it is made. */
export function SideHead({ side, judged }: { side: Side; judged: boolean }) {
  const { whole } = useNumbers();
  const minutes = Math.round(side.hands_min + side.wait_min);
  return (
    <div className="mb-1 border-b border-base-300 pb-1">
      <h3 className="flex flex-wrap items-baseline gap-x-3 font-bold">
        {side.name}
        <span className="font-sans text-base font-normal">
          makes about <span className="figure">{whole(side.yield_g)}</span> g
          {minutes > 0 && (
            <>
              {" "}
              in <span className="figure">{minutes}</span> min
            </>
          )}
          {side.days !== null && side.steps.length > 0 && `, keeps ${whole(side.days)} days cold`}
        </span>
        {judged && (
          <span className="ml-auto font-sans text-base font-normal">
            <Verdict verdict={side.verdict} of="by itself" />
          </span>
        )}
      </h3>
      {judged && side.verdict !== "fits" && <p className="text-sm">{side.reason}</p>}
      <details className="text-sm">
        <summary className="min-h-6 cursor-pointer underline underline-offset-4 pointer-coarse:min-h-11">
          How it is made
        </summary>
        {side.steps.map((step) => (
          <p key={step}>{step}</p>
        ))}
        {side.steps.length === 0 && <p>Laid on as it is.</p>}
        <p>
          Contains {side.contains.map(allergen).join(", ") || "none of the listed allergens"}
          {side.may_contain.length > 0 && `; may contain ${side.may_contain.map(allergen).join(", ")}`}.
        </p>
      </details>
    </div>
  );
}
