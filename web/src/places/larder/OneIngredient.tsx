import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { ingredientQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { useHeld } from "../../kit/held";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { ReadPackSheet } from "../../kit/ReadPackSheet";
import { useTell } from "../../kit/Toast";
import { allergen } from "../../pure/format";
import { Does } from "./Does";
import { LabelSheet } from "./LabelSheet";

type Item = Answered<"Item">;
type Known = Answered<"Known">;
type Measure = Known["weighs"][number]["measure"];
type Weighing = { grams: number | null; of: number; measure: Measure };
const NONE: Weighing = { grams: null, of: 1, measure: "cup" };
const MEASURES: Record<Measure, [string, string]> = {
  cup: ["cup", "cups"],
  tbsp: ["table spoon", "table spoons"],
  tsp: ["tea spoon", "tea spoons"],
};

/** One ingredient: what it does, what is in, what it costs, what it weighs and drinks in this kitchen, and what its pack says. */
export function OneIngredient({ id }: { id: string }) {
  const known = useQuery(ingredientQuery(id));
  if (known.isError) return <p role="alert">{known.error.message}</p>;
  if (!known.data) return <p>Looking it up…</p>;
  return <Sheet known={known.data} />;
}

function Sheet({ known }: { known: Known }) {
  const { places } = useNumbers();
  const { ingredient: i, label } = known;
  const [open, setOpen] = useState<"pack" | "label" | null>(null);
  const [weighing, setWeighing] = useState<Weighing>(NONE);
  const tell = useTell();
  const go = useNavigate();
  const { state, act } = useBench();
  const queries = useQueryClient();
  const put = useWrite(
    (next: Item) => got(api.PUT("/api/larder/{id_}", { params: { path: { id_: i.id } }, body: next })),
    { changes: "item", order: `larder ${i.id}` },
  );
  const held = useHeld<Item>(known.item, put.mutateAsync, (next) =>
    queries.setQueryData(ingredientQuery(i.id).queryKey, (old) => (old ? { ...old, item: next } : old)),
  );
  const item = held.value;
  const archive = useWrite(
    (back: boolean) => got(api.DELETE("/api/labels/{id_}", { params: { path: { id_: i.id }, query: { back } } })),
    { changes: "label" },
  );
  const unread = useWrite(
    ({ reading, back }: { reading: string; back: boolean }) =>
      got(api.DELETE("/api/readings/{id_}", { params: { path: { id_: reading }, query: { back } } })),
    { changes: "reading" },
  );
  const set = (part: Partial<Item>, words: string) => {
    const was = held.latest();
    held.keep({ ...was, ...part });
    tell(words, () => held.keep(was));
  };
  const from = label ? "its label" : "the table";
  return (
    <section aria-label={i.name}>
      <header className="mb-2 flex flex-wrap items-center gap-2 border-b-2 border-secondary pb-1">
        <Link to="/larder" className="min-h-11 content-center pr-2 underline underline-offset-4 lg:hidden">
          All ingredients
        </Link>
        <h2 className="min-w-0 text-xl font-bold break-words">{i.name}</h2>
        <span className="text-sm">{i.group.replaceAll("_", " ")}</span>
        <span className="ml-auto flex flex-wrap gap-1.5">
          <Button
            kind="small"
            onClick={() => {
              act({
                type: "addLines",
                lines: [
                  {
                    text: `50 g ${i.name}`,
                    ingredient: i.id,
                    grams: 50,
                    low: 50,
                    high: 50,
                    confidence: i.confidence,
                    note: "",
                    problem: "",
                    where: "batter",
                    optional: false,
                    states: [],
                    also: [],
                    maybe: [],
                    heard: [],
                    unread: [],
                    wished: [],
                    guessed: "",
                    side: "",
                  },
                ],
              });
              tell(`50 g of ${i.name} added to ${state.name}.`);
              go("/bench");
            }}
          >
            Add to the Bench
          </Button>
          <Button kind="small" onClick={() => setOpen("pack")}>
            Read the pack…
          </Button>
          {label && (
            <Button kind="small" onClick={() => setOpen("label")}>
              Its label…
            </Button>
          )}
          {label && (
            <Button
              kind="small"
              onClick={() => {
                archive.mutate(false);
                tell(`${i.name} is archived; versions that hold it stay readable.`, () => archive.mutate(true));
                go({ pathname: "/larder", search: window.location.search });
              }}
            >
              Archive
            </Button>
          )}
        </span>
      </header>
      <Does does={known.does} words />
      {put.isError && (
        <p role="alert" className="mt-2 text-error">
          {put.error.message}
        </p>
      )}
      <div className="mt-3 grid gap-x-10 gap-y-5 md:grid-cols-2">
        <div className="grid content-start gap-2">
          <h3 className="font-bold">In the kitchen</h3>
          <NumberField
            label="in"
            unit="g"
            whenDone
            value={item.stock_g ?? null}
            onChange={(stock_g) =>
              set({ stock_g }, stock_g === null ? "Not counted any more." : `${places(stock_g, 0)} g in.`)
            }
          />
          <label className="flex items-center gap-2">
            pack
            <input
              className="input h-10 max-w-64"
              maxLength={120}
              defaultValue={item.pack ?? ""}
              placeholder="which pack is in use"
              onBlur={(event) => {
                const pack = event.target.value.trim() || null;
                if (pack !== (item.pack ?? null))
                  set({ pack }, pack ? `${pack} is in use; what was read on another pack lapses.` : "No pack named.");
              }}
            />
          </label>
          <NumberField
            label="a pack holds"
            whenDone
            unit="g"
            min={1}
            value={item.pack_g ?? null}
            onChange={(pack_g) => set({ pack_g }, "Pack kept.")}
          />
          <NumberField
            label="and costs"
            whenDone
            unit=""
            value={item.price ?? null}
            onChange={(price) => set({ price }, "Price kept.")}
          />
          {item.price != null && item.pack_g != null && (
            <p className="text-sm">
              That is <span className="figure">{places((1000 * item.price) / item.pack_g, 2)}</span> a kilogram; the
              cost of a piece follows on the Bench.
            </p>
          )}
        </div>
        <div className="grid content-start gap-2">
          <h3 className="font-bold">Your cup and spoon of it</h3>
          <p className="flex flex-wrap items-center gap-2">
            <NumberField
              label="I weighed"
              min={0.25}
              max={50}
              required
              value={weighing.of}
              onChange={(of) => setWeighing({ ...weighing, of: of ?? 1 })}
            />
            <select
              aria-label="Of what"
              className="h-10 rounded-field border border-base-300 bg-base-100 px-2"
              value={weighing.measure}
              onChange={(event) => setWeighing({ ...weighing, measure: event.target.value as Measure })}
            >
              {Object.entries(MEASURES).map(([key, [, many]]) => (
                <option key={key} value={key}>
                  {many}
                </option>
              ))}
            </select>
            <NumberField
              label="at"
              unit="g"
              min={0.1}
              max={10_000}
              value={weighing.grams}
              onChange={(grams) => setWeighing({ ...weighing, grams })}
            />
            <Button
              disabled={weighing.grams === null}
              onClick={() => {
                const one = Math.round((100 * weighing.grams!) / weighing.of) / 100;
                const { measure } = weighing;
                set(
                  { [`${measure}_g`]: one, [`${measure}_ml`]: null },
                  `A ${MEASURES[measure][0]} of it is ${places(one, 1)} g from now on.`,
                );
                setWeighing(NONE);
              }}
            >
              Use it
            </Button>
          </p>
          {known.weighs.length === 0 && <p className="text-sm">No cup or spoon of it is known.</p>}
          <ul className="text-sm">
            {known.weighs.map((w) => (
              <li key={w.measure} className="flex min-h-9 flex-wrap items-center gap-x-2">
                <span>
                  A {MEASURES[w.measure][0]} is counted as <span className="figure">{places(w.counted_g, 1)}</span> g
                  {w.weighed ? `, weighed here; ${from} has ${places(w.given_g, 1)} g` : ""}
                </span>
                {w.weighed && (
                  <Button
                    kind="small"
                    onClick={() =>
                      set(
                        { [`${w.measure}_g`]: null, [`${w.measure}_ml`]: null },
                        `The ${MEASURES[w.measure][0]} as ${from} has it.`,
                      )
                    }
                  >
                    As {from} has it
                  </Button>
                )}
              </li>
            ))}
          </ul>
          {known.table_absorption > 0 || item.absorption != null ? (
            <>
              <h3 className="mt-3 font-bold">What it drinks</h3>
              <NumberField
                label="set by hand"
                whenDone
                unit="g water a gram"
                max={20}
                value={item.absorption ?? null}
                placeholder={places(known.table_absorption, 2)}
                onChange={(absorption) =>
                  set(
                    { absorption },
                    absorption === null
                      ? "The thirst as it was given."
                      : `It drinks ${places(absorption, 2)} g a gram here.`,
                  )
                }
              />
              {known.learned && (
                <p>
                  Learned at the stove:{" "}
                  <span className="figure">{places(known.table_absorption * known.learned.after_mean, 2)}</span> g, ±{" "}
                  {places(2 * known.table_absorption * known.learned.after_sd, 2)}
                  {item.absorption != null && " (what is set by hand counts)"}.{" "}
                  <Link className="underline underline-offset-4" to="/kitchen/learned">
                    How
                  </Link>
                </p>
              )}
              <p className="text-sm">
                {item.absorption != null && "Set in this kitchen. "}
                {label?.absorption != null
                  ? "Given with its label"
                  : label
                    ? "Guessed from its label"
                    : "The table has"}{" "}
                <span className="figure">{places(known.table_absorption, 2)}</span> g
                {known.absorption_range &&
                  `; starch, fibre and protein speak for ${places(known.absorption_range.low, 2)} to ${places(known.absorption_range.high, 2)} g`}
                .
              </p>
            </>
          ) : null}
        </div>
        <div>
          <h3 className="mb-1 font-bold">In 100 g</h3>
          <table className="w-full max-w-sm">
            <tbody>
              {(
                [
                  ["energy", i.kcal, "kcal"],
                  ["water", i.water_g, "g"],
                  ["fat", i.fat_g, "g"],
                  ["carbohydrate, fibre in it", i.carb_g, "g"],
                  ["sugars", i.sugars_g, "g"],
                  ["fibre", i.fibre_g, "g"],
                  ["protein", i.protein_g, "g"],
                  ["sodium", i.sodium_mg, "mg"],
                ] as const
              ).map(([name, value, unit]) => (
                <tr key={name} className="border-b border-base-300/50">
                  <td className="py-0.5">{name}</td>
                  <td className="figure py-0.5 text-right">{places(value, 1)}</td>
                  <td className="py-0.5 pl-1 text-sm">{unit}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-1 text-sm">
            {i.confidence} confidence, source {i.source}.
          </p>
        </div>
        <div>
          <h3 className="mb-1 font-bold">Allergens and packs</h3>
          <p>
            {i.allergens.length > 0 ? i.allergens.map(worded).join(", ") : "None of the listed allergens in it"}
            {i.contains_gluten === "risk" && "; gluten may travel with it"}. The pack's own label decides.
          </p>
          {known.standing && (
            <p className="mt-1">
              <b>Stands:</b> {known.standing}.
            </p>
          )}
          <ul>
            {known.readings.map((r) => (
              <li key={r.id} className="flex min-h-11 flex-wrap items-center gap-2 border-b border-base-300/50">
                {r.reading.on}: {r.reading.pack}, read by {r.reading.by}
                <span className="ml-auto">
                  <Button
                    kind="small"
                    onClick={() => {
                      unread.mutate({ reading: r.id, back: false });
                      tell("That reading counts no more.", () => unread.mutate({ reading: r.id, back: true }));
                    }}
                  >
                    Undo
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        </div>
      </div>
      {open === "pack" && <ReadPackSheet id={i.id} name={i.name} onClose={() => setOpen(null)} />}
      {open === "label" && label && (
        <LabelSheet label={label} onClose={() => setOpen(null)} onKept={() => setOpen(null)} />
      )}
    </section>
  );
}

function worded(token: string): string {
  const [kind, rest] = token.includes(":") ? (token.split(/:(.*)/s) as [string, string]) : ["", token];
  if (kind === "may") return `may hold traces of ${allergen(rest)}`;
  if (kind === "check") return rest === "any" ? "only the pack can tell" : `check the pack for ${allergen(rest)}`;
  if (kind === "cross") return `some who react to ${allergen(rest)} react to it too`;
  return allergen(token);
}
