import type { Answered } from "../../api/client";

export type Slot = Answered<"SlotView">;
type Props = { slots: Slot[]; chosen: number; asked: string | null; onTouch: (slot: Slot) => void };

/** The kinds of answer, each in its place; one that is empty says why when it is touched. */
export function Slots({ slots, chosen, asked, onTouch }: Props) {
  const empty = slots.find((s) => s.kind === asked && s.answer === null);
  if (slots.length < 2) return null;
  return (
    <div className="mt-2">
      <fieldset aria-label="Answers" className="flex flex-wrap gap-1">
        {slots.map((s) => (
          <button
            key={s.kind}
            type="button"
            aria-pressed={s.answer === chosen}
            onClick={() => onTouch(s)}
            className={`min-h-8 rounded-field px-2.5 text-sm pointer-coarse:min-h-11 ${
              s.answer === chosen
                ? "bg-primary font-bold text-primary-content"
                : s.answer === null
                  ? "border border-dashed border-base-content/40 text-base-content/80"
                  : "border border-primary text-primary"
            }`}
          >
            {s.label}
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
