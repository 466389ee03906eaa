import { useMemo } from "react";
import { allergen } from "../pure/format";
import { useBench } from "./BenchContext";

/** What somebody must not meet, in words: a diet by its label, an allergen by its name. */
export function useNeedWords(): (what: string) => string {
  const { known_diets: diets } = useBench().start;
  const labels = useMemo(() => new Map(diets.map((d) => [d.key, d.label.toLowerCase()])), [diets]);
  return (what) => labels.get(what) ?? allergen(what);
}
