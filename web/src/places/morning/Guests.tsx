import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Answered, api, got } from "../../api/client";
import { morningQuery } from "../../api/queries";
import { give, useWrite } from "../../api/write";
import { useNeedWords } from "../../app/needs";
import { Button } from "../../kit/Button";
import { useTell } from "../../kit/Toast";
import { VerdictShape } from "../../kit/Verdict";
import { guestLine } from "../../pure/guestLine";

type View = Answered<"MorningView">;
type Guest = View["guests"][number];
const GRADES = { allergy: "allergy", intolerance: "intolerance", preference: "choice" };

/** Who comes: a line for each, written as one says it; allergy, intolerance and choice by shape and word. */
export function Guests({ view }: { view: View }) {
  const queries = useQueryClient();
  const tell = useTell();
  const [text, setText] = useState("");
  const [unread, setUnread] = useState<{ line: string; why: string }[]>([]);
  const key = morningQuery(view.day).queryKey;
  const add = useWrite(
    (lines: string) =>
      got(api.POST("/api/morning/{day}/guests", { params: { path: { day: view.day } }, body: { text: lines } })),
    {
      done: ({ morning, unread: left }) => {
        give(queries, key, morning);
        setUnread([...left]);
        setText(left.map((u) => u.line).join("\n"));
      },
    },
  );
  const drop = useWrite(
    (guest: Guest) =>
      got(
        api.DELETE("/api/morning/{day}/guests/{guest_id}", {
          params: { path: { day: view.day, guest_id: guest.id } },
        }),
      ),
    { done: (fresh) => give(queries, key, fresh) },
  );
  const hours = [...new Set(view.guests.map((g) => g.at))].sort();
  return (
    <section aria-label="Who comes" className="min-w-0">
      <h2 className="mb-1 border-b-2 border-base-content/60 pb-1 text-xl font-bold">Who comes</h2>
      <form
        className="mb-3 print:hidden"
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim()) add.mutate(text);
        }}
      >
        <label className="block">
          <span className="mb-1 block text-sm">A line for each: name, hour, needs, how many</span>
          <textarea
            value={text}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== "Enter" || e.shiftKey || text.includes("\n")) return;
              e.preventDefault();
              if (text.trim()) add.mutate(text);
            }}
            rows={Math.min(6, Math.max(2, text.split("\n").length))}
            placeholder="Bram, 07:30, egg allergy, 3 cakes"
            className="w-full rounded-field border border-base-content/50 bg-base-100 p-2"
          />
        </label>
        {unread.length > 0 && (
          <div role="alert" className="my-1 border-l-[6px] border-warning bg-base-100 px-3 py-2">
            {unread.map((u) => (
              <p key={u.line}>
                <b>{u.line}</b>: {u.why}
              </p>
            ))}
          </div>
        )}
        {add.isError && <p role="alert">{add.error.message}</p>}
        <Button kind="outline" type="submit" disabled={add.isPending}>
          Put down
        </Button>
      </form>
      {hours.map((hour) => (
        <div key={hour} className="mb-3">
          <h3 className="font-bold">
            <span className="figure">{hour}</span>, {view.guests.filter((g) => g.at === hour).length}
          </h3>
          <ul>
            {view.guests
              .filter((g) => g.at === hour)
              .map((g) => (
                <li key={g.id} className="flex items-start gap-2 border-b border-base-300 py-1.5">
                  <div className="min-w-0 flex-1">
                    <p className="font-semibold break-words">{g.name}</p>
                    <Needs guest={g} />
                    <p className="text-sm break-words">
                      {g.pieces} {g.gets ? `of ${g.gets}` : "pieces"}
                      {g.served && g.served !== g.at && <b>, at {g.served}</b>}
                    </p>
                  </div>
                  {g.forget && (
                    <Button
                      kind="small"
                      className="print:hidden"
                      aria-label={`Out: ${g.name}`}
                      title={`Forgotten after ${g.forget}`}
                      onClick={() => {
                        drop.mutate(g);
                        tell(`${g.name} is taken out.`, () => add.mutate(guestLine(g)));
                      }}
                    >
                      Out
                    </Button>
                  )}
                </li>
              ))}
          </ul>
        </div>
      ))}
      {view.guests.length > 0 && (
        <p className="text-sm">
          What guests need is kept on this machine alone, and forgotten after{" "}
          {view.guests
            .map((g) => g.forget)
            .filter(Boolean)
            .sort()[0] ?? "their day"}
          . An allergy is a matter for the guest and the kitchen together: ask, and follow the local rules.
        </p>
      )}
    </section>
  );
}

export function Needs({ guest }: { guest: Guest }) {
  const words = useNeedWords();
  if (guest.needs.length === 0) return <p className="text-sm">eats anything</p>;
  return (
    <ul className="text-sm">
      {guest.needs.map((n) => (
        <li
          key={`${n.what} ${n.grade}`}
          className={`flex items-center gap-1.5 ${n.grade === "allergy" ? "text-error" : n.grade === "intolerance" ? "text-warning" : ""}`}
        >
          <VerdictShape
            verdict={n.grade === "allergy" ? "conflicts" : n.grade === "intolerance" ? "cannot_vouch" : "fits"}
          />
          <span>
            <b>{GRADES[n.grade ?? "allergy"]}</b>: {words(n.what)}
          </span>
        </li>
      ))}
    </ul>
  );
}
