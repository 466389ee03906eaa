import type { BatterView } from "../../api/client";
import { useIngredientNames } from "../../app/names";
import type { Wish } from "../../pure/bench";

/** What an ingredient is called: as a line on screen has it, else, where something is wished of it that no line has, by its own name. */
export function useNames(batters: (BatterView | undefined)[], { bans, pins, locked }: Wish): (id: string) => string {
  const lines = batters.flatMap((batter) => batter?.lines ?? []);
  const onScreen = (id: string) => lines.find((l) => l.line.ingredient === id)?.name;
  const called = useIngredientNames([...bans, ...pins, ...Object.keys(locked)].some((id) => !onScreen(id)));
  return (id) => onScreen(id) ?? called(id);
}
