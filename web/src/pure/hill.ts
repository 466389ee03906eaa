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

/** What would lie on each other on one surface, put together: by how far up each stands, those within so much of the first of a heap. */
export function heaps(ups: number[], room = 24): number[][] {
  const found: number[][] = [];
  for (const n of ups.map((_, k) => k).sort((a, b) => ups[a]! - ups[b]!)) {
    const heap = found.at(-1);
    if (heap && ups[n]! - ups[heap[0]!]! < room) heap.push(n);
    else found.push([n]);
  }
  return found;
}

/** The letters by which a guest is known on a ring. */
export function initials(name: string): string {
  const words = name.split(/\s+/).filter(Boolean);
  const [first, second] = [words[0] ?? "", words[1] ?? ""];
  return (second ? first[0]! + second[0]! : first.slice(0, 2)).toUpperCase();
}

export const FREE_S = 300; // this long on a rack harms nothing: a thread is drawn through so far, dotted beyond

/** Where a thread from a load to its plate is drawn through, and from where it is dotted; null where the plate leaves with the load. */
export function thread(
  ready: number,
  served: number,
  free = FREE_S,
): { from: number; to: number; dotted: number | null } | null {
  if (served - ready < 30) return null;
  return { from: ready, to: served, dotted: served - ready > free ? ready + free : null };
}

/** The beads of a cord: one for each moment that needs hands, those that crowd within a minute stacked; and the busiest quarter of an hour. */
export function beads(
  acts: { at: number; done: boolean }[],
  from: number,
  to: number,
): { beads: { x: number; row: number; done: boolean }[]; busiest: { from: number; to: number; acts: number } | null } {
  const times = acts.filter((a) => a.at >= from && a.at <= to).sort((a, b) => a.at - b.at);
  const found: { x: number; row: number; done: boolean }[] = [];
  let [row, last] = [0, Number.NEGATIVE_INFINITY];
  for (const a of times) {
    row = a.at - last < 60 ? row + 1 : 0;
    if (row === 0) last = a.at;
    found.push({ x: (a.at - from) / Math.max(1, to - from), row: Math.min(row, 5), done: a.done });
  }
  let busiest: { from: number; to: number; acts: number } | null = null;
  for (const a of times) {
    const count = times.filter((b) => b.at >= a.at && b.at < a.at + 900).length;
    if (count > 2 && count > (busiest?.acts ?? 0)) busiest = { from: a.at, to: a.at + 900, acts: count };
  }
  return { beads: found, busiest };
}
