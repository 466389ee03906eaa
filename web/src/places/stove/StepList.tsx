import type { BatchView } from "../../api/queue";

type Props = { steps: BatchView["mixing"]["steps"]; done: (key: string) => boolean };

/** The steps in their order, those that are done marked; `done` is what the server has yet to hear. */
export function StepList({ steps, done }: Props) {
  return (
    <ol className="mt-6 text-lg">
      {steps.map((m) => (
        <li key={m.key} className={m.done !== null || done(m.key) ? "opacity-75" : ""}>
          <span className="inline-block w-6" aria-hidden="true">
            {m.done !== null || done(m.key) ? "✓" : ""}
          </span>
          {m.title}
          {m.done !== null && <span className="sr-only">, done</span>}
        </li>
      ))}
    </ol>
  );
}
