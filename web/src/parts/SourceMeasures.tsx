import type { Batter } from "../api/client";

export type Measures = Pick<Batter, "cup_ml" | "tbsp_ml">;
const KNOWN: [string, Measures][] = [
  ["in my own cups and spoons", { cup_ml: null, tbsp_ml: null }],
  ["in US cups, 237 mL", { cup_ml: 236.588, tbsp_ml: 14.787 }],
  ["in cups of 240 mL", { cup_ml: 240, tbsp_ml: 15 }],
  ["in metric cups, 250 mL", { cup_ml: 250, tbsp_ml: 15 }],
  ["in cups of 250, table spoons of 20 mL", { cup_ml: 250, tbsp_ml: 20 }],
];

/** The cup and table spoon in which a batter was written, where they were not the kitchen's. */
export function SourceMeasures({ value, onChange }: { value: Measures; onChange: (measures: Measures) => void }) {
  return (
    <label>
      <span className="sr-only">It is written</span>
      <select
        className="h-11 max-w-full rounded-field border border-base-300 bg-base-100 px-2"
        value={KNOWN.findIndex(([, m]) => m.cup_ml === (value.cup_ml ?? null) && m.tbsp_ml === (value.tbsp_ml ?? null))}
        onChange={(event) => onChange(KNOWN[Number(event.target.value)]![1])}
      >
        {KNOWN.map(([words], n) => (
          <option key={words} value={n}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
