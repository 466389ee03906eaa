import { useQuery } from "@tanstack/react-query";
import { trendsQuery } from "../../api/queries";
import { useNumbers } from "../../kit/numbers";
import { day } from "../../pure/format";
import { strip } from "../../pure/trend";

/** How the batter has gone over its batches: each figure as a strip with its table. */
export function Trends({ batter, batch }: { batter: string; batch: string }) {
  const found = useQuery(trendsQuery(batter));
  const { places } = useNumbers();
  if (!found.data || found.data.length === 0) return null;
  return (
    <section aria-label="Over time" className="mt-6">
      <h3 className="mb-1 border-b-2 border-base-content/60 pb-1 text-xl font-bold">Over time</h3>
      <div className="grid gap-4 md:grid-cols-2">
        {found.data.map((t) => {
          const s = strip(
            t.points.map((p) => p.value),
            320,
            96,
            t.low !== null && t.high !== null ? [t.low, t.high] : null,
          );
          const round = (v: number) => places(v, t.key === "cost" ? 2 : Math.abs(v) < 10 ? 1 : 0);
          const changed = t.points.some((p) => p.changed.length > 0);
          return (
            <figure key={t.key}>
              <figcaption>
                <b>{t.name}</b>. {t.words}
              </figcaption>
              <svg viewBox="0 0 400 96" className="h-auto w-full" aria-hidden="true">
                {s.band ? (
                  <rect
                    x="0"
                    width="320"
                    y={s.band.top}
                    height={s.band.bottom - s.band.top}
                    fill="var(--color-base-300)"
                    fillOpacity="0.600"
                  />
                ) : (
                  <path d="M0 48H320" stroke="var(--color-base-300)" strokeWidth="1.500" />
                )}
                {s.points.map(
                  (p, n) =>
                    t.points[n]!.changed.length > 0 && (
                      <path
                        key={`changed ${t.points[n]!.batch}`}
                        d={`M${(p.x - 5).toFixed(1)} 96l5 -9l5 9z`}
                        fill="var(--iron)"
                      />
                    ),
                )}
                <path
                  d={s.points.map((p, n) => `${n ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("")}
                  fill="none"
                  stroke="var(--color-primary)"
                  strokeOpacity="0.350"
                  strokeWidth="2"
                />
                {s.points.map((p, n) => (
                  <circle
                    key={t.points[n]!.batch}
                    cx={p.x}
                    cy={p.y}
                    r={t.points[n]!.batch === batch ? 7 : 4}
                    fill={t.points[n]!.batch === batch ? "var(--color-primary)" : "var(--color-base-100)"}
                    stroke="var(--color-primary)"
                    strokeWidth="2"
                  />
                ))}
                <text x="328" y="20" fontSize="15" fill="currentColor" className="figure">
                  {round(s.high)} {t.unit}
                </text>
                <text x="328" y="90" fontSize="15" fill="currentColor" className="figure">
                  {round(s.low)} {t.unit}
                </text>
              </svg>
              <p className="text-sm">
                In the middle: {`${round(t.drift.median)} ${t.unit}`.trim()}
                {s.band && "; the band is what was reckoned"}
                {changed && "; a foot marks where something else was new"}.
              </p>
              <details className="text-sm">
                <summary className="cursor-pointer underline underline-offset-4">as a table</summary>
                <table>
                  <tbody>
                    {t.points.map((p) => (
                      <tr key={p.batch}>
                        <th scope="row" className="pr-3 text-left font-normal">
                          {day(p.day)}
                        </th>
                        <td className="figure text-right">
                          {round(p.value)} {t.unit}
                        </td>
                        <td className="pl-3">{p.changed.join(", ")}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </details>
            </figure>
          );
        })}
      </div>
    </section>
  );
}
