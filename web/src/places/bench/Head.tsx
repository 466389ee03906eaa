import type { ReactNode } from "react";
import type { BatterView } from "../../api/client";

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
  const colour = side === "iron" ? "border-secondary text-secondary" : "border-primary text-primary";
  return (
    <h2 className={`mb-2 flex min-h-9 flex-wrap items-baseline gap-x-3 border-b-2 pb-1 text-lg font-bold ${colour}`}>
      {title}
      <span className="flex flex-wrap gap-x-3 font-sans text-base font-normal">{children}</span>
      <span className="ml-auto font-sans text-base font-normal whitespace-nowrap">
        {batter.batter_g > 0 && <span className="figure">{batter.batter_g.toFixed(0)} g</span>}
        {batter.hydration_pct !== null && (
          <span title={`${batter.water_g.toFixed(0)} g water in all`}>
            , hydration {batter.hydration_pct.toFixed(0)} %
          </span>
        )}
      </span>
    </h2>
  );
}
