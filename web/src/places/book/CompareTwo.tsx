import { useQuery } from "@tanstack/react-query";
import { compareQuery } from "../../api/queries";
import { useBench } from "../../app/BenchContext";
import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { Track } from "../../kit/Track";

/** Two versions beside each other: line by line, and balance by balance. */
export function CompareTwo({ left, right, onClose }: { left: string; right: string; onClose: () => void }) {
  const { start } = useBench();
  const { figure, grams, whole } = useNumbers();
  const two = useQuery(compareQuery(left, right));
  const c = two.data;
  return (
    <Sheet
      title={
        c
          ? c.left.name === c.right.name
            ? `${c.left.name}: version ${c.left.number} and version ${c.right.number}`
            : `${c.left.name}, version ${c.left.number}, and ${c.right.name}, version ${c.right.number}`
          : "Side by side"
      }
      onClose={onClose}
      wide
    >
      {two.isError && <p role="alert">{two.error.message}</p>}
      {!c && !two.isError && <p>Laying them side by side…</p>}
      {c && (
        <>
          <p className="mb-3">
            <b>What changed:</b> {c.changed}.
          </p>
          <div className="grid grid-cols-1 gap-x-8 gap-y-4 md:grid-cols-2">
            <table className="w-full self-start">
              <thead>
                <tr className="border-b-2 border-base-300 text-left">
                  <th className="py-1 pr-3">Line</th>
                  <th className="py-1 pr-3 text-right text-secondary">version {c.left.number}</th>
                  <th className="py-1 text-right text-primary">version {c.right.number}</th>
                </tr>
              </thead>
              <tbody>
                {c.pairs.map((p) => (
                  <tr key={p.name} className={`border-b border-base-300/50 ${p.changed ? "font-semibold" : ""}`}>
                    <td className="py-0.5 pr-3">{p.name}</td>
                    <td className="figure py-0.5 pr-3 text-right text-secondary">
                      {p.left === null ? "·" : `${grams(p.left)} g`}
                    </td>
                    <td className="figure py-0.5 text-right text-primary">
                      {p.right === null ? "·" : `${grams(p.right)} g`}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <section aria-label="Balances of both" className="grid grid-cols-2 content-start gap-2">
              {c.left_view.ledgers.map((l) => (
                <Track
                  key={l.key}
                  before={l}
                  after={c.right_view.ledgers.find((x) => x.key === l.key)}
                  scale={c.right_view.scales[l.key]}
                  tellings={start.tellings}
                />
              ))}
              <p className="col-span-2 text-sm">
                Batter <span className="figure">{whole(c.left_view.batter_g)}</span> g and{" "}
                <span className="figure">{whole(c.right_view.batter_g)}</span> g; a piece{" "}
                {figure(c.left_view.pieces.per_piece.kcal, "kcal")} and{" "}
                {figure(c.right_view.pieces.per_piece.kcal, "kcal")} kcal.
              </p>
            </section>
          </div>
        </>
      )}
    </Sheet>
  );
}
