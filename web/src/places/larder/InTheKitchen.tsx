import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import type { Item, SetItem } from "./item";

/** How much of an ingredient is in, which pack is in use, and what it costs. */
export function InTheKitchen({ item, set }: { item: Item; set: SetItem }) {
  const { places } = useNumbers();
  return (
    <div className="grid content-start gap-2">
      <h3 className="font-bold">In the kitchen</h3>
      <NumberField
        label="in"
        unit="g"
        whenDone
        value={item.stock_g ?? null}
        onChange={(stock_g) =>
          set({ stock_g }, stock_g === null ? "Not counted any more." : `${places(stock_g, 0)} g in.`)
        }
      />
      <label className="flex items-center gap-2">
        pack
        <input
          className="input h-10 max-w-64"
          maxLength={120}
          defaultValue={item.pack ?? ""}
          placeholder="which pack is in use"
          onBlur={(event) => {
            const pack = event.target.value.trim() || null;
            if (pack !== (item.pack ?? null))
              set(
                { pack, lot: null, best_before: null, opened: null }, // another pack has days of its own
                pack ? `${pack} is in use; what was read on another pack lapses.` : "No pack named.",
              );
          }}
        />
      </label>
      <label className="flex items-center gap-2">
        its lot
        <input
          key={item.lot ?? ""}
          className="input h-10 max-w-44"
          maxLength={60}
          defaultValue={item.lot ?? ""}
          placeholder="as printed"
          onBlur={(event) => {
            const lot = event.target.value.trim() || null;
            if (lot !== (item.lot ?? null))
              set({ lot }, lot ? `Lot ${lot}: pours name it from now on.` : "No lot named.");
          }}
        />
      </label>
      {(
        [
          ["opened", "opened on"],
          ["best_before", "best before"],
        ] as const
      ).map(([key, words]) => (
        <label key={key} className="flex items-center gap-2">
          {words}
          <input
            type="date"
            className="input h-10 w-44"
            value={item[key] ?? ""}
            onChange={(event) => set({ [key]: event.target.value || null }, "Kept with its pack.")}
          />
        </label>
      ))}
      <NumberField
        label="a pack holds"
        whenDone
        unit="g"
        min={1}
        value={item.pack_g ?? null}
        onChange={(pack_g) => set({ pack_g }, "Pack kept.")}
      />
      <NumberField
        label="and costs"
        whenDone
        unit=""
        value={item.price ?? null}
        onChange={(price) => set({ price }, "Price kept.")}
      />
      {item.price != null && item.pack_g != null && (
        <p className="text-sm">
          That is <span className="figure">{places((1000 * item.price) / item.pack_g, 2)}</span> a kilogram; the cost of
          a piece follows on the Bench.
        </p>
      )}
    </div>
  );
}
