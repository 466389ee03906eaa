import type { ReactNode } from "react";

/** A small button beside others. */
export function Tool({ children, onClick, off }: { children: ReactNode; onClick: () => void; off?: boolean }) {
  return (
    <button
      type="button"
      onClick={onClick}
      disabled={off}
      className="min-h-9 rounded-field border border-base-300 bg-base-100 px-3 text-[0.95rem] hover:border-base-content disabled:border-transparent disabled:bg-transparent disabled:text-base-content/60 pointer-coarse:min-h-11"
    >
      {children}
    </button>
  );
}
