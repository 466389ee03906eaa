import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Batter, Card } from "../../api/client";
import { answersQuery, cardQuery, familyQuery, versionQuery } from "../../api/queries";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { Choose } from "../../kit/Choose";
import { useNumbers } from "../../kit/numbers";
import { useTell } from "../../kit/Toast";
import { Verdict } from "../../kit/Verdict";
import { madeBatter, wantedOf } from "../../pure/bench";
import { cardText } from "../../pure/cardText";
import { typeSize } from "../../pure/cardType";
import { allergen } from "../../pure/format";

type Order = "two_bowls" | "one_bowl" | "blender";
type Moment = "dry" | "hot" | "last";
type Whites = "soft" | "stiff";
type Ways = { order: Order | null; leavening: Moment | null; whites: Whites | null };
type Asked = { batterId?: string; batter: Batter; name: string; diets: string[]; note: string };

/** The recipe card of a version, or of what stands on the Bench: to read, to print on one page, to keep as a PDF. */
export default function CardPage() {
  const { version } = useParams();
  const asked = useWhat(version);
  const { start } = useBench();
  // What is not chosen here is as the batter has it.
  const [order, setOrder] = useState<Order | null>(null);
  const [leavening, setLeavening] = useState<Moment | "as_it_wants" | null>(null);
  const [whites, setWhites] = useState<Whites | null>(null);
  const [paper, setPaper] = useState<"a4" | "letter">("a4");
  const [making, setMaking] = useState(false);
  const go = useNavigate();
  const tell = useTell();
  const numbers = useNumbers();
  const ways = { order, leavening: leavening === "as_it_wants" ? null : leavening, whites };
  const card = useQuery(cardQuery(asked.data && wanted(asked.data, ways, paper)));
  useEffect(() => {
    document.title = `${asked.data?.name ?? "Card"} · Mutabilis`;
  }, [asked.data]);

  async function pdf() {
    setMaking(true);
    const answer = await fetch("/api/card.pdf", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(asked.data && wanted(asked.data, ways, paper)),
    }).catch(() => null);
    setMaking(false);
    if (!answer?.ok) return tell("The PDF could not be made just now; nothing else changed.");
    const link = document.createElement("a");
    link.href = URL.createObjectURL(await answer.blob());
    link.download = `${asked.data?.name ?? "card"}.pdf`;
    link.click();
    URL.revokeObjectURL(link.href);
  }
  // By the platform's own sheet, as plain text: it arrives wherever text does.
  const share = (whole: Card) =>
    navigator.share({ title: whole.name, text: cardText(whole, numbers) }).catch(() => undefined); // closed again
  const own = asked.data?.batter;
  const family = useQuery({
    ...familyQuery(asked.data?.batterId ?? ""),
    enabled: version !== undefined && !!asked.data?.batterId,
  });
  const photo = family.data?.versions.find((v) => v.id === version)?.photo ?? null;
  const failed = asked.error ?? card.error;
  return (
    <main className="mx-auto max-w-[60rem] px-4 pt-3 pb-10 sm:px-6 print:max-w-none print:p-0">
      <header className="mb-3 flex flex-wrap items-center gap-3 print:hidden">
        <Button kind="link" onClick={() => go(version ? `/book/${asked.data?.batterId ?? ""}` : "/bench")}>
          {version ? "To the Book" : "To the Bench"}
        </Button>
        <Choose
          label="mixed in"
          options={[
            ["two_bowls", "two bowls"],
            ["one_bowl", "one bowl"],
            ["blender", "a blender"],
          ]}
          value={order ?? own?.order ?? (own?.blender ? "blender" : "two_bowls")}
          onChange={setOrder}
        />
        <Choose
          label="leavening"
          options={[
            ["as_it_wants", "as it wants"],
            ["dry", "with the dry"],
            ["hot", "when it is hot"],
            ["last", "last of all"],
          ]}
          value={leavening ?? own?.leavening ?? "as_it_wants"}
          onChange={setLeavening}
        />
        {card.data?.steps.some((s) => s.key === "whip") && (
          <Choose
            label="whites"
            options={[
              ["soft", "soft"],
              ["stiff", "stiff"],
            ]}
            value={whites ?? own?.whites ?? "soft"}
            onChange={setWhites}
          />
        )}
        <Choose
          label="paper"
          options={[
            ["a4", "A4"],
            ["letter", "letter"],
          ]}
          value={paper}
          onChange={setPaper}
        />
        <span className="ml-auto flex gap-2">
          {version && <Button onClick={() => go(`/stove?make=${version}`)}>Make it</Button>}
          <Button kind="strong" onClick={() => window.print()}>
            Print
          </Button>
          <Button disabled={making || !card.data} onClick={pdf}>
            {making ? "Making…" : "PDF"}
          </Button>
          {"share" in navigator && (
            <Button disabled={!card.data} onClick={() => card.data && share(card.data)}>
              Share…
            </Button>
          )}
        </span>
      </header>
      {failed && <p role="alert">{failed.message}</p>}
      {!card.data && !failed && (
        <p>{asked.empty ? "There is nothing on the bench to make a card of." : "Writing the card…"}</p>
      )}
      {card.data && <Sheet card={card.data} shown={start.shown} photo={photo} />}
    </main>
  );
}

function wanted({ batter, name, diets, note }: Asked, ways: Ways, paper: "a4" | "letter") {
  return { batter, name, diets, note, ...ways, paper };
}

/** What the card is of: a version of the Book, or the answer that stands on the Bench. */
function useWhat(version: string | undefined): { data: Asked | undefined; error: Error | null; empty: boolean } {
  const { state } = useBench();
  const kept = useQuery({ ...versionQuery(version ?? ""), enabled: version !== undefined });
  const empty = state.base.lines.length === 0;
  const { asked, wanted } = wantedOf(state);
  const answer = useQuery({
    ...answersQuery(wanted, state.chosen > 0 ? 5 : 1),
    enabled: version === undefined && asked,
  });
  if (version) {
    const v = kept.data;
    return {
      data: v && { batterId: v.batter_id, batter: v.batter, name: v.name, diets: v.diets, note: v.note },
      error: kept.error,
      empty: false,
    };
  }
  if (empty) return { data: undefined, error: null, empty };
  if (asked && !answer.data) return { data: undefined, error: answer.error, empty };
  const found =
    answer.data?.answers[Math.min(state.chosen, (answer.data?.answers.length ?? 1) - 1)] ??
    answer.data?.infeasible?.nearest;
  const batter = found ? (madeBatter(found.batter.batter, state.made, state.swaps) ?? found.batter.batter) : state.base;
  return { data: { batter, name: state.name, diets: state.diets, note: "" }, error: null, empty };
}

type SheetProps = { card: Card; shown: "both" | "grams" | "kitchen"; photo: string | null };

/** The card itself, its weights in the colour of the side that the batter is of: as it was or
 * as it is made, with how it came out last where somebody took a photo. */
function Sheet({ card, shown, photo }: SheetProps) {
  const { grams, places, whole } = useNumbers();
  const adapted = card.verdicts.length > 0;
  // The root's type size is outside of what is drawn here: it is set for the printer, and given back.
  useEffect(() => {
    const root = document.documentElement;
    root.style.setProperty("--card-type", `${typeSize(card)}pt`);
    return () => void root.style.removeProperty("--card-type");
  }, [card]);
  return (
    <article className="bg-base-100 p-6 print:p-0" aria-label={`Card of ${card.name}`}>
      {photo && (
        <img
          src={`/api/photos/${photo}.jpg`}
          alt="How it came out"
          className="float-right ml-4 h-36 w-auto print:h-28"
        />
      )}
      <h1 className="text-3xl font-bold break-words">{card.name}</h1>
      <p>
        {card.form_label}, {whole(card.batter_g)} g of batter: {card.pieces} pieces of {whole(card.portion_ml)} mL
        {card.last_share >= 0.1 && " and a small one"}. Serves {places(card.servings, 1)}. Use a bowl of at least{" "}
        {places(card.bowl_l, 1)} L.
      </p>
      {card.largest && <p>{card.largest}</p>}
      {card.verdicts.length > 0 && (
        <p className="flex flex-wrap gap-x-4 font-semibold">
          {card.verdicts.map((v) => (
            <span key={v.diet}>
              <Verdict verdict={v.verdict} of={v.label.toLowerCase()} />
              {v.reason && <span className="font-normal"> ({v.reason})</span>}
            </span>
          ))}
        </p>
      )}
      {card.note && <p className="break-words">{card.note}</p>}
      <div className="mt-3 grid gap-x-8 gap-y-4 border-t-2 border-current pt-3 sm:grid-cols-[minmax(0,2fr)_minmax(0,3fr)] print:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
        <section aria-label="Ingredients">
          {card.groups.map((g) => (
            <div key={g.use} className="mb-3">
              <h2 className="font-bold">{g.title}</h2>
              <ul>
                {g.lines.map((l, n) => (
                  <li key={n} className="mb-0.5 flex items-baseline gap-2">
                    <span
                      className={`figure shrink-0 text-right font-bold ${adapted ? "ink-make text-primary" : "ink-have text-secondary"} ${shown === "kitchen" ? "w-[7.5rem]" : "w-[4.2rem]"}`}
                    >
                      {shown === "kitchen" && l.measure ? l.measure : `${grams(l.grams)} g`}
                    </span>
                    <span className="min-w-0">
                      {l.name}
                      {l.note && ` (${l.note})`}
                      {l.parts && <span className="block text-sm">{l.parts}</span>}
                      {shown === "both" && l.measure && <span className="kitchen block text-sm">{l.measure}</span>}
                    </span>
                  </li>
                ))}
              </ul>
            </div>
          ))}
          {card.unread.map((text) => (
            <p key={text} className="font-semibold text-error">
              Not read: {text}
            </p>
          ))}
        </section>
        <section aria-label="Method">
          <ol>
            {card.steps.map((s, n) => (
              <li key={s.key} className="mb-2">
                <b>
                  {n + 1} {s.title}
                  {s.minutes ? ` · ${whole(s.minutes)} min` : ""}
                </b>
                <span className="block">
                  {s.text} <span className="opacity-85 print:opacity-100">{s.why}</span>
                </span>
              </li>
            ))}
          </ol>
        </section>
      </div>
      <footer className="mt-2 border-t border-current pt-2 text-sm">
        <p>
          <b>Contains:</b> {card.contains.map(allergen).join(", ") || "none of the listed allergens"}.{" "}
          {card.may_contain.length > 0 && (
            <>
              <b>May contain:</b> {card.may_contain.map(allergen).join(", ")}.
            </>
          )}
        </p>
        <Piece title="A piece" n={card.per_piece} />
        {card.per_piece_plate && <Piece title="With the plate" n={card.per_piece_plate} />}
        {card.leftovers.length > 0 && (
          <p>
            <b>Left over:</b> {card.leftovers.join(" ")}
          </p>
        )}
        <p>
          <b>Mind:</b> {card.cautions.join(" ")}
        </p>
      </footer>
    </article>
  );
}

function Piece({ title, n }: { title: string; n: Record<string, number> }) {
  const { places, whole } = useNumbers();
  if (n.kcal === undefined) return null;
  const g = (key: string) => places(n[key] ?? 0, 1);
  return (
    <p>
      <b>{title}:</b> {whole(n.kcal)} kcal, fat {g("fat_g")} g ({g("sat_fat_g")} g saturated), carbohydrate{" "}
      {g("carb_g")} g, fibre {g("fibre_g")} g, sugars {g("sugars_g")} g, net carbohydrate {g("net_carb_g")} g, protein{" "}
      {g("protein_g")} g, sodium {whole(n.sodium_mg ?? 0)} mg.
    </p>
  );
}
