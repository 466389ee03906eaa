"""Set: what holds the piece together (batter-science, section 3)."""

import math
from dataclasses import dataclass

from ..batter.bowl import Bowl, Portion
from .entry import Band, Contribution, Ledger, contributions, spread_of

GEL_MOST = 0.012  # egg-equivalents per g of flour that flax, chia, psyllium and gums can bring together
RUBBERY = 1.15  # egg-equivalents per 100 g batter
NO_FLOUR = 99.0  # eggs to 40 g flour: as many as are told, also where there is no flour at all
EGG_RICH_G = 40.0  # more than one egg to so much flour [g], with half the set from eggs: no replacer carries it


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """The set ledger in egg-equivalents (one large egg of 50 g is 1)."""

    egg_equivalents: float
    per_100g: float
    egg_share: float
    eggs_per_40g_flour: float
    egg_dependent: bool
    verdict: str
    contributions: tuple[Contribution, ...]


def gel_set(gel: float, flour_g: float) -> float:
    """What gels that would each bring `gel` egg-equivalents bring together: M·(1 − exp(−x/M)), M = 1.2 per 100 g flour.

    >>> gel_set(0.0, 200.0)
    0.0
    """
    most = GEL_MOST * flour_g
    return most * (1 - math.exp(-gel / most)) if most > 0 else 0.0


def setting(bowl: Bowl) -> Setting:
    """The ledger of set for a bowl."""
    gel, flour = bowl.total("gel"), bowl.total("flour")
    gels = gel_set(gel, flour)
    share = gels / gel if gel > 0 else 0.0
    total = max(0.0, bowl.total("setting") + gels)

    def amount(p: Portion) -> float:
        return p.grams * (p.per.setting + p.per.gel * share)

    eggs = sum(amount(p) for p in bowl.portions if p.ingredient.group == "egg" or p.ingredient.id == "egg_white_powder")
    positive = sum(max(0.0, amount(p)) for p in bowl.portions)
    egg_share = eggs / positive if positive > 0 else 0.0
    per = bowl.per_100g(total)
    carried = flour + sum(p.grams for p in bowl.portions if p.ingredient.group == "protein_powder" and p.ingredient.animal != "egg")
    rich = eggs * EGG_RICH_G / carried if carried > 0 else (math.inf if eggs else 0.0)
    verdict = "weak" if per < bowl.form.set_floor else "rubbery" if per > RUBBERY else "fits"
    return Setting(
        egg_equivalents=total, per_100g=per, egg_share=egg_share, eggs_per_40g_flour=min(rich, NO_FLOUR), egg_dependent=egg_share > 0.5 and rich > 1.0, verdict=verdict,
        contributions=contributions(bowl, amount, "m · egg-equivalents per g; gels saturate together; gluten 0.0095 · strength per g flour"),
    )  # fmt: skip


def set_ledger(bowl: Bowl, x: Setting) -> Ledger:
    """Set as a track: egg-equivalents per 100 g batter."""
    floor, comfort = bowl.form.set_floor, bowl.form.set_comfort
    reason = {
        "weak": f"Below {floor:g}: it will not hold together.",
        "rubbery": f"Above {RUBBERY:g}: rubbery.",
        "fits": "Holds." if x.per_100g >= comfort else f"Holds, with little to spare; comfortable from {comfort:g}.",
    }[x.verdict]
    # The set powers are judgements for the most part: about a fifth either way, besides the amounts.
    doubt = math.hypot(0.2 * x.per_100g, 2 * bowl.per_100g(spread_of(bowl, lambda p: p.per.setting + p.per.gel)))
    return Ledger(
        key="set", label="Set", unit="egg-equivalents", total=x.egg_equivalents, per_100g=x.per_100g, mark=x.per_100g, mark_unit="egg/100 g", low=max(0.0, x.per_100g - doubt),
        high=x.per_100g + doubt, band=Band(floor, RUBBERY), verdict=x.verdict, reason=reason, contributions=x.contributions,
    )  # fmt: skip
