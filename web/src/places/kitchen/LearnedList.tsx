import { useQuery } from "@tanstack/react-query";
import { type Answered, api, got } from "../../api/client";
import { learnedQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { useTell } from "../../kit/Toast";
import type { Numbers } from "../../pure/format";
import { day } from "../../pure/format";

type Learnt = Answered<"Learnt">;
type Lesson = Learnt["lessons"][number];

/** What this kitchen has learned at the stove: what was thought, what each batch told, what is thought now; any of it can be forgotten. */
export function LearnedList() {
  const learned = useQuery(learnedQuery);
  if (learned.isError) return <p role="alert">{learned.error.message}</p>;
  if (!learned.data) return <p>Looking…</p>;
  if (learned.data.length === 0)
    return (
      <p className="max-w-xl text-lg">
        Nothing is learned yet. A bowl that is judged by plate or test piece teaches how much its flours drink here;
        loads that are turned and taken off teach how fast a surface is.
      </p>
    );
  return (
    <ul className="grid gap-6">
      {learned.data.map((one) => (
        <One key={`${one.kind} ${one.subject}`} one={one} />
      ))}
    </ul>
  );
}

function One({ one }: { one: Learnt }) {
  const numbers = useNumbers();
  const tell = useTell();
  const forget = useWrite(
    (back: boolean) => got(api.POST("/api/learned/forget", { body: { kind: one.kind, subject: one.subject, back } })),
    { changes: "learned" },
  );
  return (
    <li>
      <header className="flex flex-wrap items-center gap-3 border-b border-base-300 pb-1">
        <h2 className="text-lg font-bold">{title(one)}</h2>
        <Button
          className="ml-auto"
          onClick={() => {
            forget.mutate(false);
            tell(`Forgotten: ${title(one)}.`, () => forget.mutate(true));
          }}
        >
          Forget
        </Button>
      </header>
      <table className="mt-1">
        <thead>
          <tr className="text-left">
            <th className="pr-6 font-normal">batch of</th>
            <th className="pr-6 font-normal">was thought</th>
            <th className="font-normal">is thought since</th>
          </tr>
        </thead>
        <tbody>
          {one.lessons.map((lesson, n) => (
            <tr key={n}>
              <td className="pr-6">{lesson.at ? day(lesson.at) : ""}</td>
              <td className="figure pr-6">{belief(lesson, lesson.before_mean, lesson.before_sd, numbers)}</td>
              <td className="figure">{belief(lesson, lesson.after_mean, lesson.after_sd, numbers)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {forget.isError && <p role="alert">{forget.error.message}</p>}
    </li>
  );
}

function title(one: Learnt): string {
  if (one.kind === "absorption") return `How much ${one.name} drinks`;
  if (one.kind === "fill") return `How much a place of ${one.name} takes`;
  return one.kind === "pace" ? `How fast ${one.name} is` : "How far a test piece runs";
}

/** A belief with its doubt (19 in 20), in words of its kind. */
function belief(lesson: Lesson, mean: number, sd: number, { fixed, places }: Numbers): string {
  if (lesson.kind === "absorption") return `${fixed(mean, 2)} ± ${fixed(2 * sd, 2)} times the table`;
  if (lesson.kind === "piece_offset") return `${places(mean, 1)} ± ${places(2 * sd, 1)} cm against the plate`;
  if (lesson.kind === "fill")
    return `${fixed(Math.exp(mean), 2)} times what is written of it, ± ${Math.round(200 * sd)} %`;
  return `${fixed(Math.exp(mean), 2)} times the reckoned time, ± ${Math.round(200 * sd)} %`;
}
