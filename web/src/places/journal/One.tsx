import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { entryQuery, trendsQuery } from "../../api/queries";
import { freshId, useWrite } from "../../api/write";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { Sheet } from "../../kit/Sheet";
import { useTell } from "../../kit/Toast";
import { span } from "../../pure/clock";
import { day } from "../../pure/format";
import { beside, likely, signs, strip } from "../../pure/trend";

type View = Answered<"EntryView">;
type Said = Omit<Answered<"Said">, "id">;
const WHEN = [
  ["all", "in all of them"],
  ["first", "in the first"],
  ["later", "in the later ones"],
  ["some", "in some"],
] as const;

/** One batch: what was meant and what happened, why, one question, one change; and how the batter has gone over time. */
export function One({ id, faults }: { id: string; faults: Record<string, string> }) {
  const found = useQuery(entryQuery(id));
  const queries = useQueryClient();
  const [open, setOpen] = useState<"faults" | "remark" | null>(null);
  const say = useWrite(
    (said: Partial<Said> & Pick<Said, "kind">) =>
      got(
        api.POST("/api/journal/batches/{batch_id}/said", {
          params: { path: { batch_id: id } },
          body: { id: freshId(), ...said } as never,
        }),
      ),
    {
      changes: "said",
      order: `journal ${id}`,
      done: (fresh) => queries.setQueryData(entryQuery(id).queryKey, fresh),
    },
  );
  const view = found.data;
  if (!view) return found.error ? <p role="alert">{found.error.message}</p> : <p className="text-lg">Opening…</p>;
  const { line, diagnosis } = view;
  return (
    <article>
      <h2 className="text-2xl font-bold">
        {line.name}, {day(line.day)}
      </h2>
      <p className="mb-4">
        Version {line.number}
        {line.whom && `, for ${line.whom}`}; {line.pieces} pieces{line.stars !== null && `, ${line.stars} of 5`}
        {line.faults.length > 0 && <b>: {line.faults.map((f) => faults[f] ?? f).join(", ")}</b>}. {view.entry.note}
      </p>
      <div className="grid gap-6 xl:grid-cols-2">
        <Happened view={view} />
        <section aria-label="Why" className="min-w-0">
          <h3 className="mb-1 border-b-2 border-base-content/60 pb-1 text-xl font-bold">
            {line.faults.length > 0 ? `Why ${line.faults.map((f) => faults[f] ?? f).join(", ")}` : "Nothing at fault"}
          </h3>
          {diagnosis ? (
            <Why view={view} say={(question, answer) => say.mutate({ kind: "answer", question, answer })} />
          ) : (
            <p>Nobody saw a fault. If there was one after all, say which: it can still be explained.</p>
          )}
          <p className="mt-3 flex flex-wrap gap-2 print:hidden">
            <Button onClick={() => setOpen("faults")}>
              {line.faults.length > 0 ? "Other faults…" : "There was a fault…"}
            </Button>
            <Button onClick={() => setOpen("remark")}>Add a remark…</Button>
            {view.told.last && (
              <Button kind="link" onClick={() => say.mutate({ kind: "unsaid", of: view.told.last })}>
                Undo what was said last
              </Button>
            )}
          </p>
          {say.isError && <p role="alert">{say.error.message}</p>}
        </section>
      </div>
      {diagnosis && <Next view={view} />}
      {view.told.remarks.length > 0 && (
        <section aria-label="Remarks" className="mt-5">
          <h3 className="text-lg font-bold">Remarks</h3>
          <ul>
            {view.told.remarks.map((r) => (
              <li key={r.id} className="border-b border-base-300 py-1 break-words">
                {r.who && <b>{r.who}: </b>}
                {r.text}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Trends batter={line.batter_id} batch={id} />
      {open === "faults" && (
        <FaultsSheet
          faults={faults}
          was={line.faults}
          when={view.told.when ?? null}
          onClose={() => setOpen(null)}
          onSay={(chosen, when) => {
            say.mutate({ kind: "faults", faults: chosen, when } as never);
            setOpen(null);
          }}
        />
      )}
      {open === "remark" && (
        <RemarkSheet
          onClose={() => setOpen(null)}
          onSay={(who, text) => {
            say.mutate({ kind: "remark", who, text });
            setOpen(null);
          }}
        />
      )}
    </article>
  );
}

/** What was meant (an open mark) beside what happened (a full one), each on its line. */
function Happened({ view }: { view: View }) {
  const { grams } = useNumbers();
  const figure = (value: number, unit: string) =>
    unit === "s"
      ? span(value)
      : unit === "g"
        ? `${grams(value)} g`
        : `${Math.round(value)}${unit === "pieces" ? "" : ` ${unit}`}`;
  return (
    <section aria-label="What was meant, what happened" className="min-w-0">
      <h3 className="mb-1 flex flex-wrap items-baseline justify-between gap-2 border-b-2 border-base-content/60 pb-1 text-xl font-bold">
        What was meant, what happened
        <span className="flex items-center gap-3 text-sm font-normal">
          <span className="flex items-center gap-1">
            <Meant /> meant
          </span>
          <span className="flex items-center gap-1">
            <Was /> happened
          </span>
        </span>
      </h3>
      {view.entry.rows.length === 0 && <p>Nothing of it was recorded.</p>}
      <ul>
        {view.entry.rows.map((r) => {
          const at = beside(r.meant, r.happened, r.unit);
          return (
            <li
              key={r.key}
              className="grid grid-cols-[minmax(0,1fr)_8rem] items-center gap-x-3 border-b border-base-300 py-1.5 sm:grid-cols-[minmax(0,1fr)_9rem_8.5rem]"
            >
              <span className="min-w-0">
                <b className={r.near ? "font-normal" : ""}>{r.name}</b>
                <span className={`block text-sm ${r.near ? "" : "font-bold text-warning"}`}>{r.words}</span>
              </span>
              <svg viewBox="0 0 100 24" className="hidden h-6 w-full sm:block" aria-hidden="true">
                <path d="M2 12H98" stroke="var(--color-base-300)" strokeWidth="3" />
                <rect x="41" y="6" width="18" height="12" className="fill-success/25" />
                {!r.near && <path d={`M${at.meant} 12H${at.happened}`} stroke="var(--color-warning)" strokeWidth="3" />}
                <rect
                  x={at.meant - 4}
                  y="4"
                  width="8"
                  height="16"
                  rx="2"
                  fill="var(--color-base-100)"
                  stroke="var(--color-primary)"
                  strokeWidth="2.500"
                />
                <path d={`M${at.happened - 7} 9h14c0 5-3 8-7 8s-7-3-7-8z`} fill="var(--color-primary)" />
              </svg>
              <span className="figure text-right whitespace-nowrap">
                <span className="font-normal">{figure(r.meant, r.unit)}</span>{" "}
                <b className="text-primary">{figure(r.happened, r.unit)}</b>
              </span>
            </li>
          );
        })}
      </ul>
      <p className="mt-1 text-sm">Measured by {view.reference}.</p>
    </section>
  );
}

const Meant = () => (
  <svg viewBox="0 0 12 18" className="h-4 w-3" aria-hidden="true">
    <rect x="2" y="1.500" width="8" height="15" rx="2" fill="none" stroke="var(--color-primary)" strokeWidth="2.500" />
  </svg>
);
const Was = () => (
  <svg viewBox="0 0 18 12" className="h-3 w-4" aria-hidden="true">
    <path d="M1 2h16c0 5-3 9-8 9S1 7 1 2z" fill="var(--color-primary)" />
  </svg>
);

function Why({ view, say }: { view: View; say: (question: string, answer: string) => void }) {
  const found = view.diagnosis!;
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

/** One change, carried to the Bench as a new version. */
function Next({ view }: { view: View }) {
  const [at, setAt] = useState(0);
  const bench = useBench();
  const go = useNavigate();
  const tell = useTell();
  const causes = view.diagnosis!.causes.filter((c) => c.p >= 0.05);
  const cause = causes[Math.min(at, causes.length - 1)];
  const take = useWrite(
    (name: string) =>
      got(
        api.POST("/api/journal/batches/{batch_id}/take", {
          params: { path: { batch_id: view.line.id } },
          body: { id: freshId(), cause: name },
        }),
      ),
    {
      changes: "book",
      done: (version) => {
        bench.open(version);
        tell("A new version, with that one change.");
        go("/bench");
      },
    },
  );
  if (!cause) return null;
  const taken = view.told.taken;
  return (
    <section
      aria-label="Next time"
      className="mt-5 flex flex-wrap items-center gap-3 border-l-[6px] border-primary bg-base-100 p-4"
    >
      <p className="min-w-0 flex-1 basis-80">
        <b className="text-xl">Next time: {cause.correction.words}</b>
        <span className="block">
          {cause.correction.grams !== null
            ? "One change at a time, so that it teaches something. Its balances were reckoned again, and none gives a warning."
            : "One change at a time, so that it teaches something. The batter itself stays."}
        </span>
        {taken && (
          <span className="block font-semibold">Taken along: it stands in the Book as a version of its own.</span>
        )}
      </p>
      {causes.length > 1 && (
        <Button className="print:hidden" onClick={() => setAt((at + 1) % causes.length)}>
          Another change
        </Button>
      )}
      <Button kind="strong" className="print:hidden" disabled={take.isPending} onClick={() => take.mutate(cause.cause)}>
        Take it along
      </Button>
      {take.isError && <p role="alert">{take.error.message}</p>}
    </section>
  );
}

/** How the batter has gone over its batches: each figure as a strip with its table. */
function Trends({ batter, batch }: { batter: string; batch: string }) {
  const found = useQuery(trendsQuery(batter));
  if (!found.data || found.data.length === 0) return null;
  return (
    <section aria-label="Over time" className="mt-6">
      <h3 className="mb-1 border-b-2 border-base-content/60 pb-1 text-xl font-bold">Over time</h3>
      <div className="grid gap-4 md:grid-cols-2">
        {found.data.map((t) => {
          const s = strip(
            t.points.map((p) => p.value),
            320,
            96,
          );
          return (
            <figure key={t.key}>
              <figcaption>
                <b>{t.name}</b>. {t.words}
              </figcaption>
              <svg viewBox="0 0 400 96" className="h-auto w-full" aria-hidden="true">
                <path d={`M0 48H320`} stroke="var(--color-base-300)" strokeWidth="1.500" />
                <path
                  d={s.points.map((p, n) => `${n ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("")}
                  fill="none"
                  stroke="var(--color-primary)"
                  strokeOpacity="0.350"
                  strokeWidth="2"
                />
                {s.points.map((p, n) => (
                  <circle
                    key={t.points[n]!.batch}
                    cx={p.x}
                    cy={p.y}
                    r={t.points[n]!.batch === batch ? 7 : 4}
                    fill={t.points[n]!.batch === batch ? "var(--color-primary)" : "var(--color-base-100)"}
                    stroke="var(--color-primary)"
                    strokeWidth="2"
                  />
                ))}
                <text x="328" y="20" fontSize="15" fill="currentColor" className="figure">
                  {round(s.high)} {t.unit}
                </text>
                <text x="328" y="90" fontSize="15" fill="currentColor" className="figure">
                  {round(s.low)} {t.unit}
                </text>
              </svg>
              <details className="text-sm">
                <summary className="cursor-pointer underline underline-offset-4">as a table</summary>
                <table>
                  <tbody>
                    {t.points.map((p) => (
                      <tr key={p.batch}>
                        <th scope="row" className="pr-3 text-left font-normal">
                          {day(p.day)}
                        </th>
                        <td className="figure text-right">
                          {round(p.value)} {t.unit}
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </details>
            </figure>
          );
        })}
      </div>
    </section>
  );
}

function FaultsSheet({
  faults,
  was,
  when,
  onClose,
  onSay,
}: {
  faults: Record<string, string>;
  was: readonly string[];
  when: string | null;
  onClose: () => void;
  onSay: (faults: string[], when: string | null) => void;
}) {
  const [chosen, setChosen] = useState<string[]>([...was]);
  const [seen, setSeen] = useState<string | null>(when);
  return (
    <Sheet title="What was at fault?" onClose={onClose}>
      <div className="flex flex-wrap gap-2">
        {Object.entries(faults).map(([key, words]) => (
          <Button
            key={key}
            pressed={chosen.includes(key)}
            onClick={() => setChosen((c) => (c.includes(key) ? c.filter((x) => x !== key) : [...c, key]))}
          >
            {words}
          </Button>
        ))}
      </div>
      <fieldset className="mt-4 flex flex-wrap items-center gap-2">
        <legend className="font-semibold">Which pieces showed it?</legend>
        {WHEN.map(([key, words]) => (
          <Button key={key} pressed={seen === key} onClick={() => setSeen(seen === key ? null : key)}>
            {words}
          </Button>
        ))}
      </fieldset>
      <Button kind="strong" className="mt-4" onClick={() => onSay(chosen, seen)}>
        Keep
      </Button>
    </Sheet>
  );
}

function RemarkSheet({ onClose, onSay }: { onClose: () => void; onSay: (who: string, text: string) => void }) {
  const [who, setWho] = useState("");
  const [text, setText] = useState("");
  return (
    <Sheet title="A remark" onClose={onClose}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim()) onSay(who.trim(), text.trim());
        }}
      >
        <label>
          Who says it (may stay empty)
          <input
            value={who}
            maxLength={80}
            onChange={(e) => setWho(e.target.value)}
            className="min-h-11 w-full rounded-field border border-base-content/50 bg-base-100 px-3"
          />
        </label>
        <label>
          What was said
          <textarea
            data-first
            value={text}
            maxLength={2000}
            rows={3}
            onChange={(e) => setText(e.target.value)}
            className="w-full rounded-field border border-base-content/50 bg-base-100 p-2"
          />
        </label>
        <Button kind="strong" type="submit">
          Keep
        </Button>
      </form>
    </Sheet>
  );
}

function sentence(text: string): string {
  return text.slice(0, 1).toUpperCase() + text.slice(1);
}

function round(value: number): string {
  return Math.abs(value) < 10 ? String(Math.round(value * 10) / 10) : String(Math.round(value));
}
