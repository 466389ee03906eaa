import { useState } from "react";
import { Link } from "react-router";
import { api, got } from "../../api/client";
import { useWrite } from "../../api/write";
import { Acts, Button } from "../../kit/Button";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { useTell } from "../../kit/Toast";
import { useInHand } from "./useBatch";

/** The end: what was made, how it was, what is kept and until when, and what was learned. */
export function Finish() {
  const { view, say } = useInHand();
  const { finishing, cooking } = view;
  const [note, setNote] = useState(finishing.note);
  const [sure, setSure] = useState(false); // asked once, where no piece came off
  const planned = cooking.run?.planned ?? Math.floor(view.weighing.pieces);
  const made = cooking.run?.made ?? 0;
  const toggle = (key: string) =>
    say({
      kind: "faults_seen",
      faults: finishing.seen.includes(key) ? finishing.seen.filter((f) => f !== key) : [...finishing.seen, key],
    });
  return (
    <section aria-label="Finish" className="mt-4 grid gap-8 lg:grid-cols-2">
      <div>
        <p className="text-3xl">
          <b className="figure text-6xl text-primary">{made}</b> pieces, of about {planned}
        </p>
        <fieldset className="mt-4 flex flex-wrap items-center gap-2">
          <legend className="float-left mr-3 text-xl">How were they?</legend>
          {[1, 2, 3, 4, 5].map((n) => (
            <Button
              kind="large"
              key={n}
              pressed={finishing.stars === n}
              onClick={() => say({ kind: "rated", stars: n })}
            >
              {n}
            </Button>
          ))}
          <span className="text-lg">of 5</span>
        </fieldset>
        <fieldset className="mt-5">
          <legend className="text-xl">What was wrong</legend>
          <div className="mt-2 flex flex-wrap gap-1.5">
            {finishing.faults.map((f) => (
              <button
                key={f.key}
                type="button"
                aria-pressed={finishing.seen.includes(f.key)}
                className={`min-h-11 rounded-field border px-3 text-lg ${finishing.seen.includes(f.key) ? "border-neutral bg-neutral text-neutral-content" : "border-base-content/40 bg-base-100"}`}
                onClick={() => toggle(f.key)}
              >
                {f.label}
              </button>
            ))}
          </div>
        </fieldset>
        <label className="mt-5 block text-xl">
          Note
          <textarea
            className="mt-1 block min-h-24 w-full max-w-xl rounded-field border border-base-content/40 bg-base-100 p-3 text-lg"
            maxLength={4000}
            value={note}
            onChange={(event) => setNote(event.target.value)}
            onBlur={() => note !== finishing.note && say({ kind: "noted", text: note })}
          />
        </label>
        <Acts>
          {view.finished === null ? (
            <Button
              kind="next"
              onClick={() => {
                setSure(made === 0 && !sure);
                if (made === 0 && !sure) return;
                if (note !== finishing.note) say({ kind: "noted", text: note }, { kind: "finished" });
                else say({ kind: "finished" });
              }}
            >
              {sure ? "End it without a piece" : "Finish the batch"}
            </Button>
          ) : (
            <p className="text-2xl font-bold">
              It is in the log. Undo opens it again.{" "}
              <Link
                to={`/journal/${view.id}`}
                className="inline-flex min-h-11 items-center underline underline-offset-4"
              >
                {finishing.seen.length > 0 ? "Why it came out so" : "What was meant, what happened"}
              </Link>
            </p>
          )}
        </Acts>
      </div>
      <div>
        <Keep made={made} />
        <Learned />
      </div>
    </section>
  );
}

function Keep({ made }: { made: number }) {
  const { grams, places } = useNumbers();
  const { view, say } = useInHand();
  const tell = useTell();
  const { finishing, cooking } = view;
  const [amounts, setAmounts] = useState<Record<string, number>>({});
  const print = useWrite(
    () => got(api.POST("/api/stove/batches/{batch_id}/labels", { params: { path: { batch_id: view.id } } })),
    { done: (panel) => tell(`Printed; ${panel.labels_left} labels are left on the roll.`) },
  );
  return (
    <section aria-label="Kept">
      <h3 className="border-b border-base-300 pb-1 text-xl font-bold">What is kept</h3>
      <ul>
        {finishing.keeping.map((k) => {
          const kept = finishing.kept.find((x) => x.what === k.key);
          const usual =
            k.of === "pieces"
              ? Math.max(1, made)
              : k.of === "side"
                ? 100
                : Math.max(1, Math.round(cooking.run?.left_g ?? view.weighing.bowl_g));
          const amount = amounts[k.key] ?? kept?.amount ?? usual;
          return (
            <li key={k.key} className="border-b border-base-300/60 py-2">
              <div className="flex flex-wrap items-center gap-3">
                <span className="min-w-0 flex-1 text-lg">
                  <b>{k.label.charAt(0).toUpperCase() + k.label.slice(1)}</b>: until {moment(kept?.until ?? k.until)} at
                  the most
                  {kept && (
                    <b>, {k.of === "pieces" ? `${places(kept.amount, 0)} pieces` : `${grams(kept.amount)} g`} kept</b>
                  )}
                </span>
                <NumberField
                  label={k.of === "pieces" ? "pieces kept" : "grams kept"}
                  hideLabel
                  unit={k.of === "pieces" ? "pieces" : "g"}
                  value={amount}
                  min={1}
                  max={100_000}
                  required
                  onChange={(v) => v !== null && setAmounts({ ...amounts, [k.key]: v })}
                />
                <Button
                  kind="large"
                  pressed={kept?.amount === amount}
                  disabled={kept?.amount === amount}
                  onClick={() => say({ kind: "kept", what: k.key, amount, until: k.until })}
                >
                  {kept?.amount === amount ? "Kept" : k.advised || kept ? "Keep" : "Keep it anyway"}
                </Button>
              </div>
              <p className="text-base">
                {k.back} {k.caution}
              </p>
            </li>
          );
        })}
      </ul>
      {finishing.kept.length > 0 && (
        <div className="mt-3 flex flex-wrap gap-2">
          <a
            className="inline-flex min-h-14 items-center rounded-field border border-base-content/50 bg-base-100 px-5 text-lg"
            href={`/api/stove/batches/${view.id}/labels.pdf`}
            target="_blank"
            rel="noreferrer"
          >
            Labels as a sheet
          </a>
          <Button kind="large" disabled={print.isPending} onClick={() => print.mutate(undefined)}>
            Labels on the printer
          </Button>
        </div>
      )}
      {print.isError && (
        <p role="alert" className="mt-2 text-error">
          {print.error.message}
        </p>
      )}
    </section>
  );
}

function moment(seconds: number): string {
  return new Date(seconds * 1000).toLocaleString([], {
    weekday: "short",
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
    hour12: false,
  });
}

function Learned() {
  const { places } = useNumbers();
  const { view } = useInHand();
  const { lessons } = view.finishing;
  return (
    <section aria-label="Learned" className="mt-6">
      <h3 className="border-b border-base-300 pb-1 text-xl font-bold">
        {view.finished === null ? "What this will teach" : "What was learned"}
      </h3>
      {lessons.length === 0 && (
        <p className="mt-1 text-lg">Nothing yet: a bowl that is judged, or a load that is turned, teaches.</p>
      )}
      <ul className="text-lg">
        {lessons.map((l) => (
          <li key={`${l.kind} ${l.subject}`} className="py-1">
            {l.kind === "absorption" && (
              <>
                {view.weighing.lines.find((x) => x.ingredient === l.subject)?.name ?? l.subject} drinks{" "}
                <b className="figure">{places(l.after_mean, 2)}</b> times the table (± {places(2 * l.after_sd, 2)}),
                where before it was {places(l.before_mean, 2)} ± {places(2 * l.before_sd, 2)}
              </>
            )}
            {l.kind === "piece_offset" && (
              <>
                a test piece runs <b className="figure">{places(l.after_mean, 1)} cm</b> against the plate (±{" "}
                {places(2 * l.after_sd, 1)})
              </>
            )}
            {l.kind === "fill" && (
              <>
                a place of {view.cooking.chosen?.surface.name ?? l.subject} takes{" "}
                <b className="figure">{places(Math.exp(l.after_mean), 2)}</b> times what is written of it (±{" "}
                {Math.round(200 * l.after_sd)} %)
              </>
            )}
            {l.kind === "pace" && (
              <>
                {view.cooking.chosen?.surface.name ?? l.subject} takes{" "}
                <b className="figure">{places(Math.exp(l.after_mean), 2)}</b> times the reckoned time (±{" "}
                {Math.round(200 * l.after_sd)} %)
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
