import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Answered, api, got } from "../../api/client";
import { surfacesQuery } from "../../api/queries";
import { freshId, useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { Choose } from "../../kit/Choose";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { useTell } from "../../kit/Toast";

type Surface = Answered<"Surface">;
const KINDS: readonly (readonly [Surface["kind"], string])[] = [
  ["griddle", "griddle plate"],
  ["pan", "pan"],
  ["two_pans", "two pans"],
  ["iron", "waffle iron"],
  ["oven", "oven and tray"],
];
const ROUND: readonly Surface["kind"][] = ["pan", "two_pans", "iron"];

type Key = keyof { [K in keyof Surface as NonNullable<Surface[K]> extends number ? K : never]: true };
type Figure = {
  key: Key;
  label: string;
  unit?: string;
  min: number;
  max: number;
  of?: readonly Surface["kind"][];
  usual?: number;
  open?: true;
  whole?: true;
};
/** The numbers of a surface; `of` the kinds that have it, `open` where it may be left out. */
const NUMBERS: readonly Figure[] = [
  { key: "width", label: "width", unit: "cm", min: 3, max: 300 },
  { key: "length", label: "length", unit: "cm", min: 3, max: 300, of: ["griddle", "oven"], open: true },
  { key: "iron_ml", label: "a place takes", unit: "mL", min: 6, max: 2000, of: ["iron"], open: true },
  { key: "places", label: "places", min: 1, max: 12, of: ["iron"], usual: 1, whole: true },
  { key: "depth_mm", label: "plates apart", unit: "mm", min: 3, max: 60, of: ["iron"], open: true },
  { key: "web_mm", label: "web of a waffle", unit: "mm", min: 3, max: 60, of: ["iron"], open: true },
  { key: "gap_cm", label: "between pieces", unit: "cm", min: 0, max: 10, of: ["griddle"], usual: 1.5 },
  { key: "usual_c", label: "usual heat", unit: "°C", min: 60, max: 350 },
  { key: "heat_up_min", label: "hot after", unit: "min", min: 0, max: 120 },
  { key: "recover_s", label: "recovers in", unit: "s", min: 0, max: 1200 },
  { key: "knob_c", label: "a step of its knob", unit: "°C", min: 1, max: 100, open: true },
];

/** What this kitchen cooks on: size, heat, how long it takes to heat and to recover, its knob and what its lamp means. */
export function Surfaces() {
  const surfaces = useQuery(surfacesQuery);
  const queries = useQueryClient();
  const tell = useTell();
  const { degrees } = useNumbers();
  const [open, setOpen] = useState<string | null>(null);
  const put = useWrite((given: { surface: Surface; away: boolean }) => got(api.PUT("/api/surfaces", { body: given })), {
    order: "surfaces",
    changes: "surface",
    done: (list, given) =>
      queries.setQueryData(surfacesQuery.queryKey, (old) => (given.away || !old ? list : merged(old, list))),
  });
  if (surfaces.isError) return <p role="alert">{surfaces.error.message}</p>;
  if (!surfaces.data) return <p>Looking…</p>;
  const keep = (surface: Surface, was: Surface | null) => {
    // What is set next is set on top of this, though the server has yet to answer.
    queries.setQueryData(surfacesQuery.queryKey, (old) => old?.map((s) => (s.id === surface.id ? surface : s)));
    put.mutate({ surface, away: false });
    tell(`${surface.name}: kept.`, was ? () => put.mutate({ surface: was, away: false }) : undefined);
  };
  const add = () => {
    const id = `own_${freshId()}`;
    setOpen(id);
    keep(
      {
        id,
        name: "New surface",
        kind: "pan",
        width: 24,
        length: null,
        iron_ml: null,
        places: 1,
        depth_mm: null,
        web_mm: null,
        gap_cm: 1.5,
        usual_c: 185,
        heat_up_min: 5,
        recover_s: 30,
        knob_c: null,
        lamp: "",
      },
      null,
    );
  };
  return (
    <>
      {put.isError && (
        <p role="alert" className="text-error">
          {put.error.message}
        </p>
      )}
      <ul className="grid max-w-3xl gap-1">
        {surfaces.data.map((s) => (
          <li key={s.id} className="bg-base-100">
            <button
              type="button"
              aria-expanded={open === s.id}
              className="flex min-h-14 w-full flex-wrap items-baseline gap-x-4 px-4 py-2 text-left hover:underline"
              onClick={() => setOpen(open === s.id ? null : s.id)}
            >
              <b className="text-lg">{s.name}</b>
              <span>{summary(s, degrees)}</span>
            </button>
            {open === s.id && (
              <div className="px-4 pb-4">
                <Fields
                  surface={s}
                  onChange={(next) => keep(next, s)}
                  onAway={() => {
                    put.mutate({ surface: s, away: true });
                    tell(`${s.name} is archived.`, () => put.mutate({ surface: s, away: false }));
                  }}
                />
              </div>
            )}
          </li>
        ))}
      </ul>
      <Button kind="strong" className="mt-6" onClick={add}>
        Add a surface
      </Button>
    </>
  );
}

/** A surface in a line: its size, its heat, how long it takes to get there. */
function summary(s: Surface, degrees: (celsius: number) => string): string {
  const size =
    s.kind === "iron" ? `${s.iron_ml ?? "?"} mL a place` : `${s.width}${s.length ? ` × ${s.length}` : ""} cm`;
  return `${size}, ${degrees(s.usual_c)}, hot after ${s.heat_up_min} min`;
}

/** The server's list, in which a surface that was changed again since it was asked stays as it is here. */
function merged(here: Surface[], list: Surface[]): Surface[] {
  const mine = new Map(here.map((s) => [s.id, s]));
  return list.map((s) => mine.get(s.id) ?? s);
}

function Fields({
  surface: s,
  onChange,
  onAway,
}: {
  surface: Surface;
  onChange: (next: Surface) => void;
  onAway: () => void;
}) {
  const { heat } = useNumbers();
  const set = (part: Partial<Surface>) => onChange({ ...s, ...part });
  return (
    <section aria-label={s.name} className="grid gap-2">
      <header className="flex items-center gap-2 border-b border-base-300 pb-1">
        <input
          aria-label="Name of the surface"
          className="h-10 min-w-0 flex-1 rounded-field border border-transparent bg-transparent text-lg font-bold hover:border-base-300 pointer-coarse:h-11"
          maxLength={60}
          defaultValue={s.name}
          key={s.name}
          onBlur={(event) => {
            const name = event.target.value.trim();
            if (name !== "" && name !== s.name) set({ name });
          }}
        />
        <Button onClick={onAway}>Archive</Button>
      </header>
      <Choose
        label=""
        options={KINDS}
        value={s.kind}
        onChange={(kind) => set({ kind, length: kind === "griddle" || kind === "oven" ? (s.length ?? 30) : null })}
      />
      <div className="flex flex-wrap gap-x-5 gap-y-2">
        {NUMBERS.filter(({ of }) => of?.includes(s.kind) ?? true).map((n) => (
          <NumberField
            key={n.key}
            label={n.key === "width" && ROUND.includes(s.kind) ? "across" : n.label}
            unit={n.key === "usual_c" ? heat.unit : n.unit}
            value={n.key === "usual_c" ? heat.shown(s.usual_c) : (s[n.key] ?? n.usual ?? null)}
            min={n.key === "usual_c" ? heat.shown(n.min) : n.min}
            max={n.key === "usual_c" ? heat.shown(n.max) : n.max}
            required={!n.open}
            whenDone
            onChange={(v) =>
              (n.open || v !== null) &&
              set({ [n.key]: v === null ? v : n.key === "usual_c" ? heat.read(v) : n.whole ? Math.round(v) : v })
            }
          />
        ))}
      </div>
      {s.kind === "iron" && (
        <label className="flex flex-wrap items-center gap-2">
          its lamp means
          <input
            className="h-10 min-w-0 flex-1 rounded-field border border-base-300 bg-base-100 px-2 pointer-coarse:h-11"
            maxLength={200}
            defaultValue={s.lamp ?? ""}
            onBlur={(event) => event.target.value !== (s.lamp ?? "") && set({ lamp: event.target.value })}
          />
        </label>
      )}
    </section>
  );
}
