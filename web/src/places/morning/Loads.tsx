import type { Answered } from "../../api/client";
import { allergen } from "../../pure/format";

type View = Answered<"MorningView">;

/** The loads in words, surface by surface: what the hill shows, and what is printed. */
export function Loads({ view }: { view: View }) {
  const plan = view.plan;
  if (!plan || plan.loads.length === 0) return null;
  const names = new Map(view.guests.map((g) => [g.id, g.name]));
  const offers = new Map(view.offers.map((o) => [o.id, o.name]));
  return (
    <details className="mt-2" open={undefined}>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold underline underline-offset-4">
        Loads and plates as a list
      </summary>
      {view.stations
        .filter((s) => plan.loads.some((l) => l.station === s.id))
        .map((s) => (
          <section key={s.id} aria-label={s.name} className="mb-3">
            <h3 className="font-bold">
              {s.name}
              {s.met.length > 0 && <span className="font-normal"> (has met {s.met.map(allergen).join(", ")})</span>}
            </h3>
            <ul>
              {plan.loads
                .filter((l) => l.station === s.id)
                .map((l) => (
                  <li key={l.id} className="grid grid-cols-[5rem_minmax(0,1fr)] gap-2 border-b border-base-300 py-1">
                    <span className="figure">{l.on.slice(0, 5)}</span>
                    <span>
                      {l.pieces} of {offers.get(l.batter) ?? l.batter}, off at {l.off.slice(0, 5)}: for{" "}
                      {Object.keys(l.guests)
                        .map((g) => names.get(g) ?? g)
                        .join(", ")}
                    </span>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      <section aria-label="Plates">
        <h3 className="font-bold">Plates</h3>
        <ul>
          {plan.plates.map((p) => (
            <li
              key={`${p.table} ${p.wanted}`}
              className="grid grid-cols-[5rem_minmax(0,1fr)] gap-2 border-b border-base-300 py-1"
            >
              <span className="figure">{p.served.slice(0, 5)}</span>
              <span>{p.guests.map((g) => names.get(g) ?? g).join(", ")}</span>
            </li>
          ))}
        </ul>
      </section>
    </details>
  );
}
