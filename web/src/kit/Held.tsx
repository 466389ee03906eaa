import { type ReactNode, useLayoutEffect, useRef } from "react";

/** A part that stays as tall as it was while what it shows is being worked out: what lies under it does not jump up, and down again. */
export function Held({ busy, children }: { busy: boolean; children: ReactNode }) {
  const part = useRef<HTMLDivElement>(null);
  const tall = useRef(0);
  useLayoutEffect(() => {
    const it = part.current!;
    it.style.minHeight = busy ? `${tall.current}px` : "";
    if (!busy) tall.current = it.offsetHeight;
  });
  return <div ref={part}>{children}</div>;
}
