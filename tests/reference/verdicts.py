"""What a baker says of every answer to the kinds: a made as it is, b after a tweak, c never; written down line by line."""

import csv
from collections import Counter
from pathlib import Path

from mutabilis.core.facts import AllFacts
from tests.reference.kinds import GUESTS, Judged

VERDICTS = Path(__file__).with_name("verdicts.csv")


def verdicts() -> dict[tuple[str, str], tuple[str, str]]:
    """Verdict and reason by kind and guest."""
    with VERDICTS.open(encoding="utf-8", newline="") as file:
        return {(r["kind"], r["guest"]): (r["verdict"], r["reason"]) for r in csv.DictReader(file)}


def document(found: list[Judged], facts: AllFacts) -> str:
    """The table of docs/judged.md: counts by guest, then each kind with what moved and the verdict."""
    said = verdicts()
    counts = {g: Counter(said[j.kind, g][0] for j in found if j.guest == g) for g in GUESTS}
    rows = ["| guest | a | b | c |", "|---|---|---|---|"]
    rows += [f"| {g} | {c['a']} | {c['b']} | {c['c']} |" for g, c in counts.items()]
    whole = sum(counts.values(), Counter())
    rows.append(f"| **all {len(found)}** | **{whole['a']}** | **{whole['b']}** | **{whole['c']}** |")
    kind = ""
    for j in found:
        if j.kind != kind:
            kind = j.kind
            lines = ", ".join(f"{facts.ingredients[x.ingredient].short} {x.grams:.0f}" for x in j.found.base.batter.lines if x.ingredient)
            rows += ["", f"## {kind}", "", f"Had: {lines}.", "", "| guest | what moves | set | verdict | |", "|---|---|---|---|---|"]
        verdict, reason = said[j.kind, j.guest]
        rows.append(f"| {j.guest} | {_moves(j, facts)} | {_set(j)} | {verdict} | {reason} |")
    return "\n".join(rows)


def _moves(j: Judged, facts: AllFacts) -> str:
    shown = j.shown
    if shown is None:
        return "refused"
    had = {x.ingredient: x.grams for x in j.found.base.batter.lines}
    now = [x for x in shown.analysis.batter.lines if x.ingredient]
    moved = [
        f"{facts.ingredients[x.ingredient].short} {x.grams:g}"
        for x in now
        if x.ingredient not in had or abs(x.grams - had[x.ingredient]) > 0.02 * had[x.ingredient]
    ]
    return ("" if j.found.answers else "refused; the nearest: ") + (", ".join(moved) or "nothing")


def _set(j: Judged) -> str:
    return f"{j.found.base.setting.per_100g:.2f} → {j.shown.analysis.setting.per_100g:.2f}" if j.shown else ""
