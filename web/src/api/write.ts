import {
  type InferDataFromTag,
  type QueryClient,
  type QueryKey,
  useMutation,
  useQueryClient,
} from "@tanstack/react-query";
import { useState } from "react";
import { type Change, staleAfter } from "../pure/stale";
import { Twice } from "../pure/twice";
import { Problem } from "./client";

/** A write that waits: where the server does not answer it is sent again until it does; where it refuses, its reason is told. What it
 * `changes` is asked for again. Writes of one `order` go out one after the other, as they were made. The same write once more while it is
 * on its way is a finger that touched twice: it is sent once. */
export function useWrite<In, Out>(
  send: (given: In) => Promise<Out>,
  { changes, done, order }: { changes?: Change; done?: (out: Out, given: In) => void; order?: string } = {},
) {
  const queries = useQueryClient();
  const [twice] = useState(() => new Twice<In>());
  const write = useMutation({
    mutationFn: send,
    ...(order ? { scope: { id: order } } : {}),
    networkMode: "always",
    retry: (_, error) => error instanceof Problem && error.status === 0,
    retryDelay: 1500,
    onSuccess: (out, given) => {
      for (const queryKey of changes ? staleAfter(changes) : []) outOfDate(queries, queryKey);
      done?.(out, given);
    },
    onSettled: (_out, _error, given) => twice.ends(given),
  });
  const mutate = (given: In) => {
    if (twice.begins(given)) write.mutate(given);
  };
  return { ...write, mutate };
}

/** What was asked before a write is asked again after it. A first answer that is still on its way is given up: it may have been worked out
 * before the write, and would stand as if it came after. */
export async function outOfDate(queries: QueryClient, queryKey: QueryKey) {
  await queries.cancelQueries({ queryKey, predicate: (query) => query.state.data === undefined });
  await queries.invalidateQueries({ queryKey });
}

/** What the server answered to a write, as what is now known of the whole. What was asked before is given up: worked out before the write, it
 * would come after its answer and bring back what stood before. */
export function give<K extends QueryKey>(queries: QueryClient, queryKey: K, fresh: InferDataFromTag<unknown, K>) {
  void queries.cancelQueries({ queryKey, exact: true });
  queries.setQueryData<unknown, K>(queryKey, fresh);
}

/** An id chosen here, so that what is sent twice is kept once. */
export function freshId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(8)), (b) => b.toString(16).padStart(2, "0")).join("");
}
