import { useEffect, useState } from "react";

/** A list as it was when a finger came down on it, for as long as the finger is down: what is pressed does not move away under it, however
 * late an answer comes. */
export function useStill<T>(value: T): { shown: T; hold: { onPointerDown: () => void } } {
  const [still, setStill] = useState<{ value: T } | null>(null);
  useEffect(() => {
    if (!still) return;
    const release = () => setTimeout(() => setStill(null), 0); // after the click that the press becomes
    window.addEventListener("pointerup", release);
    window.addEventListener("pointercancel", release);
    return () => {
      window.removeEventListener("pointerup", release);
      window.removeEventListener("pointercancel", release);
    };
  }, [still]);
  return { shown: still ? still.value : value, hold: { onPointerDown: () => setStill((old) => old ?? { value }) } };
}
