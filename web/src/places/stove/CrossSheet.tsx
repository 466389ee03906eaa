import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Answered } from "../../api/client";
import { crossSectionQuery, heatChartQuery } from "../../api/queries";
import { Button } from "../../kit/Button";
import { useNow } from "../../kit/moment";
import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { span } from "../../pure/clock";
import { useInHand } from "./useBatch";

type Piece = Answered<"PieceView">;
type Chart = Answered<"ChartView">;
const WIDE = 640;
const HIGH = 170;
const WORDS: Record<string, string> = {
  works: "works",
  pale: "pale, dries",
  dark: "dark",
  burnt: "burnt outside, raw inside",
  raw: "never safe inside",
};

/** The piece in cross-section while it cooks, and the map of heat against thickness. Shown when it is asked for. */
export default function CrossSheet({ onClose }: { onClose: () => void }) {
  const { view } = useInHand();
  const piece = useQuery(crossSectionQuery(view.id, view.count));
  const chart = useQuery(
    heatChartQuery(view.id, view.cooking.chosen?.id, view.cooking.celsius, view.cooking.piece?.thickness_mm),
  );
  return (
    <Sheet title="The piece" onClose={onClose} wide>
      {piece.isError && <p role="alert">{piece.error.message}</p>}
      {piece.data && <Cross piece={piece.data} />}
      <h3 className="mt-6 border-b border-base-300 pb-1 text-lg font-bold">Heat against thickness</h3>
      {chart.isError && <p role="alert">{chart.error.message}</p>}
      {chart.data ? (
        <HeatMap chart={chart.data} />
      ) : (
        <p className="mt-2">Drawing it: some hundred pieces are cooked for it…</p>
      )}
    </Sheet>
  );
}

const STATES = { raw: ", not safe yet", safe: ", safe, not set", set: ", safe and set" };

function Cross({ piece }: { piece: Piece }) {
  const { places } = useNumbers();
  const { view } = useInHand();
  const moment = useNow(500);
  const on = view.cooking.loads.find((l) => l.off === null);
  const end = piece.frames.at(-1)?.at_s ?? 0;
  const [at, setAt] = useState<number | null>(null);
  const second = at ?? (on ? Math.min(end, moment - on.on) : Math.min(end, piece.turn_s ?? end / 2));
  const frame = piece.frames.reduce((a, b) => (Math.abs(b.at_s - second) < Math.abs(a.at_s - second) ? b : a));
  const n = frame.profile_c.length;
  const row = HIGH / n;
  const flip = frame.turned;
  const shown = flip ? frame.profile_c : [...frame.profile_c].reverse();
  const least = Math.min(...frame.profile_c);
  return (
    <>
      <p className="text-lg">
        {places(piece.thickness_mm, 0)} mm at {places(piece.celsius, 0)} °C, {span(second)} after the pour
        {on && at === null ? ", now" : ""}: the coldest point is <b className="figure">{Math.round(least)} °C</b>
        {STATES[frame.state]}.
      </p>
      <svg
        viewBox={`0 0 ${WIDE + 120} ${HIGH + 34}`}
        className="mt-2 w-full"
        role="img"
        aria-label="The piece in cross-section"
      >
        <defs>
          <clipPath id="round">
            <rect x="0" y="4" width={WIDE} height={HIGH} rx="40" />
          </clipPath>
        </defs>
        <g clipPath="url(#round)">
          {shown.map((c, k) => (
            <rect key={k} x="0" y={4 + k * row} width={WIDE} height={row + 1} fill={warmth(c, piece)} />
          ))}
          <rect
            x="0"
            y="4"
            width={WIDE}
            height={8 + Math.min(10, 3 * top(frame, flip))}
            fill={crust(top(frame, flip), piece)}
          />
          <rect
            x="0"
            y={4 + HIGH - 8 - Math.min(10, 3 * bottom(frame, flip))}
            width={WIDE}
            height={20}
            fill={crust(bottom(frame, flip), piece)}
          />
          {edges(flip ? frame.has_set : [...frame.has_set].reverse()).map((k) => (
            <line
              key={k}
              x1="0"
              x2={WIDE}
              y1={4 + k * row}
              y2={4 + k * row}
              stroke="#fff"
              strokeWidth="3"
              strokeDasharray="10 7"
            />
          ))}
        </g>
        <g fill="currentColor" fontSize="17">
          <text x={WIDE + 8} y="22">
            {Math.round(shown[0] ?? 0)} °C
          </text>
          <text x={WIDE + 8} y={HIGH / 2 + 8}>
            {Math.round(shown[Math.floor(n / 2)] ?? 0)} °C
          </text>
          <text x={WIDE + 8} y={HIGH}>
            {Math.round(shown[n - 1] ?? 0)} °C
          </text>
          <text x="0" y={HIGH + 28}>
            {flip ? "turned: the first side is on top" : "the first side is down"}; within the dashes it has not set
          </text>
        </g>
      </svg>
      <label className="mt-2 flex items-center gap-3">
        <span className="w-28">
          {span(second)} of {span(end)}
        </span>
        <input
          type="range"
          className="range grow"
          min={0}
          max={end}
          step={2}
          value={second}
          aria-label="Seconds after the pour"
          onChange={(event) => setAt(Number(event.target.value))}
        />
        {at !== null && on && (
          <Button kind="link" onClick={() => setAt(null)}>
            now
          </Button>
        )}
      </label>
    </>
  );
}

const top = (f: Piece["frames"][number], turned: boolean) => (turned ? f.first_brown : f.second_brown);
const bottom = (f: Piece["frames"][number], turned: boolean) => (turned ? f.second_brown : f.first_brown);

/** From raw batter to set crumb. */
function warmth(celsius: number, piece: Piece): string {
  const set = Math.min(1, Math.max(0, (celsius - 30) / (piece.set_c - 30)));
  return `color-mix(in oklab, #f3dfae ${Math.round(100 * set)}%, #b9c7e6)`;
}

/** From pale through golden to burnt. */
function crust(browning: number, piece: Piece): string {
  if (browning < piece.golden_from)
    return `color-mix(in oklab, #c9873a ${Math.round((100 * browning) / piece.golden_from)}%, transparent)`;
  if (browning < piece.golden_to) return "#b06a25";
  return browning < piece.burnt ? "#6d3c14" : "#26150c";
}

/** Between which rows it changes from set to not set. */
function edges(set: boolean[]): number[] {
  return set.flatMap((on, k) => (k > 0 && on !== set[k - 1] ? [k] : []));
}

const FILL: Record<string, string> = {
  works: "color-mix(in oklab, var(--color-success) 55%, var(--color-base-100))",
  pale: "var(--color-base-300)",
  dark: "color-mix(in oklab, var(--color-warning) 60%, var(--color-base-100))",
  burnt: "color-mix(in oklab, #26150c 80%, var(--color-base-100))",
  raw: "color-mix(in oklab, var(--berry) 40%, var(--color-base-100))",
};

function HeatMap({ chart }: { chart: Chart }) {
  const { places } = useNumbers();
  const { heats_c, thick_mm, verdicts } = chart.map;
  const w = 46;
  const h = 24;
  const left = 76;
  const [cold, hot] = [heats_c[0] ?? 0, heats_c.at(-1) ?? 1];
  const [thin, thick] = [thick_mm[0] ?? 0, thick_mm.at(-1) ?? 1];
  const x = (c: number) => left + (w * (heats_c.length - 1) * (c - cold)) / (hot - cold) + w / 2;
  const y = (mm: number) => (h * (thick_mm.length - 1) * (thick - mm)) / (thick - thin) + h / 2;
  const seen = [...new Set(verdicts.flat())];
  const r = chart.range;
  const inside = chart.thickness_mm <= thick * 1.02 && chart.celsius <= hot * 1.02;
  return (
    <>
      <p className="mt-2 text-lg">
        {r.low_c !== null && r.high_c !== null
          ? `A piece of ${places(chart.thickness_mm, 0)} mm works from about ${Math.round(r.low_c)} to ${Math.round(r.high_c)} °C.`
          : `No heat works well for a piece of ${places(chart.thickness_mm, 0)} mm: make it thinner.`}{" "}
        {r.thickest_mm !== null &&
          `At ${places(chart.celsius, 0)} °C a piece may be ${places(r.thickest_mm, 0)} mm thick.`}
      </p>
      <svg
        viewBox={`0 0 ${left + w * heats_c.length + 6} ${h * thick_mm.length + 46}`}
        className="mt-2 w-full"
        role="img"
        aria-label="Map of heat against thickness"
      >
        {verdicts.map((row, k) =>
          row.map((v, n) => (
            <rect
              key={`${k} ${n}`}
              x={left + n * w}
              y={h * (thick_mm.length - 1 - k)}
              width={w - 1}
              height={h - 1}
              fill={FILL[v]}
            />
          )),
        )}
        {inside && (
          <g>
            <circle
              cx={x(chart.celsius)}
              cy={y(chart.thickness_mm)}
              r="11"
              fill="var(--color-base-100)"
              stroke="currentColor"
              strokeWidth="3"
            />
            <circle cx={x(chart.celsius)} cy={y(chart.thickness_mm)} r="5" fill="var(--berry)" />
          </g>
        )}
        <g fill="currentColor" fontSize="15">
          {thick_mm.map((mm, k) =>
            k % 2 === 0 ? (
              <text key={mm} x={left - 8} y={h * (thick_mm.length - 1 - k) + h / 2 + 5} textAnchor="end">
                {Math.round(mm)} mm
              </text>
            ) : null,
          )}
          {heats_c.map((c, n) =>
            n % 2 === 0 ? (
              <text key={c} x={left + n * w + w / 2} y={h * thick_mm.length + 20} textAnchor="middle">
                {Math.round(c)} °C
              </text>
            ) : null,
          )}
        </g>
      </svg>
      <ul className="flex flex-wrap gap-x-5 gap-y-1">
        {seen.map((v) => (
          <li key={v} className="flex items-center gap-2">
            <svg viewBox="0 0 16 16" className="size-4" aria-hidden="true">
              <rect width="16" height="16" fill={FILL[v]} />
            </svg>
            {WORDS[v]}
          </li>
        ))}
      </ul>
    </>
  );
}
