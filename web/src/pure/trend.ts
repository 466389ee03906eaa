/** One figure over batches, drawn on a strip: where each point lies, and the ends of the scale. */

export type Strip = { points: { x: number; y: number }[]; low: number; high: number };

/** Values laid out from left to right, within a margin, on a scale that holds them all; equal values lie in the middle. */
export function strip(values: readonly number[], wide: number, high: number, margin = 14): Strip {
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const reach = most - least || Math.max(1, Math.abs(most) * 0.1);
  const [low, top] = most === least ? [least - reach, most + reach] : [least, most];
  const step = values.length > 1 ? (wide - 2 * margin) / (values.length - 1) : 0;
  return {
    points: values.map((v, n) => ({
      x: values.length > 1 ? margin + n * step : wide / 2,
      y: high - margin - ((v - low) / (top - low)) * (high - 2 * margin),
    })),
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
