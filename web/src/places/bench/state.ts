import type { Batter, BatterLine, Start, Version } from "../../api/client";

/** What is on the bench. `made` holds the grams typed over an answer, by ingredient; it goes with the answer it was typed on. */
export type BenchState = {
  batterId: string | null;
  versionId: string | null;
  name: string;
  base: Batter;
  diets: string[];
  chosen: number;
  made: Record<string, number>;
  touched: boolean;
};

export type Act =
  | { type: "open"; version: Version; diets?: string[] }
  | { type: "clear" }
  | { type: "form"; form: Batter["form"] }
  | { type: "baseGrams"; line: number; grams: number; name: string }
  | { type: "addLines"; lines: BatterLine[] }
  | { type: "removeLine"; line: number; key: string }
  | { type: "toggleDiet"; diet: string }
  | { type: "servings"; servings: number }
  | { type: "choose"; answer: number }
  | { type: "madeGrams"; ingredient: string; grams: number }
  | { type: "dropEdits" }
  | { type: "saved"; version: Version };

export function opened(version: Version, diets: string[] = []): BenchState {
  return {
    batterId: version.batter_id,
    versionId: version.id,
    name: version.name,
    base: version.batter,
    diets,
    chosen: 0,
    made: {},
    touched: false,
  };
}

/** A bench with nothing on it, for a batter that is yet to be written down. */
export function blank(diets: string[] = []): BenchState {
  const base = { lines: [], form: "griddle" as const, rest_c: 21, blender: false };
  return { batterId: null, versionId: null, name: "New batter", base, diets, chosen: 0, made: {}, touched: false };
}

/** The bench as it was left, or opened afresh on the version the server names. */
export function fromStart(start: Start): BenchState {
  const draft = start.draft as Partial<BenchState> | null;
  if (draft && Array.isArray(draft.base?.lines) && Array.isArray(draft.diets)) {
    const known = new Set(start.shipped_diets.map((d) => d.key));
    return {
      batterId: draft.batterId ?? null,
      versionId: draft.versionId ?? null,
      name: draft.name ?? "Batter",
      base: draft.base,
      diets: draft.diets.filter((d) => known.has(d)),
      chosen: draft.chosen ?? 0,
      made: draft.made ?? {},
      touched: true,
    };
  }
  return start.version ? opened(start.version, start.diets) : blank();
}

export function reduce(state: BenchState, act: Act): BenchState {
  switch (act.type) {
    case "open":
      return opened(act.version, act.diets ?? state.diets);
    case "clear":
      return blank(state.diets);
    case "form":
      return { ...state, base: { ...state.base, form: act.form }, chosen: 0, made: {}, touched: true };
    case "baseGrams":
      return withLines(state, (lines) =>
        lines.map((line, at) => (at === act.line ? weighed(line, act.grams, act.name) : line)),
      );
    case "addLines":
      return withLines(state, (lines) => [...lines, ...act.lines].slice(0, 200));
    case "removeLine":
      return withLines(state, (lines) =>
        lines.filter((line, at) => at !== act.line || (line.ingredient ?? line.text) !== act.key),
      );
    case "toggleDiet": {
      const diets = state.diets.includes(act.diet)
        ? state.diets.filter((d) => d !== act.diet)
        : [...state.diets, act.diet];
      return { ...state, diets, chosen: 0, made: {}, touched: true };
    }
    case "servings":
      return { ...state, base: { ...state.base, servings: act.servings }, touched: true };
    case "choose":
      return { ...state, chosen: act.answer, made: {}, touched: true };
    case "madeGrams":
      return { ...state, made: { ...state.made, [act.ingredient]: act.grams }, touched: true };
    case "dropEdits":
      return { ...state, made: {} };
    case "saved":
      return { ...opened(act.version, state.diets), touched: false };
  }
}

function withLines(state: BenchState, change: (lines: BatterLine[]) => BatterLine[]): BenchState {
  return { ...state, base: { ...state.base, lines: change(state.base.lines) }, chosen: 0, made: {}, touched: true };
}

/** A line put on the scale: bounds that meet say "weighed", and the core knows what a scale is worth. */
export function weighed(line: BatterLine, grams: number, name?: string): BatterLine {
  const problem = line.ingredient ? "" : line.problem;
  return { ...line, text: name ? `${grams} g ${name}` : line.text, grams, low: grams, high: grams, note: "", problem };
}
