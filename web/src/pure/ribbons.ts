import { scaleSqrt } from "d3-scale";

export const ROW = 44; // px, a row and the gap beneath it
const LEAST = 1.6; // px: a thinner ribbon is not drawn
const thick = scaleSqrt().domain([0, 6]).range([1.2, 15]).clamp(true);

/** What went from one ingredient to another: `weight` says how much that is to a batter, one being what a cook begins to notice. */
export type Moved = {
  function: string;
  amount: number;
  unit: string;
  source: string | null;
  target: string | null;
  weight: number;
};
export type Ribbon = Moved & { from: number; to: number; width: number };

/** Ribbons between the rows of two batters, given by the ingredient of each row; none for what has no row, or would be too thin to see. */
export function ribbonsOf(before: (string | null)[], after: (string | null)[], transfers: Moved[]): Ribbon[] {
  return transfers
    .filter((t) => t.source !== null && t.target !== null)
    .map((t) => ({
      ...t,
      from: before.indexOf(t.source),
      to: after.indexOf(t.target),
      width: thick(t.weight),
    }))
    .filter((r) => r.from >= 0 && r.to >= 0 && r.width > LEAST)
    .sort((a, b) => a.from - b.from || a.to - b.to);
}

/** Where each ribbon stands in its row on either side [px], squeezed to fit where a row carries many. */
export function stacked(ribbons: Ribbon[]): { left: number; right: number; width: number }[] {
  const totals = (key: "from" | "to") => {
    const sums = new Map<number, number>();
    for (const r of ribbons) sums.set(r[key], (sums.get(r[key]) ?? 0) + r.width);
    return sums;
  };
  const [lefts, rights] = [totals("from"), totals("to")];
  const squeeze = Math.min(1, ...[...lefts.values(), ...rights.values()].map((sum) => (ROW - 8) / sum));
  const used = { from: new Map<number, number>(), to: new Map<number, number>() };
  const put = (r: Ribbon, key: "from" | "to", sums: Map<number, number>) => {
    const done = used[key].get(r[key]) ?? 0;
    used[key].set(r[key], done + r.width * squeeze);
    return r[key] * ROW + (ROW - 4 - sums.get(r[key])! * squeeze) / 2 + done;
  };
  const left = ribbons.map((r) => put(r, "from", lefts));
  const order = ribbons
    .map((_, at) => at)
    .sort((a, b) => ribbons[a]!.to - ribbons[b]!.to || ribbons[a]!.from - ribbons[b]!.from);
  const right: number[] = [];
  for (const at of order) right[at] = put(ribbons[at]!, "to", rights);
  return ribbons.map((r, at) => ({ left: left[at]!, right: right[at]!, width: r.width * squeeze }));
}

const NAMED = 3;
const FIRST = ["flour", "set", "water", "fat"]; // what a cook asks about first

/** Which ribbons are named at rest: the thickest of each kind of work, at most three, flour and binding before the rest. */
export function thickest(ribbons: Ribbon[]): number[] {
  const best = new Map<string, number>();
  ribbons.forEach((r, at) => {
    const now = best.get(r.function);
    if (now === undefined || r.width > ribbons[now]!.width) best.set(r.function, at);
  });
  const rank = (at: number) => {
    const place = FIRST.indexOf(ribbons[at]!.function);
    return place < 0 ? FIRST.length : place;
  };
  return [...best.values()].sort((a, b) => rank(a) - rank(b) || ribbons[b]!.width - ribbons[a]!.width).slice(0, NAMED);
}
