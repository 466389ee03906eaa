import { useState } from "react";
import { api, got } from "../../api/client";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { useTell } from "../../kit/Toast";
import { useInHand } from "./useBatch";

/** How much a scoop holds: in millilitres, by the kitchen's own spoons and cups, or by a ladle of this batter that was weighed once. */
export function Scoop({ ml, onScoop }: { ml: number; onScoop: (ml: number) => void }) {
  const { whole } = useNumbers();
  const { view } = useInHand();
  const { scoops, density } = view.cooking;
  const [weighing, setWeighing] = useState(false);
  const [grams, setGrams] = useState<number | null>(null);
  const tell = useTell();
  const keep = useWrite(
    async (ladle_ml: number) => {
      const profile = await got(api.GET("/api/profile"));
      return got(api.PUT("/api/profile", { body: { ...profile, ladle_ml } }));
    },
    { changes: "profile", order: "profile" },
  );
  const held = grams === null ? null : grams / density;
  return (
    <fieldset className="mt-4 flex flex-wrap items-center gap-2">
      <legend className="float-left mr-3 text-lg">A scoop of</legend>
      <NumberField
        label="a scoop of"
        hideLabel
        unit="mL"
        value={Math.round(ml)}
        min={5}
        max={5000}
        required
        onChange={(v) => v !== null && onScoop(v)}
      />
      {scoops.map((s) => (
        <Button key={s.label} kind="small" pressed={Math.abs(s.ml - ml) < 0.5} onClick={() => onScoop(s.ml)}>
          {s.label}
        </Button>
      ))}
      <Button kind="small" aria-expanded={weighing} onClick={() => setWeighing(!weighing)}>
        Weigh a ladle…
      </Button>
      {weighing && (
        <span className="flex flex-wrap items-center gap-2">
          <NumberField
            label="a ladle of this batter weighs"
            unit="g"
            value={grams}
            min={5}
            max={2000}
            onChange={setGrams}
          />
          <Button
            kind="small"
            disabled={held === null || held < 6}
            onClick={() => {
              if (held === null) return;
              onScoop(held);
              keep.mutate(held);
              setWeighing(false);
              tell(`The ladle holds ${whole(held)} mL; the Kitchen keeps it.`);
            }}
          >
            {held === null ? "It holds …" : `It holds ${whole(held)} mL: take it`}
          </Button>
        </span>
      )}
    </fieldset>
  );
}
