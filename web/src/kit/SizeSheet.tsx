import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Answered, Batter } from "../api/client";
import { scaledQuery } from "../api/queries";
import { Choose } from "./Choose";
import { NumberField } from "./NumberField";
import { useNumbers } from "./numbers";
import { Sheet } from "./Sheet";
import { useSettled } from "./settled";

type Size = Answered<"Size">;
type Pan = NonNullable<Size["pan"]>;
const WAYS = [
  ["pieces", "pieces"],
  ["eggs", "eggs"],
  ["pan", "pan area"],
  ["tray", "tray, filled"],
  ["volume", "volume"],
  ["iron", "iron"],
  ["factor", "times"],
] as const;
const SHAPES = [
  ["round", "round"],
  ["square", "square"],
  ["tray", "tray"],
] as const;

const AMOUNT: Partial<Record<Size["by"], { label: string; unit?: string; first: number }>> = {
  pieces: { label: "pieces", first: 12 },
  eggs: { label: "eggs", first: 3 },
  tray: { label: "deep", unit: "cm", first: 1.2 },
  volume: { label: "of batter", unit: "mL", first: 1000 },
  iron: { label: "loads", first: 4 },
  factor: { label: "times", first: 2 },
};

/** A batter in another size, with every way to it and what it does to the balances. */
export function SizeSheet(props: {
  title: string;
  batter: Batter | undefined;
  onTake: (batter: Batter, times: string) => void;
  onClose: () => void;
}) {
  const { title, batter, onTake, onClose } = props;
  const { figure, grams, places, whole } = useNumbers();
  const [by, setBy] = useState<Size["by"]>("pieces");
  const [amount, setAmount] = useState<number>(12);
  const [iron, setIron] = useState<number>(120);
  const [own, setOwn] = useState<Pan>({ shape: "round", a: 24 });
  const [pan, setPan] = useState<Pan>({ shape: "tray", a: 30, b: 40 });
  const wanted = JSON.stringify({
    by,
    amount,
    iron_ml: by === "iron" ? iron : null,
    own_pan: by === "pan" ? own : null,
    pan: by === "pan" || by === "tray" ? pan : null,
  } satisfies Size);
  const settled = useSettled(wanted, 150);
  const size: Size = JSON.parse(settled);
  const scaled = useQuery(scaledQuery(batter, size));
  const ledgers = ["flow", "lift", "set", "fat"];
  return (
    <Sheet title={title} onClose={onClose} wide>
      <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-3">
        <Choose
          label="by"
          options={WAYS}
          value={by}
          onChange={(next) => {
            setBy(next);
            setAmount(AMOUNT[next]?.first ?? amount);
          }}
        />
        {AMOUNT[by] && (
          <NumberField
            label={AMOUNT[by].label}
            unit={AMOUNT[by].unit}
            value={amount}
            min={0.1}
            max={10_000}
            required
            onChange={(v) => v !== null && setAmount(v)}
          />
        )}
        {by === "iron" && (
          <NumberField
            label="of"
            unit="mL each"
            value={iron}
            min={10}
            max={5000}
            required
            onChange={(v) => v !== null && setIron(v)}
          />
        )}
      </div>
      {by === "pan" && (
        <div className="mb-3 grid gap-3">
          <PanField label="from" pan={own} onChange={setOwn} />
          <PanField label="to" pan={pan} onChange={setPan} />
        </div>
      )}
      {by === "tray" && (
        <div className="mb-3">
          <PanField label="tray" pan={pan} onChange={setPan} />
        </div>
      )}
      {scaled.isError && (
        <p role="alert" className="text-error">
          {scaled.error.message}
        </p>
      )}
      <div className="grid gap-6 md:grid-cols-2">
        {scaled.data?.map((s, n) => (
          <section key={s.label} aria-label={s.label}>
            <h3 className="flex items-baseline border-b-2 border-primary pb-1 font-bold text-primary">
              {s.label}
              <span className="figure ml-auto font-normal">× {places(s.factor, 2)}</span>
            </h3>
            <ul>
              {s.view.lines.map((l, n) => (
                <li key={n} className="flex gap-3 border-b border-base-300/50 py-0.5">
                  <span className="figure w-20 text-right text-primary">{grams(l.line.grams)} g</span>
                  <span className="truncate">{l.name}</span>
                  <span className="kitchen ml-auto text-sm">{l.measure}</span>
                </li>
              ))}
            </ul>
            <p className="mt-1 text-sm">
              {whole(s.view.batter_g)} g, {s.view.pieces.yields.whole} pieces;{" "}
              {s.view.ledgers
                .filter((l) => ledgers.includes(l.key))
                .map((l) => `${l.label.toLowerCase()} ${figure(l.mark, l.mark_unit)} ${l.mark_unit}`)
                .join(", ")}
            </p>
            <button
              type="button"
              disabled={wanted !== settled || scaled.isPlaceholderData}
              className={
                n === 0
                  ? "btn btn-accent mt-2 min-h-11 px-5 text-base"
                  : "mt-2 min-h-11 rounded-field border border-primary px-5 text-primary"
              }
              onClick={() => onTake(s.view.batter, places(s.factor, 2))}
            >
              Take this size
            </button>
          </section>
        ))}
      </div>
    </Sheet>
  );
}

function PanField({ label, pan, onChange }: { label: string; pan: Pan; onChange: (pan: Pan) => void }) {
  return (
    <div className="flex flex-wrap items-center gap-4">
      <Choose
        label={label}
        options={SHAPES}
        value={pan.shape}
        onChange={(shape) => onChange({ ...pan, shape, b: shape === "tray" ? (pan.b ?? 30) : null })}
      />
      <NumberField
        label={pan.shape === "round" ? "across" : "side"}
        unit="cm"
        value={pan.a}
        min={1}
        max={500}
        required
        onChange={(a) => a !== null && onChange({ ...pan, a })}
      />
      {pan.shape === "tray" && (
        <NumberField
          label="by"
          unit="cm"
          value={pan.b ?? 30}
          min={1}
          max={500}
          required
          onChange={(b) => b !== null && onChange({ ...pan, b })}
        />
      )}
    </div>
  );
}
