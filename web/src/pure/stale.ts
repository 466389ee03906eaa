const JUDGED = ["analyse", "adapt", "mend", "choices", "book", "family", "card", "batch"];

/** What is out of date after a change, by the first word of its key. Reading a pack changes every verdict, wherever one is shown. */
const STALE = {
  reading: ["larder", ...JUDGED],
  item: ["larder", "start", "piece", "scale", "learned", "journal", ...JUDGED],
  label: ["larder", "find", ...JUDGED],
  diet: ["diets", "start", ...JUDGED],
  profile: ["profile", "mix", "mixes", "start", "larder", "scale", "piece", ...JUDGED],
  learned: ["learned", "larder", "piece", ...JUDGED],
  surface: ["batch", "piece", "card", "learned"],
  book: ["book", "family", "find"],
  batch: ["stove", "mixes", "journal"],
  said: ["journal"],
  mix: ["mixes"],
  words: ["words"],
  copies: ["copies"],
} satisfies Record<string, string[]>;

export type Change = keyof typeof STALE;

/** The keys that a change puts out of date, each by its first word. */
export function staleAfter(change: Change): string[][] {
  return STALE[change].map((key) => [key]);
}
