import { useEffect, useState } from "react";

/** After the finger is up, a touch becomes a click only some moments later, and finds what then lies there [ms]. */
const CLICK_WITHIN = 400;

/** A list as it was when a finger came down on it, until the touch has done what it does: what is pressed does not move away under it, however
 * late an answer comes. */
export function useStill<T>(value: T): { shown: T; hold: { onPointerDown: () => void } } {
  const [still, setStill] = useState<{ value: T } | null>(null);
  useEffect(() => {
    if (!still) return;
    const release = () => setStill(null);
    // A press that is drawn away becomes no click; by then another may have begun.
    const later = () => setTimeout(() => setStill((now) => (now === still ? null : now)), CLICK_WITHIN);
    window.addEventListener("click", release);
    window.addEventListener("pointerup", later);
    window.addEventListener("pointercancel", later);
    return () => {
      window.removeEventListener("click", release);
      window.removeEventListener("pointerup", later);
      window.removeEventListener("pointercancel", later);
    };
  }, [still]);
  const down = () => setStill({ value: still ? still.value : value });
  return { shown: still ? still.value : value, hold: { onPointerDown: down } };
}
