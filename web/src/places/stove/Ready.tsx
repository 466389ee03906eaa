import { clock as server } from "../../api/client";
import { Acts, Button } from "../../kit/Button";
import { useNow } from "../../kit/moment";
import { atHour, hour, span } from "../../pure/clock";
import { MomentChoice } from "./MomentChoice";
import { useInHand } from "./useBatch";

/** What needs time first, in the order in which it must start, each with its clock. */
export function Ready() {
  const { view, waiting, say } = useInHand();
  const moment = useNow(500);
  const clock = view.ready.clockwork;
  const open = view.ready.prep.filter((p) => p.done === null);
  const begun = (key: string) => waiting.some((e) => "key" in e && e.key === key);
  return (
    <section aria-label="Ready" className="mt-4">
      <label className="flex flex-wrap items-center gap-3 text-lg">
        First piece on the plate at
        <input
          type="time"
          className="figure h-12 rounded-field border border-base-content/50 bg-base-100 px-3 text-xl"
          defaultValue={view.first_at ? hour(view.first_at) : ""}
          key={view.first_at}
          onBlur={(event) => {
            const text = event.target.value;
            if (text === (view.first_at ? hour(view.first_at) : "")) return;
            say({ kind: "first_piece", first_at: text === "" ? null : atHour(text, server.now()) });
          }}
        />
        {clock && clock.late_s > 30 && (
          <span className="font-semibold text-warning">
            {Math.ceil(clock.late_s / 60)} min late by this plan: the first piece comes at{" "}
            {hour(clock.first_piece + clock.late_s)}.
          </span>
        )}
      </label>
      {view.ready.prep.length === 0 && <p className="mt-6 text-2xl">Nothing needs time before: weigh out.</p>}
      <ol className="mt-4 grid gap-2">
        {view.ready.prep.map((p) => {
          const left = p.due === null ? null : p.due - moment;
          const late = p.done === null && p.started === null && p.start_by !== null && p.start_by < moment;
          return (
            <li
              key={p.key}
              className={`grid grid-cols-[1fr_auto] items-center gap-x-4 rounded-box bg-base-100 px-4 py-3 sm:grid-cols-[6rem_1fr_auto_auto] ${p.done ? "opacity-75" : ""}`}
            >
              <span className={`figure text-2xl ${late ? "text-warning" : ""}`}>
                {p.start_by === null ? `${Math.round(p.minutes)} min` : hour(p.start_by)}
              </span>
              <span className="col-span-2 min-w-0 sm:col-span-1">
                <b className="text-xl">{p.title}</b>
                {p.side && <span className="ml-2">beside the batter</span>}
                {late && <span className="ml-2 font-semibold text-warning">should have begun</span>}
                <span className="block text-lg">{p.text}</span>
                <span className="block opacity-85">{p.why}</span>
                {p.weighed && p.started === null && p.done === null && (
                  <span className="block opacity-85">
                    Begun here, it counts as weighed; else it comes first in Weigh out.
                  </span>
                )}
              </span>
              <span className="figure text-4xl" aria-live="off">
                {left !== null && p.done === null ? span(left) : ""}
              </span>
              <span className="flex gap-2">
                {p.done !== null ? (
                  <span className="px-3 text-lg font-semibold">done</span>
                ) : p.started === null ? (
                  <>
                    <Button
                      kind="large"
                      disabled={begun(p.key)}
                      onClick={() => say({ kind: "prep_started", key: p.key })}
                    >
                      Begin
                    </Button>
                    <Button kind="large" disabled={begun(p.key)} onClick={() => say({ kind: "prep_done", key: p.key })}>
                      Is done
                    </Button>
                  </>
                ) : (
                  <Button kind="large" disabled={begun(p.key)} onClick={() => say({ kind: "prep_done", key: p.key })}>
                    Done
                  </Button>
                )}
              </span>
            </li>
          );
        })}
      </ol>
      {clock && (
        <p className="mt-3 text-lg">
          Weigh from <b className="figure">{hour(clock.weigh)}</b>, mix <b className="figure">{hour(clock.mix)}</b>,
          rest <b className="figure">{hour(clock.rest)}</b>, pour <b className="figure">{hour(clock.pour)}</b>.
        </p>
      )}
      {view.mixing.moment_open && view.mixing.moments.length > 0 && (
        <div className="mt-4 max-w-3xl">
          <MomentChoice />
        </div>
      )}
      <Acts>
        <Button kind="next" onClick={() => say({ kind: "went", stage: "weigh" })}>
          Weigh out
        </Button>
        {open.some((p) => p.started === null) && (
          <span className="text-lg opacity-85">What needs time can begin meanwhile.</span>
        )}
      </Acts>
    </section>
  );
}
