import { ComboboxInput, ComboboxOption, ComboboxOptions, Combobox as Headless } from "@headlessui/react";
import { type KeyboardEvent, useEffect, useState } from "react";
import { useStill } from "./still";

export type Choice = { key: string; name: string; kind?: string; beside?: string };

type Props<C extends Choice> = {
  label: string;
  placeholder?: string;
  text: string;
  onText: (text: string) => void;
  choices: C[];
  /** The choices are still on their way: Enter waits for them, and takes what then stands first, never what stood there before. */
  busy: boolean;
  onTake: (choice: C) => void;
  autoFocus?: boolean;
  /** The choices stand beneath as a list that is always there, rather than over what follows. */
  always?: boolean;
};

/** A field that finds as it is typed into: by arrows and Enter, or by touch. */
export function Combobox<C extends Choice>(props: Props<C>) {
  const { label, placeholder, text, onText, choices, busy, onTake, autoFocus, always } = props;
  const [waits, setWaits] = useState(false);
  const { shown, hold } = useStill(choices);
  useEffect(() => {
    if (!waits || busy) return;
    setWaits(false);
    const first = choices[0];
    if (first) onTake(first);
  }, [waits, busy, choices, onTake]);
  const keyed = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter" && busy) {
      event.preventDefault();
      setWaits(true);
    }
    // In a sheet Escape closes the sheet, not a list that is always there.
    if (event.key === "Escape" && always) {
      event.preventDefault();
      event.currentTarget.closest("dialog")?.close();
    }
  };
  return (
    <Headless<C | null> value={null} immediate onChange={(choice) => choice && onTake(choice)}>
      <div className="relative">
        <ComboboxInput
          data-first
          aria-label={label}
          autoFocus={autoFocus}
          autoComplete="off"
          maxLength={200}
          placeholder={placeholder}
          className="input w-full text-lg"
          displayValue={() => text}
          onChange={(event) => {
            onText(event.target.value);
            setWaits(false);
          }}
          onKeyDown={keyed}
        />
        <ComboboxOptions
          {...hold}
          static={always}
          modal={false} // what stands beside the field stays within reach
          aria-label={`${label}: found`}
          aria-busy={busy}
          className={
            always
              ? "mt-2 min-h-64"
              : "absolute z-30 mt-1 w-full min-w-64 rounded-field border border-base-300 bg-base-100 shadow-lg empty:hidden"
          }
        >
          {shown.map((choice) => (
            <ComboboxOption
              key={`${choice.kind ?? ""} ${choice.key}`}
              value={choice}
              className="flex min-h-11 cursor-pointer items-center gap-3 rounded-field px-3 data-focus:bg-primary data-focus:text-primary-content"
            >
              {choice.kind !== undefined && <span className="w-20 shrink-0 text-sm">{choice.kind}</span>}
              <span className="max-w-full shrink-0 truncate font-semibold">{choice.name}</span>
              {choice.beside && <span className="ml-auto min-w-0 truncate text-sm">{choice.beside}</span>}
            </ComboboxOption>
          ))}
        </ComboboxOptions>
      </div>
    </Headless>
  );
}
