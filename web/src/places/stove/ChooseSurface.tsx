import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { liesQuery } from "../../api/queries";
import { Acts, Button } from "../../kit/Button";
import { Caution } from "../../kit/Caution";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { useSettled } from "../../kit/settled";
import { Scoop } from "./Scoop";
import { useInHand } from "./useBatch";

/** What it is cooked on: the surface, its heat, the size of a piece, and the fat that greases it. `onDone`: it cooks already, and only what
 * comes next changes. */
export function ChooseSurface({ onDone }: { onDone?: () => void }) {
  const { places, heat: degrees } = useNumbers();
  const { view, say } = useInHand();
  const { options, greases, fats, chosen } = view.cooking;
  const [id, setId] = useState(chosen?.surface.id ?? options[0]?.surface.id ?? "");
  const option = options.find((o) => o.surface.id === id);
  const [celsius, setCelsius] = useState<number | null>(view.cooking.celsius);
  const [grease, setGrease] = useState<(typeof greases)[number]["key"]>(chosen?.grease ?? "film");
  const [portion, setPortion] = useState<number | null>(chosen?.portion_ml ?? null);
  const [fat, setFat] = useState<string | null>(chosen?.fat ?? null);
  const chosenFat = fats.find((f) => f.id === (fat ?? fats[0]?.id));
  const [per, setPer] = useState<number | null>(null);
  const ml = portion ?? option?.piece.portion_ml ?? 0;
  // What it looks like in this scoop is asked for at each change of it.
  const lies = useQuery(liesQuery(view.id, id, useSettled(ml, 120), grease)).data;
  const shown = lies?.surface.id === id ? lies : option;
  if (!option || !shown)
    return (
      <p className="text-2xl">
        There is no surface in this kitchen for a {view.form_label}. Add one in the Kitchen, under Surfaces.
      </p>
    );
  const heat = celsius ?? shown.celsius ?? option.surface.usual_c;
  const each = per ?? shown.piece.per_load;
  const same = chosen?.surface.id === id;
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
      {shown.smaller && (
        <p className="mt-3 text-xl font-semibold">No heat cooks this piece through before it burns. {shown.smaller}</p>
      )}
      {view.form !== "tray" && (
        <Scoop
          ml={ml}
          onScoop={(v) => {
            setPortion(v);
            setPer(null);
          }}
        />
      )}
      <div className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-3 text-lg">
        <NumberField
          label="heat"
          unit={degrees.unit}
          value={degrees.shown(heat)}
          min={degrees.shown(60)}
          max={degrees.shown(350)}
          required
          onChange={(v) => v !== null && setCelsius(degrees.read(v))}
        />
        <NumberField
          label={view.form === "tray" ? "pieces it is cut into" : "pieces at a time"}
          value={each}
          min={1}
          max={200}
          required
          onChange={(v) => v !== null && setPer(Math.round(v))}
        />
      </div>
      {shown.piece.diameter_cm !== null && (
        <p className="mt-2 text-lg" aria-live="polite">
          About <b className="figure">{places(shown.piece.diameter_cm, 1)}</b> cm across and{" "}
          <b className="figure">{places(shown.piece.thickness_mm, 0)}</b> mm thick when risen; {shown.piece.per_load}{" "}
          lie on it with {places(option.surface.gap_cm ?? 0, 1)} cm between them.
        </p>
      )}
      {shown.over && <Caution>{shown.over}</Caution>}
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
          {chosenFat.name} smokes from about {degrees.shown(chosenFat.smokes_c)} {degrees.unit}. Another fat, or a lower
          heat.
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
          onClick={() => {
            say(
              {
                kind: "surface_chosen",
                surface: option.surface,
                celsius: Math.round(10 * heat) / 10,
                grease,
                fat: grease === "none" ? null : (chosenFat?.id ?? null),
                portion_ml: Math.round(10 * ml) / 10,
                per_load: each,
              },
              ...(same ? [] : [{ kind: "heat_on" } as const]),
            );
            onDone?.();
          }}
        >
          {same ? "So from now on" : "Heat it"}
        </Button>
        {onDone && (
          <Button kind="large" onClick={onDone}>
            As it was
          </Button>
        )}
        <span className="text-lg">Hot metal, hot fat, steam: paper and cloth away from it.</span>
      </Acts>
    </>
  );
}
