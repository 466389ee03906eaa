import type { BatchView } from "../../api/queue";

type Key = BatchView["weighing"]["vessels"][number]["key"];

/** Outlines in a box of 100 by 70: where the vessel stands open at the top, and where its floor is. */
const SHAPES: Partial<Record<Key, { d: string; more?: string }>> = {
  bowl: { d: "M8 10 Q14 62 38 64 H62 Q86 62 92 10", more: "M2 10H98" },
  whites_bowl: { d: "M14 14 Q18 60 40 64 H60 Q82 60 86 14", more: "M8 14H92" },
  jug: { d: "M20 8 L28 64 H72 L78 8 H20 L12 18", more: "M78 18 Q96 18 94 34 Q92 48 75 48" },
  blender: { d: "M26 4 L34 50 H66 L74 4 Z", more: "M30 50 L24 66 H76 L70 50" },
  soaking_cup: { d: "M30 16 L34 64 H66 L70 16", more: "M26 16H74" },
  small_cup: { d: "M34 28 L37 64 H63 L66 28", more: "M30 28H70" },
  held_cup: { d: "M28 12 L33 64 H67 L72 12", more: "M72 22 Q88 22 86 36 Q84 46 69 46" },
  pan: { d: "M10 34 V58 Q10 64 16 64 H62 Q68 64 68 58 V34", more: "M6 34H72 M70 40 L98 30" },
  sieve: { d: "M14 20 Q18 56 44 56 Q70 56 74 20", more: "M8 20H80 M80 20 L98 14" },
};
const DISH = { d: "M10 44 Q16 62 30 62 H70 Q84 62 90 44", more: "M4 44H96" };
const TOPS: Partial<Record<Key, number>> = { small_cup: 28, pan: 34, saucer: 44, dish: 44, plate: 44, sieve: 20 };

/** A vessel by its own outline, filled to a share of what it is to hold; a line where the one in turn is to end. */
export function VesselPicture({
  vessel,
  share,
  aim,
  className,
}: {
  vessel: Key;
  share: number;
  aim?: number;
  className?: string;
}) {
  const shape = SHAPES[vessel] ?? DISH;
  const top = (TOPS[vessel] ?? 12) + 4;
  const at = (value: number) => 64 - (64 - top) * Math.max(0, Math.min(1, value));
  const clip = `inside-${vessel}`;
  return (
    <svg viewBox="0 0 100 70" className={className} aria-hidden="true">
      <clipPath id={clip}>
        <path d={`${shape.d}Z`} />
      </clipPath>
      <rect
        x="0"
        width="100"
        y={at(share)}
        height={70 - at(share)}
        fill="var(--berry)"
        opacity="0.85"
        clipPath={`url(#${clip})`}
      />
      {aim !== undefined && (
        <path d={`M4 ${at(aim)}H96`} stroke="var(--color-success)" strokeWidth="1.5" clipPath={`url(#${clip})`} />
      )}
      <path d={shape.d} fill="none" stroke="currentColor" strokeWidth="2.5" strokeLinejoin="round" />
      {shape.more && <path d={shape.more} fill="none" stroke="currentColor" strokeWidth="2.5" strokeLinecap="round" />}
    </svg>
  );
}
