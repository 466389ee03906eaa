import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, got } from "../../api/client";
import { mixQuery } from "../../api/queries";
import { freshId, useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { useTell } from "../../kit/Toast";
import { day } from "../../pure/format";

/** A bag of dry mix of a version: what goes in, for how many batches, what its label says, and that it was made. */
export function MixSheet({ version, number, onClose }: { version: string; number: number; onClose: () => void }) {
  const { grams, places } = useNumbers();
  const [times, setTimes] = useState(1);
  const [id] = useState(freshId);
  const go = useNavigate();
  const tell = useTell();
  const found = useQuery(mixQuery(version, times));
  const keep = useWrite(() => got(api.POST("/api/dry-mixes", { body: { version, times, id } })), {
    changes: "mix",
    done: (bag) => {
      onClose();
      tell(`${grams(bag.kept.left_g)} g of mix are in the Larder, until ${day(bag.kept.use_by)}.`);
      go("/larder");
    },
  });
  const view = found.data;
  return (
    <Sheet title={`Dry mix of version ${number}`} onClose={onClose} wide>
      {found.isError && <p role="alert">{found.error.message}</p>}
      {view && (
        <div className="grid gap-4">
          <NumberField
            label="for so many batches"
            value={times}
            min={0.1}
            max={500}
            required
            onChange={(v) => v !== null && setTimes(v)}
          />
          <div className="grid gap-6 md:grid-cols-2">
            <section aria-label="Into the bag">
              <h3 className="border-b-2 border-primary pb-1 font-bold">Into the bag</h3>
              <ul>
                {view.mix.inside.map((x) => (
                  <li key={x.line} className="flex gap-3 border-b border-base-300/50 py-1">
                    <span className="figure w-24 text-right text-primary">{grams(x.grams * view.times)} g</span>
                    {x.name}
                  </li>
                ))}
              </ul>
              <p className="mt-1">
                <b className="figure">{grams(view.made_g)}</b> g in all, {grams(view.mix.grams)} g to a batch
              </p>
            </section>
            <section aria-label="On the day">
              <h3 className="border-b-2 border-base-content pb-1 font-bold">On the day</h3>
              <p className="mt-1">{view.mix.add_words}</p>
              <p className="mt-2">
                Keeps until <b>{day(view.use_by)}</b>: the {view.mix.limit} keeps least.
              </p>
              <p className="mt-1 text-sm">
                {view.mix.store_words} To 100 g of mix:{" "}
                {view.mix.added.map((x) => `${places(x.per_100g, 1)} g ${x.name}`).join(", ")}.
              </p>
            </section>
          </div>
          <section aria-label="Its label" className="border-l-[6px] border-base-300 bg-base-200 px-4 py-2 text-sm">
            {view.label.map((line) => (
              <p key={line}>{line}</p>
            ))}
          </section>
          {keep.isError && <p role="alert">{keep.error.message}</p>}
          <p>
            <Button kind="strong" disabled={keep.isPending} onClick={() => keep.mutate(undefined)}>
              It is made: into the Larder
            </Button>
          </p>
        </div>
      )}
    </Sheet>
  );
}
