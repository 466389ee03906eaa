/** The hill of a morning: the counter at the foot, minutes as contours, wide near the cook and narrow far off; surfaces side by side. */

export const WIDE = 640;
export const HIGH = 400;
const FOOT = 340;
const RISE = 290;
const NEAR_MIN = 45; // minutes that take up as much of the hill as all before them take off it

/** Seconds of the day of "07:30" or "07:30:15". */
export function secondsOf(hour: string): number {
  const [h, m, s] = hour.split(":").map(Number);
  return (h ?? 0) * 3600 + (m ?? 0) * 60 + (s ?? 0);
}

/** The hour of seconds of a day, without its seconds. */
export function hourOf(seconds: number): string {
  const at = Math.round(seconds / 60);
  return `${String(Math.floor(at / 60) % 24).padStart(2, "0")}:${String(at % 60).padStart(2, "0")}`;
}

/** How far up the hill a moment lies: 0 at the counter, 1 at the horizon; what is past lies at the counter. */
export function far(at: number, from: number, to: number): number {
  const near = NEAR_MIN * 60;
  const whole = Math.log(1 + Math.max(60, to - from) / near);
  return Math.min(1, Math.max(0, Math.log(1 + Math.max(0, at - from) / near) / whole));
}

/** A place on the hill: `across` from 0 (left) to 1 (right), `up` from 0 to 1. */
export function place(across: number, up: number): { x: number; y: number } {
  const u = 2 * across - 1;
  return { x: WIDE / 2 + u * (WIDE / 2 - 12 - 56 * up), y: FOOT - RISE * up + 24 * u * u * (1 - 0.4 * up) };
}

/** A contour across the hill as the path of a line. */
export function contour(up: number): string {
  return Array.from({ length: 21 }, (_, n) => place(n / 20, up))
    .map((p, n) => `${n ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`)
    .join("");
}

/** The ground of a surface between two moments, as a closed path. */
export function ground(left: number, right: number, low: number, high: number): string {
  const steps = 8;
  const along = (up: number, back: boolean) =>
    Array.from({ length: steps + 1 }, (_, n) => place(left + ((right - left) * (back ? steps - n : n)) / steps, up));
  const points = [...along(low, false), ...along(high, true)];
  return `${points.map((p, n) => `${n ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("")}Z`;
}

/** The contours worth drawing between two moments: every half hour, and every ten minutes near the cook. */
export function contours(from: number, to: number): number[] {
  const found: number[] = [];
  for (let at = Math.ceil(from / 600) * 600; at <= to; at += 600)
    if (at % 1800 === 0 || at - from < 2400) found.push(at);
  return found.filter((at) => at - from > 120);
}

/** How far across the hill its sectors reach; the hours stand beside them. */
export const ACROSS = 0.9;

/** Where the rings of one table stand on their contour: rows of three, so that none lies on another; the last tells of those that have no room. */
export function rows(count: number): { dx: number; dy: number; more: number }[] {
  const shown = Math.min(6, count);
  return Array.from({ length: shown }, (_, n) => ({
    dx: (n % 3) * 34,
    dy: Math.floor(n / 3) * 34,
    more: n === 5 && count > 6 ? count - 5 : 0,
  }));
}

/** The letters by which a guest is known on a ring. */
export function initials(name: string): string {
  const words = name.split(/\s+/).filter(Boolean);
  const [first, second] = [words[0] ?? "", words[1] ?? ""];
  return (second ? first[0]! + second[0]! : first.slice(0, 2)).toUpperCase();
}
