import { type Answered, Problem } from "../api/client";

export type Imported = Answered<"Imported">;
export const LARGEST = 10_000_000;

/** Send a file, or a text that was pasted, to be read; what was found comes back to be looked at. */
export async function imported(body: Blob | string, filename: string): Promise<Imported> {
  const answer = await fetch(`/api/import?filename=${encodeURIComponent(filename.slice(0, 200))}`, {
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
