import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type Batter, got } from "../../api/client";
import { type BenchState, NO_WISH, type Swap, weighed } from "./state";

/** The value, once it has stood still for `ms`. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}

/** The ledgers of a batter, kept on screen while the next ones are on their way. */
export function useAnalysis(batter: Batter | null, diets: string[]) {
  return useQuery({
    queryKey: ["analyse", batter, diets],
    queryFn: ({ signal }) => got(api.POST("/api/analyse", { body: { batter: batter!, diets }, signal })),
    enabled: batter !== null,
    placeholderData: keepPreviousData,
  });
}

type Wanted = Pick<BenchState, "base" | "diets" | "wish">;

/** Whether anything is wished that an answer could give. */
export function isAsked({ diets, wish, base }: Wanted): boolean {
  return base.lines.length > 0 && (diets.length > 0 || JSON.stringify(wish) !== JSON.stringify(NO_WISH));
}

/** The first answer once the typing pauses, the others when it has stopped; the ledgers above move at once. */
export function useAdaptation(state: BenchState) {
  const wanted = useMemo(
    () => ({ base: state.base, diets: state.diets, wish: state.wish }),
    [state.base, state.diets, state.wish],
  );
  const [paused, stopped] = [useSettled(wanted, 120), useSettled(wanted, 700)];
  const first = useAnswers(paused, 1, true);
  const all = useAnswers(stopped, 5, first.isSuccess && stopped === wanted);
  const current = paused === wanted && !first.isPlaceholderData;
  const data = current && stopped === wanted && all.data && !all.isPlaceholderData ? all.data : first.data;
  return { data, error: first.error ?? all.error, isPending: first.isPending, waiting: first.isFetching || !current };
}

function useAnswers(asked: Wanted, alternatives: number, wanted: boolean) {
  const { maxCost, larderOnly, ...wish } = asked.wish;
  return useQuery({
    queryKey: ["adapt", asked, alternatives],
    queryFn: ({ signal }) =>
      got(
        api.POST("/api/adapt", {
          body: {
            batter: asked.base,
            wishes: { ...wish, max_cost: maxCost, diets: asked.diets, alternatives },
            larder_only: larderOnly,
          },
          signal,
        }),
      ),
    enabled: wanted && isAsked(asked),
    placeholderData: keepPreviousData,
  });
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

/** Keep the draft: a moment after the last change, and again until the server has taken it. */
export function useDraft(state: BenchState | null): { lost: boolean } {
  const [lost, setLost] = useState(false);
  const latest = useRef<BenchState | null>(null);
  latest.current = state;
  useEffect(() => {
    if (!state?.touched) return;
    let retry: ReturnType<typeof setTimeout>;
    const send = async () => {
      try {
        const { touched: _, ...body } = latest.current!;
        await got(api.PUT("/api/draft", { body: body as never }));
        setLost(false);
      } catch {
        setLost(true);
        retry = setTimeout(send, 2000);
      }
    };
    const timer = setTimeout(send, 300);
    return () => {
      clearTimeout(timer);
      clearTimeout(retry);
    };
  }, [state]);
  return { lost };
}
