import type { BatterView } from "../../api/client";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";

type Props = { batter: BatterView; unread: boolean; onMake: () => void; onSave: () => void };

/** What to hold back, and what can be done next, always at hand at the foot of the Bench; on a phone above the places. While a line is unread, that
 * line has the yellow. */
export function NextBar({ batter, unread, onMake, onSave }: Props) {
  const { grams } = useNumbers();
  const plan = batter.pieces.hold_back;
  return (
    <section
      aria-label="What is next"
      className="fixed inset-x-0 bottom-[calc(3.5rem+var(--clocks,0px))] z-20 border-t border-base-300 bg-base-100 px-4 py-2 md:bottom-[var(--clocks,0px)] md:left-[4.75rem] print:hidden"
    >
      <div className="mx-auto flex max-w-[86rem] items-center gap-3 sm:px-2">
        <span className="min-w-0 flex-1 leading-tight">
          {plan && (
            <>
              <b className="block lg:inline lg:text-lg">
                Hold back <span className="figure">{grams(plan.hold_g)} g</span>
              </b>{" "}
              <span className="block truncate text-sm lg:inline lg:text-lg">of the {plan.name}</span>
            </>
          )}
        </span>
        <Button onClick={onSave}>
          <span className="lg:hidden">Save</span>
          <span className="max-lg:hidden">Save as a version</span>
        </Button>
        <Button kind={unread ? "plain" : "strong"} onClick={onMake}>
          Make it
        </Button>
      </div>
    </section>
  );
}
