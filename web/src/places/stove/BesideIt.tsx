import { Button } from "../../kit/Button";
import { useNow } from "../../kit/moment";
import { hour, span } from "../../pure/clock";
import { useInHand } from "./useBatch";

/** The dishes beside the batter that are not made yet: when each must be begun so that it is ready with the first plate. */
export function BesideIt() {
  const { view, waiting, say } = useInHand();
  const moment = useNow(500);
  const open = view.ready.prep.filter((p) => p.side !== "" && p.done === null);
  const sent = (key: string) => waiting.some((e) => "key" in e && e.key === key);
  if (open.length === 0) return null;
  return (
    <section aria-label="Beside the batter" className="mt-8 border-t border-base-300 pt-3">
      <h3 className="font-bold">Beside the batter</h3>
      <ul>
        {open.map((p) => (
          <li key={p.key} className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-lg">
            <span className="min-w-0 flex-1">
              <b>{p.title}</b>{" "}
              {p.started !== null && p.due !== null ? (
                <span className="figure text-2xl">{span(p.due - moment)}</span>
              ) : p.start_by !== null ? (
                <span className={p.start_by < moment ? "font-semibold text-warning" : ""}>
                  begin by <span className="figure">{hour(p.start_by)}</span>
                </span>
              ) : (
                <span>{Math.round(p.minutes)} min</span>
              )}
              <span className="block">{p.text}</span>
            </span>
            {p.started === null && p.minutes >= 2 && (
              <Button kind="large" disabled={sent(p.key)} onClick={() => say({ kind: "prep_started", key: p.key })}>
                Begin
              </Button>
            )}
            <Button kind="large" disabled={sent(p.key)} onClick={() => say({ kind: "prep_done", key: p.key })}>
              Done
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
