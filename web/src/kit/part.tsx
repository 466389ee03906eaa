import { type ComponentType, lazy, useState } from "react";

const AGAIN_MS = 1500;

/** A part of the program that is fetched when it is first drawn, or before by `fetch`; asked for again while the server is gone. */
export function part<P extends object>(load: () => Promise<{ default: ComponentType<P> }>) {
  let there: ComponentType<P> | null = null;
  const fetch = async () => {
    for (;;) {
      const found = await load().catch(() => null);
      if (found) {
        there = found.default;
        return found;
      }
      await new Promise((later) => setTimeout(later, AGAIN_MS));
    }
  };
  const Late = lazy(fetch);
  // What is there is drawn at once: by `lazy` React would show that it waits, and for 0.3 s at the least.
  function Part(props: P) {
    const [It] = useState<ComponentType<P>>(() => there ?? Late);
    return <It {...props} />;
  }
  return { Part, fetch };
}
