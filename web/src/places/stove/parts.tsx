import type { ReactNode } from "react";

/** The one thing to do next: yellow, large, the same place in every step; `n` on the keyboard. */
export function Act({ children, onClick, disabled }: { children: ReactNode; onClick: () => void; disabled?: boolean }) {
  return (
    <button
      type="button"
      data-act
      disabled={disabled}
      className="btn btn-accent h-auto min-h-16 px-8 py-2 text-2xl font-bold"
      onClick={onClick}
    >
      {children}
    </button>
  );
}

/** Something else that can be done. */
export function Other({
  children,
  onClick,
  disabled,
  pressed,
}: {
  children: ReactNode;
  onClick: () => void;
  disabled?: boolean;
  pressed?: boolean;
}) {
  return (
    <button
      type="button"
      disabled={disabled}
      aria-pressed={pressed}
      className={`min-h-14 rounded-field border px-5 text-lg disabled:opacity-50 ${pressed ? "border-neutral bg-neutral font-semibold text-neutral-content" : "border-base-content/50 bg-base-100 hover:bg-base-200"}`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

/** The row of what can be done, under what is shown. */
export function Acts({ children }: { children: ReactNode }) {
  return <div className="mt-6 flex flex-wrap items-center gap-3">{children}</div>;
}

/** A caution where it is needed, once. */
export function Caution({ children }: { children: ReactNode }) {
  return <p className="mt-4 max-w-3xl border-l-8 border-warning bg-base-100 px-4 py-2 text-lg">{children}</p>;
}
