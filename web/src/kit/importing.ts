import { type Answered, Problem } from "../api/client";
import type { Measures } from "./SourceMeasures";

export type Imported = Answered<"Imported">;
export const LARGEST = 10_000_000;

/** Send a file, or a text that was pasted, to be read in the cup of its source; what was found comes back to be looked at. */
export async function imported(body: Blob | string, filename: string, measures: Measures): Promise<Imported> {
  const query = new URLSearchParams({ filename: filename.slice(0, 200) });
  for (const [key, ml] of Object.entries(measures)) if (ml) query.set(key, `${ml}`);
  const answer = await fetch(`/api/import?${query}`, {
    method: "POST",
    headers: { "content-type": "application/octet-stream" },
    body,
  }).catch(() => {
    throw new Problem("The server does not answer. Nothing was changed; try again when it is back.", 0);
  });
  const told = await answer.json();
  if (!answer.ok) throw new Problem(told.error ?? "This cannot be read.", answer.status);
  return told;
}
