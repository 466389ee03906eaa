import { useQuery } from "@tanstack/react-query";
import { cupsQuery } from "../../api/queries";
import { useNumbers } from "../../kit/numbers";

const [WIDE, HIGH] = [30, 76];

/** The cups of a batter: as tall as what was held back, as full as what the bowl asked for; and the look that would let less be held back. */
export function Shelf({ batter, batch }: { batter: string; batch: string }) {
  const { grams } = useNumbers();
  const found = useQuery(cupsQuery(batter));
  if (!found.data || (found.data.cups.length < 2 && found.data.next.length === 0)) return null;
  const cups = found.data.cups.slice(-14);
  const most = Math.max(1, ...cups.map((c) => c.held_g));
  const [next] = found.data.next;
  return (
    <section aria-label="Held back" className="mt-6">
      <h3 className="mb-1 border-b-2 border-base-content/60 pb-1 text-xl font-bold">Held back of the liquid</h3>
      {cups.length > 1 && (
        <>
          <svg
            viewBox={`0 0 ${cups.length * (WIDE + 14)} ${HIGH + 16}`}
            className="h-auto w-full max-w-2xl"
            aria-hidden="true"
          >
            <path d={`M0 ${HIGH + 2}H${cups.length * (WIDE + 14)}`} stroke="var(--iron)" strokeWidth="3" />
            {cups.map((c, n) => {
              const [x, tall] = [n * (WIDE + 14) + 7, (HIGH * c.held_g) / most];
              const full = (HIGH * c.asked_g) / most;
              return (
                <g key={c.batch}>
                  <rect
                    x={x}
                    y={HIGH - full}
                    width={WIDE}
                    height={full}
                    fill="var(--color-primary)"
                    fillOpacity="0.550"
                  />
                  <path
                    d={`M${x} ${HIGH - tall}V${HIGH}H${x + WIDE}V${HIGH - tall}`}
                    fill="none"
                    stroke={c.batch === batch ? "var(--color-primary)" : "currentColor"}
                    strokeWidth={c.batch === batch ? 4 : 2}
                  />
                  {c.new_bag && <path d={`M${x + 5} ${HIGH + 15}l5 -10h10l5 10z`} fill="var(--iron)" />}
                </g>
              );
            })}
          </svg>
          <details className="text-sm">
            <summary className="cursor-pointer underline underline-offset-4">as a table</summary>
            <table>
              <thead>
                <tr className="text-left">
                  <th className="pr-4 font-semibold">held back</th>
                  <th className="pr-4 font-semibold">asked for</th>
                  <th className="font-semibold">flour</th>
                </tr>
              </thead>
              <tbody>
                {cups.map((c) => (
                  <tr key={c.batch}>
                    <td className="figure pr-4">{grams(c.held_g)} g</td>
                    <td className="figure pr-4">{grams(c.asked_g)} g</td>
                    <td>{c.new_bag ? "a new bag" : ""}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </details>
        </>
      )}
      {next && (
        <p className="mt-2">
          <b>Next, learn the {next.name}.</b> 60 mL on a cold plate, once: hold back {grams(next.after_one_g)} g in
          place of {grams(next.now_g)}. After three times, {grams(next.after_three_g)} g.
        </p>
      )}
    </section>
  );
}
