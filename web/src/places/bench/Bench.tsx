import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { api, type BatterView, got } from "../../api/client";
import { versionQuery } from "../../api/queries";
import { useBench } from "../../app/BenchContext";
import { useKeys } from "../../app/keys";
import { useLost } from "../../app/lost";
import { useDietLabels, useNeedWords } from "../../app/needs";
import { Button } from "../../kit/Button";
import { Balances } from "./Balances";
import { Cautions } from "./Cautions";
import { Faults } from "./Faults";
import { Have } from "./Have";
import { LinePanel } from "./Line";
import { Make } from "./Make";
import { NextBar } from "./NextBar";
import { PlateSection } from "./Plate";
import { Pour } from "./Pour";
import { Ribbons } from "./Ribbons";
import { isUnread, keyOf, placed } from "./Rows";
import { SeenAgain } from "./SeenAgain";
import { type Open, Sheets } from "./Sheets";
import { SideSwitch } from "./SideSwitch";
import type { Slot } from "./Slots";
import { TopLine } from "./TopLine";
import { useMade } from "./useMade";
import { useNames } from "./useNames";
import { WishRow } from "./Wishes";

/** The Bench: what you have, what you will make, and what keeps the one in balance with the other. */
export function Bench() {
  const { start, state, act, undo, redo, draftLost } = useBench();
  const [lit, setLit] = useState<string | null>(null);
  const [only, setOnly] = useState<string | null>(null);
  const [open, setOpen] = useState<Open | null>(null);
  const [side, setSide] = useState<"have" | "make" | null>(null); // on a phone one side is in sight
  const [askedSlot, setAskedSlot] = useState<string | null>(null);
  const go = useNavigate();
  const lost = useLost();

  const found = useMade(state);
  const { base, after, answer, edited, data, asked } = found;
  const empty = state.base.lines.length === 0;
  const labels = useDietLabels();
  const words = useNeedWords();
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

  const names = useNames([after, base], state.wish);

  if (!base) {
    if (!found.unreadable) return <Whole>Weighing up the batter…</Whole>;
    return (
      <Whole>
        <p role="alert">{found.unreadable.message}</p>
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
  const unread = base.lines.some((l) => l.line.where === "batter" && isUnread(l));
  const dietWords = state.diets.map(words).join(", ");
  return (
    <main className="mx-auto max-w-[86rem] px-4 pt-2 pb-40 sm:px-6">
      {((draftLost && !lost) || (found.failed && "status" in found.failed && found.failed.status !== 0)) && (
        <p role="alert" className="mb-2 rounded-field bg-error px-4 py-2 font-semibold text-error-content">
          {found.failed?.message ??
            "The draft could not be kept just now. It is still here, and is sent again until it is."}
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
          {data.infeasible.nearest &&
            (unread ? "What it would be without it stands on the right." : "The closest match stands on the right.")}
        </section>
      )}

      <SideSwitch side={shownSide} base={base} after={after} onSide={setSide} />
      <div className="mt-2 grid grid-cols-1 gap-x-0 lg:grid-cols-[minmax(0,31rem)_minmax(5rem,1fr)_minmax(0,33rem)] lg:grid-rows-[auto_auto_1fr]">
        <Have
          base={base}
          rows={have}
          lit={lit}
          onLight={setLit}
          marks={marks}
          detail={shownSide === "have" ? detail : undefined}
          hidden={shownSide === "make" ? "max-lg:hidden" : ""}
          onOpen={setOpen}
        />
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
        <Make
          base={base}
          made={found}
          rows={make}
          unread={unread}
          dietWords={dietWords}
          current={current}
          asked={askedSlot}
          lit={lit}
          onLight={setLit}
          onSlot={touchSlot}
          marks={marks}
          detail={shownSide === "make" ? detail : undefined}
          hidden={shownSide === "have" ? "max-lg:hidden" : ""}
          onOpen={setOpen}
        />
      </div>

      {!empty && (
        <>
          <section
            aria-label="Why"
            className={`mt-2 flex min-h-14 flex-wrap items-center gap-4 border-l-[6px] border-accent bg-base-100 px-4 py-2 ${
              litHave || litMake
                ? "lg:sticky lg:bottom-[calc(3.8rem+var(--clocks,0px))] lg:z-10 lg:max-h-[34vh] lg:overflow-y-auto lg:border-y lg:border-r lg:border-y-base-300 lg:border-r-base-300"
                : ""
            }`}
          >
            <div className="min-w-60 flex-1">
              {litHave || litMake ? <div className="max-lg:hidden">{detail()}</div> : null}
              <div className={litHave || litMake ? "lg:hidden" : ""}>
                <Pour batter={judged} answer={edited ? undefined : answer} />
              </div>
            </div>
          </section>
          <NextBar batter={judged} unread={unread} onMake={toTheStove} onSave={() => setOpen({ what: "save" })} />

          <Balances base={base} after={after} onOpen={(key) => setOpen({ what: "ledger", key })} />
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
          ready={found.ready}
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
