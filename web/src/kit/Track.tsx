import type { ReactNode } from "react";
import type { Ledger } from "../api/client";
import { moved, noticed, type Tellings } from "../pure/telling";
import { useNumbers } from "./numbers";

type Props = {
  before: Ledger;
  after: Ledger | undefined;
  /** The ends of the track: the same for every batter of the form. */
  scale: { low: number; high: number } | undefined;
  tellings: Tellings;
  onOpen?: () => void;
};

/** One balance: the band in which the form works, a peg for what was, a boat for what will be, joined to one mark where nobody would notice
 * the difference. Words first, the figures under them. */
export function Track({ before, after, scale, tellings, onOpen }: Props) {
  const { figure } = useNumbers();
  const now = after ?? before;
  const { band } = now;
  const { low, high } = scale ?? spread([before.mark, after?.mark, band?.low, band?.high]);
  // Beyond the ends a mark stops at the tick.
  const at = (value: number) => 4 + (92 * (Math.min(high, Math.max(low, value)) - low)) / (high - low || 1);
  const unit = now.mark_unit.replace("/100 g", "").replace("/serving", "");
  const differs = after !== undefined && noticed(tellings, now.key, before.mark, after.mark);
  const words = after ? moved(tellings, now.key, before.mark, after.mark) : now.verdict === "fits" ? "" : now.verdict;
  const wrong = now.verdict !== "fits";
  return (
    <Whole onOpen={onOpen}>
      <span className="block truncate text-sm font-semibold">{now.label}</span>
      <span className="relative mt-1 block h-7" aria-hidden="true">
        <span className="absolute top-3 right-[4%] left-[4%] h-px bg-base-content/40" />
        {[4, 96].map((end) => (
          <span key={end} className="absolute top-2 h-3 w-px bg-base-content/40" style={{ left: `${end}%` }} />
        ))}
        {band && (
          <span
            className="band absolute top-2 h-3 border-x border-success"
            style={{ left: `${at(band.low)}%`, width: `${at(band.high) - at(band.low)}%` }}
          />
        )}
        {after && differs && before.mark !== null && after.mark !== null && (
          <span
            className="mark absolute top-[0.8rem] h-0.5 bg-primary"
            style={{
              left: `${Math.min(at(before.mark), at(after.mark))}%`,
              width: `${Math.abs(at(after.mark) - at(before.mark))}%`,
            }}
          />
        )}
        {before.mark !== null && (
          <svg
            viewBox="0 0 12 12"
            className="mark absolute top-0 size-3 -translate-x-1/2 text-secondary"
            style={{ left: `${at(after && !differs && after.mark !== null ? after.mark : before.mark)}%` }}
            aria-hidden="true"
          >
            <rect x="3" y="0" width="6" height="12" rx="1.2" fill="currentColor" />
          </svg>
        )}
        {after && after.mark !== null && (
          <svg
            viewBox="0 0 16 10"
            className="mark absolute top-[0.95rem] h-2.5 w-4 -translate-x-1/2 text-primary"
            style={{ left: `${at(after.mark)}%` }}
            aria-hidden="true"
          >
            <path d="M8 0l2.5 4H16c-1 4-3.5 6-8 6S1 8 0 4h5.500z" fill="currentColor" />
          </svg>
        )}
      </span>
      <span className={`block leading-tight ${differs ? "font-bold text-primary" : "opacity-85"}`}>{words}</span>
      {wrong && <b className="block text-sm leading-tight text-warning">{after ? now.verdict : ""}</b>}
      <span className="block text-sm whitespace-nowrap">
        <span className="figure font-normal">{figure(now.mark, now.mark_unit)}</span> {unit}
        {differs && <span className="opacity-85">, was {figure(before.mark, before.mark_unit)}</span>}
      </span>
      {onOpen && <span className="sr-only">. Open its ledger.</span>}
    </Whole>
  );
}

/** Ends for a balance without any: as far as its marks reach, and a little more. */
function spread(values: (number | null | undefined)[]): { low: number; high: number } {
  const known = values.filter((v) => v !== null && v !== undefined);
  const [low, high] = [Math.min(...known, 0), Math.max(...known, 1)];
  return { low, high: high + (high - low) * 0.12 };
}

function Whole({ onOpen, children }: { onOpen?: () => void; children: ReactNode }) {
  if (!onOpen) return <div className="min-w-0 px-2 py-1">{children}</div>;
  return (
    <button type="button" onClick={onOpen} className="min-w-0 rounded-field px-2 py-1 text-left hover:bg-base-100">
      {children}
    </button>
  );
}
