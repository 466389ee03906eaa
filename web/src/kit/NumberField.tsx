import { useState } from "react";
import { readNumber } from "../pure/format";
import { useNumbers } from "./numbers";

type Props = {
  label: string;
  value: number | null;
  unit?: string;
  min?: number;
  max?: number;
  wide?: boolean;
  required?: boolean;
  hideLabel?: boolean;
  whenDone?: boolean;
  placeholder?: string;
  onChange: (value: number | null) => void;
};

/** A number to type, or none. What cannot be is told at the field, and changes nothing. `whenDone`: passed on when the field is left or
 * Enter is pressed, where each key would be a change of its own. */
export function NumberField({
  label,
  value,
  unit,
  min = 0,
  max = 1e6,
  wide,
  required,
  hideLabel,
  whenDone,
  placeholder,
  onChange,
}: Props) {
  const { places } = useNumbers();
  const [typed, setTyped] = useState<string | null>(null);
  const problem = typed === null ? "" : fault(typed, min, max, required);
  const pass = (text: string) => {
    if (fault(text, min, max, required) === "") onChange(text.trim() === "" ? null : readNumber(text));
  };
  return (
    <label className={wide ? "block" : "inline-flex items-center gap-2"}>
      <span className={hideLabel ? "sr-only" : wide ? "mb-0.5 block font-semibold" : ""}>{label}</span>
      <span className="relative inline-flex items-baseline gap-1">
        <input
          type="text"
          inputMode="decimal"
          maxLength={12}
          aria-invalid={problem !== ""}
          aria-required={required}
          placeholder={placeholder}
          className={`figure h-10 w-24 rounded-field border bg-base-100 px-2 text-right pointer-coarse:h-11 ${problem ? "border-error" : "border-base-300"}`}
          value={typed ?? (value === null ? "" : places(value, 3))}
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            const text = event.target.value;
            setTyped(text);
            if (!whenDone) pass(text);
          }}
          onBlur={() => {
            if (whenDone && typed !== null) pass(typed);
            setTyped(null);
          }}
          onKeyDown={(event) => {
            if (whenDone && event.key === "Enter") event.currentTarget.blur();
          }}
        />
        {unit !== undefined && <span className="unit text-sm opacity-85">{unit}</span>}
        {problem && (
          <span
            role="alert"
            className="absolute top-full left-0 z-20 rounded-field bg-error px-2 py-1 text-sm whitespace-nowrap text-error-content"
          >
            {problem}
          </span>
        )}
      </span>
    </label>
  );
}

function fault(text: string, min: number, max: number, required?: boolean): string {
  if (text.trim() === "") return required ? "An amount is missing." : "";
  const value = readNumber(text);
  if (value === null) return "This must be a number.";
  if (value < min) return min === 0 ? "This cannot be below 0." : `This must be ${min} or more.`;
  return value > max ? `This must be ${max} or less.` : "";
}
