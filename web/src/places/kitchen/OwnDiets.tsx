import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { dietsQuery, triedQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useLists } from "../../kit/lists";
import { NumberField } from "../../kit/NumberField";
import PickIngredient from "../../kit/PickIngredient";
import { useSettled } from "../../kit/settled";
import { Tick } from "../../kit/Tick";
import { useTell } from "../../kit/Toast";
import { Verdict } from "../../kit/Verdict";

type Rule = Answered<"DietRule">;
type Clause = Answered<"Clause">;
const LIMITS = ["net_carb_g", "carb_g", "sugars_g", "kcal", "fat_g", "sat_fat_g", "sodium_mg"] as const;
const EMPTY: Rule = {
  key: "",
  label: "",
  order: 100,
  traces: "cannot_vouch",
  caution: "",
  deny: [],
  allow: [],
  limits: [],
};

/** Own diets, made of what they deny, allow and limit; tried on the Book as they are put together, and saved as rule files. */
export function OwnDiets() {
  const diets = useQuery(dietsQuery);
  const [rule, setRule] = useState<Rule | null>(null);
  const own = diets.data?.filter((d) => d.own) ?? [];
  return (
    <div className="grid grid-cols-1 gap-x-8 gap-y-4 lg:grid-cols-[16rem_minmax(0,1fr)]">
      <section aria-label="Diets of this kitchen">
        <button
          type="button"
          className={`mb-3 min-h-11 w-full text-base ${rule ? "rounded-field border border-base-300 bg-base-100" : "btn btn-accent"}`}
          onClick={() => setRule(EMPTY)}
        >
          Make a diet
        </button>
        {own.length === 0 && (
          <p className="border-l-[6px] border-base-300 px-3 py-2">
            No diet of your own yet. {diets.data?.length} come with the tool.
          </p>
        )}
        <ul className="flex flex-col gap-1">
          {own.map((d) => (
            <li key={d.rule.key}>
              <button
                type="button"
                className={`min-h-11 w-full border-l-[6px] bg-base-100 px-3 text-left ${rule?.key === d.rule.key ? "border-primary" : "border-secondary"}`}
                onClick={() => setRule(d.rule)}
              >
                {d.rule.label}
              </button>
            </li>
          ))}
        </ul>
      </section>
      {rule ? (
        <Maker
          key={rule.key || "new"}
          opening={rule}
          taken={diets.data?.map((d) => d.rule.key) ?? []}
          onDone={setRule}
        />
      ) : (
        <p className="border-l-[6px] border-base-300 px-4 py-3">
          A guest's own list, a house rule, a limit a clinician gave: put it together here, and see at once which
          batters of the Book pass.
        </p>
      )}
    </div>
  );
}

type MakerProps = { opening: Rule; taken: string[]; onDone: (rule: Rule | null) => void };

function Maker({ opening, taken, onDone }: MakerProps) {
  const lists = useLists();
  const [rule, setRule] = useState<Rule>(opening);
  const tell = useTell();
  const fresh = opening.key === "";
  const key = fresh ? keyOf(rule.label, taken) : opening.key;
  const ready = { ...rule, key, label: rule.label.trim() };
  const valid = /^[a-z][a-z0-9_]{1,40}$/.test(key) && ready.label.length >= 2;
  const trial = JSON.stringify({
    ...ready,
    key: valid ? key : "on_trial",
    label: ready.label.length >= 2 ? ready.label : "This diet",
  });
  const asked = useSettled(trial, 250);
  const tried = useQuery(triedQuery(JSON.parse(asked)));
  // What was tried before the last touch says nothing of the rule as it stands now.
  const current = trial === asked && !tried.isPlaceholderData;
  const save = useWrite(
    (given: Rule) => got(api.PUT("/api/diets/{key}", { params: { path: { key: given.key } }, body: { rule: given } })),
    {
      changes: "diet",
      done: (_, given) => {
        tell(`${given.label} is saved as a rule file.`, () =>
          fresh ? archive.mutate(given.key) : back.mutate(opening),
        );
        onDone(given);
      },
    },
  );
  const back = useWrite(
    (given: Rule) => got(api.PUT("/api/diets/{key}", { params: { path: { key: given.key } }, body: { rule: given } })),
    { changes: "diet", done: (_, given) => onDone(given) },
  );
  const archive = useWrite((gone: string) => got(api.DELETE("/api/diets/{key}", { params: { path: { key: gone } } })), {
    changes: "diet",
    done: (given) => {
      tell(`${given.label} is archived; its file stays.`, () => back.mutate(given));
      onDone(null);
    },
  });
  const denied = (field: "allergen" | "animal") => new Set(rule.deny.flatMap((c) => c[field] ?? []));
  const toggle = (field: "allergen" | "animal", value: string) => (on: boolean) => {
    const rest = rule.deny.filter((c) => !(c[field] ?? []).includes(value));
    setRule({
      ...rule,
      deny: on ? [...rest, { ...clause(`holds ${value.replaceAll("_", " ")}`), [field]: [value] }] : rest,
    });
  };
  const listed = rule.deny.flatMap((c) => c.ingredient ?? []);
  const gluten = rule.deny.some((c) => (c.gluten ?? []).length > 0);
  const sugar = rule.deny.some((c) => (c.added_sugar ?? []).length > 0);
  return (
    <section aria-label="A diet" className="grid grid-cols-1 gap-x-8 gap-y-5 md:grid-cols-2">
      <form
        className="grid content-start gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (valid) save.mutate(ready);
        }}
      >
        <label>
          <span className="mb-0.5 block font-semibold">Name of the diet</span>
          <input
            className="input w-full text-base"
            required
            minLength={2}
            maxLength={60}
            value={rule.label}
            onChange={(e) => setRule({ ...rule, label: e.target.value })}
          />
        </label>
        <fieldset className="flex flex-wrap gap-x-4">
          <legend className="font-semibold">Leave out what holds</legend>
          {lists.allergens.map((a) => (
            <Tick
              key={a}
              label={a.replaceAll("_", " ")}
              on={denied("allergen").has(a)}
              onChange={toggle("allergen", a)}
            />
          ))}
          <Tick
            label="gluten"
            on={gluten}
            onChange={(on) =>
              setRule({
                ...rule,
                deny: on
                  ? [...rule.deny, { ...clause("holds gluten"), gluten: ["yes"] }]
                  : rule.deny.filter((c) => (c.gluten ?? []).length === 0),
              })
            }
          />
          <Tick
            label="added sugar"
            on={sugar}
            onChange={(on) =>
              setRule({
                ...rule,
                deny: on
                  ? [...rule.deny, { ...clause("holds added sugar"), added_sugar: ["yes"] }]
                  : rule.deny.filter((c) => (c.added_sugar ?? []).length === 0),
              })
            }
          />
        </fieldset>
        <fieldset className="flex flex-wrap gap-x-4">
          <legend className="font-semibold">Leave out what comes from</legend>
          {lists.animals.map((a) => (
            <Tick
              key={a}
              label={a === "other" ? "another animal" : a}
              on={denied("animal").has(a)}
              onChange={toggle("animal", a)}
            />
          ))}
        </fieldset>
        <Picker
          legend="Leave out these ingredients"
          chosen={listed}
          onChange={(ids) => {
            const rest = rule.deny.filter((c) => (c.ingredient ?? []).length === 0);
            setRule({
              ...rule,
              deny:
                ids.length > 0 ? [...rest, { ...clause("is on the list of what is left out"), ingredient: ids }] : rest,
            });
          }}
        />
        <Picker
          legend="Allows only these (leave empty to allow the rest)"
          chosen={[...rule.allow]}
          onChange={(allow) => setRule({ ...rule, allow })}
        />
        <fieldset>
          <legend className="font-semibold">At most in a serving</legend>
          <div className="mt-1 grid gap-1.5">
            {lists.nutrients(LIMITS).map(({ key: nutrient, label: words, unit }) => (
              <span key={nutrient} className="[&>label]:flex [&>label]:justify-between [&_.unit]:w-8">
                <NumberField
                  label={words}
                  unit={unit}
                  max={10_000}
                  value={rule.limits.find((l) => l.nutrient === nutrient)?.most ?? null}
                  onChange={(most) =>
                    setRule({
                      ...rule,
                      limits: [
                        ...rule.limits.filter((l) => l.nutrient !== nutrient),
                        ...(most === null ? [] : [{ nutrient, most, reason: "" }]),
                      ],
                    })
                  }
                />
              </span>
            ))}
          </div>
        </fieldset>
        <Tick
          label="traces (“may contain”) are only cautioned about"
          on={rule.traces === "caution"}
          onChange={(on) => setRule({ ...rule, traces: on ? "caution" : "cannot_vouch" })}
        />
        <label>
          <span className="mb-0.5 block font-semibold">A caution to show with it</span>
          <input
            className="input w-full"
            maxLength={300}
            value={rule.caution}
            onChange={(e) => setRule({ ...rule, caution: e.target.value })}
          />
        </label>
        {(save.isError || archive.isError) && (
          <p role="alert" className="text-error">
            {(save.error ?? archive.error)?.message}
          </p>
        )}
        <p className="flex gap-3">
          <Button type="submit" disabled={!valid || save.isPending} kind="strong">
            {save.isPending ? "Saving…" : "Save this diet"}
          </Button>
          {!fresh && <Button onClick={() => archive.mutate(opening.key)}>Archive</Button>}
        </p>
      </form>
      <section aria-label="Tried on the Book" aria-busy={tried.isFetching}>
        <h3 className="mb-1 font-bold">Tried on the Book</h3>
        {tried.isError && <p role="alert">{tried.error.message}</p>}
        {tried.data?.length === 0 && <p>The Book is empty: there is nothing to try it on yet.</p>}
        <ul>
          {tried.data?.map((t) => (
            <li key={t.batter_id} className="border-b border-base-300/60 py-1.5">
              <p className="flex flex-wrap items-center gap-x-3">
                <Link className="underline underline-offset-4" to={`/book/${t.batter_id}`}>
                  {t.name}
                </Link>
                <span className="ml-auto">{current ? <Verdict verdict={t.verdict} /> : "being tried…"}</span>
              </p>
              {current && t.reason && <p className="text-sm">{t.reason}</p>}
            </li>
          ))}
        </ul>
      </section>
    </section>
  );
}

/** Ingredients to search for and list. */
function Picker({ legend, chosen, onChange }: { legend: string; chosen: string[]; onChange: (ids: string[]) => void }) {
  return (
    <fieldset>
      <legend className="font-semibold">{legend}</legend>
      {chosen.length > 0 && (
        <ul className="my-1 flex flex-wrap gap-1.5">
          {chosen.map((id) => (
            <li key={id}>
              <button
                type="button"
                className="min-h-9 rounded-field border border-primary px-2.5 text-sm text-primary pointer-coarse:min-h-11"
                onClick={() => onChange(chosen.filter((x) => x !== id))}
              >
                {id.replaceAll("_", " ")} <span aria-hidden="true">×</span>
                <span className="sr-only">: remove</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <PickIngredient label={`${legend}: search`} except={chosen} onPick={(id) => onChange([...chosen, id])} />
    </fieldset>
  );
}

function clause(reason: string): Clause {
  return {
    animal: [],
    allergen: [],
    gluten: [],
    group: [],
    ingredient: [],
    added_sugar: [],
    refined: [],
    lactose: false,
    only: {},
    verdict: "conflicts",
    reason,
  };
}

/** A key for the rule file: the name in plain letters, where it has any, and never one that is taken. */
function keyOf(label: string, taken: string[]): string {
  const plain = label
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "")
    .replace(/^(?=\d)/, "d_")
    .slice(0, 36);
  const stem = plain.length >= 2 ? plain : "own_diet";
  let key = stem;
  for (let n = 2; taken.includes(key); n++) key = `${stem}_${n}`;
  return key;
}
