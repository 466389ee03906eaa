import type { Answered } from "../../api/client";

export type Item = Answered<"Item">;
export type Known = Answered<"Known">;
/** Keeps part of an item, says so in words, and offers to take it back. */
export type SetItem = (part: Partial<Item>, words: string) => void;
