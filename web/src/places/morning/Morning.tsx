import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, clock, got } from "../../api/client";
import { morningQuery } from "../../api/queries";
import { give, useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useNow } from "../../kit/moment";
import { Evening } from "./Evening";
import { Guests } from "./Guests";
import { Hill } from "./Hill";
import { Loads } from "./Loads";
import { Page } from "./Page";
import { Running } from "./Running";

const DAY_S = 86_400;

/** A whole breakfast: planned the evening before, run live when its day has come. */
export default function Morning() {
  const params = useParams();
  const go = useNavigate();
  const day = params.day ?? nextMorning(clock.now());
  const queries = useQueryClient();
  const asked = useQuery(morningQuery(day));
  const view = asked.data;
  const ahead = view ? view.now - clock.now() : 0;
  const now = useNow(1000) + ahead;
  const [evening, setEvening] = useState<boolean | null>(null);
  const plan = useWrite((_: undefined) => got(api.POST("/api/morning/{day}/plan", { params: { path: { day } } })), {
    done: (fresh) => give(queries, morningQuery(day).queryKey, fresh),
  });
  const unplanned = view !== undefined && view.plan === null && view.guests.length > 0 && view.trouble === "";
  // A day whose guests are known is planned as soon as somebody looks at it.
  useEffect(() => {
    if (unplanned && plan.isIdle) plan.mutate(undefined);
  }, [unplanned, plan]);
  useEffect(() => {
    document.title = "Morning · Mutabilis";
  }, []);

  if (!view) {
    return (
      <main className="p-6 text-lg">
        {asked.error ? <p role="alert">{asked.error.message}</p> : <p>Looking who comes…</p>}
      </main>
    );
  }
  const runs = view.plan !== null && view.acts.length > 0 && now > view.acts[0]!.at - 1200 && now < DAY_S;
  const shown = evening === null ? !runs : evening;
  return (
    <main className="mx-auto max-w-[90rem] px-4 py-4 md:px-6">
      <header className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1 print:hidden">
        <h1 className="text-3xl font-bold">{view.day === view.today ? "This morning" : nameOf(view.day)}</h1>
        <p>{told(view.guests.length, view.plan?.plates.length ?? 0)}</p>
        <label className="ml-auto flex items-center gap-2 print:hidden">
          Day
          <input
            type="date"
            value={day}
            onChange={(e) => e.target.value && go(`/morning/${e.target.value}`)}
            className="min-h-11 rounded-field border border-base-300 bg-base-100 px-2"
          />
        </label>
        {view.plan && (
          <span className="flex gap-4 print:hidden">
            <a
              className="inline-flex min-h-11 items-center underline underline-offset-4"
              href={`/api/morning/${day}/plan.ics`}
            >
              Calendar
            </a>
            <a
              className="inline-flex min-h-11 items-center underline underline-offset-4"
              href={`/api/morning/${day}/plan.csv`}
            >
              Table
            </a>
            <Button kind="link" onClick={() => window.print()}>
              Print
            </Button>
          </span>
        )}
        {view.acts.length > 0 && (
          <Button className="print:hidden" onClick={() => setEvening(!shown)}>
            {shown ? "Run it" : "To the planning"}
          </Button>
        )}
      </header>
      {view.trouble && (
        <p role="alert" className="mb-3 border-l-[6px] border-warning bg-base-100 px-3 py-2">
          {view.trouble}
        </p>
      )}
      <Page view={view} />
      {shown ? (
        <div className="grid gap-6 print:hidden lg:grid-cols-[19rem_minmax(0,1fr)_19rem]">
          <Guests view={view} />
          <div className="min-w-0">
            <Conflicts view={view} />
            <Hill morning={view} now={now} />
            <Loads view={view} />
          </div>
          <Evening view={view} />
        </div>
      ) : (
        <div className="print:hidden">
          <Running view={view} now={now} />
        </div>
      )}
    </main>
  );
}

/** What does not fit yet, each with the touches that would settle it. */
function Conflicts({ view }: { view: import("../../api/client").Answered<"MorningView"> }) {
  const queries = useQueryClient();
  const take = useWrite(
    (changes: { guest?: string | null; at?: string | null; batter?: string | null; helper?: string[] }[]) =>
      got(api.POST("/api/morning/{day}/remedy", { params: { path: { day: view.day } }, body: { changes } as never })),
    { done: (fresh) => give(queries, morningQuery(view.day).queryKey, fresh) },
  );
  const conflicts = view.plan?.conflicts ?? [];
  const ready = view.plan?.status === "ok" && view.guests.length > 0;
  const open = view.plan !== null && view.guests.length > 0 && !ready && conflicts.length === 0;
  return (
    <section aria-label="What does not fit yet" className="mb-3" aria-live="polite">
      <h2 className="mb-1 border-b-2 border-base-content/60 pb-1 text-xl font-bold">
        {conflicts.length > 0
          ? `Does not fit yet: ${conflicts.length}`
          : ready
            ? "Everybody eats on time"
            : open
              ? "Not everybody eats on time yet"
              : "The plan"}
      </h2>
      {view.planning && <p>Looking for a better plan; this one can be used already.</p>}
      {ready && view.plan && (
        <p>
          {view.plan.batters_used.length === 1 ? "One batter serves" : `${view.plan.batters_used.length} batters serve`}{" "}
          all {view.guests.length}. {view.acts.length > 0 && <>Begin at {clockOf(view.acts[0]!.at)}.</>}
        </p>
      )}
      {!view.plan && view.guests.length === 0 && (
        <p className="text-lg">Put down who comes: a line for each guest. The plan follows by itself.</p>
      )}
      <ol className="grid gap-3">
        {conflicts.map((c, n) => (
          <li key={`${c.rule} ${c.guests.join(" ")}`} className="border-b border-base-300 pb-3">
            <p className="font-semibold">
              <span className="mr-2 rounded-field bg-error px-2 py-0.5 text-error-content">{n + 1}</span>
              {c.words.split(" Offer:")[0]}
            </p>
            <p className="mt-2 flex flex-wrap gap-2 print:hidden">
              {c.remedies.map((r) => (
                <Button key={r.words} disabled={take.isPending} onClick={() => take.mutate(r.changes as never)}>
                  {r.words}
                </Button>
              ))}
            </p>
          </li>
        ))}
      </ol>
      {take.isError && <p role="alert">{take.error.message}</p>}
    </section>
  );
}

function clockOf(at: number): string {
  return `${String(Math.floor(at / 3600)).padStart(2, "0")}:${String(Math.floor(at / 60) % 60).padStart(2, "0")}`;
}

/** The morning that is next: today's until noon, then tomorrow's. */
function nextMorning(now: number): string {
  const day = new Date(now * 1000);
  if (day.getHours() >= 12) day.setDate(day.getDate() + 1);
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;
}

function nameOf(day: string): string {
  return new Intl.DateTimeFormat(undefined, { weekday: "long", day: "numeric", month: "long" }).format(
    new Date(`${day}T12:00:00`),
  );
}

function told(guests: number, tables: number): string {
  if (guests === 0) return "Nobody is put down yet.";
  return `${guests === 1 ? "One guest comes" : `${guests} come`}${tables > 1 ? `, at ${tables} tables` : ""}.`;
}
