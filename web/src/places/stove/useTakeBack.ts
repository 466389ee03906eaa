import { useEffect, useRef } from "react";
import type { StoveEvent } from "../../api/queue";
import { useInHand } from "./useBatch";

/** What can be taken back by itself: no mere reading, and nothing that followed from something else. */
function stands(e: StoveEvent): boolean {
  return e.kind !== "undone" && e.kind !== "heat_read" && !(e.kind === "retargeted" && e.because);
}

/** The last act that the server has yet to hear, and that nothing has taken back. */
function lastUnheard(waiting: StoveEvent[]): StoveEvent | undefined {
  const gone = new Set(waiting.map((e) => (e.kind === "undone" ? e.event : "")));
  return waiting.filter((e) => stands(e) && !gone.has(e.id)).pop();
}

/** Take back the last act that stands, each touch one more. A touch that comes before the touch before it is answered waits for the
 * answer, which alone says what stands last then. */
export function useTakeBack(): () => void {
  const { view, waiting, say } = useInHand();
  const held = useRef(0);
  const count = useRef(0); // of the events that were known when the last touch was sent
  const takeBack = (event: string) => {
    count.current = view.count;
    say({ kind: "undone", event });
  };
  useEffect(() => {
    if (waiting.length > 0 || held.current === 0 || view.count <= count.current) return;
    held.current = view.undo ? held.current - 1 : 0;
    count.current = view.count;
    if (view.undo) say({ kind: "undone", event: view.undo });
  }, [waiting, view, say]);
  return () => {
    const unheard = lastUnheard(waiting);
    if (unheard) takeBack(unheard.id);
    else if (waiting.length > 0) held.current += 1;
    else {
      held.current = 0;
      if (view.undo) takeBack(view.undo);
    }
  };
}
