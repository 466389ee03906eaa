let comma = false;

/** The kitchen's number format: a point or a comma before the tenths. */
export function setDecimal(format: "point" | "comma"): void {
  comma = format === "comma";
}

/** A text of digits in the kitchen's number format. */
export function local(text: string): string {
  return comma ? text.replace(".", ",") : text;
}

/** Grams as a scale shows them: whole above ten, a tenth below, a hundredth below a half. */
export function grams(value: number): string {
  if (value >= 9.95) return value.toFixed(0);
  if (value >= 0.495 || value === 0) return local(trim(value.toFixed(1)));
  return local(trim(value.toFixed(2)));
}

/** A number with so many places at most. */
export function places(value: number, most: number): string {
  return local(trim(value.toFixed(most)));
}

/** A figure of a balance, with as many places as it deserves. */
export function figure(value: number | null | undefined, unit: string): string {
  if (value === null || value === undefined) return "–";
  if (unit === "cm") return local(value.toFixed(1));
  if (unit.startsWith("mL")) return value.toFixed(0);
  if (unit.startsWith("egg")) return local(value.toFixed(2));
  if (unit.startsWith("meq")) return signed(value, 1);
  if (unit === "index") return value.toFixed(0);
  return local(value.toFixed(Math.abs(value) < 10 ? 1 : 0));
}

function signed(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  if (Number(text) === 0) return local(text);
  return local(value > 0 ? `+${text}` : `−${text}`);
}

function trim(text: string): string {
  return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
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
  if (value < 0) return { problem: "An amount cannot be below nought." };
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
