import type { LineView } from "../api/client";
import { Button } from "./Button";
import { useNumbers } from "./numbers";
import { Sheet } from "./Sheet";
import { useTell } from "./Toast";

type Props = {
  title: string;
  lines: readonly LineView[];
  /** The names of what is not in; everything where that is not known. */
  buy: ReadonlySet<string> | null;
  onClose: () => void;
};

/** What to buy and how much of it: to be copied, printed, or handed on by the platform's own share sheet. */
export function ShoppingSheet({ title, lines, buy, onClose }: Props) {
  const { grams } = useNumbers();
  const tell = useTell();
  const wanted = lines.filter((l) => l.line.ingredient && (buy === null || buy.has(l.name)));
  const rows = wanted.map((l) => ({
    name: l.full_name,
    amount: `${grams(l.line.grams)} g`,
    measure: l.measure,
    note: l.verdict === "cannot_vouch" ? "read its pack first" : "",
  }));
  const text = [
    `To buy for ${title}`,
    ...rows.map((r) => `- ${r.amount} ${r.name}${r.note ? ` (${r.note})` : ""}`),
  ].join("\n");
  const copy = () =>
    navigator.clipboard.writeText(text).then(
      () => tell("Copied."),
      () => tell("It could not be copied here: select the list and copy it by hand."),
    );
  return (
    <Sheet title="To buy" onClose={onClose}>
      {rows.length === 0 ? (
        <p className="text-lg">Nothing: all of it is in.</p>
      ) : (
        <ul aria-label="To buy">
          {rows.map((r) => (
            <li key={r.name} className="flex flex-wrap items-baseline gap-3 border-b border-base-300/60 py-1.5 text-lg">
              <span className="figure w-24 text-right">{r.amount}</span>
              <span className="min-w-0 flex-1">
                {r.name}
                {r.note && <span className="ml-2 text-base font-semibold text-warning">{r.note}</span>}
              </span>
              <span className="kitchen text-sm">{r.measure}</span>
            </li>
          ))}
        </ul>
      )}
      <p className="mt-4 flex flex-wrap gap-2 print:hidden">
        <Button onClick={copy} disabled={rows.length === 0}>
          Copy
        </Button>
        <Button onClick={() => print()} disabled={rows.length === 0}>
          Print
        </Button>
        {"share" in navigator && (
          <Button
            disabled={rows.length === 0}
            onClick={() => navigator.share({ title: `To buy for ${title}`, text }).catch(() => undefined)}
          >
            Share…
          </Button>
        )}
      </p>
    </Sheet>
  );
}
