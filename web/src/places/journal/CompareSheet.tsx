import { useQuery } from "@tanstack/react-query";
import type { Answered } from "../../api/client";
import { comparedQuery } from "../../api/queries";
import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { day } from "../../pure/format";

type Found = Answered<"Compared">;

/** Two to five batches as columns: what went in otherwise, what was reckoned and found, how it came out, and what that proves. */
export function CompareSheet({
  batches,
  faults,
  onClose,
}: {
  batches: string[];
  faults: Record<string, string>;
  onClose: () => void;
}) {
  const found = useQuery(comparedQuery(batches));
  return (
    <Sheet title="Side by side" onClose={onClose} wide>
      {found.error && <p role="alert">{found.error.message}</p>}
      {found.data && (
        <>
          <p className="mb-3 text-lg font-semibold">{found.data.words}</p>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard */}
          <section aria-label="Side by side" tabIndex={0} className="overflow-x-auto">
            <Columns found={found.data} faults={faults} />
          </section>
        </>
      )}
    </Sheet>
  );
}

function Columns({ found, faults }: { found: Found; faults: Record<string, string> }) {
  const { places } = useNumbers();
  const wide = found.batches.length + 1;
  return (
    <table className="w-full text-left">
      <thead>
        <tr>
          <td />
          {found.batches.map((b) => (
            <th key={b.id} scope="col" className="min-w-32 p-2 align-bottom">
              {b.name}
              <span className="block font-normal">{day(b.day)}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        <Part words="What went in" wide={wide} />
        {found.differs.map((d) => (
          <tr key={d.name} className={`border-t border-base-300 ${d.noticed ? "font-bold" : ""}`}>
            <th scope="row" className="p-2 font-semibold">
              {d.name}
            </th>
            {d.values.map((v, n) => (
              <td key={`${d.name} ${found.batches[n]?.id ?? n}`} className="p-2">
                {v}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      {found.beside.length > 0 && (
        <tbody>
          <Part words="Reckoned and found" wide={wide} />
          {found.beside.map((r) => (
            <tr key={r.name} className="border-t border-base-300">
              <th scope="row" className="p-2 font-semibold">
                {r.name}
              </th>
              {r.values.map((v, n) => (
                <td key={`${r.name} ${found.batches[n]?.id ?? n}`} className="figure p-2">
                  {v ? (
                    <>
                      <span className="text-secondary">{places(v.reckoned, 1)}</span> →{" "}
                      <b className="text-primary">{places(v.found, 1)}</b> {r.unit}
                    </>
                  ) : (
                    "not recorded"
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      )}
      <tbody>
        <tr className="border-t-2 border-base-content/50">
          <th scope="row" className="p-2">
            came out
          </th>
          {found.batches.map((b) => (
            <td key={b.id} className="p-2">
              {b.stars !== null ? `${b.stars} of 5` : "not rated"}
              {b.faults.length > 0 && `: ${b.faults.map((f) => faults[f] ?? f).join(", ")}`}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}

function Part({ words, wide }: { words: string; wide: number }) {
  return (
    <tr>
      <th scope="colgroup" colSpan={wide} className="px-2 pt-4 text-lg">
        {words}
      </th>
    </tr>
  );
}
