"""What an ingredient does in a batter, each function on a scale from 0 to 1: for the small marks of the Larder."""

from dataclasses import dataclass

from .coefficients import per_gram
from .ingredients import Ingredient

SOAKED = frozenset({"flax_meal", "chia_meal", "chia_seeds", "psyllium_husk", "psyllium_powder"})  # stirred into liquid first
WHOLE_EGGS = frozenset({"egg", "egg_uk_large"})
FOAMING = frozenset({"egg_white", "aquafaba"})  # whole: of an egg its white foams

LEAST = 0.08  # weaker than this is not worth a mark
# A gram that does so much of a thing does it fully: flax drinks 6 g, an egg sets 0.02, sugar sweetens 1.
_FULL = {
    "drinks": 4.0,
    "wets": 0.9,
    "sets": 0.03,
    "lifts": 3.0,
    "sours": 0.8,
    "sweetens": 1.0,
    "enriches": 0.85,
    "salts": 0.4,
    "browns": 1.0,
    "thickens": 1.0,
}


@dataclass(frozen=True, slots=True)
class Does:
    """One function and how strongly a gram of the ingredient does it, 1 being as strongly as anything in the table that lives
    from it."""

    function: str
    strength: float


def does(i: Ingredient) -> tuple[Does, ...]:
    """The functions of an ingredient, the strongest first, from the coefficients that the ledgers add up.

    Fully swollen: what a gram drinks after a long rest [g], brings as water [g], sets [egg-equivalents], lifts [mmol],
    sours [meq], sweetens [g sucrose], enriches [g fat], salts [g as tasted], browns [index].
    """
    p = per_gram(i, 1440.0)
    leavening = i.group == "leavener"
    amounts = {
        "drinks": p.bound, "wets": 0.0 if i.is_drinker else p.water, "sets": max(0.0, p.setting + p.gel), "lifts": p.soda,
        "sours": 0.0 if leavening else p.acid, "sweetens": p.sweet, "enriches": p.fat, "salts": p.salt_taste, "browns": p.brown,
        "thickens": p.thick,
    }  # fmt: skip
    marks = (Does(k, min(1.0, v / _FULL[k])) for k, v in amounts.items())
    return tuple(sorted((m for m in marks if m.strength >= LEAST), key=lambda m: -m.strength))
