import type { Answered } from "../../api/client";
import { beads, hourOf } from "../../pure/hill";

type Act = Answered<"MorningView">["acts"][number];
const [WIDE, HIGH, STEP] = [640, 64, 11];

/** The cord: a bead for each moment that needs hands, those that crowd stacked, the busiest quarter of an hour in words. */
export function Cord({ acts, now }: { acts: readonly Act[]; now: number }) {
  const hands = acts.filter((a) => a.do !== "side");
  const left = hands.filter((a) => !a.done && a.at >= now - 60);
  if (left.length < 2) return null;
  const [from, to] = [Math.max(now, left[0]!.at - 300), Math.max(...hands.map((a) => a.to))];
  const found = beads(hands, from, to);
  const hours = Array.from({ length: 40 }, (_, n) => (Math.ceil(from / 1800) + n) * 1800).filter((t) => t <= to);
  return (
    <figure className="mx-auto my-2 w-full max-w-3xl">
      <svg viewBox={`0 0 ${WIDE} ${HIGH + 22}`} className="h-auto w-full" aria-hidden="true">
        <path d={`M8 ${HIGH - 4}H${WIDE - 8}`} stroke="var(--iron)" strokeWidth="3" />
        {hours.map((t) => (
          <text
            key={t}
            x={8 + ((WIDE - 16) * (t - from)) / Math.max(1, to - from)}
            y={HIGH + 18}
            fontSize="15"
            textAnchor="middle"
            fill="currentColor"
            className="figure"
          >
            {hourOf(t)}
          </text>
        ))}
        {found.beads.map((b, n) => (
          <circle
            key={n}
            cx={8 + (WIDE - 16) * b.x}
            cy={HIGH - 4 - STEP * b.row}
            r="5"
            fill={b.done ? "var(--color-base-100)" : "var(--color-primary)"}
            stroke="var(--color-primary)"
            strokeWidth="2"
          />
        ))}
      </svg>
      {found.busiest && (
        <figcaption className="text-sm">
          Busiest from {hourOf(found.busiest.from)} to {hourOf(found.busiest.to)}: {found.busiest.acts} things for hands
          to do.
        </figcaption>
      )}
    </figure>
  );
}
