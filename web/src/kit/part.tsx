import { type ComponentType, lazy, useState } from "react";

/** A part of the program that is fetched when it is first drawn, or before by `fetch`. */
export function part<P extends object>(load: () => Promise<{ default: ComponentType<P> }>) {
  let there: ComponentType<P> | null = null;
  const fetch = async () => {
    const found = await load();
    there = found.default;
    return found;
  };
  const Late = lazy(fetch);
  // What is there is drawn at once: by `lazy` React would show that it waits, and for 0.3 s at the least.
  function Part(props: P) {
    const [It] = useState<ComponentType<P>>(() => there ?? Late);
    return <It {...props} />;
  }
  return { Part, fetch };
}
