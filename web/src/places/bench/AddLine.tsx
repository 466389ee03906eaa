import { useEffect, useRef, useState } from "react";
import { api, type Batter, type BatterLine, got, Problem } from "../../api/client";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { imported } from "../../kit/importing";
import { type Measures, sizes } from "../../kit/SourceMeasures";

type Props = {
  onLines: (lines: BatterLine[]) => void;
  onRecipe?: (name: string, batter: Batter) => void;
  measures: Measures;
  tall?: boolean;
  label?: string;
  placeholder?: string;
  beside?: React.ReactNode;
  /** A text to begin with. */
  first?: string;
  children?: React.ReactNode;
};

/** Add lines as a cook writes them, one or a whole list pasted in. What cannot be read is kept and marked. Where `onRecipe` is given, a
 * text of several lines is taken for a whole recipe: its name is its name, and its method is left out. */
export function AddLine({
  onLines,
  onRecipe,
  measures,
  tall = false,
  label = "Add a line",
  placeholder,
  beside,
  first = "",
  children,
}: Props) {
  const [text, setText] = useState(first);
  const field = useRef<HTMLTextAreaElement>(null);
  // An empty bench waits for a recipe: it can be pasted at once.
  useEffect(() => {
    if (tall) field.current?.focus({ preventScroll: true });
  }, [tall]);
  const read = useWrite(
    async (wanted: string) => {
      const recipe = onRecipe && wanted.trim().includes("\n") ? await whole(wanted, measures) : undefined;
      if (recipe) return () => onRecipe?.(recipe.name, recipe.batter);
      const lines = await got(api.POST("/api/read", { body: { text: wanted, ...sizes(measures) } }));
      return lines.length > 0 ? () => onLines(lines) : null;
    },
    {
      done: (take, sent) => {
        if (!take) return;
        take();
        setText((now) => (now === sent ? "" : now)); // what was typed meanwhile belongs to the hand
      },
    },
  );
  return (
    <form
      className="mt-1 flex flex-wrap gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) read.mutate(text);
      }}
    >
      <textarea
        ref={field}
        rows={tall ? 9 : 1}
        maxLength={100_000}
        aria-label={label}
        placeholder={
          placeholder ??
          (tall ? "1 1/2 cups plain flour\n2 tsp baking powder\n300 ml milk\n2 eggs" : "add a line: 2 tbsp honey")
        }
        className={`min-h-11 min-w-0 resize-none rounded-field border border-base-300 bg-transparent px-3 py-2 placeholder:text-base-content/70 ${tall ? "w-full" : "flex-1"}`}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey && !(tall && text === "")) {
            event.preventDefault();
            event.currentTarget.form?.requestSubmit();
          }
        }}
      />
      {beside}
      <Button type="submit" disabled={read.isPending || !text.trim()}>
        {read.isPending ? "Reading…" : "Add"}
      </Button>
      {children}
      {read.isError && (
        <p role="alert" className="w-full text-error">
          {read.error.message} Your text is still here.
        </p>
      )}
    </form>
  );
}

/** The one recipe of a pasted text; none where it holds no such thing. */
async function whole(text: string, measures: Measures) {
  const found = await imported(text, "pasted.txt", measures).catch((error: unknown) => {
    if (error instanceof Problem && error.status === 422) return undefined;
    throw error;
  });
  return found?.recipes.length === 1 ? found.recipes[0] : undefined;
}
