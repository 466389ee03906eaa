import { useState } from "react";
import type { BatterView, Start } from "../../api/client";
import { Button } from "../../kit/Button";
import { Choose } from "../../kit/Choose";
import { useLists } from "../../kit/lists";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { Tick } from "../../kit/Tick";
import type { Act, BenchState, Wish } from "../../pure/bench";
import type { Numbers } from "../../pure/format";
import { WaysOfMaking } from "./Ways";

const FIRST = 7;
const CAPS = ["net_carb_g", "kcal", "sugars_g", "sat_fat_g", "sodium_mg"] as const;
const FLOORS = ["protein_g", "fibre_g"] as const;
type Props = {
  start: Start;
  state: BenchState;
  base: BatterView;
  names: (id: string) => string;
  act: (act: Act) => void;
  onSize: () => void;
};

/** For whom and how: the diets as toggles, how many it serves, and the other wishes a touch away; what is wished stays in sight. */
export function WishRow({ start, state, base, names, act, onSize }: Props) {
  const [all, setAll] = useState(false);
  const [more, setMore] = useState(false);
  const { diets, wish } = state;
  const shown = start.known_diets.filter((d, at) => all || at < FIRST || diets.includes(d.key) || d.own);
  const chips = chipsOf(wish, start, names, act, useNumbers());
  return (
    <section
      aria-label="Wishes"
      className="relative"
      onKeyDown={(event) => event.key === "Escape" && more && setMore(false)}
    >
      <div className="flex flex-wrap items-center gap-1.5">
        <fieldset
          aria-label="Diets"
          className="relative flex min-w-0 gap-1.5 max-lg:w-full max-lg:overflow-x-auto max-lg:pb-1 lg:flex-wrap"
        >
          {shown.map((diet) => {
            const on = diets.includes(diet.key);
            return (
              <button
                key={diet.key}
                type="button"
                aria-pressed={on}
                onClick={() => act({ type: "toggleDiet", diet: diet.key })}
                className={`min-h-9 shrink-0 rounded-field border-2 px-3 text-[0.95rem] pointer-coarse:min-h-11 ${
                  on
                    ? "border-primary bg-primary/10 font-semibold text-primary"
                    : "border-transparent bg-base-100 hover:border-base-content"
                }`}
              >
                {diet.label}
              </button>
            );
          })}
          <button
            type="button"
            aria-expanded={all}
            onClick={() => setAll(!all)}
            className="min-h-9 shrink-0 rounded-field px-2 text-[0.95rem] underline underline-offset-4 pointer-coarse:min-h-11"
          >
            {all ? "fewer" : "more diets"}
          </button>
        </fieldset>
        <span className="ml-auto flex items-center gap-3">
          <NumberField
            label="serves"
            value={base.batter_g > 0 ? Math.round((state.base.servings ?? base.servings) * 10) / 10 : null}
            min={1}
            max={500}
            required
            onChange={(v) => v !== null && act({ type: "servings", servings: v })}
          />
          <Button aria-expanded={more} onClick={() => setMore(!more)} kind="small">
            {more ? "Fewer wishes" : "More wishes"}
          </Button>
        </span>
      </div>
      {more && <Panel start={start} state={state} base={base} act={act} onSize={onSize} />}
      {chips.length > 0 && (
        <ul aria-label="Wished" className="mt-1.5 flex flex-wrap gap-1.5">
          {chips.map((chip) => (
            <li key={chip.words}>
              <button
                type="button"
                onClick={chip.drop}
                className="min-h-9 rounded-field border border-primary px-2.5 text-sm text-primary pointer-coarse:min-h-11"
              >
                {chip.words} <span aria-hidden="true">×</span>
                <span className="sr-only">: remove</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Panel({ start, state, base, act, onSize }: Omit<Props, "names">) {
  const lists = useLists();
  const { wish } = state;
  const set = (part: Partial<Wish>) => act({ type: "wish", wish: part });
  const limit = (kind: "caps" | "floors", key: string, value: number | null) => {
    const { [key]: _, ...rest } = wish[kind];
    set({ [kind]: value === null ? rest : { ...rest, [key]: value } });
  };
  return (
    <div className="absolute top-full right-0 left-0 z-20 mt-1 grid max-h-[75dvh] gap-x-8 gap-y-3 overflow-y-auto rounded-box border border-base-300 bg-base-100 p-4 shadow-xl md:grid-cols-2 xl:grid-cols-3">
      <div className="flex flex-col gap-2.5">
        <label className="flex items-center gap-2">
          make it as
          <select
            className="h-10 rounded-field border border-base-300 bg-base-100 px-2"
            value={wish.form ?? ""}
            onChange={(e) => set({ form: (e.target.value || null) as Wish["form"] })}
          >
            <option value="">what it is</option>
            {start.forms
              .filter((f) => f.key !== state.base.form)
              .map((f) => (
                <option key={f.key} value={f.key}>
                  {f.label}s
                </option>
              ))}
          </select>
        </label>
        <NumberField
          label="pieces"
          value={wish.pieces}
          min={1}
          max={10_000}
          placeholder={`${base.pieces.yields.whole}`}
          onChange={(v) => set({ pieces: v })}
        />
        <NumberField
          label="a piece of"
          unit="mL"
          value={state.base.portion_ml ?? null}
          min={5}
          max={5000}
          placeholder={`${base.pieces.yields.portion_ml}`}
          onChange={(ml) => act({ type: "portion", ml })}
        />
        <p>
          <Button kind="small" onClick={onSize}>
            Another size: a volume, a tray…
          </Button>
        </p>
        <NumberField
          label="ready in"
          unit="min"
          value={wish.minutes}
          max={5000}
          onChange={(v) => set({ minutes: v })}
        />
        <div className="mt-1 max-w-80">
          <p className="mb-1 text-sm">In a serving, at least</p>
          <div className="grid gap-1.5">
            {lists.nutrients(FLOORS).map(({ key, label, unit }) => (
              <Limit
                key={key}
                label={label}
                unit={unit}
                value={wish.floors[key] ?? null}
                onChange={(v) => limit("floors", key, v)}
              />
            ))}
          </div>
        </div>
      </div>
      <div className="flex flex-col gap-2.5">
        <Choose
          label="flow"
          options={[
            ["thinner", "thinner"],
            ["same", "as it is"],
            ["thicker", "thicker"],
          ]}
          value={wish.flow}
          onChange={(flow) => set({ flow, spread_cm: null })}
        />
        <NumberField
          label="or 60 mL run to"
          unit="cm"
          value={wish.spread_cm}
          min={7.5}
          max={18}
          onChange={(v) => set({ spread_cm: v, flow: "same" })}
        />
        <Tick
          label="thinned with water, not with more drink"
          on={wish.thin_with === "water"}
          onChange={(on) => set({ thin_with: on ? "water" : "drink" })}
        />
        <Choose
          label="eggs"
          options={[
            ["as_is", "as they are"],
            ["whole", "whole ones"],
            ["separated", "separated"],
          ]}
          value={wish.eggs}
          onChange={(eggs) => set({ eggs })}
        />
        <Choose
          label="measured by"
          options={[
            ["scale", "scale"],
            ["kitchen", "cups and spoons"],
          ]}
          value={wish.steps}
          onChange={(steps) => set({ steps })}
        />
        <Tick
          label="only with what is in the Larder"
          on={wish.larderOnly}
          onChange={(larderOnly) => set({ larderOnly })}
        />
      </div>
      <div>
        <p className="mb-1 text-sm">In a serving, at most</p>
        <div className="grid gap-1.5">
          {lists.nutrients(CAPS).map(({ key, label, unit }) => (
            <Limit
              key={key}
              label={label}
              unit={unit}
              value={wish.caps[key] ?? null}
              onChange={(v) => limit("caps", key, v)}
            />
          ))}
          <Limit label="cost" unit="" value={wish.maxCost} onChange={(v) => set({ maxCost: v })} />
        </div>
      </div>
      <WaysOfMaking batter={state.base} base={base} act={act} />
    </div>
  );
}

function Limit(props: { label: string; unit: string; value: number | null; onChange: (v: number | null) => void }) {
  return (
    <span className="flex items-center justify-between [&>label]:flex [&>label]:w-full [&>label]:justify-between [&_.unit]:min-w-8">
      <NumberField {...props} max={100_000} />
    </span>
  );
}

function chipsOf(
  wish: Wish,
  start: Start,
  names: Props["names"],
  act: Props["act"],
  { places }: Numbers,
): { words: string; drop: () => void }[] {
  const set = (part: Partial<Wish>) => () => act({ type: "wish", wish: part });
  const chips: { words: string; drop: () => void }[] = [];
  for (const id of wish.bans) chips.push({ words: `without ${names(id)}`, drop: () => act({ type: "toggleBan", id }) });
  for (const id of wish.pins) chips.push({ words: `keeps ${names(id)}`, drop: () => act({ type: "togglePin", id }) });
  for (const [id, g] of Object.entries(wish.locked)) {
    chips.push({ words: `${names(id)} at ${places(g, 1)} g`, drop: () => act({ type: "lock", id, grams: null }) });
  }
  const form = start.forms.find((f) => f.key === wish.form);
  if (form) chips.push({ words: `as ${form.label}s`, drop: set({ form: null }) });
  if (wish.pieces !== null) chips.push({ words: `${places(wish.pieces, 1)} pieces`, drop: set({ pieces: null }) });
  if (wish.minutes !== null)
    chips.push({ words: `ready in ${places(wish.minutes, 0)} min`, drop: set({ minutes: null }) });
  if (wish.flow !== "same") chips.push({ words: wish.flow, drop: set({ flow: "same" }) });
  if (wish.spread_cm !== null)
    chips.push({ words: `runs to ${places(wish.spread_cm, 1)} cm`, drop: set({ spread_cm: null }) });
  if (wish.thin_with === "water") chips.push({ words: "thinned with water", drop: set({ thin_with: "drink" }) });
  if (wish.eggs !== "as_is") chips.push({ words: `eggs ${wish.eggs}`, drop: set({ eggs: "as_is" }) });
  if (wish.steps !== "scale") chips.push({ words: "in cups and spoons", drop: set({ steps: "scale" }) });
  if (wish.larderOnly) chips.push({ words: "only what is in", drop: set({ larderOnly: false }) });
  if (wish.maxCost !== null)
    chips.push({ words: `a serving at most ${places(wish.maxCost, 2)}`, drop: set({ maxCost: null }) });
  for (const [kind, list, word] of [
    ["caps", CAPS, "at most"],
    ["floors", FLOORS, "at least"],
  ] as const) {
    for (const { key, label, unit } of start.nutrients.filter((n) => list.some((k) => k === n.key))) {
      const value = wish[kind][key];
      const { [key]: _, ...rest } = wish[kind];
      if (value !== undefined)
        chips.push({ words: `${label} ${word} ${places(value, 1)} ${unit}`, drop: set({ [kind]: rest }) });
    }
  }
  return chips;
}
