import { useEffect, useSyncExternalStore } from "react";
import { Store } from "../pure/store";
import { type Answered, api, clock, got } from "./client";

export type Beat = Answered<"Beat">;

const beat = new Store<Beat | null>(null);

function heard(next: Beat | null): void {
  if (next) clock.heard(next.now);
  beat.set(next);
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
  return useSyncExternalStore(beat.watch, beat.get);
}
