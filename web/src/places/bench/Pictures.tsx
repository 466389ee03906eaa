import { scaleLinear } from "d3-scale";
import type { BatterView, Ledger } from "../../api/client";
import { useNumbers } from "../../kit/numbers";
import type { Numbers } from "../../pure/format";

const WIDTH = 560;
const BAR = 22;

type Part = {
  key: string;
  name: string;
  amount: number;
  from: number;
  way: "brings" | "drinks" | "left" | "alkali" | "acid" | "buffer";
};

/** Where the water goes: who brings it, who drinks it, what is left to flow; what you have above, what you will make beneath. */
export function WaterPicture({ before, after }: { before: BatterView; after: BatterView | undefined }) {
  const numbers = useNumbers();
  const { whole } = numbers;
  const sides = [
    { title: "have", side: "iron" as const, ...water(before) },
    ...(after ? [{ title: "will make", side: "berry" as const, ...water(after) }] : []),
  ];
  const x = scaleLinear()
    .domain([0, Math.max(1, ...sides.map((s) => Math.max(s.brought, s.drunk)))])
    .range([0, WIDTH - 70]);
  const words = sides
    .map(
      (s) =>
        `You ${s.title}: ${list(s.brings, numbers)} bring ${whole(s.brought)} g; ${list(s.drinks, numbers)} drink ${whole(s.drunk)} g; ${leftWords(s.left, numbers)}.`,
    )
    .join(" ");
  return (
    <Picture title="Where the water goes" words={words} height={sides.length * 66 + 4}>
      {sides.map((s, row) => (
        <g key={s.side} transform={`translate(0 ${row * 66 + 12})`} style={{ color: `var(--${s.side})` }}>
          <Bar parts={s.brings} x={x} y={0} unit="g" />
          <Bar parts={s.drinks} x={x} y={BAR + 3} unit="g" />
          {s.left > 0 && (
            <g>
              <rect
                x={x(s.drunk)}
                y={BAR + 3}
                width={Math.max(0, x(s.left))}
                height={BAR}
                fill="none"
                stroke="currentColor"
                strokeWidth="1.500"
                strokeDasharray="3 3"
              />
            </g>
          )}
          <text x={x(Math.max(s.brought, s.drunk)) + 6} y={BAR - 6} className="fill-base-content text-[13px]">
            {whole(s.brought)} g in
          </text>
          <text
            x={x(Math.max(s.brought, s.drunk)) + 6}
            y={2 * BAR - 2}
            className="fill-base-content text-[13px] font-bold"
          >
            {s.left > 0 ? `${whole(s.left)} flows` : "none left"}
          </text>
        </g>
      ))}
    </Picture>
  );
}

/** Acid against alkali: what meets in the middle, and what is left over on either side. */
export function AcidPicture({ before, after }: { before: BatterView; after: BatterView | undefined }) {
  const numbers = useNumbers();
  const { whole } = numbers;
  const sides = [
    { title: "have", side: "iron" as const, ...acid(before) },
    ...(after ? [{ title: "will make", side: "berry" as const, ...acid(after) }] : []),
  ];
  const x = scaleLinear()
    .domain([0, Math.max(1, ...sides.map((s) => Math.max(s.alkali, s.acid + s.buffer)))])
    .range([0, WIDTH - 70]);
  const words = sides
    .map(
      (s) =>
        `You ${s.title}: ${list(s.alkalis, numbers)} bring ${whole(s.alkali)} meq of alkali; ${list(s.acids, numbers)} bring ${whole(s.acid)} meq of acid; the flour buffers up to ${whole(s.buffer)}; ${s.verdict}.`,
    )
    .join(" ");
  return (
    <Picture title="Acid against alkali" words={words} height={sides.length * 66 + 4}>
      {sides.map((s, row) => (
        <g key={s.side} transform={`translate(0 ${row * 66 + 12})`} style={{ color: `var(--${s.side})` }}>
          <Bar parts={s.alkalis} x={x} y={0} unit="meq" />
          <Bar parts={s.acids} x={x} y={BAR + 3} unit="meq" />
          {s.buffer > 0 && (
            <rect
              x={x(s.acid)}
              y={BAR + 3}
              width={x(s.buffer)}
              height={BAR}
              fill="none"
              stroke="currentColor"
              strokeWidth="1.500"
              strokeDasharray="3 3"
            />
          )}
          <line x1={x(s.alkali)} x2={x(s.alkali)} y1={-4} y2={2 * BAR + 7} stroke="currentColor" strokeWidth="2" />
          <text x={x(Math.max(s.alkali, s.acid + s.buffer)) + 6} y={BAR - 6} className="fill-base-content text-[13px]">
            alkali {whole(s.alkali)}
          </text>
          <text
            x={x(Math.max(s.alkali, s.acid + s.buffer)) + 6}
            y={2 * BAR - 2}
            className="fill-base-content text-[13px]"
          >
            acid {whole(s.acid)}
          </text>
        </g>
      ))}
    </Picture>
  );
}

/** How far 60 mL run on a plate, seen from above on one scale, and the ring in which the form works. */
export function SpreadPicture({ before, after }: { before: BatterView; after: BatterView | undefined }) {
  const { figure } = useNumbers();
  const sides = [
    { title: "have", side: "iron" as const, cm: ledgerOf(before, "flow").mark },
    ...(after ? [{ title: "will make", side: "berry" as const, cm: ledgerOf(after, "flow").mark }] : []),
  ];
  const { band } = ledgerOf(after ?? before, "flow");
  const most = Math.max(1, band?.high ?? 0, ...sides.map((s) => s.cm ?? 0));
  const unit = Math.min((WIDTH / 2 - 90) / most, 132 / most / 0.62);
  const said = (cm: number | null) => (cm === null ? "does not run" : `${figure(cm, "cm")} cm`);
  const words = `${sides.map((s) => `What you ${s.title}: ${said(s.cm)}`).join("; ")}${band ? `; it works from ${figure(band.low, "cm")} to ${figure(band.high, "cm")} cm` : ""}.`;
  return (
    <Picture title="How far 60 mL run" words={words} height={150}>
      {sides.map((s, n) => {
        const [x, y] = [(n * WIDTH) / 2 + (most * unit) / 2 + 4, 74];
        const across = (s.cm ?? 0) * unit;
        return (
          <g key={s.side} style={{ color: `var(--${s.side})` }}>
            <ellipse
              cx={x}
              cy={y}
              rx={Math.max(3, across / 2)}
              ry={Math.max(2, across * 0.31)}
              fill="currentColor"
              opacity={n === 0 ? 0.5 : 0.72}
            />
            {[band?.low, band?.high].map(
              (cm) =>
                cm !== undefined && (
                  <ellipse
                    key={cm}
                    cx={x}
                    cy={y}
                    rx={(cm * unit) / 2}
                    ry={cm * unit * 0.31}
                    fill="none"
                    stroke="currentColor"
                    strokeWidth="1.500"
                    strokeDasharray="3 3"
                  />
                ),
            )}
            <text x={x + (most * unit) / 2 + 8} y={y + 5} className="fill-base-content text-[14px] font-bold">
              {said(s.cm)}
            </text>
          </g>
        );
      })}
    </Picture>
  );
}

/** A piece cut through, on one scale: as wide and as thick as it comes to lie. */
export function PiecePicture({ before, after }: { before: BatterView; after: BatterView | undefined }) {
  const { places } = useNumbers();
  const sides = [
    { title: "have", side: "iron" as const, y: before.pieces.yields },
    ...(after ? [{ title: "will make", side: "berry" as const, y: after.pieces.yields }] : []),
  ];
  if (sides.some((s) => s.y.diameter_cm === null || s.y.thickness_cm === null || s.y.whole < 1)) return null;
  const most = Math.max(1, ...sides.map((s) => s.y.diameter_cm ?? 0));
  const unit = (WIDTH - 190) / most;
  const said = (s: (typeof sides)[number]) =>
    `${places(s.y.diameter_cm ?? 0, 0)} cm across, ${places(10 * (s.y.thickness_cm ?? 0), 0)} mm thick`;
  return (
    <Picture
      title="A piece, cut through"
      words={`${sides.map((s) => `What you ${s.title}: ${said(s)}`).join("; ")}.`}
      height={sides.length * 66 + 14}
    >
      {sides.map((s, n) => {
        const [wide, high] = [(s.y.diameter_cm ?? 0) * unit, Math.min(58, (s.y.thickness_cm ?? 0) * unit)];
        const foot = n * 66 + 62;
        return (
          <g key={s.side} style={{ color: `var(--${s.side})` }}>
            <rect
              x="2"
              y={foot - high}
              width={wide}
              height={high}
              rx={Math.min(high / 2, 22)}
              fill="currentColor"
              fillOpacity={n === 0 ? 0.5 : 0.72}
            />
            <path d={`M0 ${foot + 1.5}H${most * unit + 6}`} stroke="currentColor" strokeWidth="1.500" />
            <text x={most * unit + 14} y={foot - 8} className="fill-base-content text-[13px]">
              {said(s)}
            </text>
          </g>
        );
      })}
    </Picture>
  );
}

/** What the colours and the strokes of all pictures mean. */
export function Legend({ made }: { made: boolean }) {
  const marks: [string, React.ReactNode][] = [
    ["what you have", <rect key="h" width="22" height="14" y="2" fill="var(--iron)" opacity="0.880" />],
    ...(made
      ? ([
          ["what you will make", <rect key="m" width="22" height="14" y="2" fill="var(--berry)" opacity="0.880" />],
        ] as [string, React.ReactNode][])
      : []),
    ["pale: takes it up", <rect key="p" width="22" height="14" y="2" fill="currentColor" opacity="0.340" />],
    [
      "dotted: free, or where it works",
      <rect
        key="d"
        x="1"
        y="3"
        width="20"
        height="12"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.500"
        strokeDasharray="3 3"
      />,
    ],
  ];
  return (
    <ul className="flex flex-wrap gap-x-5 gap-y-1 text-sm lg:col-span-2">
      {marks.map(([words, mark]) => (
        <li key={words} className="flex items-center gap-2">
          <svg viewBox="0 0 22 18" className="h-[1.1rem] w-[1.4rem]" aria-hidden="true">
            {mark}
          </svg>
          {words}
        </li>
      ))}
    </ul>
  );
}

function Picture({
  title,
  words,
  height,
  children,
}: {
  title: string;
  words: string;
  height: number;
  children: React.ReactNode;
}) {
  return (
    <figure className="min-w-0">
      <figcaption className="mb-1 font-semibold">{title}</figcaption>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls on a phone must be reached by keyboard */}
      <div className="overflow-x-auto" tabIndex={0}>
        <svg
          viewBox={`0 0 ${WIDTH} ${height}`}
          className="w-full min-w-[34rem]"
          role="img"
          aria-label={`${title}. ${words}`}
        >
          {children}
        </svg>
      </div>
    </figure>
  );
}

function Bar({ parts, x, y, unit }: { parts: Part[]; x: (value: number) => number; y: number; unit: string }) {
  const { grams, whole } = useNumbers();
  return (
    <>
      {parts.map((part, n) => {
        const width = x(part.amount);
        const room = Math.floor(width / 7.2);
        return (
          <g key={part.key}>
            <rect
              x={x(part.from)}
              y={y}
              width={Math.max(0.5, width - 1)}
              height={BAR}
              fill="currentColor"
              opacity={(part.way === "drinks" || part.way === "acid" ? 0.34 : 0.88) - (n % 2) * 0.16}
            >
              <title>{`${part.name}: ${part.amount < 10 ? grams(part.amount) : whole(part.amount)} ${unit}`}</title>
            </rect>
            {room >= 4 && (
              <text
                x={x(part.from) + 5}
                y={y + 15.5}
                className={`pointer-events-none text-[12.500px] ${part.way === "drinks" || part.way === "acid" ? "fill-base-content" : "fill-base-100"}`}
              >
                {part.name.length > room ? `${part.name.slice(0, room - 1)}…` : part.name}
              </text>
            )}
          </g>
        );
      })}
    </>
  );
}

function ledgerOf(batter: BatterView, key: string): Ledger {
  return batter.ledgers.find((l) => l.key === key)!;
}

function partsOf(batter: BatterView, ledger: Ledger, way: Part["way"]): Part[] {
  let from = 0;
  return ledger.contributions
    .filter((c) => c.part === way)
    .map((c) => ({ name: batter.lines[c.line]?.name ?? c.name, amount: Math.abs(c.amount), line: c.line }))
    .sort((a, b) => b.amount - a.amount)
    .map((c) => {
      const part = { key: `${way}-${c.line}`, name: c.name, amount: c.amount, from, way };
      from += c.amount;
      return part;
    });
}

function sum(parts: Part[]): number {
  return parts.reduce((all, part) => all + part.amount, 0);
}

function water(batter: BatterView) {
  const ledger = ledgerOf(batter, "flow");
  const [brings, drinks] = [partsOf(batter, ledger, "brings"), partsOf(batter, ledger, "drinks")];
  return { brings, drinks, brought: sum(brings), drunk: sum(drinks), left: ledger.total };
}

function acid(batter: BatterView) {
  const ledger = ledgerOf(batter, "acid");
  const [alkalis, acids] = [partsOf(batter, ledger, "alkali"), partsOf(batter, ledger, "acid")];
  return {
    alkalis,
    acids,
    alkali: sum(alkalis),
    acid: sum(acids),
    buffer: sum(partsOf(batter, ledger, "buffer")),
    verdict: ledger.reason,
  };
}

function leftWords(left: number, { whole }: Numbers): string {
  return left > 0 ? `${whole(left)} g is left to flow` : "none is left to flow";
}

function list(parts: Part[], { places }: Numbers): string {
  return parts.map((p) => `${p.name} ${places(p.amount, p.amount < 10 ? 1 : 0)}`).join(", ") || "nothing";
}
