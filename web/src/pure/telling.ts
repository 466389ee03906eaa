import type { Answered } from "../api/client";

export type Tellings = Record<string, Answered<"Telling">>;

/** Whether a cook would notice that the mark of a balance moved: by the core's own thresholds. */
export function noticed(tellings: Tellings, key: string, before: number | null, after: number | null): boolean {
  const telling = tellings[key];
  if (!telling || before === null || after === null) return false;
  const least = telling.noticed || telling.share * Math.max(Math.abs(before), Math.abs(after), 0.1);
  return Math.abs(after - before) > least;
}

/** What a cook says of the move: "holds less"; "as before" where nobody would notice. */
export function moved(tellings: Tellings, key: string, before: number | null, after: number | null): string {
  if (before === null || after === null || !noticed(tellings, key, before, after)) return "as before";
  const telling = tellings[key]!;
  return after > before ? telling.more : telling.less;
}
