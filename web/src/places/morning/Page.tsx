import type { Answered } from "../../api/client";
import { useNeedWords } from "../../app/needs";
import { allergen } from "../../pure/format";
import { hourOf } from "../../pure/hill";

type View = Answered<"MorningView">;

/** The morning on one page of paper: acts by the minute with room for the real one, loads by surface, plates with allergen marks, cautions. */
export function Page({ view }: { view: View }) {
  const words = useNeedWords();
  const plan = view.plan;
  if (!plan || plan.plates.length === 0) return null;
  const guests = new Map(view.guests.map((g) => [g.id, g]));
  const offers = new Map(view.offers.map((o) => [o.id, o]));
  const people = new Map(view.people.map((p) => [p.id, p.name || p.id]));
  return (
    <section aria-label="On paper" className="hidden print:block">
      <h1 className="text-xl font-bold">Morning of {view.day}</h1>
      <p>
        {view.guests.length} guests, {plan.batters_used.map((b) => offers.get(b)?.name ?? b).join("; ")}.
      </p>
      <div className="grid grid-cols-2 gap-6">
        <div>
          <h2 className="mt-2 font-bold">By the minute</h2>
          <table className="w-full text-left">
            <thead>
              <tr>
                <th scope="col">at</th>
                <th scope="col">act</th>
                <th scope="col">who</th>
                <th scope="col">really at</th>
              </tr>
            </thead>
            <tbody>
              {view.acts.map((a) => (
                <tr key={`${a.do} ${a.of} ${a.at}`} className="border-b">
                  <td className="figure pr-2 align-top">{hourOf(a.at)}</td>
                  <td className="pr-2">{a.words}</td>
                  <td className="pr-2">{view.people.length > 1 ? (people.get(a.who) ?? a.who) : ""}</td>
                  <td className="w-16 border-l" />
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div>
          <h2 className="mt-2 font-bold">By surface</h2>
          {view.stations
            .filter((s) => plan.loads.some((l) => l.station === s.id))
            .map((s) => (
              <div key={s.id}>
                <b>{s.name}</b>
                {s.met.length > 0 && `, has met ${s.met.map(allergen).join(", ")}`}
                <ul>
                  {plan.loads
                    .filter((l) => l.station === s.id)
                    .map((l) => (
                      <li key={l.id}>
                        {l.on.slice(0, 5)} to {l.off.slice(0, 5)}: {l.pieces} of{" "}
                        {offers.get(l.batter)?.name ?? l.batter}
                      </li>
                    ))}
                </ul>
              </div>
            ))}
          <h2 className="mt-2 font-bold">Plates</h2>
          <ul>
            {plan.plates.map((p) => (
              <li key={`${p.table} ${p.wanted}`} className="mb-1">
                <b className="figure">{p.served.slice(0, 5)}</b>
                <ul>
                  {p.guests.map((g) => {
                    const guest = guests.get(g);
                    const gets = offers.get(plan.serves[g] ?? "");
                    return (
                      <li key={g}>
                        {guest?.name ?? g}: {guest?.pieces} of {gets?.name}
                        {guest && guest.needs.length > 0 && (
                          <b>
                            {" "}
                            [
                            {guest.needs
                              .map((n) => `${n.grade === "preference" ? "choice" : n.grade}: ${words(n.what)}`)
                              .join("; ")}
                            ]
                          </b>
                        )}
                        <span>
                          {" "}
                          contains {gets?.contains.map(allergen).join(", ") || "none of the allergens that are tracked"}
                        </span>
                      </li>
                    );
                  })}
                </ul>
              </li>
            ))}
          </ul>
          <h2 className="mt-2 font-bold">Cautions</h2>
          <p>
            Clean mixes, tools and surfaces first; a surface that has met an allergen is not used for whoever may not
            meet it. Cook through; keep hot food hot. Packs are read before they are opened. An allergy is settled with
            the guest; the local code and licensed advice decide.
          </p>
        </div>
      </div>
      <Cards view={view} />
    </section>
  );
}

/** A card for the table of every guest who needs something: what is on the plate and what is not. */
function Cards({ view }: { view: View }) {
  const words = useNeedWords();
  const offers = new Map(view.offers.map((o) => [o.id, o]));
  const mindful = view.guests.filter((g) => g.needs.length > 0 && g.gets);
  if (mindful.length === 0) return null;
  return (
    <ul aria-label="Cards for the table" className="mt-4 grid break-before-page grid-cols-2 gap-3">
      {mindful.map((g) => {
        const contains = offers.get(view.plan?.serves[g.id] ?? "")?.contains ?? [];
        return (
          <li key={g.id} className="break-inside-avoid border p-3">
            <b className="text-lg">{g.name}</b>, {g.served || g.at}
            <p>{g.gets}</p>
            <p>
              Made for: {g.needs.map((n) => words(n.what)).join(", ")}. Contains:{" "}
              {contains.map(allergen).join(", ") || "none of the allergens that are tracked"}.
            </p>
            <p>Made in a kitchen that works with all of them. Ask before you eat, if in doubt.</p>
          </li>
        );
      })}
    </ul>
  );
}
