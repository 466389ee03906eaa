import type { BatterView } from "../../api/client";
import { useIngredientNames } from "../../app/names";
import { Button } from "../../kit/Button";
import { counted } from "../../pure/counted";
import { allergen } from "../../pure/format";

type Line = BatterView["lines"][number]["line"];

/** What a line that is no ingredient tells all the same: a food that only it names, an allergen, a word that nobody knows. */
function told(line: Line, called: (id: string) => string): string {
  const foods = (line.maybe ?? []).map(called);
  const heard = (line.heard ?? []).map((token) => allergen(token.replace(/^(check|may):/, "")));
  const words = (line.unread ?? []).map((word) => `“${word}”`);
  return [...new Set([...foods, ...heard, ...words])].join(", ");
}

/** Lines that are no ingredients: out of the way, and shown on request. What only they tell may be in the bowl, and is said at once. */
export function SetAside({
  lines,
  onRemove,
}: {
  lines: BatterView["lines"];
  onRemove: (at: number, key: string) => void;
}) {
  const called = useIngredientNames(lines.some(({ line }) => line.where === "aside" && (line.maybe ?? []).length > 0));
  const aside = lines
    .map(({ line }, at) => ({ line, at, told: told(line, called) }))
    .filter(({ line }) => line.where === "aside");
  if (aside.length === 0) return null;
  const open = aside.some((one) => one.told);
  return (
    <details className="mt-1 text-sm" open={open}>
      <summary className="min-h-8 cursor-pointer">
        {counted(aside.length, { one: "1 line is no ingredient", other: "# lines are no ingredients" })}
        {open && <b className="text-warning"> · one names what no line lists</b>}
      </summary>
      <ul>
        {aside.map(({ line, at, told }) => (
          <li key={at} className="flex items-center gap-2 border-b border-base-300/50 py-0.5">
            <span className="min-w-0 flex-1 break-words">
              {line.text}
              {told && <b className="block text-warning">names {told}</b>}
            </span>
            <Button kind="small" className="shrink-0" onClick={() => onRemove(at, line.text)}>
              Leave out
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
