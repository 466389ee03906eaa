import type { Answered, AnswerView, BatterView } from "../../api/client";
import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { Verdict } from "../../kit/Verdict";
import { counted } from "../../pure/counted";
import { UNPRICED } from "./Pour";

type Props = {
  base: BatterView;
  answers: AnswerView[];
  slots: Answered<"SlotView">[];
  chosen: number;
  onChoose: (n: number) => void;
  onClose: () => void;
};

/** All answers beside each other: what each holds, what must be bought for it, and what it loses. */
export function CompareSheet({ base, answers, slots, chosen, onChoose, onClose }: Props) {
  const { figure, places } = useNumbers();
  const ids = [
    ...new Set([base, ...answers.map((a) => a.batter)].flatMap((b) => b.lines.map((l) => l.line.ingredient))),
  ].filter((id): id is string => typeof id === "string");
  const name = (id: string) =>
    [base, ...answers.map((a) => a.batter)].flatMap((b) => b.lines).find((l) => l.line.ingredient === id)?.called;
  const amount = (batter: BatterView, id: string) =>
    batter.lines.filter((l) => l.line.ingredient === id).reduce((all, l) => all + l.line.grams, 0);
  const costs = answers.some((a) => a.batter.pieces.cost);
  return (
    <Sheet title="Versions to choose from, side by side" onClose={onClose} wide>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reached by keyboard */}
      <section className="overflow-x-auto" aria-label="Answers side by side" tabIndex={0}>
        <table className="w-full min-w-[40rem] text-left">
          <thead>
            <tr className="border-b-2 border-base-300 align-bottom">
              <th className="py-1 pr-3">
                <span className="sr-only">What</span>
              </th>
              <th className="py-1 pr-3 text-right text-secondary">you have</th>
              {answers.map((_, n) => (
                <th key={n} className="py-1 pr-3 text-right">
                  <button
                    type="button"
                    aria-pressed={n === chosen}
                    onClick={() => onChoose(n)}
                    className={`min-h-11 rounded-field px-3 ${n === chosen ? "bg-primary text-primary-content" : "border border-primary text-primary"}`}
                  >
                    {slots.find((s) => s.answer === n)?.label ?? `answer ${n + 1}`}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr className="border-b border-base-300/50 align-top">
              <th scope="row" className="py-1 pr-3 font-normal">
                Verdict
              </th>
              <td />
              {answers.map((a, n) => (
                <td key={n} className="py-1 pr-3 text-right">
                  <Verdict verdict={a.batter.guests.verdict} />
                </td>
              ))}
            </tr>
            <Words title="The fact" answers={answers} words={(a) => a.fact} />
            <Words title="To buy" answers={answers} words={(a) => a.buy.join(", ") || "nothing"} />
            <Words title="Loses" answers={answers} words={(a) => a.worse.join("; ") || "nothing you would notice"} />
            <Words
              title="Sure"
              answers={answers}
              words={(a) => `${a.confidence}, ${Math.round(100 * a.score)} % like the original`}
            />
            {ids.map((id) => (
              <tr key={id} className="border-b border-base-300/50">
                <th scope="row" className="max-w-52 truncate py-0.5 pr-3 font-normal">
                  {name(id)}
                </th>
                <Cell value={amount(base, id)} />
                {answers.map((a, n) => (
                  <Cell key={n} value={amount(a.batter, id)} berry />
                ))}
              </tr>
            ))}
            {base.ledgers.map((l) => (
              <tr key={l.key} className="border-b border-base-300/50">
                <th scope="row" className="py-0.5 pr-3 font-normal">
                  {l.label} <small>{l.mark_unit}</small>
                </th>
                <td className="figure py-0.5 pr-3 text-right text-secondary">{figure(l.mark, l.mark_unit)}</td>
                {answers.map((a, n) => (
                  <td key={n} className="figure py-0.5 pr-3 text-right text-primary">
                    {figure(a.batter.ledgers.find((x) => x.key === l.key)?.mark, l.mark_unit)}
                  </td>
                ))}
              </tr>
            ))}
            {costs && (
              <tr className="border-b border-base-300/50">
                <th scope="row" className="py-0.5 pr-3 font-normal">
                  Cost of a piece
                </th>
                <td className="figure py-0.5 pr-3 text-right text-secondary">
                  {base.pieces.cost ? places(base.pieces.cost.per_piece, 3) : "–"}
                </td>
                {answers.map((a, n) => (
                  <td key={n} className="figure py-0.5 pr-3 text-right text-primary">
                    {a.batter.pieces.cost ? places(a.batter.pieces.cost.per_piece, 3) : "–"}
                    {a.batter.pieces.cost && a.batter.pieces.cost.unpriced.length > 0 && (
                      <small className="block font-normal">
                        {counted(a.batter.pieces.cost.unpriced.length, UNPRICED)}
                      </small>
                    )}
                  </td>
                ))}
              </tr>
            )}
          </tbody>
        </table>
      </section>
      <ul className="mt-3 text-sm">
        {slots
          .filter((s) => s.answer === null)
          .map((s) => (
            <li key={s.kind}>
              <b>{s.label}:</b> {s.empty}
            </li>
          ))}
      </ul>
    </Sheet>
  );
}

function Cell({ value, berry }: { value: number; berry?: boolean }) {
  const { grams } = useNumbers();
  return (
    <td className={`figure py-0.5 pr-3 text-right ${berry ? "text-primary" : "text-secondary"}`}>
      {value > 0 ? grams(value) : <span className="opacity-60">·</span>}
    </td>
  );
}

function Words({ title, answers, words }: { title: string; answers: AnswerView[]; words: (a: AnswerView) => string }) {
  return (
    <tr className="border-b border-base-300/50 align-top">
      <th scope="row" className="py-1 pr-3 font-normal">
        {title}
      </th>
      <td />
      {answers.map((a, n) => (
        <td key={n} className="max-w-44 py-1 pr-3 text-right text-sm">
          {words(a)}
        </td>
      ))}
    </tr>
  );
}
