import type { Answered } from "../../api/client";
import { Button } from "../../kit/Button";

type View = Answered<"EntryView">;
type Suspect = Answered<"Diagnosis">["causes"][number];
type Begin = (trial: { cause: string; text: string; arms: string[]; pairs: number }) => void;
type Props = { view: View; onBegin: Begin; onTried: (trial: string, better: "1" | "2" | "same") => void };

/** A change tried against itself: two halves of one bowl, on plates without a name, in an order that nobody chose. */
export function Trial({ view, onBegin, onTried }: Props) {
  const t = view.trial;
  const cause: Suspect | undefined = view.diagnosis?.causes.find((c) => c.trial.arms.length === 2);
  if (!t) {
    if (!cause) return null;
    const { change_one_thing: text, arms, pairs } = cause.trial;
    return (
      <p className="mt-3 print:hidden">
        <Button kind="link" onClick={() => onBegin({ cause: cause.cause, text, arms: [...arms], pairs })}>
          Try it in two halves of one bowl
        </Button>
      </p>
    );
  }
  return (
    <section aria-label="A trial" className="mt-5 border-l-[6px] border-secondary bg-base-100 p-4">
      <h3 className="text-lg font-bold">A trial: {t.thing}</h3>
      {t.words && <p>{t.words}</p>}
      {!t.over && (
        <>
          <p className="mt-1">
            Pair {t.done + 1} of {t.needed}. Part one bowl in two; only the change differs. Plate 1 is “
            {t.arms[t.first]}
            ”, plate 2 is “{t.arms[1 - t.first]}”. Whoever tastes does not know which is which.
          </p>
          <p className="mt-2 flex flex-wrap gap-2 print:hidden">
            <Button onClick={() => onTried(t.id, "1")}>Plate 1 is better</Button>
            <Button onClick={() => onTried(t.id, "2")}>Plate 2 is better</Button>
            <Button onClick={() => onTried(t.id, "same")}>No difference</Button>
          </p>
        </>
      )}
    </section>
  );
}
