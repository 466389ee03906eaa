type Props<K extends string> = {
  label: string;
  options: readonly (readonly [K, string])[];
  value: K;
  onChange: (value: K) => void;
  stacked?: boolean;
};

/** One of a few, all of them in sight. */
export function Choose<K extends string>({ label, options, value, onChange, stacked }: Props<K>) {
  return (
    <fieldset className={stacked ? "" : "flex flex-wrap items-center gap-2"}>
      {label && <legend className={`float-left ${stacked ? "mb-1 w-full font-semibold" : "pr-2"}`}>{label}</legend>}
      <span className="inline-flex flex-wrap rounded-field border border-base-300">
        {options.map(([key, words]) => (
          <button
            key={key}
            type="button"
            aria-pressed={value === key}
            onClick={() => onChange(key)}
            className={`min-h-10 px-3 pointer-coarse:min-h-11 ${value === key ? "bg-neutral font-semibold text-neutral-content" : "bg-base-100 hover:bg-base-200"}`}
          >
            {words}
          </button>
        ))}
      </span>
    </fieldset>
  );
}
