import { useQuery } from "@tanstack/react-query";
import type { Answered } from "../api/client";
import { startQuery } from "../api/queries";

export type NutrientName = Answered<"NutrientName">;

/** What diets, packs and limits are made of, as the server lists it. */
export function useLists() {
  const start = useQuery(startQuery).data;
  return {
    allergens: start?.allergens ?? [],
    animals: start?.animals ?? [],
    /** Nutrients of the list, in the order asked for. */
    nutrients: (keys: readonly NutrientName["key"][]) =>
      keys.flatMap((key) => start?.nutrients.filter((n) => n.key === key) ?? []),
  };
}
