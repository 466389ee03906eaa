import { useQuery } from "@tanstack/react-query";
import { namesQuery } from "../api/queries";

/** What an ingredient is called, by its key: asked for once, where some are told whose line is not at hand. */
export function useIngredientNames(some: boolean): (id: string) => string {
  const { data } = useQuery({ ...namesQuery, enabled: some });
  return (id) => (data ? (data[id] ?? id) : "…");
}
