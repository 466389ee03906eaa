import type { BatterView, LineView } from "../../api/client";
import { GramField } from "../../parts/GramField";
import { type VerdictKey, VerdictShape } from "../../parts/Verdict";

const RANK: VerdictKey[] = ["fits", "cannot_vouch", "conflicts"];
const SHORT: Record<VerdictKey, string> = { fits: "", conflicts: "conflicts", cannot_vouch: "cannot vouch" };

/** The worst verdict on a line among the diets asked for, as the server judged it. */
export function lineVerdict(batter: BatterView, at: number, diets: string[]): VerdictKey {
  let worst: VerdictKey = "fits";
  for (const diet of diets)
    for (const reason of batter.diets[diet]?.reasons ?? [])
      if (reason.line === at && RANK.indexOf(reason.verdict) > RANK.indexOf(worst)) worst = reason.verdict;
  return worst;
}

type RowsProps = {
  batter: BatterView;
  diets: string[];
  side: "iron" | "berry";
  lit: string | null;
  typed?: (at: number) => number | undefined;
  tags?: Map<string, string>;
  onLight: (key: string | null) => void;
  onGrams: (line: LineView, at: number, grams: number) => void;
  onRemove?: (at: number, key: string) => void;
};

/** The lines of a batter as a column of rows: grams to type over, the kitchen's measure, and the verdict. */
export function Rows({ batter, diets, side, lit, typed, tags, onLight, onGrams, onRemove }: RowsProps) {
  return (
    <ul className="flex flex-col gap-1">
      {batter.lines.map((view, at) => {
        const key = view.line.ingredient ?? `line-${at}`;
        const verdict = lineVerdict(batter, at, diets);
        const unread = !view.line.ingredient || view.line.problem !== "";
        const field = !unread && (
          <GramField
            value={typed?.(at) ?? view.line.grams}
            label={view.full_name}
            side={side}
            onChange={(g) => onGrams(view, at, g)}
          />
        );
        return (
          <li
            key={at}
            className={`flex min-h-12 items-center gap-2 bg-base-100 lg:h-10 lg:min-h-0 ${side === "iron" ? "border-r-[6px] border-secondary pl-3" : "border-l-[6px] border-primary pr-3"} ${
              lit === key ? "ring-2 ring-base-content/50" : ""
            } ${unread ? "border-dashed" : ""}`}
          >
            {side === "berry" && field}
            <button
              type="button"
              aria-pressed={lit === key}
              title={view.full_name}
              onClick={() => onLight(lit === key ? null : key)}
              className="flex min-h-11 min-w-0 flex-1 flex-col justify-center gap-x-2 text-left lg:h-full lg:min-h-0 lg:flex-row lg:items-center lg:justify-start"
            >
              <span className="flex min-w-0 items-center gap-2">
                <span className="truncate hover:underline">{view.name}</span>
                {tags?.get(key) && <span className="shrink-0 text-sm text-primary">{tags.get(key)}</span>}
                {verdict !== "fits" && (
                  <span
                    className={`flex shrink-0 items-center gap-1 text-sm ${verdict === "conflicts" ? "text-error" : "text-warning"}`}
                  >
                    <VerdictShape verdict={verdict} />
                    <span className="max-xl:sr-only">{SHORT[verdict]}</span>
                  </span>
                )}
              </span>
              <span className="kitchen shrink-0 text-sm whitespace-nowrap opacity-85 lg:ml-auto">
                {unread ? view.line.problem && "not read" : view.measure}
              </span>
            </button>
            {side === "iron" && field}
            {onRemove && (
              <button
                type="button"
                className="grid size-8 shrink-0 place-items-center text-lg opacity-70 hover:opacity-100"
                aria-label={`Strike ${view.name}`}
                onClick={() => onRemove(at, view.line.ingredient ?? view.line.text)}
              >
                <svg viewBox="0 0 12 12" className="size-3" aria-hidden="true">
                  <path d="M1 6h10" stroke="currentColor" strokeWidth="2" />
                </svg>
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
}
