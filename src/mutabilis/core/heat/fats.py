"""What a surface can be greased with, for the guests that will eat from it."""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass

from ..diets.packs import PackReading
from ..diets.rules import DietRule
from ..diets.verdicts import WORST, Verdict, judge_ingredient, worst
from ..measures.profile import Profile
from .facts import HeatFacts


@dataclass(frozen=True, slots=True, kw_only=True)
class Fat:
    """A fat to grease with, whether the guests' diets let it pass, and where it begins to smoke [°C]."""

    id: str
    name: str
    verdict: Verdict
    smokes_c: float | None


def fats_offered(
    facts: HeatFacts,
    rules: Iterable[DietRule],
    profile: Profile,
    readings: Mapping[str, PackReading],
    stock: Collection[str],
    celsius: float,
) -> tuple[Fat, ...]:
    """Fats for a surface of `celsius` [°C], the one to take first: each judged for the guests, for what is on the pan is eaten too. What the
    guests can have comes first, then what does not smoke at this heat, then what is in the Larder."""
    rules = tuple(rules)
    found = []
    for id_, smokes in facts.heat.smoke.items():
        i = facts.ingredients[id_]
        verdict = worst(judge_ingredient(i, rule, profile, readings.get(id_))[0] for rule in rules)
        found.append(Fat(id=id_, name=i.short, verdict=verdict, smokes_c=smokes))
    return tuple(sorted(found, key=lambda f: (WORST.index(f.verdict), (f.smokes_c or 999.0) <= celsius, f.id not in stock, f.name)))
