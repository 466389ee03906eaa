import { useMemo } from "react";
import { allergen } from "../pure/format";
import { useBench } from "./BenchContext";

/** The label of every diet that is known here, by its key. */
export function useDietLabels(): Map<string, string> {
  const { known_diets: diets } = useBench().start;
  return useMemo(() => new Map(diets.map((d) => [d.key, d.label])), [diets]);
}

/** What somebody must not meet, in words: a diet by its label, an allergen by its name. */
export function useNeedWords(): (what: string) => string {
  const labels = useDietLabels();
  return (what) => labels.get(what)?.toLowerCase() ?? allergen(what);
}
