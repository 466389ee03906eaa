import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useReducer } from "react";
import { api, got, type Start, type Version } from "../../api/client";
import { setDecimal } from "../../parts/format";
import { type Act, type BenchState, fromStart, type History, history, move } from "./state";
import { useDraft } from "./useBench";

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
  const start = useQuery({
    queryKey: ["start"],
    queryFn: () => got(api.GET("/api/start")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const opening = useMemo(() => (start.data ? sitting(fromStart(start.data)) : null), [start.data]);
  if (start.data) setDecimal(start.data.decimal);
  if (start.isError) {
    return (
      <main className="mx-auto max-w-xl p-10 text-lg">
        <p role="alert">{start.error.message}</p>
        <button type="button" className="btn btn-accent mt-4 min-h-11" onClick={() => start.refetch()}>
          Ask again
        </button>
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
  return <Bench.Provider value={held}>{children}</Bench.Provider>;
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
