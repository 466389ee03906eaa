import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Answered, api, got } from "../../api/client";
import { packsQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { useIngredientNames } from "../../app/names";
import { Button } from "../../kit/Button";
import { Choose } from "../../kit/Choose";
import { useNumbers } from "../../kit/numbers";
import PickIngredient from "../../kit/PickIngredient";
import { Sheet } from "../../kit/Sheet";
import { day } from "../../pure/format";

type Use = Answered<"Use">;
type Way = "on" | "back";
const FIELD = "min-h-11 w-full rounded-field border border-base-content/50 bg-base-100 px-3";

/** Where a pack went, or which packs a guest ate of: certain, possible, ruled out. It never says that anything is safe. */
export function TraceSheet({ onClose }: { onClose: () => void }) {
  const [way, setWay] = useState<Way>("on");
  return (
    <Sheet title="Trace a pack" onClose={onClose} wide>
      <div className="mb-4 print:hidden">
        <Choose
          label="Trace"
          options={[
            ["on", "from a pack to the plates"],
            ["back", "from a guest back to the packs"],
          ]}
          value={way}
          onChange={setWay}
        />
      </div>
      {way === "on" ? <On /> : <Back />}
    </Sheet>
  );
}

function On() {
  const { grams } = useNumbers();
  const [ingredient, setIngredient] = useState<string | null>(null);
  const [pack, setPack] = useState("");
  const packs = useQuery(packsQuery(ingredient));
  const called = useIngredientNames(ingredient !== null);
  const ask = useWrite((_: undefined) =>
    got(api.GET("/api/journal/trace", { params: { query: { ingredient: ingredient!, pack } } })),
  );
  return (
    <>
      <form
        className="mb-4 grid gap-3 print:hidden"
        onSubmit={(e) => {
          e.preventDefault();
          if (ingredient && pack.trim()) ask.mutate(undefined);
        }}
      >
        <PickIngredient label="Ingredient" onPick={setIngredient} />
        {ingredient && <p className="font-semibold">{called(ingredient)}</p>}
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
          <input value={pack} maxLength={120} onChange={(e) => setPack(e.target.value)} className={FIELD} />
        </label>
        <Button kind="strong" type="submit" disabled={!ingredient || !pack.trim() || ask.isPending}>
          Where did it go?
        </Button>
      </form>
      {ask.isError && <p role="alert">{ask.error.message}</p>}
      {ask.data && (
        <div role="status">
          <p className="mb-3 text-lg font-semibold">{ask.data.words}</p>
          {ask.data.bags.length > 0 && (
            <section aria-label="Bags of dry mix" className="mb-4">
              <h3 className="text-lg font-bold">Bags of dry mix on the shelf</h3>
              <ul>
                {ask.data.bags.map((b) => (
                  <li key={b.bag} className="border-b border-base-300 py-1">
                    <b>{b.name}</b>, made {day(b.made)}, {grams(b.left_g)} g left:{" "}
                    <b className="text-error">
                      {b.certain ? "this pack is in it. Discard it." : "this pack may be in it. Discard it."}
                    </b>
                  </li>
                ))}
              </ul>
            </section>
          )}
          <Uses title="Certain: this pack was named" uses={ask.data.certain} discard />
          <Uses title="Possible: no pack was named, or not all of it" uses={ask.data.possible} discard />
          <Uses title="Ruled out: another pack was named" uses={ask.data.ruled_out} />
          <Button className="print:hidden" onClick={() => window.print()}>
            Print
          </Button>
        </div>
      )}
    </>
  );
}

function Uses({ title, uses, discard = false }: { title: string; uses: readonly Use[]; discard?: boolean }) {
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
              {u.kept && discard && (
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

function Back() {
  const [guest, setGuest] = useState("");
  const [on, setOn] = useState("");
  const ask = useWrite((_: undefined) =>
    got(api.GET("/api/journal/trace/back", { params: { query: { guest: guest.trim(), ...(on && { on }) } } })),
  );
  const called = useIngredientNames(ask.data?.some((e) => e.packs.length > 0) ?? false);
  return (
    <>
      <form
        className="mb-4 grid gap-3 print:hidden"
        onSubmit={(e) => {
          e.preventDefault();
          if (guest.trim() || on) ask.mutate(undefined);
        }}
      >
        <label>
          Who ate
          <input value={guest} maxLength={120} onChange={(e) => setGuest(e.target.value)} className={FIELD} />
        </label>
        <label className="flex items-center gap-2">
          on
          <input
            type="date"
            value={on}
            onChange={(e) => setOn(e.target.value)}
            className="min-h-11 rounded-field border border-base-300 bg-base-100 px-2"
          />
        </label>
        <Button kind="strong" type="submit" disabled={(!guest.trim() && !on) || ask.isPending}>
          What was in it?
        </Button>
      </form>
      {ask.isError && <p role="alert">{ask.error.message}</p>}
      {ask.data && (
        <div role="status">
          {ask.data.length === 0 && (
            <p className="text-lg">
              No batch of that day or for that guest is in the log. What nobody recorded is not in it either.
            </p>
          )}
          <ul>
            {ask.data.map((e) => (
              <li key={e.batch} className="border-b border-base-300 py-2">
                <b>{e.name}</b>, {day(e.day)}
                {e.whom && `, for ${e.whom}`}: {e.certain ? <b>known to have eaten of it</b> : "may have eaten of it"}
                <span className="block">
                  {e.packs.length > 0
                    ? e.packs.map((p) => `${called(p.ingredient)}: ${p.pack}`).join("; ")
                    : "No pack was named."}
                </span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
