import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useReducer } from "react";
import type { Start, Version } from "../api/client";
import { startQuery } from "../api/queries";
import { Button } from "../kit/Button";
import { NumbersProvider } from "../kit/numbers";
import { type Act, type BenchState, fromStart, type History, history, move } from "../pure/bench";
import { numbersFor } from "../pure/format";
import { useDraft } from "./adapting";

type Held = {
  start: Start;
  state: BenchState;
  act: (act: Act) => void;
  open: (version: Version, diets?: string[]) => void;
  undo: () => void;
  redo: () => void;
  undoes: number;
  redoes: number;
  draftLost: boolean;
};
const Bench = createContext<Held | null>(null);
const KEPT = "mutabilis-sitting";

/** The bench, wherever the cook is: its state and its whole history outlive the way to another place and a reload of the tab. */
export function useBench(): Held {
  const held = useContext(Bench);
  if (!held) throw new Error("no bench here");
  return held;
}

export function BenchProvider({ children }: { children: ReactNode }) {
  const start = useQuery(startQuery);
  const opening = useMemo(() => (start.data ? sitting(fromStart(start.data)) : null), [start.data]);
  if (start.failureReason && !start.data) {
    return (
      <main className="mx-auto max-w-xl p-10 text-lg">
        <p role="alert">{start.failureReason.message}</p>
        {start.isError && (
          <Button kind="strong" className="mt-4" onClick={() => start.refetch()}>
            Ask again
          </Button>
        )}
      </main>
    );
  }
  if (!start.data || !opening) return <main className="mx-auto max-w-xl p-10 text-lg">Setting out the bench…</main>;
  return (
    <Laid start={start.data} opening={opening}>
      {children}
    </Laid>
  );
}

function Laid({ start, opening, children }: { start: Start; opening: History; children: ReactNode }) {
  const [h, dispatch] = useReducer(move, opening);
  const { lost } = useDraft(h.now);
  // The tab's own storage is an outside system: the sitting is kept there, so that undo outlives a reload.
  useEffect(() => {
    const timer = setTimeout(() => {
      try {
        sessionStorage.setItem(
          KEPT,
          JSON.stringify({ past: h.past.slice(-100), now: h.now, future: h.future.slice(0, 50) }),
        );
      } catch {
        sessionStorage.removeItem(KEPT);
      }
    }, 400);
    return () => clearTimeout(timer);
  }, [h]);
  const held = useMemo(
    () => ({
      start,
      state: h.now,
      act: (act: Act) => dispatch({ type: "do", act, at: Date.now() }),
      open: (version: Version, diets?: string[]) =>
        dispatch({ type: "do", act: { type: "open", version, diets: diets ?? version.diets }, at: Date.now() }),
      undo: () => dispatch({ type: "undo" }),
      redo: () => dispatch({ type: "redo" }),
      undoes: h.past.length,
      redoes: h.future.length,
      draftLost: lost,
    }),
    [start, h, lost],
  );
  const numbers = useMemo(() => numbersFor(start.decimal, start.heat), [start.decimal, start.heat]);
  return (
    <Bench.Provider value={held}>
      <NumbersProvider value={numbers}>{children}</NumbersProvider>
    </Bench.Provider>
  );
}

/** The sitting of this tab, where it ends in what the server has as the draft; else a new one. */
function sitting(opening: BenchState): History {
  try {
    const kept = JSON.parse(sessionStorage.getItem(KEPT) ?? "null") as History | null;
    if (kept && JSON.stringify(kept.now.base) === JSON.stringify(opening.base) && Array.isArray(kept.past))
      return { ...history(opening), past: kept.past, future: kept.future };
  } catch {
    sessionStorage.removeItem(KEPT);
  }
  return history(opening);
}
