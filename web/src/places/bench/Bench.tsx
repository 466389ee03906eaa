import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { type AnswerView, api, type BatterView, got } from "../../api/client";
import { versionQuery } from "../../api/queries";
import { useAdaptation, useAnalysis } from "../../app/adapting";
import { useBench } from "../../app/BenchContext";
import { useKeys } from "../../app/keys";
import { useLost } from "../../app/lost";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { SourceMeasures } from "../../kit/SourceMeasures";
import { Track } from "../../kit/Track";
import { isAsked, madeBatter } from "../../pure/bench";
import type { Numbers } from "../../pure/format";
import { AddLine } from "./AddLine";
import { AnswerHead, Contents } from "./AnswerHead";
import { Cautions } from "./Cautions";
import { Faults } from "./Faults";
import { FirstMinute } from "./FirstMinute";
import { ForWhom } from "./ForWhom";
import { Head } from "./Head";
import { LinePanel } from "./Line";
import { PhoneBar } from "./PhoneBar";
import { AcidPicture, WaterPicture } from "./Pictures";
import { PlateSection } from "./Plate";
import { PieceWords, Pour } from "./Pour";
import { Ribbons } from "./Ribbons";
import { keyOf, placed, Rows } from "./Rows";
import { SeenAgain } from "./SeenAgain";
import { SetAside } from "./SetAside";
import { Shape } from "./Shape";
import { type Open, Sheets } from "./Sheets";
import { SideSwitch } from "./SideSwitch";
import { type Slot, Slots } from "./Slots";
import { Tool } from "./Tool";
import { TopLine } from "./TopLine";
import { WishRow } from "./Wishes";

const TRACKS = ["flow", "lift", "acid", "set", "sweetness", "fat", "salt", "browning", "net_carb"];
/** The Bench: what you have, what you will make, and what keeps the one in balance with the other. */
export function Bench() {
  const numbers = useNumbers();
  const { start, state, act, undo, redo, draftLost } = useBench();
  const [lit, setLit] = useState<string | null>(null);
  const [only, setOnly] = useState<string | null>(null);
  const [open, setOpen] = useState<Open | null>(null);
  const [side, setSide] = useState<"have" | "make" | null>(null); // on a phone one side is in sight
  const [example, setExample] = useState(""); // laid into the empty field, to be tried
  const [askedSlot, setAskedSlot] = useState<string | null>(null);
  const go = useNavigate();
  const lost = useLost();

  const before = useAnalysis(state.base, state.diets);
  const adaptation = useAdaptation(state);
  const empty = state.base.lines.length === 0;
  const asked = isAsked(state);
  const data = asked ? adaptation.data : undefined;
  const nearest = data?.infeasible?.nearest ?? undefined;
  const answer: AnswerView | undefined = data?.answers[Math.min(state.chosen, data.answers.length - 1)] ?? nearest;
  const edited = useMemo(
    () => (answer ? madeBatter(answer.batter.batter, state.made, state.swaps) : null),
    [answer, state.made, state.swaps],
  );
  const made = useAnalysis(edited, state.diets);
  const after: BatterView | undefined = answer ? (edited && made.data ? made.data : answer.batter) : undefined;
  const base = before.data;
  const labels = useMemo(() => new Map(start.shipped_diets.map((d) => [d.key, d.label])), [start.shipped_diets]);
  const failed = before.error ?? adaptation.error ?? made.error;
  const close = () => setOpen(null);
  const queries = useQueryClient();
  /** To the Stove: at once where what stands here is in the Book already, else by way of it. */
  async function toTheStove() {
    const kept =
      state.versionId && !after ? await queries.fetchQuery(versionQuery(state.versionId)).catch(() => null) : null;
    if (kept && JSON.stringify(kept.batter) === JSON.stringify(state.base)) go(`/stove?make=${kept.id}`);
    else setOpen({ what: "make" });
  }
  const count = data?.answers.length ?? 0;
  const slots = data?.slots ?? [];
  const choose = (n: number) => n < count && act({ type: "choose", answer: n });
  const touchSlot = (slot: Slot | undefined) => {
    setAskedSlot(slot?.answer === null ? slot.kind : null);
    if (typeof slot?.answer === "number") choose(slot.answer);
  };

  useKeys({
    u: undo,
    r: redo,
    "ctrl+z": undo,
    "ctrl+shift+z": redo,
    "ctrl+y": redo,
    s: () => !empty && setOpen({ what: "save" }),
    c: () => !empty && go("/card"),
    m: () => edited && act({ type: "rebalance" }),
    v: () => count > 1 && setOpen({ what: "compare" }),
    ...Object.fromEntries([1, 2, 3, 4, 5].map((n) => [`${n}`, () => touchSlot(slots[n - 1])])),
  });
  useEffect(() => {
    document.title = `${state.name} · Mutabilis`;
  }, [state.name]);

  if (!base) {
    if (!before.error) return <Whole>Weighing up the batter…</Whole>;
    return (
      <Whole>
        <p role="alert">{before.error.message}</p>
        <p className="mt-2">What is in the Book is untouched; only this draft cannot be shown.</p>
        <Button
          kind="strong"
          className="mt-4"
          onClick={async () => {
            await got(api.DELETE("/api/draft"));
            sessionStorage.clear();
            location.reload();
          }}
        >
          Clear the bench
        </Button>
      </Whole>
    );
  }

  const judged = after ?? base;
  // What is on screen may have been judged before a diet was touched: it is not said to fit what it was not judged for.
  const current = state.diets.every((d) => d in judged.guests.diets);
  const shownSide = side ?? (after ? "make" : "have");
  const trial = judged.guests.verdict === "fits" || !after ? null : judged.guests.verdict;
  const names = (id: string) =>
    [...(after?.lines ?? []), ...base.lines].find((l) => l.line.ingredient === id)?.name ?? id.replaceAll("_", " ");
  // A batter that was cleared is gone at once: its rows would only move what is touched next, once the empty one is weighed up.
  const [have, make] = [empty ? [] : placed(base, "batter"), after ? placed(after, "batter") : []];
  const bySide = (batter: BatterView | undefined) =>
    batter ? batter.lines.map((view, at) => ({ view, at })).find(({ view, at }) => keyOf(view, at) === lit) : undefined;
  const [litMake, litHave] = [bySide(after), bySide(base)];
  const marks = (id: string) =>
    id in state.wish.locked
      ? "locked"
      : state.wish.pins.includes(id)
        ? "pinned"
        : state.wish.bans.includes(id)
          ? "left out"
          : "";
  const detail = () => (
    <LinePanel
      key={lit}
      view={(litMake ?? litHave)!.view}
      at={(litMake ?? litHave)!.at}
      side={litMake ? "make" : "have"}
      own={litHave}
      state={state}
      before={base}
      batter={judged}
      answer={edited ? undefined : answer}
      labels={labels}
      act={act}
      onSwap={() => litMake && setOpen({ what: "swap", line: litMake.at })}
      onPack={() => lit && setOpen({ what: "pack", id: lit, name: names(lit) })}
    />
  );
  const unread = base.lines.some((l) => l.line.where === "batter" && (!l.line.ingredient || l.line.problem !== ""));
  const dietWords = state.diets.map((d) => labels.get(d)?.toLowerCase()).join(", ");
  return (
    <main className="mx-auto max-w-[86rem] px-4 pt-2 pb-8 max-lg:pb-24 sm:px-6">
      {((draftLost && !lost) || (failed && "status" in failed && failed.status !== 0)) && (
        <p role="alert" className="mb-2 rounded-field bg-error px-4 py-2 font-semibold text-error-content">
          {failed?.message ?? "The draft could not be kept just now. It is still here, and is sent again until it is."}
        </p>
      )}
      {start.faults.length > 0 && (
        <p role="alert" className="mb-2 rounded-field bg-warning px-4 py-2 text-warning-content">
          Diet files left out: {start.faults.join("; ")}
        </p>
      )}
      <TopLine
        judged={asked && state.diets.length > 0 && !after ? (current ? judged : "not yet") : null}
        dietWords={dietWords}
        onOpen={(what) => setOpen({ what })}
        onClear={() => setLit(null)}
      />
      <WishRow
        start={start}
        state={state}
        base={base}
        names={names}
        act={act}
        onSize={() => setOpen({ what: "size" })}
      />
      {!empty && <Faults base={base} diets={state.diets} act={act} />}
      {!empty && <SeenAgain version={state.versionId} />}
      {data?.infeasible && (
        <section aria-label="Cannot be done" className="mt-2 border-l-[6px] border-error bg-base-100 px-4 py-2">
          <b className="text-error">{unread ? "A line first." : "It cannot be done as asked."}</b>{" "}
          {data.infeasible.reasons.join(" ")}{" "}
          {nearest &&
            (unread ? "What it would be without it stands on the right." : "The closest match stands on the right.")}
        </section>
      )}

      <SideSwitch side={shownSide} base={base} after={after} onSide={setSide} />
      <div className="mt-2 grid grid-cols-1 gap-x-0 lg:grid-cols-[minmax(0,31rem)_minmax(5rem,1fr)_minmax(0,33rem)] lg:grid-rows-[auto_auto_1fr]">
        <section
          aria-label="You have"
          className={`lg:row-span-3 lg:grid lg:grid-cols-[minmax(0,1fr)] lg:grid-rows-subgrid ${shownSide === "make" ? "max-lg:hidden" : ""}`}
        >
          <Head title="You have" batter={base} side="iron" />
          {empty ? <span /> : <Shape base={base} />}
          <div>
            <Rows
              rows={have}
              side="iron"
              lit={lit}
              onLight={setLit}
              marks={marks}
              onGrams={(view, line, g) => act({ type: "baseGrams", line, grams: g, name: view.full_name })}
              detail={shownSide === "have" ? detail : undefined}
              typed={(at) => (state.base.lines.length === base.lines.length ? state.base.lines[at]?.grams : undefined)}
              onRemove={(line, key) => act({ type: "removeLine", line, key })}
            />
            <SetAside
              lines={empty ? [] : base.lines}
              onRemove={(line, key) => act({ type: "removeLine", line, key })}
            />
            {empty && <FirstMinute onTry={setExample} />}
            <AddLine
              key={empty ? example : "lines"}
              first={empty ? example : ""}
              tall={empty}
              measures={state.base}
              beside={
                empty && (
                  <span className="mr-auto">
                    <SourceMeasures value={state.base} onChange={(measures) => act({ type: "measures", measures })} />
                  </span>
                )
              }
              onLines={(lines) => act({ type: "addLines", lines })}
              onRecipe={
                empty
                  ? (name, batter) => {
                      const form = batter.form === "griddle" ? state.base.form : batter.form; // one chosen before stands
                      act({ type: "lay", name, batter: { ...batter, form } });
                    }
                  : undefined
              }
            >
              {empty && (
                <p className="flex w-full gap-2">
                  <Tool onClick={() => setOpen({ what: "open" })}>From the Book…</Tool>
                  <Tool onClick={() => setOpen({ what: "file" })}>From a file…</Tool>
                </p>
              )}
            </AddLine>
          </div>
        </section>
        <div className="hidden lg:row-span-3 lg:grid lg:grid-rows-subgrid">
          {after && answer && (
            <Ribbons
              before={have}
              after={make}
              transfers={edited ? [] : answer.transfers}
              lit={lit}
              only={only}
              onLight={setLit}
              onOnly={setOnly}
            />
          )}
        </div>
        <section
          aria-label="You will make"
          aria-busy={adaptation.waiting && asked}
          className={`lg:row-span-3 lg:grid lg:grid-cols-[minmax(0,1fr)] lg:grid-rows-subgrid ${adaptation.waiting && asked ? "opacity-75" : ""} ${shownSide === "have" ? "max-lg:hidden" : ""}`}
        >
          {after && answer ? (
            <>
              <AnswerHead
                title={nearest !== answer ? "You will make" : unread ? "Without that line" : "Closest match"}
                batter={after}
                dietWords={state.diets.length > 0 ? dietWords : ""}
                current={current}
              >
                {edited && (
                  <>
                    <Button kind="link" onClick={() => act({ type: "rebalance" })}>
                      mend the rest
                    </Button>
                    <Button kind="link" onClick={() => act({ type: "dropEdits" })}>
                      back to the answer
                    </Button>
                  </>
                )}
              </AnswerHead>
              <div>
                <Contents
                  batter={after}
                  adds={answer.adds}
                  plate={current && after.guests.plate_verdict !== after.guests.verdict}
                />
                <Slots slots={slots} chosen={Math.min(state.chosen, count - 1)} asked={askedSlot} onTouch={touchSlot} />
              </div>
              <div>
                <Rows
                  rows={make}
                  side="berry"
                  lit={lit}
                  tags={tagsOf(base, after, numbers)}
                  marks={marks}
                  buy={edited ? undefined : new Set(answer.buy)}
                  detail={shownSide === "make" ? detail : undefined}
                  typed={(at) => state.made[after.lines[at]?.line.ingredient ?? ""]}
                  onLight={setLit}
                  onGrams={(view, _, g) =>
                    view.line.ingredient && act({ type: "madeGrams", ingredient: view.line.ingredient, grams: g })
                  }
                />
                {!edited && (
                  <p className="mt-1 text-sm">
                    {count > 1 && (
                      <Button kind="link" className="mr-2" onClick={() => setOpen({ what: "compare" })}>
                        Compare the {count} answers
                      </Button>
                    )}
                    <Button kind="link" className="mr-2" onClick={() => setOpen({ what: "shopping" })}>
                      Shopping list
                    </Button>
                    {state.chosen > 0 && answer.fact && `${answer.fact[0]!.toUpperCase()}${answer.fact.slice(1)}. `}
                    {answer.buy.length === 0 && start.larder_kept && "All of it is in. "}
                    <PieceWords batter={after} />
                  </p>
                )}
                {answer.unchanged && !edited && <p className="mt-1 font-semibold">{answer.unchanged}</p>}
              </div>
            </>
          ) : (
            <div className="border-l-[6px] border-base-300 px-4 py-3 lg:row-span-3 lg:mt-11">
              {empty ? (
                "What you will make stands here, beside what you have."
              ) : !asked ? (
                <ForWhom start={start} onDiet={(diet) => act({ type: "toggleDiet", diet })} />
              ) : adaptation.isPending ? (
                "Working it out…"
              ) : (
                "Nothing that is allowed makes this batter."
              )}
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
              {litHave || litMake ? <div className="max-lg:hidden">{detail()}</div> : null}
              <div className={litHave || litMake ? "lg:hidden" : ""}>
                <Pour batter={judged} answer={edited ? undefined : answer} />
              </div>
            </div>
            <span className="flex flex-wrap gap-4 max-lg:hidden">
              <Button kind="strong" onClick={toTheStove}>
                Make it
              </Button>
              <Button onClick={() => setOpen({ what: "save" })}>Save as a version</Button>
            </span>
          </section>
          <PhoneBar batter={judged} onMake={toTheStove} onSave={() => setOpen({ what: "save" })} />

          <section
            aria-label="Balances"
            className="relative mt-2 gap-1 border-t border-base-300 pt-2 max-lg:flex max-lg:overflow-x-auto max-lg:[&>*]:w-36 max-lg:[&>*]:shrink-0 lg:grid lg:grid-cols-9"
          >
            {base.ledgers
              .filter((l) => TRACKS.includes(l.key))
              .map((ledger) => (
                <Track
                  key={ledger.key}
                  before={ledger}
                  after={after?.ledgers.find((l) => l.key === ledger.key)}
                  scale={judged.scales[ledger.key]}
                  tellings={start.tellings}
                  onOpen={() => setOpen({ what: "ledger", key: ledger.key })}
                />
              ))}
          </section>
          <section aria-label="Pictures" className="mt-3 grid grid-cols-1 gap-x-10 gap-y-4 lg:grid-cols-2">
            <WaterPicture before={base} after={after} />
            <AcidPicture before={base} after={after} />
          </section>
          <PlateSection
            base={base}
            after={after}
            asked={asked && state.diets.length > 0 && current}
            lit={lit}
            onLight={setLit}
            act={act}
          />
          <Cautions
            batter={judged}
            answer={edited ? undefined : answer}
            trial={trial}
            diets={state.diets}
            labels={labels}
          />
        </>
      )}

      {open && (
        <Sheets
          open={open}
          state={state}
          base={base}
          after={after}
          answer={answer}
          edited={edited}
          data={data}
          ready={!(asked && adaptation.waiting) && (!edited || !made.isPlaceholderData)}
          suggestion={after ? `Adapted${dietWords ? `: ${dietWords}` : ""}` : ""}
          onChoose={choose}
          onLit={setLit}
          onClose={close}
        />
      )}
    </main>
  );
}

function Whole({ children }: { children: ReactNode }) {
  return <main className="mx-auto max-w-xl p-10 text-lg">{children}</main>;
}

function tagsOf(before: BatterView, after: BatterView, { grams }: Numbers): Map<string, string> {
  const was = new Map(before.lines.map((l) => [l.line.ingredient, l.line.grams]));
  const tags = new Map<string, string>();
  for (const { line } of after.lines) {
    if (!line.ingredient) continue;
    const old = was.get(line.ingredient);
    tags.set(line.ingredient, old === undefined || Math.abs(old - line.grams) < 0.05 ? "" : `was ${grams(old)}`);
  }
  return tags;
}
