import type { Answered } from "../../api/client";
import { useNumbers } from "../../kit/numbers";
import { span } from "../../pure/clock";
import { beside } from "../../pure/trend";

type View = Answered<"EntryView">;

/** What was meant (an open mark) beside what happened (a full one), each on its line. */
export function Happened({ view }: { view: View }) {
  const { grams, places } = useNumbers();
  const figure = (value: number, unit: string) =>
    unit === "s"
      ? span(value)
      : unit === "g"
        ? `${grams(value)} g`
        : unit === "cm"
          ? `${places(value, 1)} cm`
          : `${Math.round(value)}${unit === "pieces" ? "" : ` ${unit}`}`;
  return (
    <section aria-label="What was meant, what happened" className="min-w-0">
      <h3 className="mb-1 flex flex-wrap items-baseline justify-between gap-2 border-b-2 border-base-content/60 pb-1 text-xl font-bold">
        What was meant, what happened
        <span className="flex items-center gap-3 text-sm font-normal">
          <span className="flex items-center gap-1">
            <Meant /> meant
          </span>
          <span className="flex items-center gap-1">
            <Was /> happened
          </span>
        </span>
      </h3>
      {view.entry.rows.length === 0 && <p>Nothing of it was recorded.</p>}
      <ul>
        {view.entry.rows.map((r) => {
          const at = beside(r.meant, r.happened, r.unit);
          return (
            <li
              key={r.key}
              className="grid grid-cols-[minmax(0,1fr)_8rem] items-center gap-x-3 border-b border-base-300 py-1.5 sm:grid-cols-[minmax(0,1fr)_9rem_8.5rem]"
            >
              <span className="min-w-0">
                <b className={r.near ? "font-normal" : ""}>{r.name}</b>
                <span className={`block text-sm ${r.near ? "" : "font-bold text-warning"}`}>{r.words}</span>
              </span>
              <svg viewBox="0 0 100 24" className="hidden h-6 w-full sm:block" aria-hidden="true">
                <path d="M2 12H98" stroke="var(--color-base-300)" strokeWidth="3" />
                <rect x="41" y="6" width="18" height="12" className="fill-success/25" />
                {!r.near && <path d={`M${at.meant} 12H${at.happened}`} stroke="var(--color-warning)" strokeWidth="3" />}
                <rect
                  x={at.meant - 4}
                  y="4"
                  width="8"
                  height="16"
                  rx="2"
                  fill="var(--color-base-100)"
                  stroke="var(--color-primary)"
                  strokeWidth="2.500"
                />
                <path d={`M${at.happened - 7} 9h14c0 5-3 8-7 8s-7-3-7-8z`} fill="var(--color-primary)" />
              </svg>
              <span className="figure text-right whitespace-nowrap">
                <span className="font-normal">{figure(r.meant, r.unit)}</span>{" "}
                <b className="text-primary">{figure(r.happened, r.unit)}</b>
              </span>
            </li>
          );
        })}
      </ul>
      <Begun view={view} />
    </section>
  );
}

const Meant = () => (
  <svg viewBox="0 0 12 18" className="h-4 w-3" aria-hidden="true">
    <rect x="2" y="1.500" width="8" height="15" rx="2" fill="none" stroke="var(--color-primary)" strokeWidth="2.500" />
  </svg>
);
const Was = () => (
  <svg viewBox="0 0 18 12" className="h-3 w-4" aria-hidden="true">
    <path d="M1 2h16c0 5-3 9-8 9S1 7 1 2z" fill="var(--color-primary)" />
  </svg>
);

/** What it is measured by, and what was reckoned of it when it began. */
function Begun({ view }: { view: View }) {
  const { grams, places } = useNumbers();
  const f = view.frozen;
  return (
    <p className="mt-1 text-sm">
      Measured by {view.reference}.
      {f && (
        <>
          {" "}
          Reckoned when it began:{" "}
          {[
            f.hold_g != null && `hold back ${grams(f.hold_g)} g`,
            f.spread_cm != null && `60 mL spreads to ${places(f.spread_cm, 1)} cm`,
            `${places(f.pieces ?? 0, 1)} pieces`,
            f.cost != null && `${places(f.cost, 2)} in all`,
          ]
            .filter(Boolean)
            .join(", ")}
          .
        </>
      )}
    </p>
  );
}
