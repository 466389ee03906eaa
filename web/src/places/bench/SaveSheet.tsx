import { useState } from "react";
import { api, type Batter, got, type Version } from "../../api/client";
import { freshId, useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { Sheet } from "../../kit/Sheet";

type Props = {
  name: string;
  batterId: string | null;
  parent: string | null;
  base: Batter;
  answer: Batter | null;
  diets: string[];
  suggestion: string;
  ready: boolean;
  make: boolean;
  onClose: () => void;
  onSaved: (saved: Version, base: Version | null) => void;
};

/** Save what stands on the bench as a version that never changes again. A batter that is new to the Book is saved first as it
 * is, and its adaptation as its child. */
export function SaveSheet({
  name: given,
  batterId,
  parent,
  base,
  answer,
  diets,
  suggestion,
  ready,
  make,
  onClose,
  onSaved,
}: Props) {
  const [note, setNote] = useState(suggestion);
  const [name, setName] = useState(given);
  const [ids] = useState(() => [freshId(), freshId()] as const);
  const save = useWrite(
    async () => {
      if (!batterId) {
        const version = { batter: base, diets: [], note: answer ? "" : note, id: ids[0] };
        const first = await got(api.POST("/api/batters", { body: { name, version } }));
        return { base: first, saved: answer ? await child(first.batter_id, first.id, answer) : first };
      }
      return { base: null, saved: await child(batterId, parent, answer ?? base) };
    },
    { changes: "book", done: (out) => onSaved(out.saved, out.base) },
  );
  function child(batter_id: string, from: string | null, batter: Batter) {
    const body = { batter, parent: from, diets: answer ? diets : [], note, id: ids[1] };
    return got(api.POST("/api/batters/{batter_id}/versions", { params: { path: { batter_id } }, body }));
  }
  return (
    <Sheet title="Save as a version" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(undefined);
        }}
      >
        {batterId ? (
          <p className="mb-3">
            A new version of <b>{name}</b>. The one it came from stays as it is.
          </p>
        ) : (
          <label className="mb-3 block">
            <span className="mb-1 block font-semibold">Name</span>
            <input
              data-first
              className="input w-full text-base"
              required
              maxLength={120}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            {answer && (
              <span className="mt-1 block text-sm">
                The batter is saved as it is, and what you will make as its child.
              </span>
            )}
          </label>
        )}
        <label className="block">
          <span className="mb-1 block font-semibold">Note</span>
          <textarea
            data-first
            className="textarea w-full text-base"
            rows={3}
            maxLength={4000}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        {save.isError && (
          <p role="alert" className="mt-3 text-error">
            {save.error.message} The note is still here; try again.
          </p>
        )}
        <Button type="submit" disabled={save.isPending || !ready} kind="strong" className="mt-4">
          {save.isPending
            ? save.failureCount > 0
              ? "Waiting for the server…"
              : "Saving…"
            : ready
              ? make
                ? "Save and make it"
                : "Save"
              : "Working it out…"}
        </Button>
      </form>
    </Sheet>
  );
}
