import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { idOf } from "../pure/identity";
import { type Answered, api, type Batter, clock, got, type Wishes } from "./client";
import type { BatchView } from "./queue";

/** Every question that is asked of the server: its key and how it is asked, once. */

export const startQuery = queryOptions({
  queryKey: ["start"],
  queryFn: () => got(api.GET("/api/start")),
  staleTime: Number.POSITIVE_INFINITY,
});

// ---- the Bench

/** The ledgers of a batter, kept on screen while the next ones are on their way. */
export const analysisQuery = (batter: Batter | null, diets: string[]) =>
  queryOptions({
    queryKey: ["analyse", batter && idOf(batter), diets],
    queryFn: ({ signal }) => got(api.POST("/api/analyse", { body: { batter: batter!, diets }, signal })),
    enabled: batter !== null,
    placeholderData: keepPreviousData,
  });

export type Wanted = { batter: Batter; wishes: Omit<Wishes, "alternatives">; larder_only: boolean; of: object[] };

/** The answers to what is wished: the first by itself, or all of them. Bench and card ask alike, and so share what they get: it is known by
 * the objects that it was asked `of`. */
export const answersQuery = ({ of, ...wanted }: Wanted, alternatives: 1 | 5) =>
  queryOptions({
    queryKey: ["adapt", of.map(idOf), alternatives],
    queryFn: ({ signal }) =>
      got(api.POST("/api/adapt", { body: { ...wanted, wishes: { ...wanted.wishes, alternatives } }, signal })),
    placeholderData: keepPreviousData,
  });

export const mendQuery = (batter: Batter, diets: string[]) =>
  queryOptions({
    queryKey: ["mend", idOf(batter), diets],
    queryFn: ({ signal }) => got(api.POST("/api/mend", { body: { batter, diets }, signal })),
  });

export const pieceQuery = (batter: Batter) =>
  queryOptions({
    queryKey: ["piece", idOf(batter)],
    queryFn: ({ signal }) => got(api.POST("/api/piece", { body: { batter, diets: [] }, signal })),
    placeholderData: keepPreviousData,
  });

export const choicesQuery = (batter: Batter, line: number, diets: string[]) =>
  queryOptions({
    queryKey: ["choices", idOf(batter), line, diets],
    queryFn: () => got(api.POST("/api/choices", { body: { batter, line, diets } })),
  });

export const cardQuery = (asked: Answered<"AskedCard"> | undefined) =>
  queryOptions({
    queryKey: ["card", asked],
    queryFn: () => got(api.POST("/api/card", { body: asked! })),
    enabled: asked !== undefined,
  });

// ---- the Book

export type Shelf = { q?: string; form?: Batter["form"]; fits?: string; archived?: boolean; limit?: number };

export const shelfQuery = (filter: Shelf) =>
  queryOptions({
    queryKey: ["book", filter],
    queryFn: ({ signal }) => got(api.GET("/api/book", { params: { query: filter }, signal })),
  });

export const familyQuery = (id: string) =>
  queryOptions({
    queryKey: ["family", id],
    queryFn: () => got(api.GET("/api/batters/{batter_id}", { params: { path: { batter_id: id } } })),
  });

export const compareQuery = (left: string, right: string) =>
  queryOptions({
    queryKey: ["family", "compare", left, right],
    queryFn: () => got(api.POST("/api/compare", { body: { left, right } })),
  });

export const versionQuery = (id: string) =>
  queryOptions({
    queryKey: ["version", id],
    queryFn: () => got(api.GET("/api/versions/{version_id}", { params: { path: { version_id: id } } })),
  });

export const scaledQuery = (batter: Batter | undefined, size: Answered<"Size">) =>
  queryOptions({
    queryKey: ["scale", batter && idOf(batter), size],
    queryFn: ({ signal }) => got(api.POST("/api/scale", { body: { batter: batter!, size, diets: [] }, signal })),
    enabled: batter !== undefined,
    placeholderData: keepPreviousData,
  });

export const formatsQuery = queryOptions({
  queryKey: ["formats"],
  queryFn: () => got(api.GET("/api/formats")),
});

export const findQuery = (text: string) =>
  queryOptions({
    queryKey: ["find", text],
    queryFn: ({ signal }) => got(api.GET("/api/find", { params: { query: { q: text } }, signal })),
    enabled: text !== "",
    placeholderData: keepPreviousData,
  });

// ---- the Larder

export type Pantry = { q?: string; group?: string; fits?: string; larder?: boolean; limit?: number };

/** What would go into a bag of dry mix of a version, for so many batches. */
export const mixQuery = (version: string, times: number) =>
  queryOptions({
    queryKey: ["mix", version, times],
    queryFn: ({ signal }) =>
      got(
        api.GET("/api/versions/{version_id}/dry-mix", {
          params: { path: { version_id: version }, query: { times } },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** The bags of dry mix on the shelf. */
export const mixesQuery = queryOptions({
  queryKey: ["mixes"],
  queryFn: () => got(api.GET("/api/dry-mixes")),
});

export const pantryQuery = (filter: Pantry) =>
  queryOptions({
    queryKey: ["larder", filter],
    queryFn: ({ signal }) => got(api.GET("/api/larder", { params: { query: filter }, signal })),
  });

export const ingredientQuery = (id: string) =>
  queryOptions({
    queryKey: ["larder", "one", id],
    queryFn: () => got(api.GET("/api/larder/{id_}", { params: { path: { id_: id } } })),
  });

/** What every ingredient is called, by its key. */
export const namesQuery = queryOptions({ queryKey: ["larder", "names"], queryFn: () => got(api.GET("/api/names")) });

export const inferredQuery = (label: Answered<"Label"> | null) =>
  queryOptions({
    queryKey: ["infer", label],
    queryFn: ({ signal }) => got(api.POST("/api/labels/infer", { body: label!, signal })),
    enabled: label !== null,
    retry: false,
  });

// ---- the Kitchen

export const dietsQuery = queryOptions({ queryKey: ["diets"], queryFn: () => got(api.GET("/api/diets")) });

export const triedQuery = (rule: Answered<"DietRule">) =>
  queryOptions({
    queryKey: ["diets", "try", rule],
    queryFn: ({ signal }) => got(api.POST("/api/diets/try", { body: { rule }, signal })),
    placeholderData: keepPreviousData,
  });

type Grease = BatchView["cooking"]["greases"][number]["key"];

/** How a piece of a scoop lies on a surface, for a batch in hand. */
export const liesQuery = (batch: string, surface: string, portion_ml: number, grease: Grease) =>
  queryOptions({
    queryKey: ["batch", batch, "lies", surface, portion_ml, grease],
    queryFn: ({ signal }) =>
      got(
        api.GET("/api/stove/batches/{batch_id}/lies", {
          params: { path: { batch_id: batch }, query: { surface, portion_ml, grease } },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    enabled: surface !== "" && portion_ml >= 5 && portion_ml <= 5000,
  });

export const profileQuery = queryOptions({ queryKey: ["profile"], queryFn: () => got(api.GET("/api/profile")) });
export const surfacesQuery = queryOptions({ queryKey: ["surfaces"], queryFn: () => got(api.GET("/api/surfaces")) });
export const copiesQuery = queryOptions({
  queryKey: ["copies"],
  queryFn: () => got(api.GET("/api/copies")),
  staleTime: 0,
});
export const wordsQuery = queryOptions({
  queryKey: ["words"],
  queryFn: () => got(api.GET("/api/words")),
  staleTime: 0,
});
export const learnedQuery = queryOptions({
  queryKey: ["learned"],
  queryFn: () => got(api.GET("/api/learned")),
  staleTime: 0,
});

// ---- the Stove

/** The batches under way and the log. */
export const stoveQuery = queryOptions({
  queryKey: ["stove"],
  queryFn: async () => {
    const found = await got(api.GET("/api/stove"));
    clock.heard(found.now);
    return found;
  },
  staleTime: 2_000,
});

export const batchQuery = (id: string) =>
  queryOptions({
    queryKey: ["batch", id],
    queryFn: async () => {
      const view = await got(api.GET("/api/stove/batches/{batch_id}", { params: { path: { batch_id: id } } }));
      clock.heard(view.now);
      return view;
    },
    staleTime: 1_000,
  });

export const offersQuery = (batch: string, count: number, line: number, why: "over" | "none_left") =>
  queryOptions({
    queryKey: ["offers", batch, count, line, why],
    queryFn: () =>
      got(
        api.GET("/api/stove/batches/{batch_id}/offers", {
          params: { path: { batch_id: batch }, query: { line, why } },
        }),
      ),
  });

export const crossSectionQuery = (batch: string, count: number) =>
  queryOptions({
    queryKey: ["cross", batch, count],
    queryFn: () => got(api.GET("/api/stove/batches/{batch_id}/piece", { params: { path: { batch_id: batch } } })),
  });

export const heatChartQuery = (batch: string, ...of: unknown[]) =>
  queryOptions({
    queryKey: ["chart", batch, ...of],
    queryFn: () => got(api.GET("/api/stove/batches/{batch_id}/chart", { params: { path: { batch_id: batch } } })),
  });

export const devicesQuery = queryOptions({ queryKey: ["devices"], queryFn: () => got(api.GET("/api/devices")) });

// ---- Morning

/** A morning: asked again while better plans are looked for, and every few seconds while it runs, so that two screens agree. */
export const morningQuery = (day: string) =>
  queryOptions({
    queryKey: ["morning", day],
    queryFn: () => got(api.GET("/api/morning/{day}", { params: { path: { day } } })),
    refetchInterval: (query) => (query.state.data?.planning ? 700 : 5000),
    staleTime: 0,
  });

// ---- the Journal

export type Sought = {
  q: string;
  fault: string;
  stars: "" | "good" | "not_good" | "none";
  since: string;
  until: string;
  cook: string;
  limit: number;
};
/** All of the log, the latest first, as many lines as a screen wants at first. */
export const SOUGHT_ALL: Sought = { q: "", fault: "", stars: "", since: "", until: "", cook: "", limit: 120 };

export const journalQuery = (sought: Sought) =>
  queryOptions({
    queryKey: ["journal", "log", sought],
    queryFn: ({ signal }) => got(api.GET("/api/journal", { params: { query: sought }, signal })),
    placeholderData: keepPreviousData,
  });

/** A batch as it is read afterwards. */
export const entryQuery = (batch: string) =>
  queryOptions({
    queryKey: ["journal", "one", batch],
    queryFn: () => got(api.GET("/api/journal/batches/{batch_id}", { params: { path: { batch_id: batch } } })),
  });

export const trendsQuery = (batter: string) =>
  queryOptions({
    queryKey: ["journal", "trends", batter],
    queryFn: () => got(api.GET("/api/journal/trends/{batter_id}", { params: { path: { batter_id: batter } } })),
  });

export const cupsQuery = (batter: string) =>
  queryOptions({
    queryKey: ["journal", "shelf", batter],
    queryFn: () => got(api.GET("/api/journal/shelf/{batter_id}", { params: { path: { batter_id: batter } } })),
  });

export const whyQuery = (batch: string, faults: string[], answers: Record<string, string>) =>
  queryOptions({
    queryKey: ["journal", "why", batch, faults, answers],
    queryFn: () =>
      got(
        api.POST("/api/journal/batches/{batch_id}/why", {
          params: { path: { batch_id: batch } },
          body: { faults, answers },
        }),
      ),
    enabled: faults.length > 0,
    placeholderData: keepPreviousData,
  });

export const comparedQuery = (batches: string[]) =>
  queryOptions({
    queryKey: ["journal", "compare", batches],
    queryFn: () => got(api.GET("/api/journal/compare", { params: { query: { batch: batches } } })),
    enabled: batches.length > 1,
  });

/** The faults that a version showed twice and more. */
export const againQuery = (version: string | null) =>
  queryOptions({
    queryKey: ["journal", "again", version],
    queryFn: () => got(api.GET("/api/journal/again/{version_id}", { params: { path: { version_id: version! } } })),
    enabled: version !== null,
  });

/** What is kept and neither used nor discarded. */
export const keptQuery = queryOptions({
  queryKey: ["journal", "kept"],
  queryFn: () => got(api.GET("/api/journal/kept")),
});

/** The packs of an ingredient that were named at a pour. */
export const packsQuery = (ingredient: string | null) =>
  queryOptions({
    queryKey: ["journal", "packs", ingredient],
    queryFn: () => got(api.GET("/api/journal/packs", { params: { query: { ingredient: ingredient! } } })),
    enabled: ingredient !== null,
  });
