import type { Card } from "../api/client";

/** The type [pt] in which a card fills one page and no more: a letter page takes 42 rows of 10 pt, and rows and their number of
 * letters both shrink with the type. */
export function typeSize(card: Card): number {
  const rows = (text: string, letters: number) => Math.ceil(text.length / letters);
  const left = card.groups.reduce(
    (all, g) => all + 2 + g.lines.reduce((sum, l) => sum + 1.1 * rows(l.name + l.note, 28) + (l.measure ? 0.9 : 0), 0),
    card.unread.reduce((all, text) => all + rows(text, 28), 0),
  );
  const right = card.steps.reduce((all, s) => all + 1.4 + rows(`${s.text} ${s.why}`, 58), 0);
  const foot = [card.cautions, card.leftovers, card.contains].reduce((all, some) => all + rows(some.join(" "), 105), 4);
  const head =
    4 +
    rows(card.largest ?? "", 95) +
    rows(card.name, 40) +
    rows(card.note, 90) +
    card.verdicts.reduce((all, v) => all + rows(v.reason, 90), 1);
  const all = head + Math.max(left, right) + 0.85 * foot;
  return Math.round(100 * Math.min(10.5, Math.max(5, 10 * Math.sqrt(42 / all)))) / 100;
}
