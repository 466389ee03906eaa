import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, NavLink, useParams, useSearchParams } from "react-router";
import type { Answered } from "../../api/client";
import { useCounter } from "../../api/counter";
import { stoveQuery } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Mark } from "../../kit/Mark";
import { hour } from "../../pure/clock";
import { day } from "../../pure/format";
import { BatchHand } from "./BatchHand";
import { Devices } from "./Devices";
import { StartSheet } from "./StartSheet";

type StoveView = Answered<"StoveView">;
type Open = "start" | "devices" | null;

/** The Stove: the batches under way, one of them in hand, and the log of those that are done. */
export default function Stove() {
  const { batch } = useParams();
  const [query, setQuery] = useSearchParams();
  const version = query.get("make");
  const [open, setOpen] = useState<Open>(null);
  const stove = useQuery({ ...stoveQuery, refetchInterval: 30_000 });
  useCounter(batch);
  const [seen, setSeen] = useState(batch);
  // Another batch in hand: the sheet that started it is done with.
  if (seen !== batch) {
    setSeen(batch);
    setOpen((o) => (o === "start" ? null : o));
  }
  useEffect(() => {
    document.title = "Stove · Mutabilis";
  }, []);
  const close = () => {
    setOpen(null);
    if (version || query.get("start")) setQuery({}, { replace: true });
  };
  return (
    <main className={`mx-auto max-w-[84rem] px-3 pt-2 pb-24 sm:px-5 ${open === "devices" ? "md:pr-[22rem]" : ""}`}>
      <header
        className={`flex flex-wrap items-center gap-x-4 gap-y-1 ${batch ? "max-sm:-mx-3 max-sm:flex-nowrap max-sm:gap-x-1.5 max-sm:overflow-x-auto max-sm:px-3 max-sm:[&>*]:shrink-0" : ""}`}
      >
        <h1 className={`text-2xl font-bold ${batch ? "sr-only sm:not-sr-only" : ""}`}>Stove</h1>
        <nav aria-label="Batches under way" className={`flex gap-1.5 ${batch ? "sm:flex-wrap" : "flex-wrap"}`}>
          {stove.data?.batches.map((b) => (
            <NavLink
              key={b.id}
              to={`/stove/${b.id}`}
              className={({ isActive }) =>
                `flex min-h-11 max-w-64 items-center gap-2 rounded-field border-2 px-3 ${isActive ? "border-base-content font-semibold" : "border-base-300 hover:border-base-content"}`
              }
            >
              <Mark mark={b.mark} />
              <span className="truncate">{b.whom || b.name}</span>
            </NavLink>
          ))}
        </nav>
        <span className="ml-auto flex gap-2">
          <Button aria-expanded={open === "devices"} onClick={() => setOpen(open === "devices" ? null : "devices")}>
            Devices
          </Button>
          <button
            type="button"
            className={
              batch || stove.data?.batches.length
                ? "min-h-11 rounded-field border border-base-content px-4 font-semibold"
                : "btn btn-accent min-h-11 px-5 text-base"
            }
            onClick={() => setOpen("start")}
          >
            Start a batch
          </button>
        </span>
      </header>
      {stove.data?.clock && (
        <p role="alert" className="mt-2 rounded-field border-l-8 border-warning bg-base-100 px-3 py-2">
          {stove.data.clock}
        </p>
      )}
      {stove.isError && <p role="alert">{stove.error.message}</p>}
      {batch ? <BatchHand key={batch} id={batch} /> : stove.data ? <Idle stove={stove.data} /> : <p>Looking…</p>}
      {(open === "start" || version || query.get("start")) && (
        <StartSheet key={batch} version={version} mix={query.get("mix")} onClose={close} />
      )}
      {open === "devices" && <Devices onClose={() => setOpen(null)} />}
    </main>
  );
}

function Idle({ stove }: { stove: StoveView }) {
  return (
    <>
      {stove.batches.length === 0 ? (
        <p className="mt-10 max-w-xl text-2xl leading-snug">
          No batch in progress. Start a batch of any version in the Book: it is weighed out, mixed, judged, rested and
          cooked from here, and what it teaches is kept.
        </p>
      ) : (
        <ul className="mt-4 grid grid-cols-1 gap-2">
          {stove.batches.map((b) => (
            <li key={b.id}>
              <Link
                to={`/stove/${b.id}`}
                className="flex min-h-16 items-center gap-4 rounded-box bg-base-100 px-4 text-xl"
              >
                <Mark mark={b.mark} large />
                <span className="min-w-0 flex-1 truncate">
                  <b>{b.name}</b> {b.whom && `for ${b.whom}`}
                </span>
                <span>{b.stage}</span>
                {b.first_at && <span className="figure">{hour(b.first_at)}</span>}
              </Link>
            </li>
          ))}
        </ul>
      )}
      {stove.log.length > 0 && (
        <section aria-label="Log" className="mt-8">
          <h2 className="border-b border-base-300 pb-1 text-lg font-bold">Made before</h2>
          <ul>
            {stove.log.map((b) => (
              <li key={b.id} className="border-b border-base-300/60">
                <Link
                  to={`/stove/${b.id}`}
                  className="flex min-h-11 flex-wrap items-center gap-x-4 py-1 hover:bg-base-100"
                >
                  <span className="w-32">{day(new Date(b.finished * 1000).toISOString())}</span>
                  <span className="min-w-0 flex-1 truncate font-semibold">
                    {b.name}
                    <span className="font-normal"> {b.whom && `for ${b.whom}`}</span>
                  </span>
                  <span className="figure">
                    {b.pieces} of {Math.floor(b.planned)} pieces
                  </span>
                  <span className="w-20">{b.stars ? `${b.stars} of 5` : ""}</span>
                </Link>
              </li>
            ))}
          </ul>
          {stove.total > stove.log.length && (
            <p className="mt-1 text-sm">and {stove.total - stove.log.length} before them.</p>
          )}
        </section>
      )}
    </>
  );
}
