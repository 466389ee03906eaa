import type { ComponentProps, ReactNode } from "react";

const KINDS = {
  /** The one thing to do next at the Stove: yellow, large, the same place in every step; `n` on the keyboard. */
  next: "btn btn-accent h-auto min-h-16 px-8 py-2 text-2xl font-bold",
  /** What a sheet or a place is there for. */
  strong: "btn btn-accent min-h-11 px-6 text-base",
  /** Anything else that can be done. */
  plain: "min-h-11 rounded-field border border-base-300 bg-base-100 px-4 hover:border-base-content disabled:opacity-60",
  /** Something else that can be done at the Stove. */
  large:
    "min-h-14 rounded-field border border-base-content/50 bg-base-100 px-5 text-lg hover:bg-base-200 disabled:opacity-50",
  /** One of several beside each other in a row or a list. */
  small:
    "min-h-9 rounded-field border border-base-300 px-2.5 text-sm hover:border-base-content disabled:opacity-60 pointer-coarse:min-h-11",
  /** A way to carry on that stands in a list. */
  outline:
    "min-h-11 rounded-field border border-primary px-4 font-semibold text-primary hover:bg-primary hover:text-primary-content",
  /** A word in a sentence. */
  link: "min-h-11 underline underline-offset-4",
  /** A way out. */
  ghost: "btn btn-ghost min-h-11",
};
const PRESSED = "border-neutral! bg-neutral! font-semibold text-neutral-content!";

type Props = Omit<ComponentProps<"button">, "aria-pressed"> & { kind?: keyof typeof KINDS; pressed?: boolean };

/** A button, of one of few kinds. `pressed`: it is one that stays down. */
export function Button({ kind = "plain", pressed, className = "", type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      aria-pressed={pressed}
      data-act={kind === "next" || undefined}
      className={`${KINDS[kind]} ${pressed ? PRESSED : ""} ${className}`}
      {...rest}
    />
  );
}

/** The row of what can be done, under what is shown. */
export function Acts({ children }: { children: ReactNode }) {
  return <div className="mt-6 flex flex-wrap items-center gap-3">{children}</div>;
}
