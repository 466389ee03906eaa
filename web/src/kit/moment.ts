import { useEffect, useState } from "react";
import { clock } from "../api/client";

/** This moment by the server's clock [s since 1970], anew every so many milliseconds. */
export function useNow(every = 250): number {
  const [moment, setMoment] = useState(clock.now);
  // The clock is an outside system: it is looked at again and again.
  useEffect(() => {
    const timer = setInterval(() => setMoment(clock.now()), every);
    return () => clearInterval(timer);
  }, [every]);
  return moment;
}
