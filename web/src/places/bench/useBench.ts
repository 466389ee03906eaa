import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type Batter, got, type Wishes } from "../../api/client";
import { type BenchState, weighed } from "./state";

const NO_WISHES: Wishes = {
  diets: [],
  pins: [],
  bans: [],
  flow: "same",
  eggs: "as_is",
  steps: "scale",
  alternatives: 1,
};

/** The value, once it has stood still for `ms`. */
function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}

/** The ledgers of a batter, kept on screen while the next ones are on their way. */
export function useAnalysis(batter: Batter | null) {
  return useQuery({
    queryKey: ["analyse", batter],
    queryFn: ({ signal }) => got(api.POST("/api/analyse", { body: batter!, signal })),
    enabled: batter !== null,
    placeholderData: keepPreviousData,
  });
}

/** The first answer once the typing pauses, the others when it has stopped; the ledgers above move at once. */
export function useAdaptation(state: BenchState) {
  const wanted = useMemo(() => ({ batter: state.base, diets: state.diets }), [state.base, state.diets]);
  const [paused, stopped] = [useSettled(wanted, 120), useSettled(wanted, 700)];
  const first = useAnswers(paused, 1, true);
  const all = useAnswers(stopped, 3, first.isSuccess && stopped === wanted);
  const current = paused === wanted && !first.isPlaceholderData;
  const data = current && stopped === wanted && all.data && !all.isPlaceholderData ? all.data : first.data;
  return { data, error: first.error ?? all.error, isPending: first.isPending, waiting: first.isFetching || !current };
}

function useAnswers(asked: { batter: Batter; diets: string[] }, alternatives: number, wanted: boolean) {
  return useQuery({
    queryKey: ["adapt", asked, alternatives],
    queryFn: ({ signal }) =>
      got(
        api.POST("/api/adapt", {
          body: { batter: asked.batter, wishes: { ...NO_WISHES, diets: asked.diets, alternatives } },
          signal,
        }),
      ),
    enabled: wanted && asked.diets.length > 0 && asked.batter.lines.length > 0,
    placeholderData: keepPreviousData,
  });
}

/** The chosen answer with what was typed over it. */
export function madeBatter(answer: Batter, made: Record<string, number>): Batter | null {
  if (Object.keys(made).length === 0) return null;
  return {
    ...answer,
    lines: answer.lines.map((line) =>
      line.ingredient && line.ingredient in made ? weighed(line, made[line.ingredient]!) : line,
    ),
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
