import type { Judged } from "../api/client";

export type VerdictKey = Judged["verdict"];

const ALONE: Record<VerdictKey, string> = { fits: "fits", conflicts: "does not fit", cannot_vouch: "not confirmed" };
const OF: Record<VerdictKey, string> = { fits: "fits", conflicts: "not", cannot_vouch: "not confirmed" };

/** A verdict in words, by itself or of a diet: "not confirmed vegan". */
export function verdictWords(verdict: VerdictKey, of?: string): string {
  return of ? `${OF[verdict]} ${of}` : ALONE[verdict];
}
const COLOURS: Record<VerdictKey, string> = {
  fits: "text-success",
  conflicts: "text-error",
  cannot_vouch: "text-warning",
};

/** A verdict as a shape, a colour and a word: a leaf that fits, a barred square that conflicts, an open ring for what is not confirmed. */
export function Verdict({ verdict, of, bare = false }: { verdict: VerdictKey; of?: string; bare?: boolean }) {
  return (
    <span className={`inline-flex items-center gap-1.5 whitespace-nowrap font-semibold ${COLOURS[verdict]}`}>
      <VerdictShape verdict={verdict} />
      <span className={bare ? "sr-only" : undefined}>{verdictWords(verdict, of)}</span>
    </span>
  );
}

export function VerdictShape({ verdict }: { verdict: VerdictKey }) {
  return (
    <svg viewBox="0 0 16 16" className="size-4 shrink-0" aria-hidden="true">
      {verdict === "fits" && (
        <path d="M2 14C2 6 7 2 14 2c0 8-4 12-12 12zM5 11l5-5" fill="currentColor" stroke="var(--color-base-100)" />
      )}
      {verdict === "conflicts" && (
        <>
          <rect x="2" y="2" width="12" height="12" rx="1.5" fill="currentColor" />
          <path d="M4.5 8h7" stroke="var(--color-base-100)" strokeWidth="2.4" />
        </>
      )}
      {verdict === "cannot_vouch" && (
        <circle cx="8" cy="8" r="5.5" fill="none" stroke="currentColor" strokeWidth="2.4" strokeDasharray="5.6 3" />
      )}
    </svg>
  );
}
