import { type CSSProperties, Fragment, type ReactNode } from "react";
import type { BatterView, LineView } from "../../api/client";
import { GramField } from "../../kit/GramField";
import { VerdictShape, verdictWords } from "../../kit/Verdict";

export type Placed = { view: LineView; at: number };

/** A line's key on the bench: its ingredient, or its place where it was not read. */
export function keyOf(view: LineView, at: number): string {
  return view.line.ingredient ?? `line-${at}`;
}

/** The lines that stand in the bowl, or on the plate, with their places in the batter. */
export function placed(batter: BatterView, where: "batter" | "plate"): Placed[] {
  return batter.lines.map((view, at) => ({ view, at })).filter(({ view }) => view.line.where === where);
}

/** Whether a line of the bowl counts nowhere, since it was not understood. */
export function isUnread(view: LineView): boolean {
  return !view.line.ingredient || view.line.problem !== "";
}

type RowsProps = {
  rows: Placed[];
  side: "iron" | "berry";
  lit: string | null;
  typed?: (at: number) => number | undefined;
  tags?: Map<string, string>;
  marks?: (id: string) => string;
  /** The names of what is not in, and so to be bought. */
  buy?: ReadonlySet<string>;
  /** What a touched line says of itself, opened under it where there is no room beside. */
  detail?: () => ReactNode;
  onLight: (key: string | null) => void;
  onGrams: (line: LineView, at: number, grams: number) => void;
  onRemove?: (at: number, key: string) => void;
  /** How many rows are kept free for, so that nothing under them jumps with the next answer. */
  room?: number;
  /** What can be done with a line that was not read, under it; `first`: it is the first such. */
  unreadActs?: (view: LineView, at: number, first: boolean) => ReactNode;
};

/** The lines of a batter as a column of rows: grams to type over, the kitchen's measure, and the verdict. */
export function Rows({
  rows,
  side,
  lit,
  typed,
  tags,
  marks,
  buy,
  detail,
  onLight,
  onGrams,
  onRemove,
  room = 0,
  unreadActs,
}: RowsProps) {
  const firstUnread = rows.find(({ view }) => isUnread(view))?.at;
  return (
    <ul
      className="flex flex-col gap-1 lg:min-h-(--room)"
      style={{ "--room": `${Math.max(0, 2.75 * room - 0.25)}rem` } as CSSProperties}
    >
      {rows.map(({ view, at }) => {
        const key = keyOf(view, at);
        const unread = isUnread(view);
        const asks = view.query !== "" || view.asks.length > 0 || (view.could_be.length > 0 && !unread);
        const acts = unread && lit !== key && unreadActs?.(view, at, at === firstUnread);
        const mark = view.line.ingredient ? marks?.(view.line.ingredient) : "";
        const field = !unread && (
          <GramField
            value={typed?.(at) ?? view.line.grams}
            label={view.full_name}
            side={side}
            onChange={(g) => onGrams(view, at, g)}
          />
        );
        return (
          <Fragment key={at}>
            <li
              className={`flex min-h-12 items-center gap-2 bg-base-100 lg:min-h-0 ${acts ? "flex-wrap" : "lg:h-10"} ${side === "iron" ? "border-r-[6px] border-secondary pl-3" : "border-l-[6px] border-primary pr-3"} ${side === "berry" && unread ? "pl-3" : ""} ${
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
                  <span className="line-clamp-2 leading-tight hover:underline">{view.called}</span>
                  {tags?.get(key) && <span className="shrink-0 text-sm opacity-85">{tags.get(key)}</span>}
                  {mark && <span className="shrink-0 text-sm font-semibold">{mark}</span>}
                  {asks && <span className="shrink-0 text-sm font-semibold text-warning">asks</span>}
                  {view.verdict !== "fits" && (
                    <span
                      className={`flex shrink-0 items-center gap-1 text-sm ${view.verdict === "conflicts" ? "text-error" : "text-warning"}`}
                    >
                      <VerdictShape verdict={view.verdict} />
                      <span>
                        {view.why || verdictWords(view.verdict)}
                        {view.why && <span className="sr-only">: {verdictWords(view.verdict)}</span>}
                      </span>
                    </span>
                  )}
                </span>
                <span className="kitchen flex shrink-0 items-center gap-2 text-sm whitespace-nowrap lg:ml-auto">
                  {buy?.has(view.name) && <span className="rounded border border-base-content/60 px-1.5">buy</span>}
                  {unread ? view.line.problem && "not read" : view.ranged ? view.line.text : view.measure}
                </span>
              </button>
              {side === "iron" && field}
              {onRemove && (
                <button
                  type="button"
                  className="grid size-8 shrink-0 place-items-center text-lg opacity-70 hover:opacity-100 pointer-coarse:size-11"
                  aria-label={`Remove ${view.name}`}
                  onClick={() => onRemove(at, view.line.ingredient ?? view.line.text)}
                >
                  <svg viewBox="0 0 12 12" className="size-3" aria-hidden="true">
                    <path d="M1 6h10" stroke="currentColor" strokeWidth="2" />
                  </svg>
                </button>
              )}
              {acts && <span className="w-full pb-2">{acts}</span>}
            </li>
            {detail && lit === key && <li className="bg-base-100 px-3 pb-3 lg:hidden">{detail()}</li>}
          </Fragment>
        );
      })}
    </ul>
  );
}
