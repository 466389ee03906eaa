import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type Batter, got } from "../api/client";
import { analysisQuery, answersQuery } from "../api/queries";
import { useSettled } from "../kit/settled";
import { type BenchState, wantedOf } from "../pure/bench";

/** The ledgers of a batter, kept on screen while the next ones are on their way. */
export function useAnalysis(batter: Batter | null, diets: string[]) {
  return useQuery(analysisQuery(batter, diets));
}

/** The first answer once the typing pauses, the others when it has stopped (`looking` until they are there); the ledgers above move at once. */
export function useAdaptation(state: BenchState) {
  const now = useMemo(
    () => wantedOf({ base: state.base, diets: state.diets, wish: state.wish }),
    [state.base, state.diets, state.wish],
  );
  const [paused, stopped] = [useSettled(now, 120), useSettled(now, 700)];
  const first = useQuery({ ...answersQuery(paused.wanted, 1), enabled: paused.asked });
  const all = useQuery({
    ...answersQuery(stopped.wanted, 5),
    enabled: stopped.asked && first.isSuccess && stopped === now,
  });
  const current = paused === now && !first.isPlaceholderData;
  const whole = current && stopped === now && all.data && !all.isPlaceholderData;
  return {
    data: whole ? all.data : first.data,
    error: first.error ?? all.error,
    isPending: first.isPending,
    waiting: first.isFetching || !current,
    looking: now.asked && !whole && !first.error && !all.error,
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
