import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Batter, got, type Version } from "../../api/client";
import { stoveQuery } from "../../api/queries";
import { freshId, useWrite } from "../../api/write";
import { cookHere } from "../../app/cook";
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
  /** Saved, with the base where that was new to the Book; `started` is the batch that was begun of it. */
  onSaved: (saved: Version, base: Version | null, started: string | null) => void;
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
  const [ids] = useState(() => [freshId(), freshId(), freshId()] as const);
  const queries = useQueryClient();
  const save = useWrite(
    async (start: boolean) => {
      let [first, saved]: [Version | null, Version | null] = [null, null];
      if (batterId) saved = await child(batterId, parent, answer ?? base);
      else {
        const version = { batter: base, diets: [], note: answer ? "" : note, id: ids[0] };
        first = await got(api.POST("/api/batters", { body: { name, version } }));
        saved = answer ? await child(first.batter_id, first.id, answer) : first;
      }
      return { base: first, saved, started: start ? await begun(saved) : null };
    },
    {
      changes: "book",
      done: (out) => {
        if (out.started) queries.invalidateQueries({ queryKey: stoveQuery.queryKey });
        onSaved(out.saved, out.base, out.started);
      },
    },
  );
  /** A batch of it as it is written; how many, for whom and when can be chosen instead. */
  async function begun(version: Version) {
    const body = { version: version.id, id: ids[2], diets: version.diets, whom: "", cook: cookHere() };
    return (await got(api.POST("/api/stove/batches", { body }))).id;
  }
  function child(batter_id: string, from: string | null, batter: Batter) {
    const body = { batter, parent: from, diets: answer ? diets : [], note, id: ids[1] };
    return got(api.POST("/api/batters/{batter_id}/versions", { params: { path: { batter_id } }, body }));
  }
  return (
    <Sheet title={make ? "Save it, and make it" : "Save as a version"} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(make);
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
        <p className="mt-4 flex flex-wrap gap-3">
          <Button type="submit" disabled={save.isPending || !ready} kind="strong">
            {save.isPending
              ? save.failureCount > 0
                ? "Waiting for the server…"
                : "Saving…"
              : !ready
                ? "Working it out…"
                : make
                  ? "Save and start"
                  : "Save"}
          </Button>
          {make && (
            <Button disabled={save.isPending || !ready} onClick={() => save.mutate(false)}>
              Save, then choose how many…
            </Button>
          )}
        </p>
      </form>
    </Sheet>
  );
}
