import type { ReactNode } from "react";
import { Button } from "../../kit/Button";

const EXAMPLE = `Saturday griddle cakes
1 1/2 cups plain flour
2 tsp baking powder
1 tbsp sugar
1/4 tsp salt
1 1/4 cups whole milk
2 eggs
3 tbsp butter, melted`;

/** On an empty Bench: what this is, in one sentence, an example to try, and three pictures of what follows. */
export function FirstMinute({ onTry }: { onTry: (text: string) => void }) {
  return (
    <section aria-label="What this is" className="mb-3">
      <p className="max-w-2xl text-xl leading-snug">
        Paste a recipe. Say who cannot eat what. <b>Get a batter that still works.</b>
      </p>
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <Picture n={1} words="Paste the lines as they are written">
          <path d="M8 8h48v44H8zM16 18h32M16 27h24M16 36h30M16 45h18" />
        </Picture>
        <Picture n={2} words="Touch a diet: the batter is solved again, in balance">
          <path d="M6 14h18M6 26h18M6 38h18M6 50h18" />
          <path className="text-primary" d="M40 14h18M40 26h18M40 38h18M40 50h18" />
          <path opacity="0.5" d="M24 14C32 14 32 26 40 26M24 26C32 26 32 14 40 14M24 38C32 38 32 50 40 50" />
        </Picture>
        <Picture n={3} words="Make it: weighed, mixed, judged and cooked, one thing at a time">
          <path d="M10 30h44c0 14-8 22-22 22S10 44 10 30zM6 30h52M26 10v12M32 6v16M38 10v12" />
        </Picture>
      </div>
      <Button kind="strong" className="mt-3" onClick={() => onTry(EXAMPLE)}>
        Try it with an example
      </Button>
    </section>
  );
}

function Picture({ n, words, children }: { n: number; words: string; children: ReactNode }) {
  return (
    <div className="flex items-center gap-3 sm:block">
      <svg
        viewBox="0 0 64 60"
        className="h-20 w-24 shrink-0 text-secondary"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.5"
        strokeLinecap="round"
        aria-hidden="true"
      >
        {children}
      </svg>
      <span>
        <b className="figure">{n}</b> {words}
      </span>
    </div>
  );
}
