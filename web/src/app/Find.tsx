import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { familyQuery, findQuery, shelfQuery, versionQuery } from "../api/queries";
import { Combobox } from "../kit/Combobox";
import { Sheet } from "../kit/Sheet";
import { useBench } from "./BenchContext";

type Entry = { key: string; kind?: string; name: string; beside: string; act: () => void };

/** One box for batters, ingredients, places and actions. */
export default function Find({ onClose, only }: { onClose: () => void; only?: "batter" }) {
  const [text, setText] = useState("");
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
    { key: "undo", kind: "action", name: "Undo on the Bench", beside: "u", act: () => bench.undo() },
    { key: "start", kind: "action", name: "Start a batch", beside: "Stove", act: () => go("/stove?start=1") },
    {
      key: "print",
      kind: "action",
      name: "Print this page",
      beside: "paper",
      act: () => setTimeout(() => print(), 50),
    },
    {
      key: "settings",
      kind: "action",
      name: "Settings: measures, light, sound, keys",
      beside: "Kitchen",
      act: () => go("/kitchen"),
    },
    { key: "help", kind: "place", name: "Help: terms and keys", beside: "what is what", act: () => go("/help") },
    {
      key: "morning",
      kind: "place",
      name: "Morning: plan a breakfast",
      beside: "who comes",
      act: () => go("/morning"),
    },
    {
      key: "journal",
      kind: "place",
      name: "Journal: why a batch came out so",
      beside: "the log",
      act: () => go("/journal"),
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
          beside: b.note,
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
  const busy = asked !== "" && (found.isFetching || found.isPlaceholderData);
  return (
    <Sheet title={only ? "Open a batter" : "Find"} onClose={onClose}>
      <Combobox
        always
        label={only ? "A batter's name, or what is in it" : "Batter, ingredient, place or action"}
        placeholder={only ? "name, ingredient or note" : "batter, ingredient, place or action"}
        text={text}
        onText={setText}
        choices={only ? entries.map((entry) => ({ ...entry, kind: undefined })) : entries}
        busy={busy}
        onTake={(entry) => {
          onClose();
          entry.act();
        }}
      />
      {entries.length === 0 && !found.isFetching && (
        <p>Nothing has that name. Fewer letters find more; misspellings are forgiven.</p>
      )}
    </Sheet>
  );
}
