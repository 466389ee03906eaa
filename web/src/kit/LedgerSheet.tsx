import type { BatterView, Ledger } from "../api/client";
import { useNumbers } from "./numbers";
import { Sheet } from "./Sheet";
import { Sources } from "./Sources";

const PARTS: Record<string, string> = {
  brings: "brings water",
  drinks: "drinks it",
  alkali: "alkali",
  acid: "acid",
  buffer: "flour's own buffer",
  gas: "gas",
};

type Props = { ledgerKey: string; before: BatterView; after: BatterView | undefined; onClose: () => void };

/** Who brings how much, how sure, and by which formulas: for what was and for what will be. */
export function LedgerSheet({ ledgerKey, before, after, onClose }: Props) {
  const old = before.ledgers.find((l) => l.key === ledgerKey)!;
  const now = after?.ledgers.find((l) => l.key === ledgerKey);
  return (
    <Sheet title={old.label} onClose={onClose}>
      {now && <Part title="You will make" ledger={now} side="text-primary" />}
      <Part title="You have" ledger={old} side="text-secondary" />
    </Sheet>
  );
}

function Part({ title, ledger, side }: { title: string; ledger: Ledger; side: string }) {
  const { figure, places } = useNumbers();
  return (
    <section className="mb-5">
      <h3 className={`mb-1 font-semibold ${side}`}>
        {title}: {figure(ledger.mark, ledger.mark_unit)} {ledger.mark_unit}
        {ledger.low !== null && ledger.high !== null && ledger.mark !== null && (
          <span className="font-normal text-base-content">
            {" "}
            (19 in 20 between {figure(ledger.low, ledger.mark_unit)} and {figure(ledger.high, ledger.mark_unit)})
          </span>
        )}
      </h3>
      <p className="mb-2">{ledger.reason}</p>
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b border-base-300 text-left">
            <th className="py-1 pr-2 font-semibold">Line</th>
            <th className="py-1 pr-3 text-right font-semibold whitespace-nowrap">{ledger.unit}</th>
            <th className="py-1 pr-2 font-semibold">What of it</th>
            <th className="py-1 font-semibold">Sure</th>
          </tr>
        </thead>
        <tbody>
          {ledger.contributions.map((c) => (
            <tr key={`${c.line}-${c.part}`} className="border-b border-base-300/60 align-top">
              <td className="py-1 pr-2">{c.name}</td>
              <td className="figure py-1 pr-3 text-right">{places(c.amount, Math.abs(c.amount) < 10 ? 2 : 0)}</td>
              <td className="py-1 pr-2">{c.part && PARTS[c.part]}</td>
              <td className="py-1">{c.confidence}</td>
            </tr>
          ))}
          {ledger.contributions.length === 0 && (
            <tr>
              <td colSpan={4} className="py-1">
                No line brings any.
              </td>
            </tr>
          )}
        </tbody>
      </table>
      {ledger.contributions.length > 0 && (
        <Sources>
          <ul>
            {[...new Set(ledger.contributions.map((c) => c.rule))].map((rule) => (
              <li key={rule}>{rule}</li>
            ))}
          </ul>
        </Sources>
      )}
    </section>
  );
}
