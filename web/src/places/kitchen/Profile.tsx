import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type Answered, api, got } from "../../api/client";
import { profileQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { useBench } from "../../app/BenchContext";
import { Choose } from "../../kit/Choose";
import { useHeld } from "../../kit/held";
import { NumberField } from "../../kit/NumberField";
import { Tick } from "../../kit/Tick";
import { useTell } from "../../kit/Toast";
import { ThisDevice } from "./ThisDevice";

type Profile = Answered<"Profile">;

/** How this kitchen measures, and which school it follows where cooks disagree. Kept as it is set; each change can be taken back. */
export function ProfileForm() {
  const profile = useQuery(profileQuery);
  if (profile.isError) return <p role="alert">{profile.error.message}</p>;
  if (!profile.data) return <p>Looking…</p>;
  return <Fields profile={profile.data} />;
}

function Fields({ profile: told }: { profile: Profile }) {
  const tell = useTell();
  const cups = useBench().start.sources.filter((s) => s.cup !== "");
  const queries = useQueryClient();
  const put = useWrite((next: Profile) => got(api.PUT("/api/profile", { body: next })), {
    changes: "profile",
    order: "profile",
  });
  const held = useHeld<Profile>(told, put.mutateAsync, (next) => queries.setQueryData(profileQuery.queryKey, next));
  const profile = held.value;
  const set = (part: Partial<Profile>) => {
    const was = held.latest();
    void held.keep({ ...was, ...part }).then((kept) => kept && tell("Kept.", () => held.keep(was)));
  };
  return (
    <div className="grid grid-cols-1 gap-x-12 gap-y-8 md:grid-cols-2">
      {put.isError && (
        <p role="alert" className="text-error md:col-span-2">
          {put.error.message}
        </p>
      )}
      <section aria-label="Measures" className="grid content-start gap-3">
        <h2 className="border-b border-base-300 pb-1 text-lg font-bold">Measures</h2>
        <NumberField
          label="a cup holds"
          unit="mL"
          min={101}
          max={399}
          required
          whenDone
          value={profile.cup_ml}
          onChange={(v) => v !== null && set({ cup_ml: v })}
        />
        <p className="flex flex-wrap gap-1.5">
          {cups.map(({ cup, cup_ml }) => (
            <button
              key={cup_ml}
              type="button"
              aria-pressed={profile.cup_ml === cup_ml}
              className={`min-h-9 rounded-field border px-3 pointer-coarse:min-h-11 ${profile.cup_ml === cup_ml ? "border-neutral bg-neutral text-neutral-content" : "border-base-300"}`}
              onClick={() => set({ cup_ml })}
            >
              {cup}
            </button>
          ))}
        </p>
        <NumberField
          label="a table spoon"
          unit="mL"
          min={5.1}
          max={29}
          required
          whenDone
          value={profile.tbsp_ml}
          onChange={(v) => v !== null && set({ tbsp_ml: v })}
        />
        <NumberField
          label="a tea spoon"
          unit="mL"
          min={2.1}
          max={9.9}
          required
          whenDone
          value={profile.tsp_ml}
          onChange={(v) => v !== null && set({ tsp_ml: v })}
        />
        <Choose
          label="Flour goes into the cup"
          stacked
          options={[
            ["spooned", "spooned and levelled"],
            ["scooped", "scooped"],
            ["unknown", "either way"],
          ]}
          value={profile.flour ?? "spooned"}
          onChange={(flour) => set({ flour })}
        />
        <Choose
          label="Eggs are sized"
          stacked
          options={[
            ["us", "the US way"],
            ["eu", "the European way"],
          ]}
          value={profile.eggs ?? "us"}
          onChange={(eggs) => set({ eggs })}
        />
        <Choose
          label="Cards show"
          stacked
          options={[
            ["both", "grams and kitchen measures"],
            ["grams", "grams"],
            ["kitchen", "kitchen measures"],
          ]}
          value={profile.shown ?? "both"}
          onChange={(shown) => set({ shown })}
        />
        <Choose
          label="Numbers are written"
          stacked
          options={[
            ["point", "1.5"],
            ["comma", "1,5"],
          ]}
          value={profile.decimal ?? "point"}
          onChange={(decimal) => set({ decimal })}
        />
        <Choose
          label="Heat is told in"
          stacked
          options={[
            ["celsius", "°C"],
            ["fahrenheit", "°F"],
            ["gas", "°C, ovens by gas mark too"],
          ]}
          value={profile.heat ?? "celsius"}
          onChange={(heat) => set({ heat })}
        />
        <NumberField
          label="the ladle holds"
          unit="mL"
          min={6}
          max={1999}
          whenDone
          value={profile.ladle_ml ?? null}
          placeholder="unknown"
          onChange={(ladle_ml) => set({ ladle_ml })}
        />
        <NumberField
          label="names of who ate are forgotten after"
          unit="days"
          min={1}
          max={3650}
          whenDone
          required
          value={profile.names_days ?? 90}
          onChange={(names_days) => names_days !== null && set({ names_days: Math.round(names_days) })}
        />
        <NumberField
          label="photos are let go of after"
          unit="days"
          min={1}
          max={3650}
          whenDone
          placeholder="kept"
          value={profile.photo_days ?? null}
          onChange={(photo_days) => set({ photo_days: photo_days === null ? null : Math.round(photo_days) })}
        />
      </section>
      <ThisDevice />
      <section aria-label="Schools" className="grid content-start gap-3">
        <h2 className="border-b border-base-300 pb-1 text-lg font-bold">Where cooks disagree</h2>
        <p>Verdicts follow these. The careful choice stands first; a lenient one is shown wherever it decides.</p>
        <Choose
          label="Net carbohydrate is"
          stacked
          options={[
            ["minus_fibre_polyols", "less fibre and polyols"],
            ["minus_fibre", "less fibre"],
            ["total", "all of it"],
          ]}
          value={profile.net_carb ?? "minus_fibre_polyols"}
          onChange={(net_carb) => set({ net_carb })}
        />
        <Choose
          label="Oats in gluten-free food"
          stacked
          options={[
            ["none", "none"],
            ["certified", "certified only"],
            ["any", "any, with a caution"],
          ]}
          value={profile.oats ?? "certified"}
          onChange={(oats) => set({ oats })}
        />
        <Choose
          label="Flour without a gluten-free mark"
          stacked
          options={[
            ["cannot_vouch", "cannot vouch"],
            ["read_the_pack", "fits, read the pack"],
          ]}
          value={profile.uncertified_flour ?? "cannot_vouch"}
          onChange={(uncertified_flour) => set({ uncertified_flour })}
        />
        <Choose
          label="“May contain” on a pack"
          stacked
          options={[
            ["cannot_vouch", "cannot vouch"],
            ["as_diet", "as the diet says"],
            ["caution", "a caution"],
          ]}
          value={profile.traces ?? "as_diet"}
          onChange={(traces) => set({ traces })}
        />
        <Choose
          label="Honey in vegan food"
          stacked
          options={[
            ["strict", "no"],
            ["lenient", "allow"],
          ]}
          value={profile.honey ?? "strict"}
          onChange={(honey) => set({ honey })}
        />
        <Choose
          label="Refined sugar in vegan food"
          stacked
          options={[
            ["strict", "only where confirmed"],
            ["lenient", "allow"],
          ]}
          value={profile.refined_sugar ?? "lenient"}
          onChange={(refined_sugar) => set({ refined_sugar })}
        />
        <Tick
          label="coconut counts as a nut"
          on={profile.coconut_is_nut ?? false}
          onChange={(coconut_is_nut) => set({ coconut_is_nut })}
        />
        <p className="text-sm">
          A verdict never replaces the pack's own label, a food-safety rule or a clinician. Local codes decide on
          keeping and heat.
        </p>
      </section>
    </div>
  );
}
