export type HeatScale = "celsius" | "fahrenheit" | "gas";

/** How this kitchen writes heat: its unit, a Celsius figure as shown and as read back, and a step of a field. Gas marks stand on an oven's dial
 * alone: the core says them, and figures stay Celsius. */
export type Heat = { unit: string; shown: (celsius: number) => number; read: (value: number) => number; step: number };

const CELSIUS: Heat = { unit: "°C", shown: Math.round, read: (v) => v, step: 5 };
const FAHRENHEIT: Heat = {
  unit: "°F",
  shown: (c) => Math.round((9 * c) / 5 + 32),
  read: (v) => (5 * (v - 32)) / 9,
  step: 50 / 9,
};

export function heatFor(scale: HeatScale): Heat {
  return scale === "fahrenheit" ? FAHRENHEIT : CELSIUS;
}
