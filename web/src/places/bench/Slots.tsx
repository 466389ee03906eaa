import type { Answered } from "../../api/client";

export type Slot = Answered<"SlotView">;
type Props = { slots: Slot[]; looking: boolean; chosen: number; asked: string | null; onTouch: (slot: Slot) => void };

/** The kinds of answer, each in its place; one that is empty says why when it is touched. */
export function Slots({ slots, looking, chosen, asked, onTouch }: Props) {
  const empty = slots.find((s) => s.kind === asked && s.answer === null);
  if (slots.length < 2) return looking ? <Looking /> : null;
  return (
    <div className="mb-2">
      <fieldset aria-label="Answers" className="relative flex min-w-0 overflow-x-auto border-b-2 border-base-300">
        {slots.map((s) => (
          <button
            key={s.kind}
            type="button"
            aria-pressed={s.answer === chosen}
            onClick={() => onTouch(s)}
            className={`min-h-11 min-w-24 flex-1 border-b-[3px] px-2 py-0.5 text-left text-sm leading-tight ${
              s.answer !== null && s.answer === chosen
                ? "border-primary bg-primary/10 text-primary"
                : s.answer === null
                  ? "border-transparent text-base-content/80"
                  : "border-transparent hover:bg-base-100"
            }`}
          >
            <b className="block truncate">{s.label}</b>
            <span className="block truncate">{s.answer === null ? "none" : s.fact || " "}</span>
          </button>
        ))}
      </fieldset>
      <p aria-live="polite" className="mt-0.5 text-sm empty:hidden">
        {empty && (
          <>
            <b>{empty.label}:</b> {empty.empty}
          </>
        )}
      </p>
    </div>
  );
}

const PLACES = ["a", "b", "c", "d", "e"];

/** The places of the answers while they are looked for: they are kept free, so that nothing jumps when they come. */
export function Looking() {
  return (
    <div className="mb-2 flex gap-1 overflow-x-hidden border-b-2 border-base-300" aria-hidden="true">
      {PLACES.map((place) => (
        <span
          key={place}
          className="min-h-11 min-w-24 flex-1 border-b-[3px] border-dashed border-base-content/40 px-2 py-0.5 text-sm leading-tight opacity-80"
        >
          <b className="block">&nbsp;</b>
          looking
        </span>
      ))}
    </div>
  );
}
