import { useEffect, useRef } from "react";

/** The application's own short set of keys, shown on request. */
export const KEYS: { keys: string; does: string; where: string }[] = [
  { keys: "f", does: "find anything", where: "everywhere" },
  { keys: "?", does: "show these keys", where: "everywhere" },
  { keys: "b", does: "to the Bench", where: "everywhere" },
  { keys: "o", does: "to the Book", where: "everywhere" },
  { keys: "l", does: "to the Larder", where: "everywhere" },
  { keys: "t", does: "to the Stove", where: "everywhere" },
  { keys: "a", does: "to the Morning", where: "everywhere" },
  { keys: "j", does: "to the Journal", where: "everywhere" },
  { keys: "k", does: "to the Kitchen", where: "everywhere" },
  { keys: "u", does: "undo (also Ctrl + Z)", where: "Bench" },
  { keys: "r", does: "redo (also Ctrl + Shift + Z)", where: "Bench" },
  { keys: "s", does: "save as a version", where: "Bench" },
  { keys: "c", does: "the recipe card", where: "Bench" },
  { keys: "m", does: "rebalance: solve for the rest again", where: "Bench" },
  { keys: "v", does: "compare the answers", where: "Bench" },
  { keys: "1 … 5", does: "the first to the fifth answer", where: "Bench" },
  { keys: "n", does: "the one thing to do next", where: "Stove" },
  { keys: "u, r", does: "take back the last touch, and again", where: "Stove" },
  { keys: "n, u", does: "the next act is done; take it back", where: "Morning" },
  { keys: "g, x", does: "someone is late; something broke", where: "Morning" },
  { keys: "↑ ↓", does: "in a field of grams: a step more or less", where: "Bench" },
];

const KEPT = "mutabilis.keys";

/** Whether single keys act on this device; those with Ctrl always do. */
export function keysOn(): boolean {
  return localStorage.getItem(KEPT) !== "off";
}

export function setKeys(on: boolean): void {
  localStorage.setItem(KEPT, on ? "on" : "off");
}

/** Keys that act while nobody types and no dialog is open. `ctrl+z` style names for those with Ctrl or the command key. */
export function useKeys(map: Record<string, () => void>): void {
  const latest = useRef(map);
  latest.current = map;
  // The window is an outside system: it is listened to, once.
  useEffect(() => {
    function down(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      const typing =
        target.closest("input, textarea, select, [contenteditable], [role=radio], [role=slider], [role=combobox]") !==
        null;
      const meta = event.ctrlKey || event.metaKey;
      if (document.querySelector("dialog[open]") || event.altKey || (!meta && (typing || !keysOn()))) return;
      const key = meta ? `ctrl+${event.shiftKey ? "shift+" : ""}${event.key.toLowerCase()}` : event.key;
      const act = latest.current[key];
      if (act) {
        event.preventDefault();
        act();
      }
    }
    window.addEventListener("keydown", down);
    return () => window.removeEventListener("keydown", down);
  }, []);
}
