import type { Answered } from "../api/client";
import { likely, signs } from "../pure/trend";
import { Button } from "./Button";

type Props = { found: Answered<"Diagnosis">; say: (question: string, answer: string) => void };

/** The causes of what went wrong by the signs for them, and the one question that would tell most. */
export function Causes({ found, say }: Props) {
  return (
    <>
      {found.thin && <p className="mb-1 font-semibold">The evidence is thin: this is a guess more than a finding.</p>}
      <ol>
        {found.causes.slice(0, 3).map((c, n) => {
          const strong = signs(c.evidence.map((e) => e.weight));
          return (
            <li key={c.cause} className="border-b border-base-300 py-2">
              <details>
                <summary className="flex cursor-pointer items-center gap-3">
                  <b className="figure text-3xl text-primary">{n + 1}</b>
                  <span className="min-w-0 flex-1">
                    <b>{sentence(c.name)}</b> <span className="text-primary">{likely(c.p)}</span>
                    <span className="block text-sm">
                      {c.evidence.find((e) => e.weight > 0)?.text ?? "nothing that was recorded speaks for it"}
                    </span>
                  </span>
                  <svg viewBox="0 0 54 16" className="h-4 w-14 shrink-0" role="img" aria-label={`${strong} of 3 signs`}>
                    {[0, 1, 2].map((k) => (
                      <circle
                        key={k}
                        cx={8 + 18 * k}
                        cy="8"
                        r="6"
                        stroke="var(--color-primary)"
                        strokeWidth="2"
                        fill={k < strong ? "var(--color-primary)" : "none"}
                      />
                    ))}
                  </svg>
                </summary>
                <ul className="mt-1 ml-10 text-sm">
                  {c.evidence.map((e) => (
                    <li key={e.feature}>
                      {e.weight > 0 ? "for it" : "against it"}: {e.text}
                    </li>
                  ))}
                  <li>To be sure: {c.trial.change_one_thing}.</li>
                </ul>
              </details>
            </li>
          );
        })}
      </ol>
      <p className="text-sm">
        None of the known causes: {likely(found.none_of_these)}.
        {found.not_recorded.length > 0 && ` Not recorded: ${found.not_recorded.join("; ")}.`}
      </p>
      {found.question && (
        <div className="mt-3 border-l-[6px] border-primary bg-base-100 p-3 print:hidden">
          <p>
            <b>One question.</b> {found.question.text}
          </p>
          <p className="mt-2 flex flex-wrap gap-2">
            {found.question.answers.map((a) => (
              <Button key={a} kind={a === "don't know" ? "link" : "plain"} onClick={() => say(found.question!.id, a)}>
                {a}
              </Button>
            ))}
          </p>
        </div>
      )}
    </>
  );
}

function sentence(text: string): string {
  return text.slice(0, 1).toUpperCase() + text.slice(1);
}
