import type { Ledger } from "../api/client";
import { useNumbers } from "./numbers";

type Props = { before: Ledger; after: Ledger | undefined; onOpen?: () => void };

/** One balance: the band in which the form works, a peg for what was, a boat for what will be, and its uncertainty. */
export function Track({ before, after, onOpen }: Props) {
  const { figure } = useNumbers();
  const now = after ?? before;
  const values = [before.mark, after?.mark, after?.low, after?.high, before.low, before.high].filter(
    (v) => v !== null && v !== undefined,
  );
  const band = now.band;
  const centre = band ?? { low: Math.min(...values), high: Math.max(...values) };
  const low = Math.min(...values, centre.low);
  const high = Math.max(...values.filter((v) => v < centre.high * 3 + 10), centre.high);
  const margin = Math.max((high - low) * 0.12, Math.abs(high) * 0.04, 0.1);
  const at = (value: number) => Math.min(98, Math.max(2, (100 * (value - low + margin)) / (high - low + 2 * margin)));
  const unit = now.mark_unit.replace("/100 g", "").replace("/serving", "");
  return (
    <Whole onOpen={onOpen}>
      <span className="flex items-baseline justify-between gap-1 text-sm">
        <span className="truncate">{now.label}</span>
        {now.verdict === "fits" ? (
          <span className="sr-only">fits</span>
        ) : (
          <b className="shrink-0 text-warning">{now.verdict}</b>
        )}
      </span>
      <span className="relative mt-1 block h-7" aria-hidden="true">
        <span className="absolute top-3 right-0 left-0 h-1 rounded bg-base-300" />
        {band && (
          <span
            className="band absolute top-2 h-3 rounded-sm"
            style={{ left: `${at(band.low)}%`, width: `${at(band.high) - at(band.low)}%` }}
          />
        )}
        {after && after.low !== null && after.high !== null && (
          <span
            className="mark absolute top-[0.85rem] h-px bg-primary"
            style={{ left: `${at(after.low)}%`, width: `${Math.max(0, at(after.high) - at(after.low))}%` }}
          />
        )}
        {before.mark !== null && (
          <svg
            viewBox="0 0 12 12"
            className="mark absolute top-0 size-3 -translate-x-1/2 text-secondary"
            style={{ left: `${at(before.mark)}%` }}
            aria-hidden="true"
          >
            <rect x="3" y="0" width="6" height="11" rx="1.2" fill="currentColor" />
          </svg>
        )}
        {after && after.mark !== null && (
          <svg
            viewBox="0 0 16 10"
            className="mark absolute top-[1.05rem] h-2.5 w-4 -translate-x-1/2 text-primary"
            style={{ left: `${at(after.mark)}%` }}
            aria-hidden="true"
          >
            <path d="M8 0l2.5 4H16c-1 4-3.5 6-8 6S1 8 0 4h5.500z" fill="currentColor" />
          </svg>
        )}
      </span>
      <span className="flex items-baseline justify-between gap-1">
        <span className={`figure whitespace-nowrap text-lg leading-tight ${after ? "text-primary" : "text-secondary"}`}>
          {figure(now.mark, now.mark_unit)} <small className="text-xs font-normal">{unit}</small>
        </span>
        {after && (
          <span className="flex items-center gap-1 text-sm whitespace-nowrap text-secondary">
            <span className="h-2.5 w-1.5 rounded-[1px] bg-secondary" aria-hidden="true" />
            <span className="sr-only">was </span>
            {figure(before.mark, before.mark_unit)}
          </span>
        )}
        {onOpen && <span className="sr-only">. Open its ledger.</span>}
      </span>
    </Whole>
  );
}

function Whole({ onOpen, children }: { onOpen?: () => void; children: React.ReactNode }) {
  if (!onOpen) return <div className="min-w-0 px-2 py-1">{children}</div>;
  return (
    <button
      type="button"
      onClick={onOpen}
      className="group min-w-0 rounded-field px-2 py-1 text-left hover:bg-base-100"
    >
      {children}
    </button>
  );
}
