import type { Batter, BatterView } from "../../api/client";
import { Choose } from "../../kit/Choose";
import { Look } from "../../kit/Look";
import { NumberField } from "../../kit/NumberField";
import type { Act } from "../../pure/bench";

type Ways = Pick<Batter, "order" | "leavening" | "whites">;
type Props = { batter: Batter; base: BatterView; act: (act: Act) => void };

/** How this batter is made, kept with the version: its rest, its bowls, when the leavening goes in, how the whites are whipped. */
export function WaysOfMaking({ batter, base, act }: Props) {
  const set = (ways: Partial<Ways>) => act({ type: "ways", ways });
  const leavened = base.lines.some((l) => l.group === "leavener" && l.line.where === "batter");
  const foams = base.lines.some((l) => l.line.states?.some((s) => s === "separated" || s === "whipped"));
  return (
    <fieldset className="flex flex-wrap items-center gap-x-6 gap-y-2.5 border-t border-base-300 pt-3 md:col-span-2 xl:col-span-3">
      <legend className="sr-only">How it is made</legend>
      <NumberField
        label="rests"
        unit="min"
        value={batter.rest_min ?? null}
        max={5000}
        placeholder={`${Math.round(base.rest_min)}`}
        onChange={(minutes) => act({ type: "rest", minutes })}
      />
      <Choose
        label="mixed in"
        options={[
          ["two_bowls", "two bowls"],
          ["one_bowl", "one bowl"],
          ["blender", "the blender"],
        ]}
        value={batter.order ?? (batter.blender ? "blender" : "two_bowls")}
        onChange={(order) => set({ order })}
      />
      {leavened && (
        <Choose
          label="leavening goes in"
          options={[
            ["as_it_wants", "as it wants"],
            ["dry", "with the dry"],
            ["hot", "when hot"],
            ["last", "last"],
          ]}
          value={batter.leavening ?? "as_it_wants"}
          onChange={(at) => set({ leavening: at === "as_it_wants" ? null : at })}
        />
      )}
      {foams && (
        <span className="flex items-center gap-2">
          <Choose
            label="whites"
            options={[
              ["soft", "soft peaks"],
              ["stiff", "stiff peaks"],
            ]}
            value={batter.whites ?? "soft"}
            onChange={(whites) => set({ whites })}
          />
          <Look of={`peaks ${batter.whites ?? "soft"}`} className="h-11 w-16" />
        </span>
      )}
    </fieldset>
  );
}
