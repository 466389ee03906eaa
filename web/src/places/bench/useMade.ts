import { useMemo } from "react";
import type { AnswerView, BatterView } from "../../api/client";
import { useAdaptation, useAnalysis } from "../../app/adapting";
import { type BenchState, isAsked, madeBatter } from "../../pure/bench";

/** What comes of the batter on the Bench: its own balances (`before`), the answers to what is asked of it, the one that is chosen, and that
 * one as edited by hand (`edited`); `after` is what stands on the right. */
export function useMade(state: BenchState) {
  const before = useAnalysis(state.base, state.diets);
  const adaptation = useAdaptation(state);
  const asked = isAsked(state);
  const data = asked ? adaptation.data : undefined;
  const nearest = data?.infeasible?.nearest ?? undefined;
  const answer: AnswerView | undefined = data?.answers[Math.min(state.chosen, data.answers.length - 1)] ?? nearest;
  const edited = useMemo(
    () => (answer ? madeBatter(answer.batter.batter, state.made, state.swaps) : null),
    [answer, state.made, state.swaps],
  );
  const made = useAnalysis(edited, state.diets);
  const after: BatterView | undefined = answer ? (edited && made.data ? made.data : answer.batter) : undefined;
  return {
    base: before.data,
    unreadable: before.error,
    failed: before.error ?? adaptation.error ?? made.error,
    asked,
    working: adaptation.waiting && asked,
    looking: adaptation.looking && asked,
    pending: adaptation.isPending,
    data,
    answer,
    isNearest: nearest !== undefined && nearest === answer,
    edited,
    after,
    ready: !(asked && adaptation.waiting) && (!edited || !made.isPlaceholderData),
  };
}

export type Made = ReturnType<typeof useMade>;
