import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Queued } from "../pure/queue";
import type { Answered } from "./client";

export type StoveEvent = Answered<"NewEvents">["events"][number];

/** One thing that happened at the Stove and that the server does not have yet. */
export type Act = Queued<StoveEvent>;

interface Schema extends DBSchema {
  acts: { key: number; value: Act };
}

const OLD_KEY = "mutabilis.stove.waiting"; // where acts were kept before they had a database
const others = "BroadcastChannel" in globalThis ? new BroadcastChannel("mutabilis.outbox") : undefined;
let database: Promise<IDBPDatabase<Schema>> | undefined;

function opened(): Promise<IDBPDatabase<Schema>> {
  database ??= openDB<Schema>("mutabilis", 1, {
    upgrade(db) {
      db.createObjectStore("acts", { keyPath: "n", autoIncrement: true });
    },
  });
  return database;
}

/** Acts of all tabs of this device, in their order. */
export async function all(): Promise<Act[]> {
  const db = await opened();
  return db.getAll("acts");
}

/** Keep acts, each as a record of its own: on disk before this is done. */
export async function keep(acts: Act[]): Promise<void> {
  const db = await opened();
  const write = db.transaction("acts", "readwrite", { durability: "strict" });
  for (const act of acts) await write.store.add(act);
  await write.done;
  others?.postMessage("changed");
}

/** Take away what the server has. */
export async function drop(ids: string[]): Promise<void> {
  const gone = new Set(ids);
  await change((act) => (gone.has(act.event.id) ? null : act));
}

/** Mark an act as refused, with the reason; it is kept until someone looks at it. */
export async function refuse(id: string, reason: string): Promise<void> {
  await change((act) => (act.event.id === id ? { ...act, refused: reason } : act));
}

/** Send a refused act once more. */
export async function again(id: string): Promise<void> {
  await change(({ refused, ...act }) => (act.event.id === id || refused === undefined ? act : { ...act, refused }));
}

async function change(made: (act: Act) => Act | null): Promise<void> {
  const db = await opened();
  const write = db.transaction("acts", "readwrite", { durability: "strict" });
  let cursor = await write.store.openCursor();
  while (cursor) {
    const next = made(cursor.value);
    if (next === null) await cursor.delete();
    else if (next !== cursor.value) await cursor.update(next);
    cursor = await cursor.continue();
  }
  await write.done;
  others?.postMessage("changed");
}

/** Only one tab of this device sends at a time; the others wait for their turn or leave it to this one. */
export async function alone(work: () => Promise<void>): Promise<void> {
  if (!navigator.locks) return work();
  await navigator.locks.request("mutabilis.outbox", { ifAvailable: true }, (lock) => (lock ? work() : undefined));
}

/** Called where another tab has changed what waits. */
export function onOtherTab(changed: () => void): void {
  others?.addEventListener("message", changed);
}

/** Acts that were kept the old way, each once. */
export async function moveOver(): Promise<void> {
  const kept = localStorage.getItem(OLD_KEY);
  if (!kept) return;
  const acts: unknown = JSON.parse(kept);
  if (Array.isArray(acts) && acts.length > 0) await keep(acts as Act[]);
  localStorage.removeItem(OLD_KEY);
}
