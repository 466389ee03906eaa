import { type UseQueryResult, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { dietsQuery, triedQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useSettled } from "../../kit/settled";
import { useTell } from "../../kit/Toast";
import { Verdict } from "../../kit/Verdict";
import { type Rule, RuleFields } from "./RuleFields";

const EMPTY: Rule = {
  key: "",
  label: "",
  order: 100,
  traces: "cannot_vouch",
  caution: "",
  deny: [],
  allow: [],
  limits: [],
};

/** Own diets, made of what they deny, allow and limit; tried on the Book as they are put together, and saved as rule files. */
export function OwnDiets() {
  const diets = useQuery(dietsQuery);
  const [rule, setRule] = useState<Rule | null>(null);
  const own = diets.data?.filter((d) => d.own) ?? [];
  return (
    <div className="grid grid-cols-1 gap-x-8 gap-y-4 lg:grid-cols-[16rem_minmax(0,1fr)]">
      <section aria-label="Diets of this kitchen">
        <button
          type="button"
          className={`mb-3 min-h-11 w-full text-base ${rule ? "rounded-field border border-base-300 bg-base-100" : "btn btn-accent"}`}
          onClick={() => setRule(EMPTY)}
        >
          Make a diet
        </button>
        {own.length === 0 && (
          <p className="border-l-[6px] border-base-300 px-3 py-2">
            No diet of your own yet. {diets.data?.length} come with the tool.
          </p>
        )}
        <ul className="flex flex-col gap-1">
          {own.map((d) => (
            <li key={d.rule.key}>
              <button
                type="button"
                className={`min-h-11 w-full border-l-[6px] bg-base-100 px-3 text-left ${rule?.key === d.rule.key ? "border-primary" : "border-secondary"}`}
                onClick={() => setRule(d.rule)}
              >
                {d.rule.label}
              </button>
            </li>
          ))}
        </ul>
      </section>
      {rule ? (
        <Maker
          key={rule.key || "new"}
          opening={rule}
          taken={diets.data?.map((d) => d.rule.key) ?? []}
          onDone={setRule}
        />
      ) : (
        <p className="border-l-[6px] border-base-300 px-4 py-3">
          A guest's own list, a house rule, a limit a clinician gave: put it together here, and see at once which
          batters of the Book pass.
        </p>
      )}
    </div>
  );
}

type MakerProps = { opening: Rule; taken: string[]; onDone: (rule: Rule | null) => void };

function Maker({ opening, taken, onDone }: MakerProps) {
  const [rule, setRule] = useState<Rule>(opening);
  const tell = useTell();
  const fresh = opening.key === "";
  const key = fresh ? keyOf(rule.label, taken) : opening.key;
  const ready = { ...rule, key, label: rule.label.trim() };
  const valid = /^[a-z][a-z0-9_]{1,40}$/.test(key) && ready.label.length >= 2;
  const trial = JSON.stringify({
    ...ready,
    key: valid ? key : "on_trial",
    label: ready.label.length >= 2 ? ready.label : "This diet",
  });
  const asked = useSettled(trial, 250);
  const tried = useQuery(triedQuery(JSON.parse(asked)));
  // What was tried before the last touch says nothing of the rule as it stands now.
  const current = trial === asked && !tried.isPlaceholderData;
  const save = useWrite(
    (given: Rule) => got(api.PUT("/api/diets/{key}", { params: { path: { key: given.key } }, body: { rule: given } })),
    {
      changes: "diet",
      done: (_, given) => {
        tell(`${given.label} is saved as a rule file.`, () =>
          fresh ? archive.mutate(given.key) : back.mutate(opening),
        );
        onDone(given);
      },
    },
  );
  const back = useWrite(
    (given: Rule) => got(api.PUT("/api/diets/{key}", { params: { path: { key: given.key } }, body: { rule: given } })),
    { changes: "diet", done: (_, given) => onDone(given) },
  );
  const archive = useWrite((gone: string) => got(api.DELETE("/api/diets/{key}", { params: { path: { key: gone } } })), {
    changes: "diet",
    done: (given) => {
      tell(`${given.label} is archived; its file stays.`, () => back.mutate(given));
      onDone(null);
    },
  });
  return (
    <section aria-label="A diet" className="grid grid-cols-1 gap-x-8 gap-y-5 md:grid-cols-2">
      <form
        className="grid content-start gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (valid) save.mutate(ready);
        }}
      >
        <label>
          <span className="mb-0.5 block font-semibold">Name of the diet</span>
          <input
            className="input w-full text-base"
            required
            minLength={2}
            maxLength={60}
            value={rule.label}
            onChange={(e) => setRule({ ...rule, label: e.target.value })}
          />
        </label>
        <RuleFields rule={rule} onRule={setRule} />
        {(save.isError || archive.isError) && (
          <p role="alert" className="text-error">
            {(save.error ?? archive.error)?.message}
          </p>
        )}
        <p className="flex gap-3">
          <Button type="submit" disabled={!valid || save.isPending} kind="strong">
            {save.isPending ? "Saving…" : "Save this diet"}
          </Button>
          {!fresh && <Button onClick={() => archive.mutate(opening.key)}>Archive</Button>}
        </p>
      </form>
      <Tried tried={tried} current={current} />
    </section>
  );
}

/** How the rule would judge every batter of the Book. */
function Tried({ tried, current }: { tried: UseQueryResult<Answered<"Tried">[], Error>; current: boolean }) {
  return (
    <section aria-label="Tried on the Book" aria-busy={tried.isFetching}>
      <h3 className="mb-1 font-bold">Tried on the Book</h3>
      {tried.isError && <p role="alert">{tried.error.message}</p>}
      {tried.data?.length === 0 && <p>The Book is empty: there is nothing to try it on yet.</p>}
      <ul>
        {tried.data?.map((t) => (
          <li key={t.batter_id} className="border-b border-base-300/60 py-1.5">
            <p className="flex flex-wrap items-center gap-x-3">
              <Link className="underline underline-offset-4" to={`/book/${t.batter_id}`}>
                {t.name}
              </Link>
              <span className="ml-auto">{current ? <Verdict verdict={t.verdict} /> : "being tried…"}</span>
            </p>
            {current && t.reason && <p className="text-sm">{t.reason}</p>}
          </li>
        ))}
      </ul>
    </section>
  );
}

function keyOf(label: string, taken: string[]): string {
  const plain = label
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "")
    .replace(/^(?=\d)/, "d_")
    .slice(0, 36);
  const stem = plain.length >= 2 ? plain : "own_diet";
  let key = stem;
  for (let n = 2; taken.includes(key); n++) key = `${stem}_${n}`;
  return key;
}
