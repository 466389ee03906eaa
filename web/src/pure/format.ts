import { type Heat, type HeatScale, heatFor } from "./heat";

export type Decimal = "point" | "comma";

/** How this kitchen writes numbers. `grams`: as a scale shows them, whole above ten, a tenth below, a hundredth below a half. `places`: with
 * so many places at most; `fixed`: with just so many. `whole`: with none. `figure`: of a balance, with as many places as its unit deserves. `heat`: its degrees; `degrees`: a heat with them. */
export type Numbers = {
  grams: (value: number) => string;
  places: (value: number, most: number) => string;
  fixed: (value: number, digits: number) => string;
  whole: (value: number) => string;
  figure: (value: number | null | undefined, unit: string) => string;
  heat: Heat;
  degrees: (celsius: number) => string;
};

/** The numbers of a kitchen that writes a point or a comma before the tenths. */
export function numbersFor(decimal: Decimal, scale: HeatScale = "celsius"): Numbers {
  const heat = heatFor(scale);
  const locale = decimal === "comma" ? "de" : "en";
  const formats = new Map<string, Intl.NumberFormat>();
  const write = (value: number, least: number, most: number): string => {
    const key = `${least} ${most}`;
    const format =
      formats.get(key) ??
      new Intl.NumberFormat(locale, { minimumFractionDigits: least, maximumFractionDigits: most, useGrouping: false });
    formats.set(key, format);
    const text = format.format(value);
    return /[1-9]/.test(text) ? text.replace("-", "−") : text.replace("-", ""); // nothing is below nought by a rounding
  };
  const signed = (value: number, digits: number): string => {
    const text = write(Math.abs(value), digits, digits);
    if (!/[1-9]/.test(text)) return text;
    return value > 0 ? `+${text}` : `−${text}`;
  };
  return {
    heat,
    degrees: (celsius) => `${write(heat.shown(celsius), 0, 0)} ${heat.unit}`,
    grams: (value) => {
      if (value >= 9.95) return write(value, 0, 0);
      return write(value, 0, value >= 0.495 ? 1 : 2);
    },
    places: (value, most) => write(value, 0, most),
    fixed: (value, digits) => write(value, digits, digits),
    whole: (value) => write(value, 0, 0),
    figure: (value, unit) => {
      if (value === null || value === undefined) return "–";
      if (unit === "cm") return write(value, 1, 1);
      if (unit.startsWith("mL") || unit === "index") return write(value, 0, 0);
      if (unit.startsWith("egg")) return write(value, 2, 2);
      if (unit.startsWith("meq")) return signed(value, 1);
      const digits = Math.abs(value) < 10 ? 1 : 0;
      return write(value, digits, digits);
    },
  };
}

/** A number as typed, with point or comma; null where it is none. */
export function readNumber(text: string): number | null {
  const plain = text.trim().replace(",", ".");
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : null;
}

/** The grams a field holds, or why it holds none. */
export function readGrams(text: string): { grams: number } | { problem: string } {
  if (text.trim() === "") return { problem: "An amount is missing." };
  const value = readNumber(text);
  if (value === null) return { problem: "An amount must be a number." };
  if (value < 0) return { problem: "An amount cannot be below 0." };
  if (value > 100_000) return { problem: "More than a kitchen can hold (100 kg at most)." };
  return { grams: value };
}

/** A day as this machine writes it, from ISO 8601. */
export function day(iso: string): string {
  return new Date(iso).toLocaleDateString(undefined, { day: "numeric", month: "short", year: "numeric" });
}

/** An allergen in plain words. */
export function allergen(token: string): string {
  return token.replace("tree_nut:", "").replaceAll("_", " ");
}
