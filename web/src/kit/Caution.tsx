import type { ReactNode } from "react";

/** A caution where it is needed, once. */
export function Caution({ children }: { children: ReactNode }) {
  return <p className="mt-4 max-w-3xl border-l-8 border-warning bg-base-100 px-4 py-2 text-lg">{children}</p>;
}
