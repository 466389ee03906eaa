import type { Card } from "../api/client";
import { allergen, type Numbers } from "./format";

const SAID = { fits: "fits", conflicts: "does not fit", cannot_vouch: "cannot be vouched for" };

/** A card as plain text, to be sent by whatever sends text: what it is and for whom, lines, steps, allergens and cautions. Nothing that keeps
 * somebody from harm is left out. */
export function cardText(card: Card, { grams, places, whole }: Pick<Numbers, "grams" | "places" | "whole">): string {
  const verdicts = card.verdicts.map((v) => `${v.label}: ${SAID[v.verdict]}${v.reason ? ` (${v.reason})` : ""}`);
  const lines = card.groups.flatMap((g) => [
    "",
    g.title,
    ...g.lines.map(
      (l) => `  ${grams(l.grams)} g ${l.name}${l.note ? ` (${l.note})` : ""}${l.measure ? `, ${l.measure}` : ""}`,
    ),
  ]);
  const unread = card.unread.map((text) => `  Not read: ${text}`);
  const steps = card.steps.map(
    (s, n) => `${n + 1}. ${s.title}${s.minutes ? `, ${whole(s.minutes)} min` : ""}. ${s.text}`,
  );
  const contains = card.contains.map(allergen).join(", ") || "none of the listed allergens";
  return [
    card.name,
    `${card.form_label}, ${card.pieces} pieces of ${whole(card.portion_ml)} mL, serves ${places(card.servings, 1)}.`,
    ...verdicts,
    ...(card.note ? [card.note] : []),
    ...lines,
    ...unread,
    "",
    ...steps,
    "",
    `Contains: ${contains}.`,
    ...(card.may_contain.length > 0 ? [`May contain: ${card.may_contain.map(allergen).join(", ")}.`] : []),
    ...card.leftovers,
    ...card.cautions,
  ].join("\n");
}
