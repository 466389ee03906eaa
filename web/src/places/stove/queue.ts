import { useMemo, useSyncExternalStore } from "react";
import { type Answered, api, got, Problem } from "../../api/client";
import { freshId } from "../../parts/write";
import { heardTime, now } from "./clock";
import type { Act, StoveEvent } from "./outbox";
import * as outbox from "./outbox";

export type { StoveEvent } from "./outbox";
export type BatchView = Answered<"BatchView">;
type Bare<E> = E extends StoveEvent ? Omit<E, "id" | "at"> & { at?: number } : never;
export type NewEvent = Bare<StoveEvent>;

const AGAIN_MS = 1200;
const MOST_AT_ONCE = 200;
const listeners = new Set<() => void>();
let acts: Act[] = []; // what is kept, and before it what is on its way there
let timer: ReturnType<typeof setTimeout> | undefined;
let answered: (view: BatchView) => void = () => {};

function show(next: Act[]): void {
  acts = next;
  for (const listener of listeners) listener();
}

/** Look at what is kept; what is still being written stays shown. */
async function look(): Promise<void> {
  try {
    const kept = await outbox.all();
    const known = new Set(kept.map((a) => a.event.id));
    show([...kept, ...acts.filter((a) => a.n === undefined && !known.has(a.event.id))]);
  } catch {
    // No database here: what waits lives in this tab alone.
  }
}

/** Who is told of an answer. */
export function onAnswer(told: (view: BatchView) => void): void {
  answered = told;
}

/** What happened, with the moment it happened at: kept on this device until the server has it, sent once, in order. */
export async function send(batch: string, ...events: NewEvent[]): Promise<void> {
  const at = now();
  const made = events.map((event) => ({ batch, event: { at, ...event, id: freshId() } as StoveEvent }));
  show([...acts, ...made]);
  try {
    await outbox.keep(made);
    await look();
  } catch {
    // A full or forbidden database: it is sent from memory.
  }
  await flush();
}

/** Send what waits, one tab at a time. What cannot be reached is tried again; what is refused is kept and shown, and the rest goes on. */
export async function flush(): Promise<void> {
  clearTimeout(timer);
  let reached = true;
  await outbox.alone(async () => {
    await look();
    while (reached) {
      const waiting = acts.filter((a) => a.refused === undefined);
      const batch = waiting[0]?.batch;
      if (batch === undefined) return;
      reached = await deliver(batch, waiting.filter((a) => a.batch === batch).slice(0, MOST_AT_ONCE));
    }
  });
  if (!reached || acts.some((a) => a.refused === undefined)) timer = setTimeout(flush, AGAIN_MS);
}

/** Events of one batch together, in their order; where that is refused, one by one. False where the server cannot be reached. */
async function deliver(batch: string, group: Act[]): Promise<boolean> {
  try {
    const view = await got(
      api.POST("/api/stove/batches/{batch_id}/events", {
        params: { path: { batch_id: batch } },
        body: { events: group.map((a) => a.event) },
      }),
    );
    heardTime(view.now);
    answered(view); // what it came to is known before it no longer waits: no touch is asked for twice
    await done(group);
    return true;
  } catch (error) {
    if (!(error instanceof Problem) || error.status === 0 || error.status >= 500) return false;
    if (group.length === 1) {
      await refused(group[0]!, error.message);
      return true;
    }
    for (const one of group) if (!(await deliver(batch, [one]))) return false;
    return true;
  }
}

async function done(group: Act[]): Promise<void> {
  const gone = new Set(group.map((a) => a.event.id));
  await outbox.drop([...gone]).catch(() => {});
  show(acts.filter((a) => !gone.has(a.event.id)));
}

async function refused(act: Act, reason: string): Promise<void> {
  await outbox.refuse(act.event.id, reason).catch(() => {});
  show(acts.map((a) => (a.event.id === act.event.id ? { ...a, refused: reason } : a)));
}

/** Send a refused act once more. */
export async function sendAgain(act: Act): Promise<void> {
  await outbox.again(act.event.id).catch(() => {});
  show(acts.map((a) => (a.event.id === act.event.id ? { ...a, refused: undefined } : a)));
  await flush();
}

/** Take a refused act away: someone has seen it. */
export async function letGo(act: Act): Promise<void> {
  await done([act]);
}

function useActs(): Act[] {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => acts,
  );
}

/** What of a batch the server does not have yet. */
export function useWaiting(batch: string): StoveEvent[] {
  const found = useActs();
  return useMemo(
    () => found.filter((a) => a.batch === batch && a.refused === undefined).map((a) => a.event),
    [found, batch],
  );
}

/** What of a batch the server would not take. */
export function useRefused(batch: string): Act[] {
  const found = useActs();
  return useMemo(() => found.filter((a) => a.batch === batch && a.refused !== undefined), [found, batch]);
}

outbox.onOtherTab(look);
window.addEventListener("online", () => flush());
outbox
  .moveOver()
  .catch(() => {})
  .then(flush);
