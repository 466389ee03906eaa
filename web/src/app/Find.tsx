import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { familyQuery, findQuery, shelfQuery, versionQuery } from "../api/queries";
import { Sheet } from "../kit/Sheet";
import { useBench } from "./BenchContext";

type Entry = { key: string; kind: string; name: string; beside: string; act: () => void };

/** One box for batters, ingredients, places and actions. */
export function Find({ onClose, only }: { onClose: () => void; only?: "batter" }) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const [waits, setWaits] = useState(false);
  const go = useNavigate();
  const queries = useQueryClient();
  const bench = useBench();
  const asked = text.trim();
  const found = useQuery(findQuery(asked));
  const recent = useQuery({ ...shelfQuery({ limit: 12 }), enabled: asked === "" });

  async function openBatter(id: string) {
    if (!only) return go(`/book/${id}`);
    const family = await queries.fetchQuery(familyQuery(id));
    bench.open(await queries.fetchQuery(versionQuery(family.versions[0]!.id)));
    go("/bench");
  }
  const actions: Entry[] = [
    {
      key: "new",
      kind: "action",
      name: "Write down a new batter",
      beside: "Bench",
      act: () => {
        bench.act({ type: "clear" });
        go("/bench");
      },
    },
    {
      key: "card",
      kind: "action",
      name: "Recipe card of what stands on the Bench",
      beside: "print",
      act: () => go("/card"),
    },
    { key: "bench", kind: "place", name: "Bench", beside: "adapt", act: () => go("/bench") },
    { key: "book", kind: "place", name: "Book", beside: "batters", act: () => go("/book") },
    { key: "larder", kind: "place", name: "Larder", beside: "ingredients", act: () => go("/larder") },
    { key: "kitchen", kind: "place", name: "Kitchen", beside: "cups, schools, light", act: () => go("/kitchen") },
    { key: "diets", kind: "place", name: "Own diets", beside: "allow, deny, limit", act: () => go("/kitchen/diets") },
    {
      key: "pack",
      kind: "action",
      name: "Enter an own pack by its label",
      beside: "Larder",
      act: () => go("/larder?pack=new"),
    },
    { key: "file", kind: "action", name: "Read a recipe file", beside: "Book", act: () => go("/book?file=open") },
  ];
  const words = asked.toLowerCase();
  const entries: Entry[] = [
    ...(asked === ""
      ? (recent.data?.batters ?? []).map((b) => ({
          key: b.id,
          kind: "batter",
          name: b.name,
          beside: b.note.slice(0, 60),
          act: () => void openBatter(b.id),
        }))
      : (found.data ?? [])
          .filter((hit) => !only || hit.kind === only)
          .map((hit) => ({
            key: hit.id,
            kind: hit.kind,
            name: hit.name,
            beside: hit.beside,
            act: () => void (hit.kind === "batter" ? openBatter(hit.id) : go(`/larder/${hit.id}`)),
          }))),
    ...(only ? [] : actions.filter((a) => words === "" || a.name.toLowerCase().includes(words))),
  ];
  const chosen = Math.min(at, entries.length - 1);

  function take(entry: Entry | undefined) {
    if (!entry) return;
    onClose();
    entry.act();
  }
  const settled = asked === "" || (!found.isFetching && !found.isPlaceholderData);
  // Enter pressed faster than the answer comes takes what then stands first, never what stood there before.
  useEffect(() => {
    if (!waits || !settled) return;
    setWaits(false);
    take(entries[chosen]);
  });
  return (
    <Sheet title={only ? "Open a batter" : "Find"} onClose={onClose}>
      <input
        data-first
        type="text"
        role="combobox"
        aria-label={only ? "A batter's name, or what is in it" : "Batter, ingredient, place or action"}
        aria-expanded="true"
        aria-controls="found"
        aria-activedescendant={entries[chosen] ? `found-${chosen}` : undefined}
        maxLength={200}
        className="input mb-2 w-full text-lg"
        placeholder={only ? "name, ingredient or note" : "batter, ingredient, place or action"}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          setWaits(false);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setAt(Math.min(entries.length - 1, chosen + 1));
          else if (event.key === "ArrowUp") setAt(Math.max(0, chosen - 1));
          else if (event.key === "Enter") setWaits(true);
          else return;
          event.preventDefault();
        }}
      />
      <div role="listbox" id="found" aria-label="Found" className="min-h-64" aria-busy={found.isFetching}>
        {entries.map((entry, n) => (
          <div
            key={`${entry.kind}-${entry.key}`}
            id={`found-${n}`}
            role="option"
            tabIndex={-1}
            aria-selected={n === chosen}
            onClick={() => take(entry)}
            onKeyDown={() => {}}
            onMouseMove={() => setAt(n)}
            className={`flex min-h-11 cursor-pointer items-center gap-3 rounded-field px-3 ${n === chosen ? "bg-primary text-primary-content" : ""}`}
          >
            <span className="w-20 shrink-0 text-sm">{entry.kind}</span>
            <span className="truncate font-semibold">{entry.name}</span>
            <span className="ml-auto truncate pl-4 text-sm">{entry.beside}</span>
          </div>
        ))}
      </div>
      {entries.length === 0 && !found.isFetching && (
        <p>Nothing has that name. Fewer letters find more; misspellings are forgiven.</p>
      )}
    </Sheet>
  );
}
