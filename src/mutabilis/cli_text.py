"""Ledgers and adaptations as tables on a terminal."""

from typing import TYPE_CHECKING

from mutabilis.core.analysis.analysis import Analysis
from mutabilis.core.diets.allergens import in_words
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.kitchen_measures import measure
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.line_questions import questions_of

if TYPE_CHECKING:  # a ledger does not wait for the solver
    from mutabilis.core.adapt.adapt import Adaptation

VERDICTS = {"fits": "fits", "conflicts": "DOES NOT FIT", "cannot_vouch": "not confirmed"}


def print_analysis(a: Analysis, facts: AllFacts) -> None:
    """The lines as read, the balances, what is in it, and the verdicts."""
    for line in a.batter.lines:
        if line.unresolved:
            print(f"  ?      not read: {line.text}  ({line.problem})")
            continue
        if line.ingredient is None:
            continue  # no ingredient: a time, a serving, an instruction
        doubt = f"{line.low:.0f}–{line.high:.0f}" if line.high - line.low > 0.06 * max(line.grams, 1) else ""
        print(f"{line.grams:8.1f} g  {facts.ingredients[line.ingredient].name:<44.44} {doubt:>9}  {line.note}"[:120].rstrip())
    print(f"{a.batter_g:8.0f} g  batter, for {a.servings:.1f} servings\n")
    for x in a.ledgers:
        mark = "–" if x.mark is None else f"{x.mark:.2f}" if abs(x.mark) < 3 else f"{x.mark:.1f}"
        print(f"{x.label:<18}{mark:>9} {x.mark_unit:<12} {x.verdict:<12} {x.reason}")
    n = a.nutrition
    print(
        f"\n{n.kcal:.0f} kcal, protein {n.protein_g:.0f} g, fat {n.fat_g:.0f} g, carbohydrate {n.carb_g:.0f} g (fibre {n.fibre_g:.0f}, net {n.net_carb_g:.0f}) in all\n"
    )
    for key, j in a.plate.diets.items():  # batter and plate: the guest eats both
        print(
            f"{facts.diets[key].label if key in facts.diets else key:<18}{VERDICTS[j.verdict]:<14}{j.reasons[0].text if j.reasons else ''}"
        )
    print(
        f"\nContains: {', '.join(map(in_words, a.plate.contains)) or 'none of the listed allergens'}. May contain: {', '.join(map(in_words, a.plate.may_contain)) or '–'}."
    )
    for line in a.batter.lines:
        for question in questions_of(line, facts):
            print(f"? {line.text[:60]}: {question.text}")
    for w in a.warnings:
        print(f"! {w.text}")


def print_adaptation(found: "Adaptation", facts: AllFacts, profile: Profile) -> None:
    """What cannot be done, the slots, and each answer with its balances and reasons."""
    if found.infeasible:
        for reason in found.infeasible.reasons:
            print(f"Cannot be done: {reason}")
        print("Closest match:\n" if found.infeasible.nearest else "")
    for slot in found.slots:
        print(f"{slot.label}: {slot.fact or slot.empty}")
    answers = [*found.answers, *([found.infeasible.nearest] if found.infeasible and found.infeasible.nearest else [])]
    for at, answer in enumerate(answers):
        if at:
            print("\n" + "—" * 40 + "\n")
        for line in answer.analysis.batter.lines:
            if line.unresolved:
                print(f"  ?         {line.text:<44.44}  {line.problem}")
            elif line.ingredient:
                i = facts.ingredients[line.ingredient]
                print(f"{line.grams:8.1f} g  {i.name:<44.44}  {measure(i, line.grams, profile)}")
        print()
        for key, label in (
            ("flow", "Flow"),
            ("lift", "Lift"),
            ("set", "Set"),
            ("sweetness", "Sweetness"),
            ("fat", "Fat"),
            ("salt", "Salt"),
        ):
            old, new = found.base.ledger(key), answer.analysis.ledger(key)
            was = "–" if old.mark is None else f"{old.mark:.2f}"
            now = "–" if new.mark is None else f"{new.mark:.2f}"
            print(f"{label:<12}{was:>9} → {now:>8} {new.mark_unit:<10} {new.verdict}")
        print()
        for c in answer.changes:
            print(f"{c.source or '(new)'} → {c.target or '(left out)'}: {c.reason}")
        if answer.unchanged:
            print(answer.unchanged)
        for technique in answer.technique:
            print(f"Make it: {technique}")
        for worse in answer.worse:
            print(f"Worse: {worse}")
        for caution in answer.cautions:
            print(f"! {caution}")
