import type { Answered } from "../../api/client";
import { allergen } from "../../pure/format";
import {
  ACROSS,
  contour,
  contours,
  far,
  ground,
  HIGH,
  heaps,
  hourOf,
  initials,
  place,
  rows,
  secondsOf,
  thread,
  WIDE,
} from "../../pure/hill";

type Morning = Answered<"MorningView">;
type Plan = NonNullable<Morning["plan"]>;

type Props = { morning: Morning; now: number; before?: Morning["plan"] };

/** The hill: the counter at its foot, minutes as contours, surfaces as sectors from clean to not clean; loads and plates at their moments,
 * a thread from a load to its plate as long as it waits, and a ghost where a plate stood in the plan `before`. What it shows stands in words
 * below it, in the list of loads. */
export function Hill({ morning, now, before }: Props) {
  const plan = morning.plan;
  if (!plan || plan.plates.length === 0) return null;
  const used = new Set(plan.loads.map((l) => l.station));
  const sectors = morning.stations
    .filter((s) => used.has(s.id))
    .map((s) => ({ ...s, ...touched(morning, s.id) }))
    .sort((a, b) => a.rank - b.rank)
    .slice(0, 6);
  const last = Math.max(...plan.plates.map((p) => secondsOf(p.served)));
  const first = Math.min(...plan.loads.map((l) => secondsOf(l.on)));
  const from = Math.min(Math.max(now, Math.min(first, secondsOf(morning.start)) - 600), last - 600);
  const to = last + 600;
  const up = (at: number) => far(at, from, to);
  const names = new Map(morning.guests.map((g) => [g.id, g]));
  const at = (sector: number, across: number, seconds: number) =>
    place((ACROSS * (sector + across)) / sectors.length, up(seconds));
  // Loads of a surface that would cover each other are told together: so many pieces about then.
  const loads = sectors.flatMap((s, n) => {
    const its = plan.loads.filter((l) => l.station === s.id && secondsOf(l.off) >= from);
    const points = its.map((l) => at(n, 0.16, Math.max(secondsOf(l.on), from)));
    return heaps(points.map((p) => -p.y)).map((heap) => ({
      id: its[heap[0]!]!.id,
      point: points[heap[0]!]!,
      pieces: heap.reduce((sum, k) => sum + its[k]!.pieces, 0),
    }));
  });
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="mx-auto h-auto w-full max-w-3xl" aria-hidden="true">
      <defs>
        <pattern id="hill-dots" width="14" height="14" patternUnits="userSpaceOnUse">
          <circle cx="4" cy="4" r="1.600" fill="currentColor" opacity="0.450" />
        </pattern>
        <pattern id="hill-lines" width="10" height="10" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V10" stroke="currentColor" strokeWidth="2" opacity="0.300" />
        </pattern>
      </defs>
      {sectors.map((s, n) => (
        <g key={s.id}>
          <path
            d={ground((ACROSS * n) / sectors.length, (ACROSS * (n + 1)) / sectors.length, 0, 1)}
            fill={s.rank === 0 ? "var(--color-base-100)" : `url(#hill-${s.rank === 1 ? "dots" : "lines"})`}
            stroke={s.rank === 0 ? "var(--color-success)" : "var(--color-base-300)"}
            strokeWidth={s.rank === 0 ? 4 : 1.5}
          />
          <Told x={middle(n, sectors.length, 0.07).x} y={middle(n, sectors.length, 0.07).y} bold>
            {s.words}
          </Told>
        </g>
      ))}
      {contours(from, to).map((t) => (
        <g key={t}>
          <path d={contour(up(t))} fill="none" stroke="currentColor" strokeOpacity="0.300" strokeWidth="1.500" />
          <text
            x={place(ACROSS, up(t)).x + 8}
            y={place(ACROSS, up(t)).y + 5}
            fontSize="16"
            fill="currentColor"
            className="figure"
          >
            {hourOf(t)}
          </text>
        </g>
      ))}
      {plan.loads.flatMap((l) => {
        const n = sectors.findIndex((s) => s.id === l.station);
        const plates = [
          ...new Set(plan.plates.filter((p) => p.guests.some((g) => g in l.guests)).map((p) => p.served)),
        ];
        return plates.map((p) => {
          const t = thread(secondsOf(l.ready), secondsOf(p));
          if (n < 0 || t === null || t.to <= from) return null;
          const [a, b] = [at(n, 0.16, Math.max(t.from, from)), at(n, 0.4, t.to)];
          const c =
            t.dotted === null || t.dotted <= from
              ? t.dotted === null
                ? b
                : a
              : mid(a, b, (t.dotted - t.from) / (t.to - t.from));
          return (
            <g key={`${l.id} ${p}`} stroke="var(--color-primary)" strokeWidth="2" strokeOpacity="0.700">
              <path d={`M${a.x} ${a.y}L${c.x} ${c.y}`} />
              <path d={`M${c.x} ${c.y}L${b.x} ${b.y}`} strokeDasharray="2 5" />
            </g>
          );
        });
      })}
      {before &&
        ghosts(before, plan).map(({ guest, was, n }) => {
          const sector = sectors.findIndex((s) => s.id === stationOf(plan, guest));
          if (sector < 0 || was < from) return null;
          const p = at(sector, 0.4, was);
          return (
            <circle
              key={guest}
              cx={p.x + 34 * (n % 3)}
              cy={p.y}
              r="16"
              fill="none"
              stroke="var(--color-primary)"
              strokeWidth="2"
              strokeDasharray="3 4"
            />
          );
        })}
      {loads.map(({ id, point, pieces }) => (
        <g key={id}>
          <rect x={point.x - 15} y={point.y - 11} width="30" height="22" rx="11" fill="var(--color-primary)" />
          <text
            x={point.x}
            y={point.y + 6}
            fontSize="17"
            textAnchor="middle"
            fill="var(--color-primary-content)"
            className="figure"
          >
            {pieces}
          </text>
        </g>
      ))}
      {sectors.flatMap((s, n) =>
        rings(morning, s.id).map(({ key, served, guests }) =>
          rows(guests.length).map(({ dx, dy, more }, k) => {
            const guest = names.get(guests[k]!);
            const p = at(n, 0.4, Math.max(served, from));
            if (!guest || served < from) return null;
            const harm = guest.needs.some((x) => x.grade !== "preference");
            const [x, y] = [p.x + dx, p.y + dy];
            return (
              <g key={`${key} ${guest.id}`}>
                <circle
                  cx={x}
                  cy={y}
                  r="16"
                  fill="var(--color-base-100)"
                  stroke="var(--color-primary)"
                  strokeWidth="3"
                />
                <text x={x} y={y + 5} fontSize="14" fontWeight="700" textAnchor="middle" fill="currentColor">
                  {more ? `+${more}` : initials(guest.name)}
                </text>
                {harm && !more && <rect x={x + 7} y={y - 19} width="11" height="11" rx="2" fill="var(--color-error)" />}
              </g>
            );
          }),
        ),
      )}
      <path d={contour(0)} fill="none" stroke="var(--iron)" strokeWidth="6" />
      {sectors.map((s, n) => (
        <Told key={s.id} x={middle(n, sectors.length, 0).x} y={HIGH - 22} bold>
          {s.name}
        </Told>
      ))}
    </svg>
  );
}

/** The middle of a sector, so far up the hill. */
const middle = (n: number, of: number, up: number) => place((ACROSS * (n + 0.5)) / of, up);

function Told({ x, y, bold, children }: { x: number; y: number; bold?: boolean; children: string }) {
  return (
    <text
      x={x}
      y={y}
      fontSize="16"
      fontWeight={bold ? 650 : 400}
      textAnchor="middle"
      fill="currentColor"
      stroke="var(--color-base-200)"
      strokeWidth="6"
      paintOrder="stroke"
    >
      {children}
    </text>
  );
}

/** A point so far of the way from one to the other. */
const mid = (a: { x: number; y: number }, b: { x: number; y: number }, share: number) => ({
  x: a.x + (b.x - a.x) * share,
  y: a.y + (b.y - a.y) * share,
});

/** The guests whose plate stood at another minute before, and when; `n` counts those of one minute. */
function ghosts(before: Plan, plan: Plan): { guest: string; was: number; n: number }[] {
  const servedIn = (p: Plan) =>
    new Map(p.plates.flatMap((x) => x.guests.map((g) => [g, secondsOf(x.served)] as const)));
  const now = servedIn(plan);
  const seen = new Map<number, number>();
  return [...servedIn(before)].flatMap(([guest, was]) => {
    const is = now.get(guest);
    if (is === undefined || Math.abs(is - was) < 60) return [];
    const n = seen.get(was) ?? 0;
    seen.set(was, n + 1);
    return [{ guest, was, n }];
  });
}

/** The surface that a guest's last pieces come off. */
const stationOf = (plan: Plan, guest: string) => plan.loads.filter((l) => guest in l.guests).at(-1)?.station;

/** What a surface meets this morning: nothing of the kind, wheat alone, or more. */
function touched(morning: Morning, station: string): { rank: 0 | 1 | 2; words: string } {
  const plan = morning.plan!;
  const contains = new Set(morning.stations.find((s) => s.id === station)?.met ?? []);
  for (const load of plan.loads.filter((l) => l.station === station))
    for (const c of morning.offers.find((o) => o.id === load.batter)?.contains ?? []) contains.add(c);
  const told = [...contains].map(allergen);
  const gluten = told.some((c) => ["gluten", "wheat", "rye", "barley"].includes(c));
  const animal = told.some((c) => ["egg", "milk"].includes(c));
  if (!gluten && !animal) return { rank: 0, words: "no gluten, egg or milk" };
  if (gluten && !animal) return { rank: 1, words: "gluten" };
  return { rank: 2, words: gluten ? "gluten, egg and milk" : "egg and milk" };
}

/** The plates by their second whose food lies last on this surface. */
function rings(morning: Morning, station: string): { key: string; served: number; guests: string[] }[] {
  const plan = morning.plan!;
  const found = new Map<string, { key: string; served: number; guests: string[] }>();
  for (const p of plan.plates) {
    const one = found.get(p.served) ?? { key: p.served, served: secondsOf(p.served), guests: [] };
    for (const g of p.guests) {
      const mine = plan.loads.filter((l) => g in l.guests);
      if (mine.at(-1)?.station === station) one.guests.push(g);
    }
    if (one.guests.length > 0) found.set(p.served, one);
  }
  return [...found.values()];
}
