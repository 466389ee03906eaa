import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Batter, got, type Version } from "../../api/client";
import { Sheet } from "../../parts/Sheet";

type Props = {
  name: string;
  batterId: string | null;
  parent: string | null;
  batter: Batter;
  diets: string[];
  suggestion: string;
  onClose: () => void;
  onSaved: (version: Version) => void;
};

/** Save what stands on the bench as a version that never changes again. */
export function SaveSheet({ name: given, batterId, parent, batter, diets, suggestion, onClose, onSaved }: Props) {
  const [note, setNote] = useState(suggestion);
  const [name, setName] = useState(given);
  const queries = useQueryClient();
  const save = useMutation({
    mutationFn: () =>
      batterId
        ? got(
            api.POST("/api/batters/{batter_id}/versions", {
              params: { path: { batter_id: batterId } },
              body: { batter, parent, diets, note },
            }),
          )
        : got(api.POST("/api/batters", { body: { name, version: { batter, diets, note } } })),
    onSuccess: (version) => {
      queries.invalidateQueries({ queryKey: ["batters"] });
      onSaved(version);
    },
  });
  return (
    <Sheet title="Save as a version" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
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
              className="input w-full text-base"
              required
              maxLength={120}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </label>
        )}
        <label className="block">
          <span className="mb-1 block font-semibold">Note</span>
          <textarea
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
        <button type="submit" disabled={save.isPending} className="btn btn-accent mt-4 min-h-11 px-6 text-base">
          {save.isPending ? "Saving…" : "Save"}
        </button>
      </form>
    </Sheet>
  );
}
