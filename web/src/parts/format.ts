/** Grams as a scale shows them: whole above ten, a tenth below, a hundredth below a half. */
export function grams(value: number): string {
  if (value >= 9.95) return value.toFixed(0);
  if (value >= 0.495 || value === 0) return trim(value.toFixed(1));
  return trim(value.toFixed(2));
}

/** A figure of a balance, with as many places as it deserves. */
export function figure(value: number | null | undefined, unit: string): string {
  if (value === null || value === undefined) return "–";
  if (unit === "cm") return value.toFixed(1);
  if (unit.startsWith("mL")) return value.toFixed(0);
  if (unit.startsWith("egg")) return value.toFixed(2);
  if (unit.startsWith("meq")) return signed(value, 1);
  if (unit === "index") return value.toFixed(0);
  return value.toFixed(Math.abs(value) < 10 ? 1 : 0);
}

function signed(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  if (Number(text) === 0) return text;
  return value > 0 ? `+${text}` : `−${text}`;
}

function trim(text: string): string {
  return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
}

/** The grams a field holds, or why it holds none. */
export function readGrams(text: string): { grams: number } | { problem: string } {
  const plain = text.trim().replace(",", ".");
  if (plain === "") return { problem: "An amount is missing." };
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain)) return { problem: "An amount must be a number." };
  const value = Number(plain);
  if (value < 0) return { problem: "An amount cannot be below nought." };
  if (value > 100_000) return { problem: "More than a kitchen can hold (100 kg at most)." };
  return { grams: value };
}
