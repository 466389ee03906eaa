import { scaleLinear } from "d3-scale";

/** One figure over batches, drawn on a strip: where each point lies, and the ends of the scale. */

export type Strip = {
  points: { x: number; y: number }[];
  band: { top: number; bottom: number } | null;
  low: number;
  high: number;
};

/** Values laid out from left to right, within a margin, on a scale that holds them all and the band in which they were thought to lie; equal values
 * lie in the middle. */
export function strip(
  values: readonly number[],
  wide: number,
  high: number,
  ends: readonly [number, number] | null = null,
  margin = 14,
): Strip {
  const held = ends ? [...values, ...ends] : values;
  const [least, most] = [Math.min(...held), Math.max(...held)];
  const reach = most - least || Math.max(1, Math.abs(most) * 0.1);
  const [low, top] = most === least ? [least - reach, most + reach] : [least, most];
  const along = places(values.length, wide, margin);
  const at = scaleLinear([low, top], [high - margin, margin]);
  return {
    points: values.map((v, n) => ({ x: along(n), y: at(v) })),
    band: ends && { top: at(ends[1]), bottom: at(ends[0]) },
    low,
    high: top,
  };
}

/** So many places from left to right, within a margin; a single one in the middle. */
function places(many: number, wide: number, margin: number): (n: number) => number {
  return many > 1 ? scaleLinear([0, many - 1], [margin, wide - margin]) : () => wide / 2;
}

export type Doubted = { value: number; doubt: number };
export type Funnel = {
  wall: string;
  middle: { x: number; y: number }[];
  seen: ({ x: number; y: number; top: number; bottom: number } | null)[];
  low: number;
  high: number;
};

/** Beliefs one after another, as a funnel that narrows where something was learned: its wall as a path, its middle, and what each batch told. What a
 * batch told with little certainty is cut off at the scale's ends, which the beliefs give. */
export function funnel(
  beliefs: readonly Doubted[],
  seen: readonly (Doubted | null)[],
  wide: number,
  high: number,
  margin = 10,
): Funnel {
  const low = Math.min(...beliefs.map((b) => b.value - b.doubt));
  const top = Math.max(...beliefs.map((b) => b.value + b.doubt));
  const x = places(beliefs.length, wide, margin);
  const y = scaleLinear([low, top === low ? low + 1 : top], [high - margin, margin]).clamp(true);
  const upper = beliefs.map((b, n) => `${x(n).toFixed(1)} ${y(b.value + b.doubt).toFixed(1)}`);
  const lower = beliefs.map((b, n) => `${x(n).toFixed(1)} ${y(b.value - b.doubt).toFixed(1)}`).reverse();
  return {
    wall: `M${[...upper, ...lower].join("L")}Z`,
    middle: beliefs.map((b, n) => ({ x: x(n), y: y(b.value) })),
    seen: seen.map(
      (s, n) => s && { x: x(n + 1), y: y(s.value), top: y(s.value + s.doubt), bottom: y(s.value - s.doubt) },
    ),
    low,
    high: top,
  };
}

/** Where what was meant and what happened lie on one line of 100: the meant in the middle, the other as far off as it is, no farther than the ends. */
export function beside(meant: number, happened: number, unit: string): { meant: number; happened: number } {
  const whole = unit === "°C" ? 50 : Math.max(Math.abs(meant) * 0.6, 1e-9);
  const off = Math.max(-1, Math.min(1, (happened - meant) / whole));
  return { meant: 50, happened: 50 + 44 * off };
}

/** How many of three signs stand for a cause: strong ones count, what speaks against it does not. */
export function signs(weights: readonly number[]): number {
  return Math.min(3, weights.filter((w) => w >= 0.8).length + (weights.some((w) => w >= 2) ? 1 : 0));
}

/** How likely, in a word. */
export function likely(p: number): string {
  return p >= 0.8 ? "very likely" : p >= 0.5 ? "likely" : p >= 0.2 ? "possible" : "unlikely";
}
