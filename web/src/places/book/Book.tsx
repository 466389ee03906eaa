import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { shelfQuery } from "../../api/queries";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { FileSheet } from "../../kit/FileSheet";
import { useSettled } from "../../kit/settled";
import { useStill } from "../../kit/still";
import { Tick } from "../../kit/Tick";
import { useTell } from "../../kit/Toast";
import { counted } from "../../pure/counted";
import { day } from "../../pure/format";
import { FamilyTree } from "./Family";
import { Standing } from "./Standing";

const PAGE = 40;

/** The Book: batters to find on the left, and the family tree of the one that is open. */
export default function Book() {
  const { batter } = useParams();
  const [query, setQuery] = useSearchParams();
  const { start, act } = useBench();
  const go = useNavigate();
  const tell = useTell();
  const text = query.get("q") ?? "";
  const settled = useSettled(text, 30);
  const filter = {
    q: settled,
    diet: query.get("diet") ?? "",
    form: (query.get("form") || undefined) as "griddle" | undefined,
    larder: query.get("larder") === "1",
    archived: query.get("archived") === "1",
    limit: Math.min(100, PAGE * Number(query.get("pages") ?? 1)),
  };
  const shelf = useQuery({ ...shelfQuery(filter), placeholderData: keepPreviousData });
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
    document.title = "Book · Mutabilis";
  }, []);
  const { shown: found, hold } = useStill(shelf.data?.batters ?? []);
  const search = query.toString();
  return (
    <main className="mx-auto max-w-[86rem] px-4 pt-3 pb-8 sm:px-6">
      <header
        className={`mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 ${batter ? "max-lg:[&>*:not(h1)]:hidden" : ""}`}
      >
        <h1 className="text-2xl font-bold">Book</h1>
        <input
          type="search"
          aria-label="Search names, ingredients and notes"
          placeholder="name, ingredient or a word of a note"
          maxLength={200}
          className="input h-11 w-full text-base sm:w-80"
          value={text}
          onChange={(event) => set("q", event.target.value)}
        />
        <select
          aria-label="Fits a diet"
          className="h-11 rounded-field border border-base-300 bg-base-100 px-2"
          value={filter.diet}
          onChange={(event) => set("diet", event.target.value)}
        >
          <option value="">any diet</option>
          {start.known_diets.map((d) => (
            <option key={d.key} value={d.key}>
              fits {d.label.toLowerCase()}
            </option>
          ))}
        </select>
        <select
          aria-label="Form"
          className="h-11 rounded-field border border-base-300 bg-base-100 px-2"
          value={filter.form ?? ""}
          onChange={(event) => set("form", event.target.value)}
        >
          <option value="">any form</option>
          {start.forms.map((f) => (
            <option key={f.key} value={f.key}>
              {f.label}s
            </option>
          ))}
        </select>
        <Tick label="I have everything" on={filter.larder} onChange={(on) => set("larder", on ? "1" : "")} />
        <Tick label="archived" on={filter.archived} onChange={(on) => set("archived", on ? "1" : "")} />
        <span className="ml-auto flex gap-2">
          <Button onClick={() => set("file", "open")}>Read a file…</Button>
          <a
            href="/api/everything"
            download
            className="flex min-h-11 items-center rounded-field border border-base-300 bg-base-100 px-4 hover:border-base-content"
          >
            Save all
          </a>
        </span>
      </header>
      <div className="grid grid-cols-1 gap-x-6 gap-y-4 lg:grid-cols-[25rem_minmax(0,1fr)]">
        <section aria-label="Batters" aria-busy={shelf.isFetching} className={batter ? "max-lg:hidden" : ""}>
          <p className="mb-1 text-sm" role="status">
            {shelf.isError
              ? shelf.error.message
              : shelf.data
                ? `${counted(shelf.data.total, { one: "1 batter", other: "# batters" })}${shelf.data.more ? " and perhaps more: narrow the search" : ""}`
                : "Opening the Book…"}
          </p>
          <ul className="flex flex-col gap-1" {...hold}>
            {found.map((b) => (
              <li key={b.id}>
                <Link
                  to={`/book/${b.id}${search ? `?${search}` : ""}`}
                  aria-current={b.id === batter ? "true" : undefined}
                  className={`block min-h-14 border-l-[6px] bg-base-100 px-3 py-1.5 hover:border-base-content ${b.id === batter ? "border-primary" : "border-secondary"}`}
                >
                  <span className="flex items-baseline gap-2">
                    <span className="truncate text-lg font-semibold">{b.name}</span>
                    <span className="ml-auto shrink-0">
                      <Standing standing={b.standing} />
                    </span>
                  </span>
                  <span className="block truncate text-sm">
                    {start.forms.find((f) => f.key === b.form)?.label}
                    {b.versions > 1 && `, ${b.versions} versions`}
                    {`, ${day(b.saved)}`}
                    {b.made > 0 &&
                      ` · made ${counted(b.made, { one: "once", other: "# times" })}, last ${day(b.last_made)}${b.stars ? `, ${b.stars} of 5` : ""}`}
                    {b.note && ` · ${b.note}`}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
          {shelf.data && found.length < shelf.data.total && found.length < 100 && (
            <Button className="mt-2 w-full" onClick={() => set("pages", String(Number(query.get("pages") ?? 1) + 1))}>
              Show more
            </Button>
          )}
          {shelf.data && found.length >= 100 && found.length < shelf.data.total && (
            <p className="mt-2 text-sm">The first hundred are shown: a word in the search finds the rest.</p>
          )}
          {shelf.data && found.length === 0 && (
            <p className="border-l-[6px] border-base-300 px-4 py-3">
              {search
                ? "Nothing on this shelf answers to that. Take a word or a filter away."
                : "The Book is empty. Write a batter down on the Bench, or read a recipe file."}
            </p>
          )}
        </section>
        {batter ? (
          <FamilyTree key={batter} id={batter} />
        ) : (
          <p className="hidden border-l-[6px] border-base-300 px-4 py-3 lg:block">
            Open a batter to see its family: where each version came from, what changed, for whom, and how it came out.
          </p>
        )}
      </div>
      {query.get("file") && (
        <FileSheet
          onClose={() => set("file", "")}
          onLay={(name, laid) => {
            act({ type: "lay", name, batter: laid });
            tell(`${name} is on the bench, to be looked at before it is saved.`);
            go("/bench");
          }}
        />
      )}
    </main>
  );
}
