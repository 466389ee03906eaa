import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type Answered, api, clock, got } from "../../api/client";
import { mixesQuery, shelfQuery, versionQuery } from "../../api/queries";
import { freshId, useWrite } from "../../api/write";
import { useBench } from "../../app/BenchContext";
import { cookHere, keepCook } from "../../app/cook";
import { useNeedWords } from "../../app/needs";
import { Button } from "../../kit/Button";
import { Choose } from "../../kit/Choose";
import { NumberField } from "../../kit/NumberField";
import { Sheet } from "../../kit/Sheet";
import { useSettled } from "../../kit/settled";
import { useStill } from "../../kit/still";
import { atHour } from "../../pure/clock";
import { counted } from "../../pure/counted";

type Order = NonNullable<Answered<"NewBatch">["order"]>;
const ORDERS: readonly (readonly [Order, string])[] = [
  ["two_bowls", "two bowls"],
  ["one_bowl", "one bowl"],
  ["blender", "blender"],
];

/** A batch is started: of which version, how many pieces, for whom, and when. */
export function StartSheet(props: { version: string | null; mix: string | null; onClose: () => void }) {
  const { version, mix, onClose } = props;
  const [chosen, setChosen] = useState<string | null>(version);
  return (
    <Sheet title="Start a batch" onClose={onClose} wide>
      {chosen ? (
        <Details version={chosen} mix={mix} onOther={version ? null : () => setChosen(null)} />
      ) : (
        <Pick onPick={setChosen} />
      )}
    </Sheet>
  );
}

function Pick({ onPick }: { onPick: (version: string) => void }) {
  const words = useNeedWords();
  const [text, setText] = useState("");
  const settled = useSettled(text, 120);
  const shelf = useQuery({ ...shelfQuery({ q: settled, limit: 12 }), placeholderData: keepPreviousData });
  const { shown, hold } = useStill(shelf.data?.batters);
  return (
    <>
      <input
        data-first
        aria-label="Find a batter"
        placeholder="Find a batter"
        maxLength={200}
        className="h-12 w-full rounded-field border border-base-content/50 bg-base-100 px-3 text-lg"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {shelf.isError && <p role="alert">{shelf.error.message}</p>}
      <ul className="mt-2" {...hold}>
        {shown?.map((b) => (
          <li key={b.id} className="border-b border-base-300/60">
            <button
              type="button"
              className="flex min-h-14 w-full flex-wrap items-baseline gap-x-4 px-2 py-2 text-left hover:bg-base-200"
              onClick={() => onPick(b.match)}
            >
              <b className="text-lg">{b.name}</b>
              <span>
                {counted(b.versions, { one: "one version", other: "the latest of # versions" })}
                {b.diets.length > 0 && `, ${b.diets.map(words).join(", ")}`}
              </span>
              <span className="ml-auto">{b.standing}</span>
            </button>
          </li>
        ))}
      </ul>
      {shown?.length === 0 && <p className="mt-3 text-lg">No batter of that name. Save one on the Bench first.</p>}
      <p className="mt-3">An older version is made from its family in the Book.</p>
    </>
  );
}

function Details(props: { version: string; mix: string | null; onOther: (() => void) | null }) {
  const { version, mix, onOther } = props;
  const { start } = useBench();
  const go = useNavigate();
  const [id] = useState(freshId);
  const [by, setBy] = useState<"pieces" | "factor">("pieces");
  const [amount, setAmount] = useState<number | null>(null);
  const [whom, setWhom] = useState("");
  const [cook, setCook] = useState(cookHere);
  const [order, setOrder] = useState<Order | null>(null);
  const [first, setFirst] = useState("");
  const [own, setOwn] = useState<string[] | null>(null);
  const whole = useQuery(versionQuery(version));
  const mixes = useQuery({ ...mixesQuery, enabled: mix !== null });
  const bag = mixes.data?.find((m) => m.kept.id === mix);
  const [taken, setTaken] = useState<number | null>(null);
  const grams = taken ?? Math.min(bag?.kept.left_g ?? 0, bag?.kept.bag.batch_g ?? 0);
  const diets = own ?? whole.data?.diets ?? [];
  const begin = useWrite(
    () =>
      got(
        api.POST("/api/stove/batches", {
          body: {
            version,
            id,
            size: amount === null || bag ? null : { by, amount },
            mix: bag ? { id: bag.kept.id, grams, name: bag.kept.bag.name } : null,
            diets,
            whom: whom.trim(),
            cook: cook.trim(),
            first_at: first === "" ? null : atHour(first, clock.now()),
            order,
          },
        }),
      ),
    {
      changes: "batch",
      done: (view) => {
        keepCook(cook.trim());
        go(`/stove/${view.id}`);
      },
    },
  );
  if (whole.isError) return <p role="alert">{whole.error.message}</p>;
  if (!whole.data || (mix !== null && !mixes.data)) return <p>Opening…</p>;
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        begin.mutate(undefined);
      }}
    >
      <p className="text-xl">
        <b>{whole.data.name}</b>, version {whole.data.number}
        {onOther && (
          <Button kind="link" className="ml-4" onClick={onOther}>
            another one
          </Button>
        )}
      </p>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-3">
        {bag ? (
          <NumberField
            label="of the dry mix"
            unit="g"
            value={grams}
            min={1}
            max={bag.kept.left_g}
            required
            onChange={(v) => v !== null && setTaken(v)}
          />
        ) : (
          <>
            <Choose
              label="by"
              options={[
                ["pieces", "pieces"],
                ["factor", "times"],
              ]}
              value={by}
              onChange={setBy}
            />
            <NumberField
              label={by === "pieces" ? "pieces" : "times"}
              value={amount}
              min={by === "pieces" ? 1 : 0.05}
              max={by === "pieces" ? 5000 : 100}
              placeholder="as written"
              onChange={setAmount}
            />
          </>
        )}
        <label className="flex items-center gap-2">
          first piece at
          <input
            type="time"
            className="figure h-11 rounded-field border border-base-300 bg-base-100 px-2"
            value={first}
            onChange={(event) => setFirst(event.target.value)}
          />
        </label>
        <Choose
          label="mixed in"
          options={ORDERS}
          value={order ?? whole.data.batter.order ?? (whole.data.batter.blender ? "blender" : "two_bowls")}
          onChange={setOrder}
        />
      </div>
      {bag && (
        <p>
          {bag.add_words} In the bag are {Math.round(bag.kept.left_g)} g.
          {bag.past && <b className="text-warning"> Its day has passed: look, smell, and rather make a fresh one.</b>}
        </p>
      )}
      {mix !== null && !bag && <p role="alert">That bag is no longer on the shelf: the batch is weighed out afresh.</p>}
      <label className="block">
        For whom
        <input
          className="mt-1 block h-11 w-full max-w-md rounded-field border border-base-300 bg-base-100 px-3"
          maxLength={120}
          placeholder="the table by the door"
          value={whom}
          onChange={(event) => setWhom(event.target.value)}
        />
      </label>
      <label className="block">
        Who cooks
        <input
          className="mt-1 block h-11 w-full max-w-md rounded-field border border-base-300 bg-base-100 px-3"
          maxLength={60}
          placeholder="nobody in particular"
          value={cook}
          onChange={(event) => setCook(event.target.value)}
        />
      </label>
      <fieldset>
        <legend className="font-semibold">Their diets</legend>
        <div className="mt-1 flex flex-wrap gap-1.5">
          {start.known_diets.map((d) => (
            <button
              key={d.key}
              type="button"
              aria-pressed={diets.includes(d.key)}
              className={`min-h-11 rounded-field border px-3 ${diets.includes(d.key) ? "border-neutral bg-neutral text-neutral-content" : "border-base-300"}`}
              onClick={() => setOwn(diets.includes(d.key) ? diets.filter((x) => x !== d.key) : [...diets, d.key])}
            >
              {d.label}
            </button>
          ))}
        </div>
      </fieldset>
      {begin.isError && (
        <p role="alert" className="text-error">
          {begin.error.message}
        </p>
      )}
      <Button type="submit" data-first disabled={begin.isPending} kind="strong" className="justify-self-start">
        {begin.isPending ? "Starting…" : "Start"}
      </Button>
    </form>
  );
}
