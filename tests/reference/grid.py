"""The grid: every demo batter against every shipped diet and the usual pairs and triples, solved in one run."""

from collections.abc import Callable
from dataclasses import dataclass

from mutabilis.core.adapt.adapt import Adaptation, adapt
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import Analysis
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.bowl import fill
from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile
from mutabilis.demo import demo_batters

TOGETHER = (
    ("vegan", "gluten_free"),
    ("low_carb", "nut_free"),
    ("egg_free", "dairy_free"),
    ("gluten_free", "dairy_free"),
    ("vegan", "gluten_free", "nut_free", "soy_free"),
    ("vegan", "no_added_sugar"),
)


@dataclass(frozen=True)
class Case:
    """One cell: what was asked and what came of it."""

    batter: str
    diets: tuple[str, ...]
    found: Adaptation

    @property
    def after(self) -> Analysis | None:
        return self.found.answers[0].analysis if self.found.answers else None


def cases(facts: AllFacts, profile: Profile, solve: Callable[..., Adaptation] = adapt) -> list[Case]:
    """All cells, in order."""
    asked = [(d,) for d in facts.diets] + list(TOGETHER)
    return [
        Case(name, diets, solve(version.batter, Wishes(diets=diets), facts, profile))
        for name, version in demo_batters(facts)
        for diets in asked
    ]


def faults(case: Case, facts: AllFacts) -> list[str]:
    """What an answer breaks of what the grid promises; nothing for a case that was explained."""
    found = case.found
    if case.after is None:
        return [] if found.infeasible and found.infeasible.reasons and all(len(r) > 20 for r in found.infeasible.reasons) else ["silent"]
    before, after = found.base, case.after
    broken = [f"does not fit {d}" for d in case.diets if after.diets[d].verdict != "fits"]
    if before.water.yield_stress_pa and abs(after.water.yield_stress_pa / before.water.yield_stress_pa - 1) > 0.03:
        broken.append("flow")
    was, now = (a.lift.co2_ml_per_100g + 100 * a.lift.air_ml / a.batter_g for a in (before, after))
    low, high = facts.forms[after.batter.form].lift
    if abs(now - was) > 0.1 * was + 0.5 and not low <= now <= high:
        broken.append("lift")
    if after.setting.per_100g < min(facts.forms[after.batter.form].set_floor, before.setting.per_100g) - 1e-6:
        broken.append("set")
    return broken + usage_broken(after.batter, before.batter, facts)


def usage_broken(batter: Batter, base: Batter, facts: AllFacts) -> list[str]:
    """New ingredients used beyond what craft allows (a tenth of slack for rounding)."""
    bowl = fill(batter, facts)
    whole = {"flour": bowl.total("flour"), "liquid": bowl.total("liquid"), "batter": bowl.batter_g}
    had = {line.ingredient for line in base.lines}
    broken = []
    for p in bowl.portions:
        usages = [u for u in facts.craft.usages if u.ingredient == p.ingredient.id]
        if p.ingredient.id in had or not usages or (p.ingredient.id.endswith("_gf") and p.ingredient.id.removesuffix("_gf") in had):
            continue
        if all(p.grams > 1.1 * u.most * whole[u.basis] + 0.5 for u in usages):
            broken.append(f"too much {p.ingredient.short}")
    return broken


def _figure(value: float | None, digits: int) -> str:
    return "–" if value is None else f"{value:.{digits}f}"


def table(found: list[Case], facts: AllFacts) -> str:
    """The grid as Markdown."""
    rows = [
        "| batter | for | flow [cm] | lift [mL/100 g] | set | hydration [%] | flour [g] | fat [g] | protein [g] | sweetness [g] | closeness | |",
        "|---|---|---|---|---|---|---|---|---|---|---|---|",
    ]
    for case in found:
        diets = ", ".join(facts.diets[d].label.lower() for d in case.diets)
        if case.after is None:
            reasons = " ".join(case.found.infeasible.reasons) if case.found.infeasible else "silent"
            rows.append(f"| {case.batter} | {diets} | | | | | | | | | | **cannot:** {reasons} |")
            continue
        a, b = case.found.base, case.after
        pairs = [
            (a.water.spread_cm, b.water.spread_cm, 1),
            (a.lift.co2_ml_per_100g, b.lift.co2_ml_per_100g, 0),
            (a.setting.per_100g, b.setting.per_100g, 2),
            (a.water.hydration_pct, b.water.hydration_pct, 0),
            (fill(a.batter, facts).total("flour"), fill(b.batter, facts).total("flour"), 0),
            (a.ledger("fat").total, b.ledger("fat").total, 0),
            (a.nutrition.protein_g, b.nutrition.protein_g, 0),
            (a.ledger("sweetness").total, b.ledger("sweetness").total, 0),
        ]
        cells = " | ".join(f"{_figure(x, n)} → {_figure(y, n)}" for x, y, n in pairs)
        rows.append(f"| {case.batter} | {diets} | {cells} | {case.found.answers[0].score:.2f} | {'; '.join(faults(case, facts))} |")
    return "\n".join(rows)
