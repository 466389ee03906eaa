import type { Answered } from "../../api/client";
import { useIngredientNames } from "../../app/names";
import { useLists } from "../../kit/lists";
import { NumberField } from "../../kit/NumberField";
import PickIngredient from "../../kit/PickIngredient";
import { Tick } from "../../kit/Tick";
import { allergen } from "../../pure/format";

export type Rule = Answered<"DietRule">;
type Clause = Answered<"Clause">;

const LIMITS = ["net_carb_g", "carb_g", "sugars_g", "kcal", "fat_g", "sat_fat_g", "sodium_mg"] as const;

/** What a diet leaves out, what it allows, how much of a nutrient at most, and how it takes traces. */
export function RuleFields({ rule, onRule }: { rule: Rule; onRule: (rule: Rule) => void }) {
  const lists = useLists();
  const denied = (field: "allergen" | "animal") => new Set(rule.deny.flatMap((c) => c[field] ?? []));
  const toggle = (field: "allergen" | "animal", value: string) => (on: boolean) => {
    const rest = rule.deny.filter((c) => !(c[field] ?? []).includes(value));
    onRule({
      ...rule,
      deny: on ? [...rest, { ...clause(`holds ${allergen(value)}`), [field]: [value] }] : rest,
    });
  };
  const listed = rule.deny.flatMap((c) => c.ingredient ?? []);
  const gluten = rule.deny.some((c) => (c.gluten ?? []).length > 0);
  const sugar = rule.deny.some((c) => (c.added_sugar ?? []).length > 0);
  return (
    <>
      <fieldset className="flex flex-wrap gap-x-4">
        <legend className="font-semibold">Leave out what holds</legend>
        {lists.allergens.map((a) => (
          <Tick key={a} label={allergen(a)} on={denied("allergen").has(a)} onChange={toggle("allergen", a)} />
        ))}
        <Tick
          label="gluten"
          on={gluten}
          onChange={(on) =>
            onRule({
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
            onRule({
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
          onRule({
            ...rule,
            deny:
              ids.length > 0 ? [...rest, { ...clause("is on the list of what is left out"), ingredient: ids }] : rest,
          });
        }}
      />
      <Picker
        legend="Allows only these (leave empty to allow the rest)"
        chosen={[...rule.allow]}
        onChange={(allow) => onRule({ ...rule, allow })}
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
                  onRule({
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
        onChange={(on) => onRule({ ...rule, traces: on ? "caution" : "cannot_vouch" })}
      />
      <label>
        <span className="mb-0.5 block font-semibold">A caution to show with it</span>
        <input
          className="input w-full"
          maxLength={300}
          value={rule.caution}
          onChange={(e) => onRule({ ...rule, caution: e.target.value })}
        />
      </label>
    </>
  );
}

/** Ingredients to search for and list. */
function Picker({ legend, chosen, onChange }: { legend: string; chosen: string[]; onChange: (ids: string[]) => void }) {
  const called = useIngredientNames(chosen.length > 0);
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
                {called(id)} <span aria-hidden="true">×</span>
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
