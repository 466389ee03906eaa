import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Batter = Schemas["Batter"];
export type BatterLine = Schemas["BatterLine"];
export type BatterView = Schemas["BatterView"];
export type LineView = Schemas["LineView"];
export type Ledger = Schemas["Ledger"];
export type AnswerView = Schemas["AnswerView"];
export type AdaptationView = Schemas["AdaptationView"];
export type Judged = Schemas["Judged"];
export type Start = Schemas["Start"];
export type Version = Schemas["Version"];
export type BatterEntry = Schemas["BatterEntry"];
export type Transfer = Schemas["Transfer"];
export type Wishes = Schemas["Wishes"];

export const api = createClient<paths>({ fetch: (request) => globalThis.fetch(request) });

/** What went wrong, in the server's own plain words, with the field it concerns. */
export class Problem extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly field: string | null = null,
  ) {
    super(message);
  }
}

/** The data of a call, or a Problem thrown. A server that does not answer is status 0. */
export async function got<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const result = await call.catch(() => {
    throw new Problem("The server does not answer. What you see is kept; it is asked again.", 0);
  });
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
