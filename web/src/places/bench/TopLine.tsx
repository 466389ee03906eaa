import { useNavigate } from "react-router";
import type { BatterView } from "../../api/client";
import { useBench } from "../../app/BenchContext";
import { Verdict } from "../../kit/Verdict";
import { Tool } from "./Tool";

type Props = {
  /** What it is judged by; nothing where nobody is asked for. */
  judged: BatterView | "not yet" | null;
  dietWords: string;
  onOpen: (what: "open" | "file") => void;
  onClear: () => void;
};

/** What lies on the bench, whether it fits its guests, and the tools. */
export function TopLine({ judged, dietWords, onOpen, onClear }: Props) {
  const { state, act, undo, redo, undoes, redoes } = useBench();
  const go = useNavigate();
  const empty = state.base.lines.length === 0;
  return (
    <header className="mb-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
      <h1 className="min-w-0 truncate text-2xl font-bold">{state.name}</h1>
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
            </>
          )}
        </span>
      )}
      <span className="relative ml-auto flex items-center gap-1 max-sm:w-full max-sm:overflow-x-auto">
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
