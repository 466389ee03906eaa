import type { BatterView } from "../../api/client";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";

type Props = { batter: BatterView; unread: boolean; onMake: () => void; onSave: () => void };

/** On a phone (while a line is unread, that line has the yellow): what to hold back, and what can be done next, always at hand above the places. */
export function PhoneBar({ batter, unread, onMake, onSave }: Props) {
  const { grams } = useNumbers();
  const plan = batter.pieces.hold_back;
  return (
    <section
      aria-label="What is next"
      className="fixed inset-x-0 bottom-14 z-20 flex items-center gap-3 border-t border-base-300 bg-base-100 px-4 py-2 md:bottom-0 md:left-[4.75rem] lg:hidden print:hidden"
    >
      <span className="min-w-0 flex-1 leading-tight">
        {plan && (
          <>
            <b className="block">
              Hold back <span className="figure">{grams(plan.hold_g)} g</span>
            </b>
            <span className="block truncate text-sm">of the {plan.name}</span>
          </>
        )}
      </span>
      <Button onClick={onSave}>Save</Button>
      <Button kind={unread ? "plain" : "strong"} onClick={onMake}>
        Make it
      </Button>
    </section>
  );
}
