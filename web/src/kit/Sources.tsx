import type { ReactNode } from "react";

/** Where a figure comes from, and by which formula: for whoever asks. */
export function Sources({ children }: { children: ReactNode }) {
  return (
    <details className="text-sm">
      <summary className="inline-flex min-h-9 cursor-pointer items-center underline underline-offset-4 pointer-coarse:min-h-11">
        Sources
      </summary>
      <div className="pb-2">{children}</div>
    </details>
  );
}
