import { useNavigate } from "react-router";
import type { Batter, BatterView } from "../../api/client";
import { useBench } from "../../app/BenchContext";
import { useNumbers } from "../../kit/numbers";
import { Verdict } from "../../kit/Verdict";
import { allergen } from "../../pure/format";
import { Tool } from "./Tool";

type Props = {
  base: BatterView;
  /** What it is judged by; nothing where nobody is asked for. */
  judged: BatterView | "not yet" | null;
  adds: readonly string[];
  dietWords: string;
  onOpen: (what: "open" | "file") => void;
  onClear: () => void;
};

/** What lies on the bench, for what form, whether it fits its guests, and the tools. */
export function TopLine({ base, judged, adds, dietWords, onOpen, onClear }: Props) {
  const { whole } = useNumbers();
  const { start, state, act, undo, redo, undoes, redoes } = useBench();
  const go = useNavigate();
  const empty = state.base.lines.length === 0;
  return (
    <header className="mb-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
      <h1 className="min-w-0 truncate text-2xl font-bold">{state.name}</h1>
      <label className="opacity-85">
        <span className="sr-only">Form</span>
        <select
          className="h-9 rounded-field bg-transparent"
          value={state.base.form}
          onChange={(event) => act({ type: "form", form: event.target.value as Batter["form"] })}
        >
          {start.forms.map((f) => (
            <option key={f.key} value={f.key} className="bg-base-100 text-base-content">
              {f.label}
            </option>
          ))}
        </select>
        , rests {whole(base.rest_min)} min
        {state.base.cup_ml && !empty && `, written in cups of ${whole(state.base.cup_ml)} mL`}
      </label>
      {judged && (
        <span aria-live="polite">
          {judged === "not yet" ? (
            `not judged yet for ${dietWords}`
          ) : (
            <>
              <Verdict verdict={judged.guests.plate_verdict} of={dietWords} />
              {judged.guests.plate_verdict !== judged.guests.verdict && (
                <span className="ml-2 font-semibold">because of the plate</span>
              )}
              {adds.length > 0 && (
                <span className="ml-2 font-semibold text-warning">adds {adds.map(allergen).join(", ")}</span>
              )}
            </>
          )}
        </span>
      )}
      <span className="ml-auto flex flex-wrap items-center gap-1">
        <Tool onClick={undo} off={undoes === 0}>
          Undo
        </Tool>
        <Tool onClick={redo} off={redoes === 0}>
          Redo
        </Tool>
        <Tool onClick={() => onOpen("open")}>Open…</Tool>
        <Tool
          onClick={() => {
            act({ type: "clear" });
            onClear();
          }}
        >
          New
        </Tool>
        <Tool onClick={() => onOpen("file")}>File…</Tool>
        <Tool onClick={() => go("/card")} off={empty}>
          Card
        </Tool>
      </span>
    </header>
  );
}
