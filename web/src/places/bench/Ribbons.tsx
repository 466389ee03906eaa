import type { Transfer } from "../../api/client";
import { useNumbers } from "../../kit/numbers";
import { type Ribbon, ROW, ribbonsOf, stacked, thickest } from "../../pure/ribbons";
import type { Placed } from "./Rows";

const WIDTH = 200;
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

type Props = {
  before: Placed[];
  after: Placed[];
  transfers: Transfer[];
  lit: string | null;
  only: string | null;
  onLight: (key: string | null) => void;
  onOnly: (work: string | null) => void;
};

/** Where the work of each ingredient went: a ribbon for each function, from the one that had it to the one that has it now. */
export function Ribbons({ before, after, transfers, lit, only, onLight, onOnly }: Props) {
  const { places } = useNumbers();
  const works = [...new Set(transfers.filter((t) => t.source && t.target).map((t) => t.function))];
  const shown = only && works.includes(only) ? only : null;
  const ribbons = ribbonsOf(
    before.map(({ view }) => view.line.ingredient ?? null),
    after.map(({ view }) => view.line.ingredient ?? null),
    shown ? transfers.filter((t) => t.function === shown) : transfers,
  );
  const height = Math.max(before.length, after.length, 1) * ROW;
  const said = (r: Ribbon) =>
    `${WORDS[r.function]}, ${places(r.amount, r.amount < 10 ? 1 : 0)} ${r.unit}: ${before[r.from]?.view.name} to ${after[r.to]?.view.name}`;
  const heights = stacked(ribbons);
  const named = new Set(thickest(ribbons));
  return (
    <>
      <label className="flex items-start justify-center">
        <span className="sr-only">Show what each ingredient does</span>
        <select
          className="h-9 rounded-field bg-transparent text-sm"
          value={shown ?? ""}
          onChange={(event) => onOnly(event.target.value || null)}
        >
          <option value="" className="bg-base-100 text-base-content">
            everything
          </option>
          {works.map((work) => (
            <option key={work} value={work} className="bg-base-100 text-base-content">
              {WORDS[work] ?? work}
            </option>
          ))}
        </select>
      </label>
      <span />
      <div className="relative">
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
            const { left, right, width: w } = heights[at]!;
            const strong = shown === null && named.has(at);
            const on =
              lit === null ? (strong || shown ? 0.5 : 0.13) : lit === r.source || lit === r.target ? 0.78 : 0.08;
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
        {lit === null &&
          shown === null &&
          [...named].map((at) => {
            const { left, right, width: w } = heights[at]!;
            return (
              <span
                key={at}
                aria-hidden="true"
                className="pointer-events-none absolute left-1/2 -translate-1/2 rounded-full bg-base-100 px-2 text-sm"
                style={{ top: (left + right + w) / 2 }}
              >
                {WORDS[ribbons[at]!.function]}
              </span>
            );
          })}
        <details className="mt-1 text-sm">
          <summary className="min-h-6 cursor-pointer text-center underline underline-offset-4">as a list</summary>
          <ul className="absolute z-10 w-72 -translate-x-1/4 rounded-box border border-base-300 bg-base-100 p-3 shadow-lg">
            {ribbons.map((r) => (
              <li key={`${r.function}-${r.source}-${r.target}`}>{said(r)}</li>
            ))}
          </ul>
        </details>
      </div>
    </>
  );
}
