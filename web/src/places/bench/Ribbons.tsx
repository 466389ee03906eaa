import { scaleSqrt } from "d3-scale";
import type { Transfer } from "../../api/client";
import type { Placed } from "./Rows";

export const ROW = 44; // px, a row and the gap beneath it
const WIDTH = 200;
const WEIGHT: Record<string, number> = {
  flour: 20,
  water: 40,
  set: 0.4,
  fat: 5,
  lift: 10,
  acid: 8,
  sweet: 8,
  salt: 0.6,
};
const WORDS: Record<string, string> = {
  flour: "flour",
  water: "water",
  set: "set",
  fat: "fat",
  lift: "lift",
  acid: "acid",
  sweet: "sweet",
  salt: "salt",
};
const thick = scaleSqrt().domain([0, 10]).range([1.2, 15]).clamp(true);

type Props = {
  before: Placed[];
  after: Placed[];
  transfers: Transfer[];
  lit: string | null;
  only: string | null;
  onLight: (key: string | null) => void;
  onOnly: (work: string | null) => void;
};
type Ribbon = Transfer & { from: number; to: number; width: number };

/** Where the work of each ingredient went: a ribbon for each function, from the one that had it to the one that has it now. */
export function Ribbons({ before, after, transfers, lit, only, onLight, onOnly }: Props) {
  const works = [...new Set(transfers.filter((t) => t.source && t.target).map((t) => t.function))];
  const shown = only && works.includes(only) ? only : null;
  const ribbons = place(before, after, shown ? transfers.filter((t) => t.function === shown) : transfers);
  const height = Math.max(before.length, after.length, 1) * ROW;
  const said = (r: Ribbon) =>
    `${WORDS[r.function]}, ${r.amount.toFixed(r.amount < 10 ? 1 : 0)} ${r.unit}: ${before[r.from]?.view.name} to ${after[r.to]?.view.name}`;
  const heights = stack(ribbons);
  return (
    <>
      <label className="flex h-[2.75rem] items-start justify-center">
        <span className="sr-only">Show the work of</span>
        <select
          className="h-9 rounded-field bg-transparent text-sm"
          value={shown ?? ""}
          onChange={(event) => onOnly(event.target.value || null)}
        >
          <option value="" className="bg-base-100 text-base-content">
            all the work
          </option>
          {works.map((work) => (
            <option key={work} value={work} className="bg-base-100 text-base-content">
              {WORDS[work] ?? work}
            </option>
          ))}
        </select>
      </label>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        width="100%"
        height={height}
        preserveAspectRatio="none"
        role="img"
        aria-label={`Where the work went. ${ribbons.map(said).join("; ")}`}
      >
        <defs>
          <linearGradient id="ribbon">
            <stop offset="0" stopColor="var(--iron)" />
            <stop offset="1" stopColor="var(--berry)" />
          </linearGradient>
        </defs>
        {ribbons.map((r, at) => {
          const { left, right } = heights[at]!;
          const on = lit === null ? 0.34 : lit === r.source || lit === r.target ? 0.78 : 0.08;
          const w = r.width;
          const path = `M0 ${left}C${WIDTH * 0.45} ${left} ${WIDTH * 0.55} ${right} ${WIDTH} ${right}v${w}C${WIDTH * 0.55} ${right + w} ${WIDTH * 0.45} ${left + w} 0 ${left + w}z`;
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: a second way to light a line; the rows are the first, by any means
            <path
              key={`${r.function}-${r.source}-${r.target}`}
              d={path}
              fill="url(#ribbon)"
              opacity={on}
              className="cursor-pointer hover:opacity-80"
              onClick={() => onLight(lit === r.source ? null : r.source)}
            >
              <title>{said(r)}</title>
            </path>
          );
        })}
      </svg>
    </>
  );
}

function place(before: Placed[], after: Placed[], transfers: Transfer[]): Ribbon[] {
  const find = (rows: Placed[], id: string | null) => rows.findIndex(({ view }) => view.line.ingredient === id);
  return transfers
    .filter((t) => t.source !== null && t.target !== null)
    .map((t) => ({
      ...t,
      from: find(before, t.source),
      to: find(after, t.target),
      width: thick((10 * t.amount) / (WEIGHT[t.function]! * 6)),
    }))
    .filter((r) => r.from >= 0 && r.to >= 0 && r.width > 1.6)
    .sort((a, b) => a.from - b.from || a.to - b.to);
}

/** Stack ribbons in each row on either side, squeezed to fit where a row carries many. */
function stack(ribbons: Ribbon[]): { left: number; right: number }[] {
  const totals = (key: "from" | "to") => {
    const sums = new Map<number, number>();
    for (const r of ribbons) sums.set(r[key], (sums.get(r[key]) ?? 0) + r.width);
    return sums;
  };
  const [lefts, rights] = [totals("from"), totals("to")];
  const squeeze = Math.min(1, ...[...lefts.values(), ...rights.values()].map((sum) => (ROW - 8) / sum));
  for (const r of ribbons) r.width *= squeeze;
  const used = { from: new Map<number, number>(), to: new Map<number, number>() };
  const put = (r: Ribbon, key: "from" | "to", sums: Map<number, number>) => {
    const done = used[key].get(r[key]) ?? 0;
    used[key].set(r[key], done + r.width);
    return r[key] * ROW + (ROW - 4 - sums.get(r[key])! * squeeze) / 2 + done;
  };
  const left = ribbons.map((r) => put(r, "from", lefts));
  const order = ribbons
    .map((_, at) => at)
    .sort((a, b) => ribbons[a]!.to - ribbons[b]!.to || ribbons[a]!.from - ribbons[b]!.from);
  const right: number[] = [];
  for (const at of order) right[at] = put(ribbons[at]!, "to", rights);
  return ribbons.map((_, at) => ({ left: left[at]!, right: right[at]! }));
}
