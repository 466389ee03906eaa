import { useSyncExternalStore } from "react";
import { type Answered, api, got, Problem } from "../../api/client";
import { freshId } from "../../parts/write";
import { heardTime, now } from "./clock";

export type BatchView = Answered<"BatchView">;
export type StoveEvent = Answered<"NewEvents">["events"][number];
type Bare<E> = E extends StoveEvent ? Omit<E, "id" | "at"> & { at?: number } : never;
export type NewEvent = Bare<StoveEvent>;
type Waiting = { batch: string; event: StoveEvent };

const KEY = "mutabilis.stove.waiting";
const AGAIN_MS = 1200;
const listeners = new Set<() => void>();
let waiting: Waiting[] = stored();
let busy = false;
let timer: ReturnType<typeof setTimeout> | undefined;
let answered: (view: BatchView) => void = () => {};
let refused: (words: string) => void = () => {};

function stored(): Waiting[] {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? "[]");
    return Array.isArray(kept) ? kept : [];
  } catch {
    return [];
  }
}

function keep(next: Waiting[]): void {
  waiting = next;
  try {
    localStorage.setItem(KEY, JSON.stringify(waiting));
  } catch {
    // A full or forbidden storage: the queue still lives in this tab.
  }
  for (const listener of listeners) listener();
}

/** Who is told of an answer, and of a refusal. */
export function onAnswer(told: (view: BatchView) => void, no: (words: string) => void): void {
  answered = told;
  refused = no;
}

/** What happened, with the moment it happened at: kept on this device until the server has it, sent once, in order. */
export function send(batch: string, ...events: NewEvent[]): void {
  const at = now();
  const made = events.map((event) => ({ batch, event: { at, ...event, id: freshId() } as StoveEvent }));
  keep([...waiting, ...made]);
  flush();
}

/** Send what waits. Events of one batch go together, in their order; what cannot be reached is tried again. */
export async function flush(): Promise<void> {
  const batch = waiting[0]?.batch;
  if (busy || batch === undefined) return;
  busy = true;
  clearTimeout(timer);
  const group = waiting.filter((w) => w.batch === batch).slice(0, 200);
  try {
    const view = await got(
      api.POST("/api/stove/batches/{batch_id}/events", {
        params: { path: { batch_id: batch } },
        body: { events: group.map((w) => w.event) },
      }),
    );
    heardTime(view.now);
    answered(view); // what it came to is known before it no longer waits: no touch is asked for twice
    drop(group);
  } catch (error) {
    if (error instanceof Problem && error.status !== 0 && error.status !== 503) {
      drop(group);
      refused(error.message);
    } else {
      timer = setTimeout(flush, AGAIN_MS);
      busy = false;
      return;
    }
  }
  busy = false;
  if (waiting.length > 0) flush();
}

function drop(group: Waiting[]): void {
  const gone = new Set(group.map((w) => w.event.id));
  keep(waiting.filter((w) => !gone.has(w.event.id)));
}

/** What of a batch the server does not have yet. */
export function useWaiting(batch: string): StoveEvent[] {
  const all = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => waiting,
  );
  return all.filter((w) => w.batch === batch).map((w) => w.event);
}

window.addEventListener("online", () => flush());
flush();
