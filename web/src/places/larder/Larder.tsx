import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { pantryQuery } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Choose } from "../../kit/Choose";
import { useNumbers } from "../../kit/numbers";
import { useSettled } from "../../kit/settled";
import { useStill } from "../../kit/still";
import { Does } from "./Does";
import { DryMixes } from "./DryMixes";
import { LabelSheet } from "./LabelSheet";
import { OneIngredient } from "./OneIngredient";

const PAGE = 40;
const WHICH = [
  ["all", "all"],
  ["in", "what is in"],
  ["own", "own packs"],
] as const;

/** The Larder: every ingredient with what it does, and what this kitchen knows of the one that is open. */
export default function Larder() {
  const { grams, places } = useNumbers();
  const { id } = useParams();
  const [query, setQuery] = useSearchParams();
  const go = useNavigate();
  const text = query.get("q") ?? "";
  const settled = useSettled(text, 30);
  const filter = {
    q: settled,
    group: query.get("group") ?? "",
    which: (query.get("which") ?? "all") as "all" | "in" | "own",
    limit: Math.min(200, PAGE * Number(query.get("pages") ?? 1)),
  };
  const pantry = useQuery({ ...pantryQuery(filter), placeholderData: keepPreviousData });
  const set = (key: string, value: string) =>
    setQuery(
      (old) => {
        if (value) old.set(key, value);
        else old.delete(key);
        if (key !== "pages") old.delete("pages");
        return old;
      },
      { replace: true },
    );
  useEffect(() => {
    document.title = "Larder · Mutabilis";
  }, []);
  const { shown: items, hold } = useStill(pantry.data?.items ?? []);
  const search = query.toString();
  return (
    <main className="mx-auto max-w-[86rem] px-4 pt-3 pb-8 sm:px-6">
      <header className={`mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 ${id ? "max-lg:[&>*:not(h1)]:hidden" : ""}`}>
        <h1 className="text-2xl font-bold">Larder</h1>
        <input
          type="search"
          aria-label="Search ingredients"
          placeholder="plain flour, courgette, oat drnik…"
          maxLength={200}
          className="input h-11 w-full text-base sm:w-80"
          value={text}
          onChange={(event) => set("q", event.target.value)}
        />
        <Choose
          label=""
          options={WHICH}
          value={filter.which}
          onChange={(which) => set("which", which === "all" ? "" : which)}
        />
        <select
          aria-label="Group"
          className="h-11 rounded-field border border-base-300 bg-base-100 px-2"
          value={filter.group}
          onChange={(event) => set("group", event.target.value)}
        >
          <option value="">any group</option>
          {Object.entries(pantry.data?.groups ?? {}).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
        <Button kind="strong" className="ml-auto" onClick={() => set("pack", "new")}>
          Enter a pack…
        </Button>
      </header>
      {!id && <DryMixes />}
      <div className="grid grid-cols-1 gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
        <section aria-label="Ingredients" aria-busy={pantry.isFetching} className={id ? "max-lg:hidden" : ""}>
          <p className="mb-1 text-sm" role="status">
            {pantry.isError
              ? pantry.error.message
              : pantry.data
                ? `${pantry.data.total} ingredients`
                : "Opening the Larder…"}
          </p>
          <ul className="flex flex-col gap-1" {...hold}>
            {items.map((i) => (
              <li key={i.id}>
                <Link
                  to={`/larder/${i.id}${search ? `?${search}` : ""}`}
                  aria-current={i.id === id ? "true" : undefined}
                  className={`flex min-h-12 items-center gap-3 border-l-[6px] bg-base-100 px-3 py-1 hover:border-base-content ${i.id === id ? "border-primary" : i.stock_g ? "border-success" : "border-base-300"}`}
                >
                  <span className="min-w-0 flex-1">
                    <span className="block truncate">{i.name}</span>
                    <span className="block truncate text-sm">
                      {i.own && <b>own pack · </b>}
                      {i.stock_g !== null && (i.stock_g > 0 ? `${grams(i.stock_g)} g in` : "none left")}
                      {i.stock_g !== null && i.price_per_kg !== null && " · "}
                      {i.price_per_kg !== null && `${places(i.price_per_kg, 2)} a kilogram`}
                      {i.stock_g === null && i.price_per_kg === null && i.group}
                      {i.read && " · pack read"}
                    </span>
                  </span>
                  <Does does={i.does} />
                </Link>
              </li>
            ))}
          </ul>
          {pantry.data && items.length < Math.min(200, pantry.data.total) && (
            <Button className="mt-2 w-full" onClick={() => set("pages", String(Number(query.get("pages") ?? 1) + 1))}>
              Show more
            </Button>
          )}
          {items.length >= 200 && (
            <p className="mt-2 text-sm">The first two hundred are shown: a word in the search finds the rest.</p>
          )}
          {pantry.data && items.length === 0 && (
            <p className="border-l-[6px] border-base-300 px-4 py-3">
              Nothing has that name here. Misspellings are forgiven; what is not known can be entered from its pack.
            </p>
          )}
        </section>
        {id ? (
          <OneIngredient key={id} id={id} />
        ) : (
          <p className="hidden border-l-[6px] border-base-300 px-4 py-3 lg:block">
            Open an ingredient: how much is in, what it costs, what your cup of it weighs, what it drinks, and what its
            pack says.
          </p>
        )}
      </div>
      {query.get("pack") === "new" && (
        <LabelSheet onClose={() => set("pack", "")} onKept={(label) => go(`/larder/${label}`)} />
      )}
    </main>
  );
}
