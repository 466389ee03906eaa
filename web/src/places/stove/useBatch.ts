import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext, useEffect } from "react";
import { useBeat } from "../../api/counter";
import { batchQuery, stoveQuery } from "../../api/queries";
import { type BatchView, type NewEvent, onAnswer, type StoveEvent } from "../../api/queue";
import { give } from "../../api/write";

/** A batch; asked for again when another screen has added to it, and every so often for what moves with the clock alone. */
export function useBatch(id: string) {
  const queries = useQueryClient();
  const found = useQuery({ ...batchQuery(id), refetchInterval: 20_000 });
  const count = useBeat()?.counts[id];
  const shown = found.data?.count;
  // The queue lives outside of React: it is told where its answers go.
  useEffect(() => {
    return onAnswer((view) => {
      const { queryKey } = batchQuery(view.id);
      if (view.count >= (queries.getQueryData(queryKey)?.count ?? 0)) give(queries, queryKey, view);
      queries.invalidateQueries({ queryKey: stoveQuery.queryKey });
    });
  }, [queries]);
  // Another screen has moved this batch: the counter says so.
  useEffect(() => {
    if (count !== undefined && shown !== undefined && count > shown)
      queries.invalidateQueries({ queryKey: batchQuery(id).queryKey });
  }, [count, shown, queries, id]);
  return found;
}

type Batch = { view: BatchView; waiting: StoveEvent[]; say: (...events: NewEvent[]) => void };
const InHand = createContext<Batch | null>(null);
export const BatchProvider = InHand.Provider;

/** The batch in hand: what is known of it, what the server has yet to hear, and how to say what happened. */
export function useInHand(): Batch {
  const batch = useContext(InHand);
  if (!batch) throw new Error("no batch is in hand");
  return batch;
}
