import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Answered, api, got } from "../../api/client";
import { packsQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import PickIngredient from "../../kit/PickIngredient";
import { Sheet } from "../../kit/Sheet";
import { day } from "../../pure/format";

type Use = Answered<"Use">;

/** Where a pack went: certain, possible, ruled out. It never says that anything is safe. */
export function TraceSheet({ onClose }: { onClose: () => void }) {
  const [ingredient, setIngredient] = useState<string | null>(null);
  const [pack, setPack] = useState("");
  const packs = useQuery(packsQuery(ingredient));
  const ask = useWrite((_: undefined) =>
    got(api.GET("/api/journal/trace", { params: { query: { ingredient: ingredient!, pack } } })),
  );
  return (
    <Sheet title="Trace a pack" onClose={onClose} wide>
      <form
        className="mb-4 grid gap-3 print:hidden"
        onSubmit={(e) => {
          e.preventDefault();
          if (ingredient && pack.trim()) ask.mutate(undefined);
        }}
      >
        <PickIngredient label="Ingredient" onPick={setIngredient} />
        {ingredient && <p className="font-semibold">{ingredient.replaceAll("_", " ")}</p>}
        {packs.data && packs.data.length > 0 && (
          <fieldset className="flex flex-wrap items-center gap-2">
            <legend className="font-semibold">Packs that were named</legend>
            {packs.data.slice(0, 12).map((p) => (
              <Button key={p} kind="small" pressed={p === pack} onClick={() => setPack(p)}>
                {p}
              </Button>
            ))}
          </fieldset>
        )}
        <label>
          The pack, as the Larder names it (lot or best before with it)
          <input
            value={pack}
            maxLength={120}
            onChange={(e) => setPack(e.target.value)}
            className="min-h-11 w-full rounded-field border border-base-content/50 bg-base-100 px-3"
          />
        </label>
        <Button kind="strong" type="submit" disabled={!ingredient || !pack.trim() || ask.isPending}>
          Where did it go?
        </Button>
      </form>
      {ask.isError && <p role="alert">{ask.error.message}</p>}
      {ask.data && (
        <div role="status">
          <p className="mb-3 text-lg font-semibold">{ask.data.words}</p>
          <Uses title="Certain: this pack was named" uses={ask.data.certain} />
          <Uses title="Possible: no pack was named" uses={ask.data.possible} />
          <Uses title="Ruled out: another pack was named" uses={ask.data.ruled_out} />
        </div>
      )}
    </Sheet>
  );
}

function Uses({ title, uses }: { title: string; uses: readonly Use[] }) {
  return (
    <section aria-label={title} className="mb-4">
      <h3 className="text-lg font-bold">{title}</h3>
      {uses.length === 0 ? (
        <p>None.</p>
      ) : (
        <ul>
          {uses.map((u) => (
            <li key={u.batch} className="border-b border-base-300 py-1">
              <b>{u.name}</b>, {day(u.day)}
              {u.whom && `, for ${u.whom}`}
              {u.kept && (
                <b className="block text-error">
                  Still kept: {u.kept}
                  {u.until && `, until ${day(u.until)}`}. Discard it.
                </b>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
