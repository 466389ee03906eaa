import type { BatterLine, BatterView } from "../../api/client";
import { useNumbers } from "../../kit/numbers";
import { Verdict } from "../../kit/Verdict";
import type { Act } from "../../pure/bench";
import { allergen } from "../../pure/format";
import { AddLine } from "./AddLine";
import { type Placed, placed, Rows } from "./Rows";
import { SideHead } from "./SideDish";

type Props = {
  base: BatterView;
  after: BatterView | undefined;
  asked: boolean;
  lit: string | null;
  onLight: (key: string | null) => void;
  act: (act: Act) => void;
};

/** The plate: grease, add-ins, toppings and syrups beside the batter, with the verdict and the nutrition of all of it. */
export function PlateSection({ base, after, asked, lit, onLight, act }: Props) {
  const { places, whole } = useNumbers();
  const judged = after ?? base;
  const on = (batter: BatterView | undefined, side: string): Placed[] =>
    batter ? placed(batter, "plate").filter((x) => x.view.line.side === side) : [];
  const n = judged.pieces.per_piece_plate;
  return (
    <section aria-label="The plate" className="mt-4">
      <h2 className="mb-2 flex flex-wrap items-baseline gap-x-4 border-b border-base-300 pb-1 text-lg font-bold">
        The plate
        <span className="font-sans text-base font-normal">
          grease, syrup, and dishes beside (“Compote:” and its lines): the guest eats all of it
        </span>
        {asked && judged.plate.lines > 0 && (
          <span className="ml-auto font-sans text-base">
            <Verdict verdict={judged.guests.plate_verdict} of="with the plate" />
          </span>
        )}
      </h2>
      {["", ...judged.sides.map((x) => x.name)].map((name) => {
        const dish = judged.sides.find((x) => x.name === name);
        const make = on(after, name);
        return (
          <section
            key={name}
            aria-label={name || "Grease and syrup"}
            className="mb-3 grid grid-cols-1 gap-x-6 gap-y-2 lg:grid-cols-[minmax(0,31rem)_minmax(0,1fr)]"
          >
            {dish && (
              <div className="lg:col-span-2">
                <SideHead side={dish} judged={asked} />
              </div>
            )}
            <div>
              <Rows
                rows={on(base, name)}
                side="iron"
                lit={lit}
                onLight={onLight}
                onGrams={(view, line, g) => act({ type: "baseGrams", line, grams: g, name: view.full_name })}
                onRemove={(line, key) => act({ type: "removeLine", line, key })}
              />
              <AddLine
                label={name ? `Add to ${name}` : "Add to the plate"}
                measures={base.batter}
                placeholder={name ? "another line of it" : "on the plate: 30 g maple syrup"}
                onLines={(lines: BatterLine[]) =>
                  act({
                    type: "addLines",
                    lines: lines.map((l) => ({
                      ...l,
                      where: l.where === "aside" ? "aside" : "plate",
                      side: name || l.side,
                    })),
                  })
                }
              />
            </div>
            {make.length > 0 && (
              <Rows
                rows={make}
                side="berry"
                lit={lit}
                onLight={onLight}
                onGrams={(view, _, g) =>
                  view.line.ingredient && act({ type: "madeGrams", ingredient: view.line.ingredient, grams: g })
                }
              />
            )}
          </section>
        );
      })}
      {judged.plate.lines > 0 && n.kcal !== undefined && (
        <p className="mt-2">
          A piece with its share of the plate: <span className="figure">{whole(n.kcal)}</span> kcal, fat{" "}
          <span className="figure">{places(n.fat_g ?? 0, 1)}</span> g, sugars{" "}
          <span className="figure">{places(n.sugars_g ?? 0, 1)}</span> g, net carbohydrate{" "}
          <span className="figure">{places(n.net_carb_g ?? 0, 1)}</span> g. <b>With the plate it contains:</b>{" "}
          {judged.plate.contains.map(allergen).join(", ") || "none of the listed allergens"}
          {judged.plate.may_contain.length > 0 && `; may contain ${judged.plate.may_contain.map(allergen).join(", ")}`}.
        </p>
      )}
    </section>
  );
}
