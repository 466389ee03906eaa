import { type ComponentType, useEffect, useState } from "react";

/** A component that is fetched once the first screen stands, so that it is there at once when it is asked for; null until then. */
export function usePreloaded<P>(load: () => Promise<{ default: ComponentType<P> }>): ComponentType<P> | null {
  const [loaded, setLoaded] = useState<{ it: ComponentType<P> } | null>(null);
  // The network is an outside system: it is asked a moment later, so that the first screen comes first.
  useEffect(() => {
    const timer = setTimeout(() => load().then((found) => setLoaded({ it: found.default })), 200);
    return () => clearTimeout(timer);
  }, [load]);
  return loaded?.it ?? null;
}
