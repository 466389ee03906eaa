import type { ReactNode } from "react";
import type { BatterView } from "../../api/client";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { Held } from "../../kit/Held";
import { useNumbers } from "../../kit/numbers";
import type { Numbers } from "../../pure/format";
import { AnswerHead, Contents } from "./AnswerHead";
import { ForWhom } from "./ForWhom";
import { PieceWords } from "./Pour";
import { placed, Rows } from "./Rows";
import type { Open } from "./Sheets";
import { Looking, type Slot, Slots } from "./Slots";
import type { Made } from "./useMade";

type Props = {
  base: BatterView;
  made: Made;
  rows: Parameters<typeof Rows>[0]["rows"];
  unread: boolean;
  dietWords: string;
  current: boolean;
  asked: string | null; // the empty slot that was touched
  lit: string | null;
  onLight: (key: string | null) => void;
  onSlot: (slot: Slot) => void;
  marks: (id: string) => string;
  detail?: () => ReactNode;
  hidden: string; // the class that keeps it out of sight on a phone
  onOpen: (open: Open) => void;
};

/** What you will make: the verdict, what is new in it, the answers by kind, and the lines of the one that is chosen. */
export function Make({ base, made, rows, unread, dietWords, current, asked, hidden, ...on }: Props) {
  const { start, state, act } = useBench();
  const numbers = useNumbers();
  const { answer, after, edited, data, working, looking } = made;
  const count = data?.answers.length ?? 0;
  // The column is as tall as the longest answer: choosing another moves nothing under it.
  const room = Math.max(0, ...(data?.answers ?? []).map((a) => placed(a.batter, "batter").length));
  return (
    <section
      aria-label="You will make"
      aria-busy={working}
      className={`lg:row-span-3 lg:grid lg:grid-cols-[minmax(0,1fr)] lg:grid-rows-subgrid ${working ? "opacity-75" : ""} ${hidden}`}
    >
      {after && answer ? (
        <>
          <AnswerHead
            title={!made.isNearest ? "You will make" : unread ? "Without that line" : "Closest match"}
            batter={after}
            dietWords={dietWords}
            current={current}
          >
            {edited && (
              <>
                <Button kind="link" onClick={() => act({ type: "rebalance" })}>
                  mend the rest
                </Button>
                <Button kind="link" onClick={() => act({ type: "dropEdits" })}>
                  back to the answer
                </Button>
              </>
            )}
          </AnswerHead>
          <Held busy={looking}>
            <Contents
              batter={after}
              adds={answer.adds}
              plate={current && after.guests.plate_verdict !== after.guests.verdict}
            />
            <Slots
              slots={data?.slots ?? []}
              looking={looking}
              chosen={Math.min(state.chosen, count - 1)}
              asked={asked}
              onTouch={on.onSlot}
            />
          </Held>
          <Held busy={looking}>
            <Held busy={looking}>
              <Rows
                rows={rows}
                side="berry"
                lit={on.lit}
                tags={tagsOf(base, after, numbers)}
                marks={on.marks}
                buy={edited ? undefined : new Set(answer.buy)}
                detail={on.detail}
                room={room}
                typed={(at) => state.made[after.lines[at]?.line.ingredient ?? ""]}
                onLight={on.onLight}
                onGrams={(view, _, g) =>
                  view.line.ingredient && act({ type: "madeGrams", ingredient: view.line.ingredient, grams: g })
                }
              />
            </Held>
            {!edited && (
              <p className="mt-1 text-sm">
                <Button kind="link" className="mr-2" onClick={() => on.onOpen({ what: "shopping" })}>
                  Shopping list
                </Button>
                {count > 1 && (
                  <Button kind="link" className="mr-2" onClick={() => on.onOpen({ what: "compare" })}>
                    Compare the {count} answers
                  </Button>
                )}
                {state.chosen > 0 && answer.fact && `${answer.fact[0]!.toUpperCase()}${answer.fact.slice(1)}. `}
                {answer.buy.length === 0 && start.larder_kept && "All of it is in. "}
                <PieceWords batter={after} />
              </p>
            )}
            {answer.unchanged && !edited && <p className="mt-1 font-semibold">{answer.unchanged}</p>}
          </Held>
        </>
      ) : (
        <Nothing made={made} />
      )}
    </section>
  );
}

/** What stands on the right while there is no answer: the diets on offer, or why there is none. */
function Nothing({ made }: { made: Made }) {
  const { start, state, act } = useBench();
  return (
    <div className="border-l-[6px] border-base-300 px-4 py-3 lg:row-span-3 lg:mt-11">
      {state.base.lines.length === 0 ? (
        "What you will make stands here, beside what you have."
      ) : !made.asked ? (
        <ForWhom start={start} onDiet={(diet) => act({ type: "toggleDiet", diet })} />
      ) : made.pending ? (
        <>
          Working it out…
          <Looking />
        </>
      ) : (
        "Nothing that is allowed makes this batter."
      )}
    </div>
  );
}

function tagsOf(before: BatterView, after: BatterView, { grams }: Numbers): Map<string, string> {
  const was = new Map(before.lines.map((l) => [l.line.ingredient, l.line.grams]));
  const tags = new Map<string, string>();
  for (const { line } of after.lines) {
    if (!line.ingredient) continue;
    const old = was.get(line.ingredient);
    tags.set(line.ingredient, old === undefined || Math.abs(old - line.grams) < 0.05 ? "" : `was ${grams(old)}`);
  }
  return tags;
}
