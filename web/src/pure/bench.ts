import type { Batter, BatterLine, Start, Version, Wishes } from "../api/client";

/** What is wished besides the diets. */
export type Wish = {
  form: Batter["form"] | null;
  flow: Wishes["flow"];
  spread_cm: number | null;
  thin_with: Wishes["thin_with"];
  eggs: Wishes["eggs"];
  steps: Wishes["steps"];
  pieces: number | null;
  minutes: number | null;
  maxCost: number | null;
  larderOnly: boolean;
  caps: Record<string, number>;
  floors: Record<string, number>;
  pins: string[];
  bans: string[];
  locked: Record<string, number>;
};

export const NO_WISH: Wish = {
  form: null,
  flow: "same",
  spread_cm: null,
  thin_with: "drink",
  eggs: "as_is",
  steps: "scale",
  pieces: null,
  minutes: null,
  maxCost: null,
  larderOnly: false,
  caps: {},
  floors: {},
  pins: [],
  bans: [],
  locked: {},
};

export type Swap = { id: string; name: string; grams: number };

/** What is on the bench. `made` holds the grams typed over an answer, and `swaps` the lines swapped by hand in it, both by the
 * ingredient of the answer; they go with the answer on which they were made. */
export type BenchState = {
  batterId: string | null;
  versionId: string | null;
  name: string;
  base: Batter;
  diets: string[];
  wish: Wish;
  chosen: number;
  made: Record<string, number>;
  swaps: Record<string, Swap>;
  touched: boolean;
};

export type Act =
  | { type: "open"; version: Version; diets?: string[] }
  | { type: "lay"; name: string; batter: Batter }
  | { type: "clear" }
  | { type: "form"; form: Batter["form"] }
  | { type: "portion"; ml: number | null }
  | { type: "rest"; minutes: number | null }
  | { type: "ways"; ways: Partial<Pick<Batter, "order" | "leavening" | "whites">> }
  | { type: "sized"; batter: Batter }
  | { type: "measures"; measures: Pick<Batter, "cup_ml" | "tbsp_ml"> }
  | { type: "baseGrams"; line: number; grams: number; name: string }
  | { type: "addLines"; lines: BatterLine[] }
  | { type: "replaceLine"; line: number; lines: BatterLine[] }
  | { type: "removeLine"; line: number; key: string }
  | { type: "toggleDiet"; diet: string }
  | { type: "servings"; servings: number }
  | { type: "wish"; wish: Partial<Wish> }
  | { type: "togglePin"; id: string }
  | { type: "toggleBan"; id: string }
  | { type: "lock"; id: string; grams: number | null }
  | { type: "choose"; answer: number }
  | { type: "madeGrams"; ingredient: string; grams: number }
  | { type: "swap"; from: string; to: Swap }
  | { type: "rebalance" }
  | { type: "mendBase"; batter: Batter }
  | { type: "flat" }
  | { type: "dropEdits" }
  | { type: "saved"; version: Version };

export function opened(version: Version, diets: string[] = []): BenchState {
  return {
    batterId: version.batter_id,
    versionId: version.id,
    name: version.name,
    base: version.batter,
    diets,
    wish: NO_WISH,
    chosen: 0,
    made: {},
    swaps: {},
    touched: false,
  };
}

/** A bench with nothing on it, for a batter that is yet to be written down. */
export function blank(diets: string[] = [], name = "New batter", base?: Batter): BenchState {
  const empty = { lines: [], form: "griddle" as const, rest_c: 21, blender: false, flat: false };
  return {
    batterId: null,
    versionId: null,
    name,
    base: base ?? empty,
    diets,
    wish: NO_WISH,
    chosen: 0,
    made: {},
    swaps: {},
    touched: base !== undefined,
  };
}

/** The bench as it was left, or opened afresh on the version the server names. */
export function fromStart(start: Start): BenchState {
  const draft = start.draft as Partial<BenchState> | null;
  if (draft && Array.isArray(draft.base?.lines) && Array.isArray(draft.diets)) {
    const known = new Set(start.known_diets.map((d) => d.key));
    return {
      ...blank(),
      batterId: draft.batterId ?? null,
      versionId: draft.versionId ?? null,
      name: draft.name ?? "Batter",
      base: draft.base,
      diets: draft.diets.filter((d) => known.has(d)),
      wish: { ...NO_WISH, ...draft.wish },
      chosen: draft.chosen ?? 0,
      made: draft.made ?? {},
      swaps: draft.swaps ?? {},
      touched: false, // it is the server's own: sent back, it would outlive a draft that is just being cleared
    };
  }
  return start.version ? opened(start.version, start.diets) : blank();
}

/** An answer no longer stands once what was asked has changed: the choice and the edits made on it go. */
const FRESH = { chosen: 0, made: {}, swaps: {}, touched: true };

export function reduce(state: BenchState, act: Act): BenchState {
  switch (act.type) {
    case "open":
      return { ...opened(act.version, act.diets ?? state.diets), touched: true };
    case "lay":
      return blank(state.diets, act.name, act.batter);
    case "clear":
      return { ...blank(state.diets), touched: true };
    case "form":
      return { ...state, base: { ...state.base, form: act.form }, ...FRESH };
    case "portion":
      return { ...state, base: { ...state.base, portion_ml: act.ml }, ...FRESH };
    case "rest":
      return { ...state, base: { ...state.base, rest_min: act.minutes }, ...FRESH };
    case "ways": {
      const base = { ...state.base, ...act.ways };
      const blender = "order" in act.ways ? act.ways.order === "blender" : base.blender; // a blender makes flour drink at once
      return { ...state, base: { ...base, blender }, ...FRESH };
    }
    case "sized":
      return { ...state, base: act.batter, ...FRESH };
    case "measures":
      return { ...state, base: { ...state.base, ...act.measures }, touched: true };
    case "baseGrams":
      return withLines(state, (lines) =>
        lines.map((line, at) => (at === act.line ? weighed(line, act.grams, act.name) : line)),
      );
    case "addLines":
      return withLines(state, (lines) => [...lines, ...act.lines].slice(0, 200));
    case "replaceLine":
      return withLines(state, (lines) =>
        lines.flatMap((line, at) => (at === act.line ? act.lines : [line])).slice(0, 200),
      );
    case "removeLine":
      return withLines(state, (lines) =>
        lines.filter((line, at) => at !== act.line || (line.ingredient ?? line.text) !== act.key),
      );
    case "toggleDiet":
      return { ...state, diets: toggled(state.diets, act.diet), ...FRESH };
    case "servings":
      return { ...state, base: { ...state.base, servings: act.servings }, touched: true };
    case "wish":
      return { ...state, wish: { ...state.wish, ...act.wish }, ...FRESH };
    case "togglePin":
      return { ...state, wish: { ...state.wish, pins: toggled(state.wish.pins, act.id) }, ...FRESH };
    case "toggleBan": {
      const { [act.id]: _, ...locked } = state.wish.locked;
      const wish = {
        ...state.wish,
        bans: toggled(state.wish.bans, act.id),
        pins: state.wish.pins.filter((p) => p !== act.id),
        locked,
      };
      return { ...state, wish, ...FRESH };
    }
    case "lock": {
      const { [act.id]: _, ...locked } = state.wish.locked;
      if (act.grams !== null) locked[act.id] = act.grams;
      return { ...state, wish: { ...state.wish, locked }, ...FRESH };
    }
    case "choose":
      return { ...state, chosen: act.answer, made: {}, swaps: {}, touched: true };
    case "madeGrams":
      return { ...state, made: { ...state.made, [act.ingredient]: act.grams }, touched: true };
    case "swap":
      return { ...state, swaps: { ...state.swaps, [act.from]: act.to }, touched: true };
    case "rebalance":
      return { ...state, wish: rebalanced(state), ...FRESH };
    case "mendBase":
      return { ...state, base: act.batter, ...FRESH };
    case "flat":
      return { ...state, base: { ...state.base, flat: true }, ...FRESH };
    case "dropEdits":
      return { ...state, made: {}, swaps: {}, touched: true };
    case "saved":
      return { ...state, batterId: act.version.batter_id, versionId: act.version.id, name: act.version.name };
  }
}

/** What was set by hand stays as it was set, and the rest is solved for again around it. */
function rebalanced(state: BenchState): Wish {
  const locked = { ...state.wish.locked, ...state.made };
  const bans = [...state.wish.bans];
  for (const [from, to] of Object.entries(state.swaps)) {
    const current = state.made[to.id] ?? to.grams;
    locked[to.id] = current;
    delete locked[from];
    if (!bans.includes(from)) bans.push(from);
  }
  return { ...state.wish, locked, bans: bans.filter((id) => !(id in locked)) };
}

function toggled(list: string[], one: string): string[] {
  return list.includes(one) ? list.filter((x) => x !== one) : [...list, one];
}

function withLines(state: BenchState, change: (lines: BatterLine[]) => BatterLine[]): BenchState {
  return { ...state, base: { ...state.base, lines: change(state.base.lines) }, ...FRESH };
}

/** A line put on the scale: bounds that meet say "weighed", and the core knows what a scale is worth. */
export function weighed(line: BatterLine, grams: number, name?: string): BatterLine {
  const problem = line.ingredient ? "" : line.problem;
  return { ...line, text: name ? `${grams} g ${name}` : line.text, grams, low: grams, high: grams, note: "", problem };
}

/** The whole sitting: what was, what is, and what was taken back. */
export type History = { past: BenchState[]; now: BenchState; future: BenchState[]; last: string; at: number };
export type Move = { type: "undo" } | { type: "redo" } | { type: "do"; act: Act; at: number };

const DEEPEST = 400;
const TYPING_MS = 1200; // keys in one field that follow each other so closely are one edit

export function history(state: BenchState): History {
  return { past: [], now: state, future: [], last: "", at: 0 };
}

export function move(h: History, m: Move): History {
  if (m.type === "undo") {
    const back = h.past.at(-1);
    if (!back) return h;
    return {
      past: h.past.slice(0, -1),
      now: { ...back, touched: true },
      future: [h.now, ...h.future],
      last: "",
      at: 0,
    };
  }
  if (m.type === "redo") {
    const [next, ...future] = h.future;
    if (!next) return h;
    return { past: [...h.past, h.now], now: { ...next, touched: true }, future, last: "", at: 0 };
  }
  const now = reduce(h.now, m.act);
  if (m.act.type === "saved") return { ...h, now };
  const key = field(m.act);
  const goesOn = key !== "" && key === h.last && m.at - h.at < TYPING_MS;
  const past = goesOn ? h.past : [...h.past, h.now].slice(-DEEPEST);
  return { past, now, future: [], last: key, at: m.at };
}

/** The field an act types into; "" for what is an edit of its own. */
function field(act: Act): string {
  if (act.type === "baseGrams") return `base ${act.line}`;
  if (act.type === "madeGrams") return `made ${act.ingredient}`;
  return act.type === "servings" ? "servings" : "";
}

/** Whether anything is wished that an answer could give. */
export function isAsked({ diets, wish, base }: Pick<BenchState, "base" | "diets" | "wish">): boolean {
  return base.lines.length > 0 && (diets.length > 0 || JSON.stringify(wish) !== JSON.stringify(NO_WISH));
}

/** What is asked of the server for a bench, and whether there is anything to ask; known by the objects it is made of. */
export function wantedOf({ base, diets, wish }: Pick<BenchState, "base" | "diets" | "wish">) {
  const { maxCost, larderOnly, ...rest } = wish;
  return {
    asked: isAsked({ base, diets, wish }),
    wanted: {
      batter: base,
      wishes: { ...rest, max_cost: maxCost, diets },
      larder_only: larderOnly,
      of: [base, diets, wish],
    },
  };
}

/** The chosen answer with what was swapped and typed over it; null where nothing was. */
export function madeBatter(answer: Batter, made: Record<string, number>, swaps: Record<string, Swap>): Batter | null {
  if (Object.keys(made).length === 0 && Object.keys(swaps).length === 0) return null;
  return {
    ...answer,
    lines: answer.lines.map((line) => {
      const swap = line.ingredient ? swaps[line.ingredient] : undefined;
      const now = swap
        ? { ...weighed(line, swap.grams, swap.name), ingredient: swap.id, states: [], confidence: "medium" as const }
        : line;
      return now.ingredient && now.ingredient in made ? weighed(now, made[now.ingredient]!) : now;
    }),
  };
}
