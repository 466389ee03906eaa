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
      <svg viewBox={`0 0 ${WIDTH} ${height}`} width="100%" role="img" aria-label={`${title}. ${words}`}>
        {children}
      </svg>
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
