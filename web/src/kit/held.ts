import { useRef, useState } from "react";

/** A record of the server's that is being changed here: what the hand has set stands, and the next change is made on top of it, until
 * the server has taken all of it. An answer that arrives meanwhile never takes back what was set after it was asked for. `keep` says whether it was taken. */
export function useHeld<T>(told: T, send: (next: T) => Promise<unknown>, settle: (value: T) => void = () => {}) {
  const [mine, setMine] = useState<{ value: T } | null>(null);
  const latest = useRef(told);
  const flying = useRef(0);
  if (mine === null) latest.current = told;
  const keep = async (next: T) => {
    latest.current = next;
    flying.current += 1;
    setMine({ value: next });
    try {
      await send(next);
      if (flying.current === 1) settle(latest.current);
      return true;
    } catch {
      return false; // whoever sends tells why; what the server has is shown again
    } finally {
      flying.current -= 1;
      if (flying.current === 0) setMine(null);
    }
  };
  return { value: mine ? mine.value : told, latest: () => latest.current, keep };
}
