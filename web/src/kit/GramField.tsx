import { useState } from "react";
import { readGrams } from "../pure/format";
import { useNumbers } from "./numbers";

type Props = { value: number; label: string; side: "iron" | "berry"; onChange: (grams: number) => void };

/** Grams to type over. Each key that leaves a good number is passed on at once; a bad one is told at the field and changes nothing. */
export function GramField({ value, label, side, onChange }: Props) {
  const { grams } = useNumbers();
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null ? null : readGrams(typed);
  const problem = read && "problem" in read ? read.problem : null;
  return (
    <span className="relative flex items-baseline gap-1">
      <input
        type="text"
        inputMode="decimal"
        maxLength={12}
        aria-label={`${label}, grams`}
        aria-invalid={problem !== null}
        className={`figure h-9 w-[4.6rem] rounded-field border bg-transparent px-1 text-right text-xl ${
          side === "iron" ? "text-secondary" : "text-primary"
        } ${problem ? "border-error" : "border-transparent hover:border-base-300 focus:border-base-content"}`}
        value={typed ?? grams(value)}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = readGrams(event.target.value);
          if ("grams" in next) onChange(next.grams);
        }}
        onBlur={() => setTyped(null)}
        onKeyDown={(event) => {
          if (event.key === "Enter" || event.key === "Escape") event.currentTarget.blur();
          const step = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
          if (step !== 0) {
            event.preventDefault();
            setTyped(null);
            onChange(Math.max(0, Math.round((value + step * (value < 10 ? 0.5 : 1)) * 100) / 100));
          }
        }}
      />
      <span aria-hidden="true" className="text-sm opacity-80">
        g
      </span>
      {problem && (
        <span
          role="alert"
          className="absolute top-full right-0 z-20 rounded-field bg-error px-2 py-1 text-sm whitespace-nowrap text-error-content"
        >
          {problem} Nothing changed.
        </span>
      )}
    </span>
  );
}
