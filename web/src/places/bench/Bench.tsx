import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useMemo, useReducer, useState } from "react";
import { type AnswerView, api, type Batter, type BatterView, got, type Start, type Version } from "../../api/client";
import { grams } from "../../parts/format";
import { LedgerSheet } from "../../parts/LedgerSheet";
import { Track } from "../../parts/Track";
import { storedTheme, type Theme, wear } from "../../parts/theme";
import { Verdict, type VerdictKey } from "../../parts/Verdict";
import { AddLine } from "./AddLine";
import { Ribbons } from "./Ribbons";
import { Rows } from "./Rows";
import { SaveSheet } from "./SaveSheet";
import { type BenchState, fromStart, reduce } from "./state";
import { madeBatter, useAdaptation, useAnalysis, useDraft } from "./useBench";
import { Why } from "./Why";
import { WishRow } from "./Wishes";

const TRACKS = ["flow", "lift", "acid", "set", "sweetness", "fat", "salt", "browning"];

/** The Bench: what you have, what you will make, and what keeps the one in balance with the other. */
export function Bench() {
  const start = useQuery({
    queryKey: ["start"],
    queryFn: () => got(api.GET("/api/start")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const opening = useMemo(() => (start.data ? fromStart(start.data) : null), [start.data]);
  if (start.isError) {
    return (
      <Whole>
        <p role="alert">{start.error.message}</p>
        <button type="button" className="btn btn-accent mt-4 min-h-11" onClick={() => start.refetch()}>
          Ask again
        </button>
      </Whole>
    );
  }
  if (!start.data || !opening) return <Whole>Setting out the bench…</Whole>;
  return <Laid start={start.data} opening={opening} />;
}

function Whole({ children }: { children: ReactNode }) {
  return <main className="mx-auto max-w-xl p-10 text-lg">{children}</main>;
}

function Laid({ start, opening }: { start: Start; opening: BenchState }) {
  const [state, act] = useReducer(reduce, opening);
  const [lit, setLit] = useState<string | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [saving, setSaving] = useState(false);
  const [told, setTold] = useState("");
  const { lost } = useDraft(state);

  const before = useAnalysis(state.base);
  const adaptation = useAdaptation(state);
  const empty = state.base.lines.length === 0;
  const asked = state.diets.length > 0 && !empty;
  const data = asked ? adaptation.data : undefined;
  const nearest = data?.infeasible?.nearest ?? undefined;
  const answer: AnswerView | undefined = data?.answers[Math.min(state.chosen, data.answers.length - 1)] ?? nearest;
  const edited = useMemo(() => (answer ? madeBatter(answer.batter.batter, state.made) : null), [answer, state.made]);
  const made = useAnalysis(edited);
  const after: BatterView | undefined = answer ? (edited && made.data ? made.data : answer.batter) : undefined;
  const base = before.data;
  const labels = useMemo(() => new Map(start.shipped_diets.map((d) => [d.key, d.label])), [start.shipped_diets]);
  const failed = before.error ?? adaptation.error ?? made.error;

  useEffect(() => {
    document.title = `${state.name} · Mutabilis`;
  }, [state.name]);

  if (!base) {
    if (!before.error) return <Whole>Weighing up the batter…</Whole>;
    return (
      <Whole>
        <p role="alert">{before.error.message}</p>
        <p className="mt-2">What is in the Book is untouched; only this draft cannot be shown.</p>
        <button
          type="button"
          className="btn btn-accent mt-4 min-h-11"
          onClick={async () => {
            await got(api.DELETE("/api/draft"));
            location.reload();
          }}
        >
          Clear the bench
        </button>
      </Whole>
    );
  }

  const judged = after ?? base;
  const worst = worstOf(judged, state.diets);
  const trial = worst === "fits" || !after ? null : worst;
  return (
    <main className="mx-auto max-w-[90rem] px-4 pt-3 pb-8 sm:px-6">
      {(lost || failed) && (
        <p role="alert" className="mb-2 rounded-field bg-error px-4 py-2 font-semibold text-error-content">
          {failed?.message ?? "The draft could not be kept just now. It is still here, and is sent again until it is."}
        </p>
      )}
      {start.faults.length > 0 && (
        <p role="alert" className="mb-2 rounded-field bg-warning px-4 py-2 text-warning-content">
          Diet files left out: {start.faults.join("; ")}
        </p>
      )}
      <header className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="text-lg font-bold tracking-tight text-primary">Mutabilis</span>
        <BatterPicker
          state={state}
          onOpen={(version) => act({ type: "open", version })}
          onNew={() => act({ type: "clear" })}
        />
        <label className="opacity-85">
          <span className="sr-only">Form</span>
          <select
            className="h-9 rounded-field bg-transparent"
            value={state.base.form}
            onChange={(event) => act({ type: "form", form: event.target.value as Batter["form"] })}
          >
            {start.forms.map((f) => (
              <option key={f.key} value={f.key} className="bg-base-100 text-base-content">
                {f.label}
              </option>
            ))}
          </select>
          , rests {base.rest_min.toFixed(0)} min
        </label>
        <span className="ml-auto flex items-center gap-4">
          {asked && <Verdict verdict={worst} of={state.diets.map((d) => labels.get(d)?.toLowerCase()).join(", ")} />}
          <ThemeChoice />
        </span>
      </header>
      <WishRow
        start={start}
        diets={state.diets}
        servings={state.base.servings ?? base.servings}
        onToggle={(diet) => act({ type: "toggleDiet", diet })}
        onServings={(servings) => act({ type: "servings", servings })}
      />
      {data && data.faults.length > 0 && (
        <p className="mt-2 border-l-[6px] border-warning bg-base-100 px-4 py-2">
          <b className="text-warning">The batter itself is at fault.</b> {data.faults.join(" ")}
        </p>
      )}
      {data?.infeasible && <Impossible reasons={data.infeasible.reasons} nearest={nearest !== undefined} />}

      <div className="mt-2 grid grid-cols-1 gap-x-0 lg:grid-cols-[minmax(0,31rem)_minmax(5rem,1fr)_minmax(0,33rem)]">
        <section aria-label="You have">
          <Head title="You have" batter={base} side="iron" />
          <Rows
            batter={base}
            diets={state.diets}
            side="iron"
            lit={lit}
            onLight={setLit}
            onGrams={(view, line, g) => act({ type: "baseGrams", line, grams: g, name: view.full_name })}
            typed={(at) => (state.base.lines.length === base.lines.length ? state.base.lines[at]?.grams : undefined)}
            onRemove={(line, key) => act({ type: "removeLine", line, key })}
          />
          <AddLine tall={empty} onLines={(lines) => act({ type: "addLines", lines })} />
        </section>
        <div className="hidden pt-[2.75rem] lg:block">
          {after && answer && (
            <Ribbons before={base.lines} after={after.lines} transfers={edited ? [] : answer.transfers} lit={lit} />
          )}
        </div>
        <section
          aria-label="You will make"
          aria-busy={adaptation.waiting && asked}
          className={adaptation.waiting && asked ? "opacity-75" : ""}
        >
          {after && answer ? (
            <>
              <Head title={nearest === answer ? "The nearest that can" : "You will make"} batter={after} side="berry">
                {data && data.answers.length > 1 && (
                  <Choice
                    count={data.answers.length}
                    chosen={state.chosen}
                    onChoose={(n) => act({ type: "choose", answer: n })}
                  />
                )}
                {edited && (
                  <button
                    type="button"
                    className="underline underline-offset-4"
                    onClick={() => act({ type: "dropEdits" })}
                  >
                    back to the answer
                  </button>
                )}
              </Head>
              <Rows
                batter={after}
                diets={state.diets}
                side="berry"
                lit={lit}
                tags={tagsOf(base, after)}
                typed={(at) => state.made[after.lines[at]?.line.ingredient ?? ""]}
                onLight={setLit}
                onGrams={(view, _, g) =>
                  view.line.ingredient && act({ type: "madeGrams", ingredient: view.line.ingredient, grams: g })
                }
              />
            </>
          ) : (
            <div className="mt-11 border-l-[6px] border-base-300 px-4 py-3">
              {empty
                ? "Write or paste the batter there is, a line for each ingredient, and it is weighed up as you go."
                : !asked
                  ? "Choose for whom: a diet above, and the batter that fits it stands here, in balance."
                  : adaptation.isPending
                    ? "Working it out…"
                    : "Nothing that is allowed makes this batter."}
            </div>
          )}
        </section>
      </div>

      {!empty && (
        <>
          <section
            aria-label="Why"
            className="mt-2 flex min-h-14 flex-wrap items-center gap-4 border-l-[6px] border-accent bg-base-100 px-4 py-2"
          >
            <div className="min-w-60 flex-1">
              <Why
                lit={lit}
                before={base}
                answer={edited ? answer && { ...answer, worse: [] } : answer}
                diets={state.diets}
                labels={labels}
              />
            </div>
            <button type="button" className="btn btn-accent min-h-11 px-6 text-base" onClick={() => setSaving(true)}>
              Save as a version
            </button>
          </section>
          <p role="status" className={told ? "mt-1 text-success" : "sr-only"}>
            {told}
          </p>

          <section
            aria-label="Balances"
            className="mt-2 grid grid-cols-2 gap-1 border-t border-base-300 pt-2 sm:grid-cols-4 lg:grid-cols-8"
          >
            {base.ledgers
              .filter((l) => TRACKS.includes(l.key) || (l.key === "net_carb" && state.diets.includes("low_carb")))
              .map((ledger) => (
                <Track
                  key={ledger.key}
                  before={ledger}
                  after={after?.ledgers.find((l) => l.key === ledger.key)}
                  onOpen={() => setOpen(ledger.key)}
                />
              ))}
          </section>

          <Cautions
            batter={judged}
            answer={edited ? undefined : answer}
            trial={trial}
            diets={state.diets}
            labels={labels}
          />
        </>
      )}

      {open && <LedgerSheet ledgerKey={open} before={base} after={after} onClose={() => setOpen(null)} />}
      {saving && (
        <SaveSheet
          name={state.name}
          batterId={state.batterId}
          parent={state.versionId}
          batter={after ? (edited ?? answer!.batter.batter) : state.base}
          diets={after ? state.diets : []}
          suggestion={after ? `Adapted: ${state.diets.map((d) => labels.get(d)?.toLowerCase()).join(", ")}` : ""}
          onClose={() => setSaving(false)}
          onSaved={(version) => {
            setSaving(false);
            if (!state.batterId) act({ type: "open", version });
            setTold(`Saved as version ${version.number} of ${version.name}.`);
          }}
        />
      )}
    </main>
  );
}

function worstOf(batter: BatterView, diets: string[]): VerdictKey {
  const verdicts = diets.map((d) => batter.diets[d]?.verdict ?? "cannot_vouch");
  return verdicts.includes("conflicts") ? "conflicts" : verdicts.includes("cannot_vouch") ? "cannot_vouch" : "fits";
}

function tagsOf(before: BatterView, after: BatterView): Map<string, string> {
  const was = new Map(before.lines.map((l) => [l.line.ingredient, l.line.grams]));
  const tags = new Map<string, string>();
  for (const { line } of after.lines) {
    if (!line.ingredient) continue;
    const old = was.get(line.ingredient);
    tags.set(
      line.ingredient,
      old === undefined ? "new" : Math.abs(old - line.grams) < 0.05 ? "kept" : `was ${grams(old)}`,
    );
  }
  return tags;
}

function Head({
  title,
  batter,
  side,
  children,
}: {
  title: string;
  batter: BatterView;
  side: "iron" | "berry";
  children?: ReactNode;
}) {
  const colour = side === "iron" ? "border-secondary text-secondary" : "border-primary text-primary";
  return (
    <h2 className={`mb-2 flex min-h-9 flex-wrap items-baseline gap-x-4 border-b-2 pb-1 text-lg font-bold ${colour}`}>
      {title}
      <span className="flex gap-3 font-sans text-base font-normal">{children}</span>
      <span className="ml-auto font-sans text-base font-normal whitespace-nowrap">
        <span className="figure">{batter.batter_g.toFixed(0)} g</span>
        {batter.hydration_pct !== null && `, hydration ${batter.hydration_pct.toFixed(0)} %`}
      </span>
    </h2>
  );
}

function Choice({ count, chosen, onChoose }: { count: number; chosen: number; onChoose: (n: number) => void }) {
  return (
    <fieldset aria-label="Answers" className="flex items-baseline gap-1">
      <span className="text-sm">answer</span>
      {Array.from({ length: count }, (_, n) => (
        <button
          key={n}
          type="button"
          aria-pressed={chosen === n}
          onClick={() => onChoose(n)}
          className={`min-w-8 rounded-field px-2 ${chosen === n ? "bg-primary font-bold text-primary-content" : "underline underline-offset-4"}`}
        >
          {n + 1}
        </button>
      ))}
    </fieldset>
  );
}

function BatterPicker({
  state,
  onOpen,
  onNew,
}: {
  state: BenchState;
  onOpen: (version: Version) => void;
  onNew: () => void;
}) {
  const batters = useQuery({ queryKey: ["batters"], queryFn: () => got(api.GET("/api/batters")) });
  return (
    <label className="min-w-0">
      <span className="sr-only">Batter and version</span>
      <select
        className="h-11 max-w-full rounded-field bg-transparent font-[family-name:var(--font-display)] text-2xl font-bold"
        value={state.versionId ?? ""}
        onChange={async (event) => {
          const version_id = event.target.value;
          if (version_id === "") onNew();
          else onOpen(await got(api.GET("/api/versions/{version_id}", { params: { path: { version_id } } })));
        }}
      >
        <option value="" className="bg-base-100 text-base text-base-content">
          {state.versionId ? "a new batter…" : state.name}
        </option>
        {!batters.data && state.versionId && <option value={state.versionId}>{state.name}</option>}
        {batters.data?.map((entry) =>
          entry.versions.map((v) => (
            <option key={v.id} value={v.id} className="bg-base-100 text-base text-base-content">
              {entry.name}
              {v.number > 1 ? ` · version ${v.number}` : ""}
              {v.diets.length ? ` (${v.diets.join(", ").replaceAll("_", "-")})` : ""}
            </option>
          )),
        )}
      </select>
    </label>
  );
}

function ThemeChoice() {
  const [theme, setTheme] = useState<Theme>(storedTheme);
  return (
    <label>
      <span className="sr-only">Light of the screen</span>
      <select
        className="h-9 rounded-field border border-base-300 bg-base-100 px-2 text-sm"
        value={theme}
        onChange={(event) => {
          const next = event.target.value as Theme;
          wear(next);
          setTheme(next);
        }}
      >
        <option value="system">light: as the system</option>
        <option value="day">light: day</option>
        <option value="dawn">light: before dawn</option>
      </select>
    </label>
  );
}

function Impossible({ reasons, nearest }: { reasons: string[]; nearest: boolean }) {
  return (
    <section aria-label="Cannot be done" className="mt-2 border-l-[6px] border-error bg-base-100 px-4 py-2">
      <b className="text-error">It cannot be done as asked.</b> {reasons.join(" ")}{" "}
      {nearest && "The nearest that can stands on the right."}
    </section>
  );
}

type CautionProps = {
  batter: BatterView;
  answer: AnswerView | undefined;
  trial: VerdictKey | null;
  diets: string[];
  labels: Map<string, string>;
};

function Cautions({ batter, answer, trial, diets, labels }: CautionProps) {
  const words = answer ? [...answer.technique, ...answer.cautions] : batter.warnings.map((w) => w.text);
  const reasons = trial
    ? diets.flatMap((d) => (batter.diets[d]?.reasons ?? []).map((r) => `${labels.get(d)}: ${r.text}`))
    : [];
  return (
    <section aria-label="Cautions" className="mt-3 text-[0.95rem]">
      {reasons.length > 0 && <p className="mb-1 font-semibold text-error">{reasons.join(" · ")}</p>}
      <ul className="grid gap-x-8 gap-y-0.5 lg:grid-cols-2">
        {words.map((w) => (
          <li key={w} className="flex gap-2">
            <span aria-hidden="true" className="mt-2 size-1.5 shrink-0 rotate-45 bg-base-content" />
            {w}
          </li>
        ))}
      </ul>
      <p className="mt-1">
        <b>Contains:</b> {batter.contains.map(plain).join(", ") || "none of the listed allergens"}.
        {batter.may_contain.length > 0 && (
          <>
            {" "}
            <b>May contain:</b> {batter.may_contain.map(plain).join(", ")}.
          </>
        )}
      </p>
    </section>
  );
}

function plain(allergen: string): string {
  return allergen.replace("tree_nut:", "").replaceAll("_", " ");
}
