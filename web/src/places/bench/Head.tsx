import type { ReactNode } from "react";
import type { BatterView } from "../../api/client";
import { useNumbers } from "../../kit/numbers";

/** The head of one side: what it is, how much, and its hydration. */
export function Head({
  title,
  batter,
  side,
  children,
}: {
  title: string;
  batter: BatterView;
  side: "iron" | "berry";
  children?: ReactNode;
}) {
  const { whole } = useNumbers();
  const colour = side === "iron" ? "border-secondary text-secondary" : "border-primary text-primary";
  return (
    <h2 className={`flex min-h-9 flex-wrap items-baseline gap-x-3 border-b-2 pb-1 text-lg font-bold ${colour}`}>
      {title}
      <span className="flex flex-wrap gap-x-3 font-sans text-base font-normal">{children}</span>
      <span className="ml-auto font-sans text-base font-normal whitespace-nowrap">
        {batter.batter_g > 0 && <span className="figure">{whole(batter.batter_g)} g</span>}
        {batter.hydration_pct !== null && (
          <span title={`${whole(batter.water_g)} g water in all`}>, hydration {whole(batter.hydration_pct)} %</span>
        )}
      </span>
    </h2>
  );
}
