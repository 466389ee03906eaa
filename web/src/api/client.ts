import createClient from "openapi-fetch";
import { Clock } from "../pure/clock";
import { Store } from "../pure/store";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Answered<K extends keyof Schemas> = Schemas[K];
export type Batter = Schemas["Batter"];
export type BatterLine = Schemas["BatterLine"];
export type BatterView = Schemas["BatterView"];
export type LineView = Schemas["LineView"];
export type Ledger = Schemas["Ledger"];
export type AnswerView = Schemas["AnswerView"];
export type Judged = Schemas["Judged"];
export type Start = Schemas["Start"];
export type Version = Schemas["Version"];
export type Transfer = Schemas["TransferView"];
export type Wishes = Schemas["Wishes"];
export type Card = Schemas["Card"];
export type Verdict = Judged["verdict"];
export type Does = Schemas["Does"];

export const api = createClient<paths>({ fetch: (request) => globalThis.fetch(request) });

/** What went wrong, in the server's own plain words, with the field it concerns. Status 0: the server does not answer. */
export class Problem extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly field: string | null = null,
  ) {
    super(message);
  }
}

/** Whether the server has stopped answering: set by any call that fails to reach it, cleared by any that does. */
export const lost = new Store(false);

/** The server's clock, which every clock here follows. */
export const clock = new Clock();

/** The data of a call, or a Problem thrown. */
export async function got<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const result = await call.catch((error: unknown) => {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    lost.set(true);
    throw new Problem("The server does not answer. What you see is kept; it is asked again.", 0);
  });
  lost.set(false);
  if (result.error !== undefined) {
    const told = result.error as { error?: string; field?: string | null };
    throw new Problem(
      told.error ?? `The server answered ${result.response.status}.`,
      result.response.status,
      told.field,
    );
  }
  return result.data as T;
}
