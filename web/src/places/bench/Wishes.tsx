import { useState } from "react";
import type { Start } from "../../api/client";

const FIRST = 7;
type Props = {
  start: Start;
  diets: string[];
  servings: number;
  onToggle: (diet: string) => void;
  onServings: (servings: number) => void;
};

/** The diets asked for as toggles, and how many the batter serves. */
export function WishRow({ start, diets, servings, onToggle, onServings }: Props) {
  const [all, setAll] = useState(false);
  const shown = start.shipped_diets.filter((d, at) => all || at < FIRST || diets.includes(d.key));
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <fieldset aria-label="Diets" className="flex flex-wrap gap-1.5">
        {shown.map((diet) => {
          const on = diets.includes(diet.key);
          return (
            <button
              key={diet.key}
              type="button"
              aria-pressed={on}
              onClick={() => onToggle(diet.key)}
              className={`min-h-9 rounded-field border px-3 text-[0.95rem] pointer-coarse:min-h-11 ${
                on
                  ? "border-primary bg-primary font-semibold text-primary-content"
                  : "border-base-300 bg-base-100 hover:border-base-content"
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
          className="min-h-9 rounded-field px-3 text-[0.95rem] underline underline-offset-4"
        >
          {all ? "fewer" : "more diets"}
        </button>
      </fieldset>
      <label className="ml-2 flex items-center gap-2 text-[0.95rem]">
        serves
        <input
          type="number"
          min={1}
          max={500}
          value={Math.round(servings * 10) / 10}
          onChange={(event) => {
            const value = Number(event.target.value);
            if (value >= 1 && value <= 500) onServings(value);
          }}
          className="figure h-9 w-16 rounded-field border border-base-300 bg-base-100 px-2 text-right"
        />
      </label>
    </div>
  );
}
