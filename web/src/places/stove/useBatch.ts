import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext, useEffect } from "react";
import { api, got } from "../../api/client";
import { heardTime } from "./clock";
import { useBeat } from "./counter";
import { type BatchView, type NewEvent, onAnswer, type StoveEvent } from "./queue";

/** The batches under way and the log. */
export function useStove(every: number | false = false) {
  return useQuery({
    queryKey: ["stove"],
    queryFn: async () => {
      const found = await got(api.GET("/api/stove"));
      heardTime(found.now);
      return found;
    },
    refetchInterval: every,
    staleTime: 2_000,
  });
}

/** A batch; asked for again when another screen has added to it, and every so often for what moves with the clock alone. */
export function useBatch(id: string) {
  const queries = useQueryClient();
  const found = useQuery({
    queryKey: ["batch", id],
    queryFn: async () => {
      const view = await got(api.GET("/api/stove/batches/{batch_id}", { params: { path: { batch_id: id } } }));
      heardTime(view.now);
      return view;
    },
    refetchInterval: 20_000,
    staleTime: 1_000,
  });
  const count = useBeat()?.counts[id];
  const shown = found.data?.count;
  // The queue lives outside of React: it is told where its answers go.
  useEffect(() => {
    onAnswer((view) => {
      queries.setQueryData<BatchView>(["batch", view.id], (old) => (old && old.count > view.count ? old : view));
      queries.invalidateQueries({ queryKey: ["stove"] });
    });
  }, [queries]);
  // Another screen has moved this batch: the counter says so.
  useEffect(() => {
    if (count !== undefined && shown !== undefined && count > shown)
      queries.invalidateQueries({ queryKey: ["batch", id] });
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
