import { useEffect, useSyncExternalStore } from "react";
import { type Answered, api, got } from "../../api/client";
import { heardTime } from "./clock";

export type Beat = Answered<"Beat">;

const listeners = new Set<() => void>();
let beat: Beat | null = null;

function heard(next: Beat | null): void {
  beat = next;
  if (next) heardTime(next.now);
  for (const listener of listeners) listener();
}

/** The counter, live: the scale, the surface and the number of events of each batch. One stream a tab, for the batch in sight. */
export function useCounter(batch: string | undefined): void {
  // The stream is an outside system.
  useEffect(() => {
    const source = new EventSource(`/api/stove/stream${batch ? `?batch=${batch}` : ""}`);
    source.onmessage = (message) => heard(JSON.parse(message.data));
    source.onerror = () => {
      heard(null);
      got(api.GET("/api/health")).catch(() => undefined); // whether the server is lost is told at the top
      if (source.readyState === EventSource.CLOSED) setTimeout(() => heard(null), 0);
    };
    return () => {
      source.close();
      heard(null);
    };
  }, [batch]);
}

/** The last message of the counter; null while nothing is heard. */
export function useBeat(): Beat | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => beat,
  );
}
