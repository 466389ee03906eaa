import { useState } from "react";
import { Acts, Button } from "../../kit/Button";
import { Caution } from "../../kit/Caution";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { useInHand } from "./useBatch";

/** What it is cooked on: the surface, its heat, the size of a piece, and the fat that greases it. */
export function ChooseSurface() {
  const { places } = useNumbers();
  const { view, say } = useInHand();
  const { options, greases, fats } = view.cooking;
  const [id, setId] = useState(options[0]?.surface.id ?? "");
  const option = options.find((o) => o.surface.id === id);
  const [celsius, setCelsius] = useState<number | null>(null);
  const [grease, setGrease] = useState<(typeof greases)[number]["key"]>("film");
  const [portion, setPortion] = useState<number | null>(null);
  const heat = celsius ?? option?.celsius ?? option?.surface.usual_c ?? 185;
  const [fat, setFat] = useState<string | null>(null);
  const chosenFat = fats.find((f) => f.id === (fat ?? fats[0]?.id));
  const [per, setPer] = useState<number | null>(null);
  if (!option)
    return (
      <p className="text-2xl">
        There is no surface in this kitchen for a {view.form_label}. Add one in the Kitchen, under Surfaces.
      </p>
    );
  const ml = portion ?? option.piece.portion_ml;
  const each = per ?? option.piece.per_load;
  return (
    <>
      <fieldset className="flex flex-wrap gap-2">
        <legend className="sr-only">Cooked on</legend>
        {options.map((o) => (
          <Button
            kind="large"
            key={o.surface.id}
            pressed={o.surface.id === id}
            onClick={() => {
              setId(o.surface.id);
              setCelsius(null);
              setPortion(null);
              setPer(null);
            }}
          >
            {o.surface.name}
          </Button>
        ))}
      </fieldset>
      {option.smaller && (
        <p className="mt-3 text-xl font-semibold">No heat cooks this piece through before it burns. {option.smaller}</p>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-3 text-lg">
        <NumberField
          label="heat"
          unit="°C"
          value={heat}
          min={60}
          max={350}
          required
          onChange={(v) => v !== null && setCelsius(v)}
        />
        <NumberField
          label="a scoop of"
          unit="mL"
          value={Math.round(ml)}
          min={5}
          max={5000}
          required
          onChange={(v) => v !== null && setPortion(v)}
        />
        <NumberField
          label="pieces at a time"
          value={each}
          min={1}
          max={200}
          required
          onChange={(v) => v !== null && setPer(Math.round(v))}
        />
      </div>
      {option.piece.diameter_cm && portion === null && (
        <p className="mt-2 text-lg">
          About {places(option.piece.diameter_cm, 1)} cm across and {places(option.piece.thickness_mm, 0)} mm thick when
          risen; {option.piece.per_load} lie on it with {places(option.surface.gap_cm ?? 0, 1)} cm between them.
        </p>
      )}
      {view.cooking.largest && (
        <p className="mt-1 text-lg">
          On {view.cooking.largest.surface}: {view.cooking.largest.words}
        </p>
      )}
      <fieldset className="mt-4 flex flex-wrap items-center gap-2">
        <legend className="float-left mr-3 text-lg">Grease</legend>
        {greases.map((g) => (
          <Button kind="large" key={g.key} pressed={g.key === grease} onClick={() => setGrease(g.key)}>
            {g.label}
          </Button>
        ))}
        {grease !== "none" && (
          <label className="flex items-center gap-2 text-lg">
            of
            <select
              className="h-12 rounded-field border border-base-content/50 bg-base-100 px-2"
              value={chosenFat?.id ?? ""}
              onChange={(event) => setFat(event.target.value)}
            >
              {fats.map((f) => (
                <option key={f.id} value={f.id}>
                  {f.name}
                  {f.verdict === "fits" ? "" : f.verdict === "conflicts" ? " (conflicts)" : " (read its pack)"}
                </option>
              ))}
            </select>
          </label>
        )}
      </fieldset>
      {grease !== "none" && chosenFat && chosenFat.verdict !== "fits" && (
        <Caution>
          {chosenFat.verdict === "conflicts"
            ? `The guests cannot have ${chosenFat.name}: what is on the pan is on the plate.`
            : `${chosenFat.name} is not confirmed until its pack is read: what is on the pan is on the plate.`}
        </Caution>
      )}
      {grease !== "none" && chosenFat?.smokes_c && chosenFat.smokes_c <= heat && (
        <Caution>
          {chosenFat.name} smokes from about {chosenFat.smokes_c} °C. Another fat, or a lower heat.
        </Caution>
      )}
      {view.table.contains.length > 0 && view.table.guests.length > 0 && (
        <p className="mt-3 max-w-3xl text-lg">
          A surface that has carried wheat, nuts or milk is scrubbed, or another one is taken; an iron that has baked
          wheat is not fit for a guest who may not have it.
        </p>
      )}
      <Acts>
        <Button
          kind="next"
          onClick={() =>
            say(
              {
                kind: "surface_chosen",
                surface: option.surface,
                celsius: heat,
                grease,
                fat: grease === "none" ? null : (chosenFat?.id ?? null),
                portion_ml: ml,
                per_load: each,
              },
              { kind: "heat_on" },
            )
          }
        >
          Heat it
        </Button>
        <span className="text-lg">Hot metal, hot fat, steam: paper and cloth away from it.</span>
      </Acts>
    </>
  );
}
