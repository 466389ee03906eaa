import { useState } from "react";
import { Link } from "react-router";
import { Button } from "../../kit/Button";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import type { Item, Known, SetItem } from "./item";

type Props = { known: Known; item: Item; set: SetItem };
type Measure = Known["weighs"][number]["measure"];
type Weighing = { grams: number | null; of: number; measure: Measure };
const NONE: Weighing = { grams: null, of: 1, measure: "cup" };
const MEASURES: Record<Measure, [string, string]> = {
  cup: ["cup", "cups"],
  tbsp: ["table spoon", "table spoons"],
  tsp: ["tea spoon", "tea spoons"],
};

/** What a cup and a spoon of it weigh here, and how much water it drinks. */
export function Weighs({ known, item, set }: Props) {
  const { places } = useNumbers();
  const [weighing, setWeighing] = useState<Weighing>(NONE);
  const from = known.label ? "its label" : "the table";
  return (
    <div className="grid content-start gap-2">
      <h3 className="font-bold">Your cup and spoon of it</h3>
      <p className="flex flex-wrap items-center gap-2">
        <NumberField
          label="I weighed"
          min={0.25}
          max={50}
          required
          value={weighing.of}
          onChange={(of) => setWeighing({ ...weighing, of: of ?? 1 })}
        />
        <select
          aria-label="Of what"
          className="h-10 rounded-field border border-base-300 bg-base-100 px-2"
          value={weighing.measure}
          onChange={(event) => setWeighing({ ...weighing, measure: event.target.value as Measure })}
        >
          {Object.entries(MEASURES).map(([key, [, many]]) => (
            <option key={key} value={key}>
              {many}
            </option>
          ))}
        </select>
        <NumberField
          label="at"
          unit="g"
          min={0.1}
          max={10_000}
          value={weighing.grams}
          onChange={(grams) => setWeighing({ ...weighing, grams })}
        />
        <Button
          disabled={weighing.grams === null}
          onClick={() => {
            const one = Math.round((100 * weighing.grams!) / weighing.of) / 100;
            const { measure } = weighing;
            set(
              { [`${measure}_g`]: one, [`${measure}_ml`]: null },
              `A ${MEASURES[measure][0]} of it is ${places(one, 1)} g from now on.`,
            );
            setWeighing(NONE);
          }}
        >
          Use it
        </Button>
      </p>
      {known.weighs.length === 0 && <p className="text-sm">No cup or spoon of it is known.</p>}
      <ul className="text-sm">
        {known.weighs.map((w) => (
          <li key={w.measure} className="flex min-h-9 flex-wrap items-center gap-x-2">
            <span>
              A {MEASURES[w.measure][0]} is counted as <span className="figure">{places(w.counted_g, 1)}</span> g
              {w.weighed ? `, weighed here; ${from} has ${places(w.given_g, 1)} g` : ""}
            </span>
            {w.weighed && (
              <Button
                kind="small"
                onClick={() =>
                  set(
                    { [`${w.measure}_g`]: null, [`${w.measure}_ml`]: null },
                    `The ${MEASURES[w.measure][0]} as ${from} has it.`,
                  )
                }
              >
                As {from} has it
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Thirst known={known} item={item} set={set} />
    </div>
  );
}

function Thirst({ known, item, set }: Props) {
  const { places } = useNumbers();
  const { label } = known;
  if (known.table_absorption <= 0 && item.absorption == null) return null;
  return (
    <>
      <h3 className="mt-3 font-bold">What it drinks</h3>
      <NumberField
        label="set by hand"
        whenDone
        unit="g water a gram"
        max={20}
        value={item.absorption ?? null}
        placeholder={places(known.table_absorption, 2)}
        onChange={(absorption) =>
          set(
            { absorption },
            absorption === null ? "The thirst as it was given." : `It drinks ${places(absorption, 2)} g a gram here.`,
          )
        }
      />
      {known.learned && (
        <p>
          Learned at the stove:{" "}
          <span className="figure">{places(known.table_absorption * known.learned.after_mean, 2)}</span> g, ±{" "}
          {places(2 * known.table_absorption * known.learned.after_sd, 2)}
          {item.absorption != null && " (what is set by hand counts)"}.{" "}
          <Link className="underline underline-offset-4" to="/kitchen/learned">
            How
          </Link>
        </p>
      )}
      <p className="text-sm">
        {item.absorption != null && "Set in this kitchen. "}
        {label?.absorption != null ? "Given with its label" : label ? "Guessed from its label" : "The table has"}{" "}
        <span className="figure">{places(known.table_absorption, 2)}</span> g
        {known.absorption_range &&
          `; starch, fibre and protein speak for ${places(known.absorption_range.low, 2)} to ${places(known.absorption_range.high, 2)} g`}
        .
      </p>
    </>
  );
}
