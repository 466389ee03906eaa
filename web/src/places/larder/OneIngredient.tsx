import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, got } from "../../api/client";
import { ingredientQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { useHeld } from "../../kit/held";
import { ReadPackSheet } from "../../kit/ReadPackSheet";
import { useTell } from "../../kit/Toast";
import { AllergensAndPacks, Contained } from "./Contained";
import { Does } from "./Does";
import { InTheKitchen } from "./InTheKitchen";
import type { Item, Known } from "./item";
import { LabelSheet } from "./LabelSheet";
import { Weighs } from "./Weighs";

/** One ingredient: what it does, what is in, what it costs, what it weighs and drinks in this kitchen, and what its pack says. */
export function OneIngredient({ id }: { id: string }) {
  const known = useQuery(ingredientQuery(id));
  if (known.isError) return <p role="alert">{known.error.message}</p>;
  if (!known.data) return <p>Looking it up…</p>;
  return <Sheet known={known.data} />;
}

function Sheet({ known }: { known: Known }) {
  const { ingredient: i, label } = known;
  const [open, setOpen] = useState<"pack" | "label" | null>(null);
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
  const set = (part: Partial<Item>, words: string) => {
    const was = held.latest();
    void held.keep({ ...was, ...part }).then((kept) => kept && tell(words, () => held.keep(was)));
  };
  return (
    <section aria-label={i.name}>
      <header className="mb-2 flex flex-wrap items-center gap-2 border-b-2 border-secondary pb-1">
        <Link to="/larder" className="min-h-11 content-center pr-2 underline underline-offset-4 lg:hidden">
          All ingredients
        </Link>
        <h2 className="min-w-0 text-xl font-bold break-words">{i.name}</h2>
        <span className="text-sm">{known.group}</span>
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
        <InTheKitchen item={item} set={set} />
        <Weighs known={known} item={item} set={set} />
        <Contained ingredient={i} />
        <AllergensAndPacks known={known} />
      </div>
      {open === "pack" && <ReadPackSheet id={i.id} name={i.name} onClose={() => setOpen(null)} />}
      {open === "label" && label && (
        <LabelSheet label={label} onClose={() => setOpen(null)} onKept={() => setOpen(null)} />
      )}
    </section>
  );
}
