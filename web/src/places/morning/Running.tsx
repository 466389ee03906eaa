import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { morningQuery } from "../../api/queries";
import { freshId, give, useWrite } from "../../api/write";
import { useKeys } from "../../app/keys";
import { Button } from "../../kit/Button";
import { Sheet } from "../../kit/Sheet";
import { useStill } from "../../kit/still";
import { useTell } from "../../kit/Toast";
import { span } from "../../pure/clock";
import { hourOf, secondsOf } from "../../pure/hill";
import { Cord } from "./Cord";
import { Hill } from "./Hill";
import { Loads } from "./Loads";

type View = Answered<"MorningView">;
type Happening = Answered<"Happening">;
type Said = { kind: Happening["kind"]; of: string; do?: string; to?: string };

/** The morning under way: the next act large, the hill sliding to now, and what went otherwise. */
export function Running({ view, now }: { view: View; now: number }) {
  const queries = useQueryClient();
  const tell = useTell();
  const [open, setOpen] = useState<"late" | "broke" | "more" | null>(null);
  const [said, setSaid] = useState("");
  const [before, setBefore] = useState<View["plan"]>(null); // the plan that the last change took the place of
  const key = morningQuery(view.day).queryKey;
  const happen = useWrite(
    (what: Said) =>
      got(
        api.POST("/api/morning/{day}/happened", {
          params: { path: { day: view.day } },
          body: { id: freshId(), at: hourOfSeconds(now), ...what } as never,
        }),
      ),
    {
      order: `morning ${view.day}`,
      done: (fresh, what) => {
        give(queries, key, fresh);
        if (what.kind !== "done" && fresh.said) {
          setSaid(fresh.said);
          setBefore(what.kind === "undone" ? null : view.plan);
        }
      },
    },
  );
  const waiting = view.acts.filter((a) => !a.done);
  const act = waiting[0];
  const atStove = act ? versionOf(view, act) : null;
  const sent = useRef(""); // an act that is touched twice before the server has answered is done once
  const done = () => {
    if (!act || sent.current === `${act.do} ${act.of}`) return;
    sent.current = `${act.do} ${act.of}`;
    happen.mutate({ kind: "done", do: act.do, of: act.of });
  };
  const undo = () => {
    sent.current = "";
    if (view.can_undo) happen.mutate({ kind: "undone", of: view.can_undo });
  };
  useKeys({ n: done, u: undo, g: () => setOpen("late"), x: () => setOpen("broke") });
  const left = view.plan?.plates ?? [];
  const { shown: guests, hold } = useStill(view.guests);
  return (
    <div>
      <section
        aria-label="Next"
        className="mb-3 grid gap-4 border-y border-base-300 bg-base-100 p-4 lg:grid-cols-[minmax(0,1fr)_22rem]"
      >
        <div aria-live="polite">
          {act ? (
            <>
              <h2 className="text-3xl font-bold md:text-4xl">{act.words}</h2>
              <p className="text-lg">{act.why}</p>
              <p className="mt-2 flex flex-wrap items-center gap-5">
                <span className={`figure text-6xl ${act.at < now - 30 ? "text-warning" : "text-primary"}`}>
                  {act.at - now > 3600
                    ? hourOf(act.at)
                    : act.at < now - 5
                      ? `${span(now - act.at)} ago`
                      : span(act.at - now)}
                </span>
                <Button kind="next" onClick={done}>
                  Done
                </Button>
                {act.who && view.people.length > 1 && (
                  <span className="text-lg">{view.people.find((p) => p.id === act.who)?.name || act.who}</span>
                )}
              </p>
              {atStove && (
                <Link
                  to={`/stove?make=${atStove}`}
                  className="inline-flex min-h-11 items-center underline underline-offset-4"
                >
                  Weigh it out at the Stove
                </Link>
              )}
              <ol className="mt-3">
                {waiting.slice(1, 3).map((a) => (
                  <li key={`${a.do} ${a.of} ${a.at}`}>
                    then <b>{a.words}</b>, {hourOf(a.at)}
                  </li>
                ))}
              </ol>
            </>
          ) : (
            <h2 className="text-3xl font-bold">Every plate is out. Well done.</h2>
          )}
        </div>
        <div className="flex flex-col items-start gap-2 print:hidden">
          <Button kind="large" onClick={() => setOpen("late")}>
            Someone is late
          </Button>
          <Button kind="large" onClick={() => setOpen("more")}>
            One more guest
          </Button>
          <Button kind="large" onClick={() => setOpen("broke")}>
            Something broke
          </Button>
          {view.can_undo && (
            <Button kind="link" onClick={undo}>
              Undo the last touch
            </Button>
          )}
        </div>
      </section>
      {said && (
        <p
          role="status"
          className="mb-3 flex flex-wrap items-center gap-4 border-l-[6px] border-primary bg-base-100 px-3 py-2"
        >
          <span>
            <b>Planned anew.</b> {said}
          </span>
          <Button
            kind="small"
            onClick={() => {
              setSaid("");
              setBefore(null);
            }}
          >
            Take it
          </Button>
          <Button
            kind="small"
            onClick={() => {
              setSaid("");
              undo();
            }}
          >
            Keep the old
          </Button>
        </p>
      )}
      {happen.isError && <p role="alert">{happen.error.message}</p>}
      {(view.plan?.conflicts ?? []).map((c) => (
        <p key={c.words} className="mb-2 border-l-[6px] border-error bg-base-100 px-3 py-2">
          {c.words}
        </p>
      ))}
      <Hill morning={view} now={now} before={said ? before : null} />
      <Cord acts={view.acts} now={now} />
      <ol aria-label="Plates in order" className="my-2 flex flex-wrap gap-x-6 gap-y-1">
        {left.map((p) => (
          <li key={`${p.table} ${p.wanted}`} className={secondsOf(p.served) < now ? "opacity-70" : ""}>
            <b className="figure">{p.served.slice(0, 5)}</b> {secondsOf(p.served) < now ? "left" : "leaves"}:{" "}
            {p.guests.length} {p.guests.length === 1 ? "plate" : "plates"}
          </li>
        ))}
      </ol>
      <Loads view={view} />
      {open === "late" && (
        <Sheet title="Who is late?" onClose={() => setOpen(null)}>
          <ul {...hold}>
            {guests.map((g) => (
              <li key={g.id} className="flex flex-wrap items-center gap-2 border-b border-base-300 py-2">
                <span className="min-w-0 flex-1">
                  <b>{g.name}</b>, {g.at}
                </span>
                {[5, 10, 15, 30].map((minutes) => (
                  <Button
                    key={minutes}
                    kind="small"
                    aria-label={`+${minutes} minutes: ${g.name}`}
                    onClick={() => {
                      happen.mutate({ kind: "late", of: g.id, to: hourOf(secondsOf(g.at) + 60 * minutes) });
                      setOpen(null);
                    }}
                  >
                    +{minutes}
                  </Button>
                ))}
                <Button
                  kind="small"
                  aria-label={`Not coming: ${g.name}`}
                  onClick={() => {
                    happen.mutate({ kind: "gone", of: g.id });
                    setOpen(null);
                  }}
                >
                  Not coming
                </Button>
              </li>
            ))}
          </ul>
        </Sheet>
      )}
      {open === "broke" && (
        <Sheet title="What broke?" onClose={() => setOpen(null)}>
          <ul className="grid gap-2">
            {view.stations
              .filter((s) => !s.dead)
              .map((s) => (
                <li key={s.id}>
                  <Button
                    kind="large"
                    onClick={() => {
                      happen.mutate({ kind: "dead", of: s.id });
                      setOpen(null);
                    }}
                  >
                    {s.name} no longer heats
                  </Button>
                </li>
              ))}
            {(view.plan?.bowls ?? [])
              .filter((b) => secondsOf(b.mix) <= now)
              .map((b) => (
                <li key={b.id}>
                  <Button
                    kind="large"
                    onClick={() => {
                      happen.mutate({ kind: "spoiled", of: b.id });
                      setOpen(null);
                    }}
                  >
                    The bowl of {view.offers.find((o) => o.id === b.batter)?.name ?? b.batter} is spoiled
                  </Button>
                </li>
              ))}
            {view.people.slice(1).map((p) => (
              <li key={p.id}>
                <Button
                  kind="large"
                  onClick={() => {
                    happen.mutate({ kind: "left", of: p.id });
                    setOpen(null);
                  }}
                >
                  {p.name || p.id} has gone
                </Button>
              </li>
            ))}
          </ul>
        </Sheet>
      )}
      {open === "more" && <OneMore view={view} onClose={() => setOpen(null)} tell={tell} />}
    </div>
  );
}

/** The version that an act weighs out or mixes, where it is made as it stands in the Book. */
function versionOf(view: View, act: View["acts"][number]): string | null {
  const batter =
    act.do === "weigh" ? act.of : act.do === "mix" ? view.plan?.bowls.find((b) => b.id === act.of)?.batter : undefined;
  return batter && !view.offers.find((o) => o.id === batter)?.adapted ? batter : null;
}

function OneMore({ view, onClose, tell }: { view: View; onClose: () => void; tell: (text: string) => void }) {
  const queries = useQueryClient();
  const [text, setText] = useState("");
  const [why, setWhy] = useState("");
  const add = useWrite(
    (line: string) =>
      got(
        api.POST("/api/morning/{day}/came", {
          params: { path: { day: view.day } },
          body: { id: freshId(), text: line },
        }),
      ),
    {
      done: ({ morning, unread }) => {
        give(queries, morningQuery(view.day).queryKey, morning);
        if (unread.length > 0) setWhy(unread[0]!.why);
        else {
          tell(morning.said || "Planned in.");
          onClose();
        }
      },
    },
  );
  return (
    <Sheet title="One more guest" onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim()) add.mutate(text);
        }}
      >
        <label className="block">
          <span className="mb-1 block">Name, hour, needs, how many</span>
          <input
            data-first
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder="Bram, 07:45, egg allergy, 3 cakes"
            className="min-h-11 w-full rounded-field border border-base-content/50 bg-base-100 px-3"
          />
        </label>
        {why && <p role="alert">{why}</p>}
        {add.isError && <p role="alert">{add.error.message}</p>}
        <Button kind="strong" type="submit" className="mt-3" disabled={add.isPending}>
          Plan it in
        </Button>
      </form>
    </Sheet>
  );
}

function hourOfSeconds(now: number): string {
  const at = Math.min(86_399, Math.max(0, Math.floor(now)));
  return [at / 3600, (at / 60) % 60, at % 60].map((x) => String(Math.floor(x)).padStart(2, "0")).join(":");
}
