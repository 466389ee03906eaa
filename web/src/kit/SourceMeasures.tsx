import { useQuery } from "@tanstack/react-query";
import type { Batter } from "../api/client";
import { startQuery } from "../api/queries";

export type Measures = Pick<Batter, "cup_ml" | "tbsp_ml">;

/** The sizes alone, of whatever carries them. */
export function sizes({ cup_ml, tbsp_ml }: Measures): Measures {
  return { cup_ml, tbsp_ml };
}

/** The cup and table spoon in which a batter was written, where they were not the kitchen's. */
export function SourceMeasures({ value, onChange }: { value: Measures; onChange: (measures: Measures) => void }) {
  const sources = useQuery(startQuery).data?.sources ?? [];
  const chosen = sources.findIndex((s) => s.cup_ml === value.cup_ml && s.tbsp_ml === value.tbsp_ml);
  return (
    <label>
      <span className="sr-only">It is written</span>
      <select
        className="h-11 max-w-full rounded-field border border-base-300 bg-base-100 px-2"
        value={chosen}
        onChange={(event) => onChange(sizes(sources[Number(event.target.value)] ?? { cup_ml: null, tbsp_ml: null }))}
      >
        <option value={-1}>in my own cups and spoons</option>
        {sources.map((s, n) => (
          <option key={s.words} value={n}>
            in {s.words}
          </option>
        ))}
      </select>
    </label>
  );
}
