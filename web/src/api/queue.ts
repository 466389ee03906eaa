import { useMemo, useSyncExternalStore } from "react";
import { Queue } from "../pure/queue";
import { type Answered, api, clock, got, Problem } from "./client";
import type { Act, StoveEvent } from "./outbox";
import * as outbox from "./outbox";
import { freshId } from "./write";

export type { StoveEvent } from "./outbox";
export type BatchView = Answered<"BatchView">;
type Bare<E> = E extends StoveEvent ? Omit<E, "id" | "at"> & { at?: number } : never;
export type NewEvent = Bare<StoveEvent>;

const answered = new Set<(view: BatchView) => void>();

const queue = new Queue<StoveEvent>({
  box: {
    all: outbox.all,
    keep: outbox.keep,
    drop: outbox.drop,
    refuse: outbox.refuse,
    again: outbox.again,
    alone: outbox.alone,
  },
  post: async (batch, events) => {
    try {
      const view = await got(
        api.POST("/api/stove/batches/{batch_id}/events", { params: { path: { batch_id: batch } }, body: { events } }),
      );
      clock.heard(view.now);
      for (const told of answered) told(view); // what it came to is known before it no longer waits: no touch is asked for twice
      return "taken";
    } catch (error) {
      if (!(error instanceof Problem) || error.status === 0 || error.status >= 500) return "lost";
      return { refused: error.message };
    }
  },
  later: (work, ms) => {
    const timer = setTimeout(work, ms);
    return () => clearTimeout(timer);
  },
});

/** Tell of each answer; what it returns is called to tell no more. */
export function onAnswer(told: (view: BatchView) => void): () => void {
  answered.add(told);
  return () => answered.delete(told);
}

/** What happened, with the moment it happened at. */
export function send(batch: string, ...events: NewEvent[]): Promise<void> {
  const at = clock.now();
  return queue.send(
    batch,
    events.map((event) => ({ at, ...event, id: freshId() }) as StoveEvent),
  );
}

export const sendAgain = (act: Act): Promise<void> => queue.sendAgain(act);
export const letGo = (act: Act): Promise<void> => queue.letGo(act);

/** What of a batch the server does not have yet. */
export function useWaiting(batch: string): StoveEvent[] {
  const found = useSyncExternalStore(queue.acts.watch, queue.acts.get);
  return useMemo(
    () => found.filter((a) => a.batch === batch && a.refused === undefined).map((a) => a.event),
    [found, batch],
  );
}

/** What of a batch the server would not take. */
export function useRefused(batch: string): Act[] {
  const found = useSyncExternalStore(queue.acts.watch, queue.acts.get);
  return useMemo(() => found.filter((a) => a.batch === batch && a.refused !== undefined), [found, batch]);
}

outbox.onOtherTab(() => queue.look());
window.addEventListener("online", () => queue.flush());
outbox
  .moveOver()
  .catch(() => {})
  .then(() => queue.flush());
