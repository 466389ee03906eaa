import { useQuery } from "@tanstack/react-query";
import type { Answered, Batter } from "../../api/client";
import { choicesQuery } from "../../api/queries";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { Verdict } from "../../kit/Verdict";
import type { Swap } from "../../pure/bench";

type Props = {
  batter: Batter;
  line: number;
  name: string;
  diets: string[];
  onTake: (swap: Swap) => void;
  onClose: () => void;
};

/** What could stand in a line's place, each with the amount that does its work and every balance it would move. */
export function SwapSheet({ batter, line, name, diets, onTake, onClose }: Props) {
  const { grams } = useNumbers();
  const choices = useQuery(choicesQuery(batter, line, diets));
  return (
    <Sheet title={`In place of ${name}`} onClose={onClose} wide>
      {choices.isPending && <p>Trying what could stand in…</p>}
      {choices.isError && <p role="alert">{choices.error.message}</p>}
      {choices.data?.length === 0 && <p>Nothing that is known and allowed does what it does.</p>}
      <ul className="flex flex-col">
        {choices.data?.map((c) => (
          <li key={c.ingredient} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-base-300 py-2">
            <div className="min-w-56 flex-1">
              <p>
                <b>{c.name}</b>
                {c.verdict !== "fits" && (
                  <span className="ml-2">
                    <Verdict verdict={c.verdict} /> <span className="text-sm">{c.reason}</span>
                  </span>
                )}
              </p>
              <p className="text-sm">
                <span className="figure text-lg text-primary">{grams(c.grams)} g</span> for {c.held}; by weight{" "}
                {grams(c.by_weight_g)} g{c.by_volume_g !== null && `, by volume ${grams(c.by_volume_g)} g`}
              </p>
              {c.note && <p className="text-sm font-semibold text-warning">{c.note}</p>}
              <Effects effects={c.effects} />
            </div>
            <Button
              kind="outline"
              onClick={() => {
                onTake({ id: c.ingredient, name: c.name, grams: c.grams });
                onClose();
              }}
            >
              Take it
            </Button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

function Effects({ effects }: { effects: Answered<"Effect">[] }) {
  const { figure } = useNumbers();
  const moved = effects.filter((e) => e.noticed);
  if (moved.length === 0) return <p className="text-sm">No balance moves so that you would notice.</p>;
  return (
    <ul className="flex flex-wrap gap-x-4 text-sm">
      {moved.map((e) => (
        <li key={e.key}>
          {e.label}{" "}
          <span className="figure">
            {figure(e.now, e.unit)} → {figure(e.then, e.unit)}
          </span>{" "}
          {e.unit}
          {e.verdict !== "fits" && <b className="text-warning"> {e.verdict}</b>}
        </li>
      ))}
    </ul>
  );
}
