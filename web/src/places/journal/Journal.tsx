import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { NavLink, useNavigate, useParams } from "react-router";
import type { Answered } from "../../api/client";
import { journalQuery, keptQuery, SOUGHT_ALL, type Sought } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Mark } from "../../kit/Mark";
import { useStill } from "../../kit/still";
import { day } from "../../pure/format";
import { BringLog } from "./BringLog";
import { CompareSheet } from "./CompareSheet";
import { KeptFood } from "./KeptFood";
import { One } from "./One";
import { TraceSheet } from "./TraceSheet";

type Line = Answered<"LogLine">;

/** What was made, why it came out so, and what to change: the log, and the batch that is looked at. */
export default function Journal() {
  const { batch } = useParams();
  const go = useNavigate();
  const [sought, setSought] = useState(SOUGHT_ALL);
  const seek = (part: Partial<Sought>) => setSought({ ...sought, ...part });
  const [picked, setPicked] = useState<string[]>([]);
  const [open, setOpen] = useState<"compare" | "trace" | null>(null);
  const log = useQuery(journalQuery(sought));
  const kept = useQuery(keptQuery); // stands above the log: both come at once, so that nothing moves under a finger
  const { shown: lines, hold } = useStill(log.data?.batches ?? []);
  // Beside the log lies its newest batch until another is asked for; a search does not put another in its place.
  const [newest, setNewest] = useState(lines[0]?.id);
  if (!newest && lines[0]) setNewest(lines[0].id);
  const shown = batch ?? newest;
  useEffect(() => {
    document.title = "Journal · Mutabilis";
  }, []);
  if (!log.data || kept.isPending) {
    return (
      <main className="p-6 text-lg">
        {log.error ? <p role="alert">{log.error.message}</p> : <p>Opening the journal…</p>}
      </main>
    );
  }
  const pick = (id: string) =>
    setPicked((was) => (was.includes(id) ? was.filter((x) => x !== id) : [...was, id].slice(-5)));
  return (
    <main className="mx-auto max-w-[90rem] px-4 py-4 md:px-6">
      <header className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1 print:hidden">
        <h1 className="text-3xl font-bold">Journal</h1>
        <p>{log.data.total === 1 ? "One batch" : `${log.data.total} batches`} made here.</p>
        <span className="ml-auto flex flex-wrap gap-4">
          <Button kind="link" onClick={() => setOpen("trace")}>
            Trace a pack
          </Button>
          <a className="inline-flex min-h-11 items-center underline underline-offset-4" href="/api/journal/log.csv">
            Table
          </a>
          <a className="inline-flex min-h-11 items-center underline underline-offset-4" href="/api/journal/log.json">
            Everything
          </a>
          <BringLog />
        </span>
      </header>
      {!batch && <KeptFood />}
      {log.data.total === 0 ? (
        <p className="text-lg">
          Nothing yet. Whatever is made at the Stove stands here as soon as it is finished: what was meant, what
          happened, and what to change.
        </p>
      ) : (
        <div className="grid gap-6 lg:grid-cols-[20rem_minmax(0,1fr)]">
          <section aria-label="Log" className={batch ? "hidden lg:block print:hidden" : "print:hidden"}>
            <form className="mb-2 grid gap-2" onSubmit={(e) => e.preventDefault()}>
              <label>
                <span className="sr-only">Search batters, guests, packs, notes and days</span>
                <input
                  value={sought.q}
                  onChange={(e) => seek({ q: e.target.value })}
                  placeholder="Search batters, guests, packs"
                  className="min-h-11 w-full rounded-field border border-base-content/50 bg-base-100 px-3"
                />
              </label>
              <label className="flex items-center gap-2">
                Fault
                <select
                  value={sought.fault}
                  onChange={(e) => seek({ fault: e.target.value })}
                  className="min-h-11 min-w-0 rounded-field border border-base-300 bg-base-100 px-2"
                >
                  <option value="">any, or none</option>
                  {Object.entries(log.data.faults).map(([key, words]) => (
                    <option key={key} value={key}>
                      {words}
                    </option>
                  ))}
                </select>
              </label>
              <details>
                <summary className="min-h-9 cursor-pointer content-center underline underline-offset-4">
                  Stars, days{log.data.cooks.length > 0 && " and cooks"}
                </summary>
                <div className="mt-1 flex flex-wrap items-center gap-2">
                  <select
                    aria-label="Stars"
                    value={sought.stars}
                    onChange={(e) => seek({ stars: e.target.value as Sought["stars"] })}
                    className="min-h-11 rounded-field border border-base-300 bg-base-100 px-2"
                  >
                    <option value="">any stars, or none</option>
                    <option value="good">four and five</option>
                    <option value="not_good">three and fewer</option>
                    <option value="none">not rated</option>
                  </select>
                  {log.data.cooks.length > 0 && (
                    <select
                      aria-label="Cook"
                      value={sought.cook}
                      onChange={(e) => seek({ cook: e.target.value })}
                      className="min-h-11 rounded-field border border-base-300 bg-base-100 px-2"
                    >
                      <option value="">any cook</option>
                      {log.data.cooks.map((c) => (
                        <option key={c}>{c}</option>
                      ))}
                    </select>
                  )}
                  {(["since", "until"] as const).map((which) => (
                    <label key={which} className="flex items-center gap-2">
                      {which === "since" ? "from" : "to"}
                      <input
                        type="date"
                        value={sought[which]}
                        onChange={(e) => seek({ [which]: e.target.value })}
                        className="min-h-11 rounded-field border border-base-300 bg-base-100 px-2"
                      />
                    </label>
                  ))}
                </div>
              </details>
            </form>
            {picked.length > 1 && (
              <Button kind="outline" className="mb-2" onClick={() => setOpen("compare")}>
                Compare {picked.length} batches
              </Button>
            )}
            <ol {...hold}>
              {lines.map((b) => (
                <li key={b.id} className="flex items-start gap-2 border-b border-base-300">
                  <label className="flex min-h-11 min-w-8 items-center justify-center">
                    <input
                      type="checkbox"
                      checked={picked.includes(b.id)}
                      onChange={() => pick(b.id)}
                      className="size-5"
                    />
                    <span className="sr-only">
                      Compare {b.name}, {day(b.day)}
                    </span>
                  </label>
                  <NavLink
                    to={`/journal/${b.id}`}
                    aria-current={b.id === shown ? "page" : undefined}
                    className={`min-w-0 flex-1 border-l-[6px] py-2 pl-2 ${b.id === shown ? "border-primary bg-base-100" : "border-transparent"}`}
                  >
                    <Row line={b} faults={log.data.faults} />
                  </NavLink>
                </li>
              ))}
            </ol>
            {lines.length === 0 && <p>Nothing in the log answers to that.</p>}
            {log.data.found > log.data.batches.length && (
              <Button className="mt-2" onClick={() => seek({ limit: sought.limit + SOUGHT_ALL.limit })}>
                Show more of {log.data.found}
              </Button>
            )}
          </section>
          {shown && (
            <div className={batch ? "min-w-0" : "hidden min-w-0 lg:block"}>
              {batch && (
                <Button kind="link" className="lg:hidden print:hidden" onClick={() => go("/journal")}>
                  All batches
                </Button>
              )}
              <One key={shown} id={shown} faults={log.data.faults} />
            </div>
          )}
        </div>
      )}
      {open === "compare" && <CompareSheet batches={picked} faults={log.data.faults} onClose={() => setOpen(null)} />}
      {open === "trace" && <TraceSheet onClose={() => setOpen(null)} />}
    </main>
  );
}

function Row({ line, faults }: { line: Line; faults: Record<string, string> }) {
  return (
    <>
      <span className="flex items-center gap-2">
        <Mark mark={line.mark} />
        <b className="min-w-0 break-words">{line.name}</b>
      </span>
      <span className="block text-sm">
        {day(line.day)}, version {line.number}
        {line.whom && `, for ${line.whom}`}
        {line.cook && `, by ${line.cook}`}
      </span>
      <span className="block text-sm">
        {line.pieces} pieces
        {line.stars !== null && `, ${line.stars} of 5`}
        {line.faults.length > 0 && (
          <b className="text-warning">: {line.faults.map((f) => faults[f] ?? f).join(", ")}</b>
        )}
      </span>
    </>
  );
}
