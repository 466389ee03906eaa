import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";
import { Problem } from "../api/client";

/** A write that waits: where the server does not answer it is sent again until it does; where it refuses, its reason is told. Writes of
 * one `order` go out one after the other, as they were made. */
export function useWrite<In, Out>(
  send: (given: In) => Promise<Out>,
  { stale, done, order }: { stale?: QueryKey[]; done?: (out: Out, given: In) => void; order?: string } = {},
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: send,
    ...(order ? { scope: { id: order } } : {}),
    networkMode: "always",
    retry: (_, error) => error instanceof Problem && error.status === 0,
    retryDelay: 1500,
    onSuccess: (out, given) => {
      for (const queryKey of stale ?? []) queries.invalidateQueries({ queryKey });
      done?.(out, given);
    },
  });
}

/** What a reading of a pack puts out of date: every verdict. */
export const STALE_AFTER_READING = { stale: [["larder"], ["analyse"], ["adapt"], ["family"], ["card"]] };

/** An id chosen here, so that what is sent twice is kept once. */
export function freshId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(8)), (b) => b.toString(16).padStart(2, "0")).join("");
}
