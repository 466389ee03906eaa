import { useQueryClient } from "@tanstack/react-query";
import { type Answered, api, got } from "../../api/client";
import { morningQuery } from "../../api/queries";
import { give, useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { allergen } from "../../pure/format";

type View = Answered<"MorningView">;

/** The evening before: dry mixes with the clean ones first, what to buy, hands and surfaces. */
export function Evening({ view }: { view: View }) {
  const { grams } = useNumbers();
  const queries = useQueryClient();
  const change = useWrite(
    (body: { cold?: string[]; people?: View["people"] }) =>
      got(api.PATCH("/api/morning/{day}", { params: { path: { day: view.day } }, body: body as never })),
    { done: (fresh) => give(queries, morningQuery(view.day).queryKey, fresh) },
  );
  const short = view.buy.filter((b) => b.have_g === null || b.have_g < b.grams);
  return (
    <section aria-label="Tonight" className="min-w-0">
      <h2 className="mb-1 border-b-2 border-base-content/60 pb-1 text-xl font-bold">Tonight</h2>
      {view.mixes.length === 0 ? (
        <p>Nothing yet.</p>
      ) : (
        <ol className="mb-4">
          {view.mixes.map((m, n) => (
            <li key={m.branches.map((b) => b.name).join(" ")} className="border-b border-base-300 py-2">
              <p className="font-semibold">
                {n + 1}. {m.grams > 0 ? `Dry mix, ${grams(m.grams)} g` : "Nothing to mix ahead"}
              </p>
              {m.free_of.length > 0 && (
                <p className="text-sm font-bold">
                  Wiped bench, clean scoop: nothing of {m.free_of.map(allergen).join(", ")} may get in.
                </p>
              )}
              {m.inside.length > 0 && <p className="text-sm">{m.inside.join(", ")}</p>}
              <ul className="mt-1">
                {m.branches.map((b) => (
                  <li key={b.name} className="border-l-[6px] border-primary/50 py-1 pl-2 text-sm">
                    <b className="text-primary">
                      {b.name}, {b.pieces}
                    </b>
                    , for {b.guests.slice(0, 4).join(", ")}
                    {b.guests.length > 4 && ` and ${b.guests.length - 4} more`}. {b.add}
                  </li>
                ))}
              </ul>
            </li>
          ))}
        </ol>
      )}
      {view.mixes.some((m) => m.grams > 0) && (
        <p className="mb-4 print:hidden">
          <a
            className="inline-flex min-h-11 items-center underline underline-offset-4"
            href={`/api/morning/${view.day}/labels.pdf`}
          >
            Labels for the bags
          </a>
        </p>
      )}
      {view.ahead.length > 0 && (
        <>
          <h3 className="mb-1 text-lg font-bold">Into the cold tonight</h3>
          <ul className="mb-4">
            {view.ahead.map((x) => (
              <li key={x.id} className="border-b border-base-300 py-2">
                <p className="font-semibold">
                  {x.name}, {grams(x.grams)} g{" "}
                  <span className="font-normal">
                    for {x.of},{" "}
                    {x.hands_min + x.wait_min < 1.5 ? "a minute" : `${Math.round(x.hands_min + x.wait_min)} min`}
                  </span>
                </p>
                {x.free_of.length > 0 && (
                  <p className="text-sm font-bold">Nothing of {x.free_of.map(allergen).join(", ")} may get in.</p>
                )}
                <p className="text-sm">
                  {x.text} {x.keeps}
                </p>
                {x.cautions.map((c) => (
                  <p key={c} className="text-sm font-semibold">
                    {c}
                  </p>
                ))}
              </li>
            ))}
          </ul>
        </>
      )}
      {view.mixes.length > 0 && (
        <>
          <h3 className="mb-1 text-lg font-bold">Not before the morning</h3>
          <p className="mb-4">
            Liquid, egg and leavening that works when wet: each batter is mixed at its minute, and no earlier.
          </p>
        </>
      )}
      <h3 className="mb-1 text-lg font-bold">{view.buy.some((b) => b.have_g !== null) ? "To buy" : "What it takes"}</h3>
      <ul className="mb-4">
        {short.length === 0 && view.buy.length > 0 && <li>All of it is in.</li>}
        {(short.length > 0 ? short : []).map((b) => (
          <li key={b.name} className="flex justify-between gap-3 border-b border-base-300 py-1">
            <span>{b.name}</span>
            <span className="figure whitespace-nowrap">{grams(b.grams - (b.have_g ?? 0))} g</span>
          </li>
        ))}
      </ul>
      <h3 className="mb-1 text-lg font-bold">Hands</h3>
      <ul className="mb-2">
        {view.people.map((p) => (
          <li key={p.id} className="flex items-center justify-between gap-2 py-1">
            <span>
              <b>{p.name || p.id}</b>
              {p.from && ` from ${p.from.slice(0, 5)}`}:{" "}
              {(p.may ?? []).includes("all") ? "everything" : (p.may ?? []).join(", ")}
            </span>
            {view.people.length > 1 && (
              <Button
                kind="small"
                className="print:hidden"
                aria-label={`Not here: ${p.name || p.id}`}
                onClick={() => change.mutate({ people: view.people.filter((x) => x.id !== p.id) })}
              >
                Not here
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Button
        kind="small"
        className="mb-4 print:hidden"
        onClick={() =>
          change.mutate({
            people: [
              ...view.people,
              {
                id: `helper_${view.people.length}_${view.people.length + 1}`,
                name: "Helper",
                may: ["turn", "off", "plate", "clean"],
              },
            ] as View["people"],
          })
        }
      >
        A helper who turns, plates and cleans
      </Button>
      <h3 className="mb-1 text-lg font-bold">Surfaces</h3>
      <ul>
        {view.stations.map((s) => (
          <li key={s.id} className="flex items-center justify-between gap-2 py-1">
            <span>
              {s.name}: {s.places === 1 ? "1 place" : `${s.places} places`}
              {s.met.length > 0 && <b className="block text-sm">has met {s.met.map(allergen).join(", ")}</b>}
            </span>
            <Button
              kind="small"
              className="print:hidden"
              aria-label={`Stays cold: ${s.name}`}
              onClick={() => change.mutate({ cold: [...coldOf(view), s.id] })}
            >
              Stays cold
            </Button>
          </li>
        ))}
      </ul>
      {view.cold.length > 0 && (
        <Button kind="small" className="print:hidden" onClick={() => change.mutate({ cold: [] })}>
          Use all surfaces again
        </Button>
      )}
      {change.isError && <p role="alert">{change.error.message}</p>}
    </section>
  );
}

function coldOf(view: View): string[] {
  return [...view.cold];
}
