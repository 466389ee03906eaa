import type { Batter, BatterView } from "../../api/client";
import { useBench } from "../../app/BenchContext";
import { useNumbers } from "../../kit/numbers";

/** What the batter is made as: its form, its rest, its pieces. */
export function Shape({ base }: { base: BatterView }) {
  const { whole } = useNumbers();
  const { start, state, act } = useBench();
  const { yields } = base.pieces;
  return (
    <p className="mt-1 mb-1 flex flex-wrap items-center self-start gap-x-4">
      <label>
        <span className="sr-only">Form</span>
        <select
          className="h-9 rounded-field bg-transparent underline underline-offset-4 pointer-coarse:h-11"
          value={state.base.form}
          onChange={(event) => act({ type: "form", form: event.target.value as Batter["form"] })}
        >
          {start.forms.map((f) => (
            <option key={f.key} value={f.key} className="bg-base-100 text-base-content">
              {f.label}
            </option>
          ))}
        </select>
      </label>
      <span>
        rests <span className="figure">{whole(base.rest_min)}</span> min
      </span>
      {yields.whole > 0 && (
        <span>
          <span className="figure">{yields.whole}</span> pieces of {whole(yields.portion_ml)} mL
        </span>
      )}
      {state.base.cup_ml && state.base.lines.length > 0 && (
        <span>written in cups of {whole(state.base.cup_ml)} mL</span>
      )}
    </p>
  );
}
