"""Water: who brings it, who drinks it, how the batter flows (batter-science, section 1)."""

import math
from collections.abc import Callable
from dataclasses import dataclass

from ..batter.bowl import Bowl, Portion
from ..batter.flow import Flow, kind_of, spread_from_stress, yield_stress
from ..food.ingredients import Ingredient
from .entry import Band, Contribution, Ledger, contributions

MOST_BOUND = 0.85  # of the free water there is; beyond it the drinkers lack water


@dataclass(frozen=True, slots=True, kw_only=True)
class Water:
    """The water ledger. Grams, mL, Pa, cm; `spread_cm` and `yield_stress_pa` None where water is missing."""

    total_g: float
    brought_g: float
    bound_g: float
    missing_g: float
    swollen_ml: float
    free_ml: float
    solids_fraction: float
    thickening: float
    yield_stress_pa: float | None
    spread_cm: float | None
    spread_low_cm: float | None
    spread_high_cm: float | None
    hydration_pct: float | None
    kind: str
    contributions: tuple[Contribution, ...]


def absorption_doubt(i: Ingredient) -> float:
    """Relative standard deviation of what a drinker takes up: as learned in this kitchen, else ±10 % for refined flours and ±20 % for
    thirsty ones, as two deviations."""
    if i.absorption_doubt is not None:
        return i.absorption_doubt
    return 0.05 if i.absorption_g_per_g < 1 else 0.10


def water(bowl: Bowl) -> Water:
    """The ledger of water for a bowl."""
    brought = sum(p.grams * p.per.water for p in bowl.portions if not p.ingredient.is_drinker and p.ingredient.group != "mix_in")
    demand = bowl.total("bound")
    bound = min(demand, MOST_BOUND * brought)
    missing = demand / MOST_BOUND - brought if demand > MOST_BOUND * brought + 1e-9 else 0.0
    flow = Flow(
        swollen_ml=bowl.total("swollen_dry") + bound,
        free_ml=bowl.total("free") - bound,
        wet_g=bowl.total("wet"),
        thick_g=bowl.total("thick"),
    )
    phi, theta = flow.solids_fraction, flow.thickening
    flour = bowl.total("flour")
    liquid_water = sum(p.grams * p.per.water for p in bowl.portions if not p.per.flour)
    tau = spread = low = high = None
    if missing <= 0 and bowl.batter_g > 0 and flow.swollen_ml > 0:
        tau = yield_stress(phi, theta)
        spread = spread_from_stress(tau)
        doubt = 2 * phi_doubt(bowl, phi, flow.swollen_ml + flow.free_ml, lambda p: p.sd)
        low = spread_from_stress(yield_stress(phi + doubt, theta))
        high = spread_from_stress(yield_stress(phi - doubt, theta))
    elif missing <= 0 and bowl.batter_g > 0:
        tau = max(0.0, yield_stress(0.0, theta))
        spread = low = high = spread_from_stress(tau)
    return Water(
        total_g=bowl.total("water"), brought_g=brought, bound_g=bound, missing_g=missing, swollen_ml=flow.swollen_ml, free_ml=flow.free_ml,
        solids_fraction=phi, thickening=theta, yield_stress_pa=tau, spread_cm=spread, spread_low_cm=low, spread_high_cm=high,
        hydration_pct=100 * liquid_water / flour if flour > 0 else None, kind=kind_of(spread),
        contributions=contributions(bowl, lambda p: 0.0 if p.ingredient.is_drinker else p.grams * p.per.water, "m · water share", "brings")
        + contributions(bowl, lambda p: -p.grams * p.per.bound, "m · absorption · (1 − exp(−2.303·t/t90))", "drinks"),
    )  # fmt: skip


def phi_doubt(bowl: Bowl, phi: float, whole: float, sd: Callable[[Portion], float]) -> float:
    """Standard deviation of φ from the amounts, each with its `sd` [g], and from the absorptions, to first order; `whole` is Vs + Vf [mL]."""
    variance = 0.0
    for p in bowl.portions:
        by_gram = ((1 - phi) * p.per.flow_solid - phi * p.per.flow_free) / whole
        by_thirst = p.grams * p.per.bound / whole
        variance += (by_gram * sd(p)) ** 2 + (by_thirst * absorption_doubt(p.ingredient)) ** 2
    return math.sqrt(variance)


def flow_ledger(bowl: Bowl, w: Water) -> Ledger:
    """Flow as a track: the spread of 60 mL, with the band of the form."""
    band = bowl.form.spread_cm
    if w.spread_cm is not None and any(p.foam_g for p in bowl.portions):
        verdict, reason = (
            "not measured",
            "A foamed batter does not spread as it flows: judge it by eye. The figure is the batter before its foam goes in.",
        )
    elif bowl.batter_g <= 0:
        verdict, reason = "not measured", "Nothing is in the bowl yet."
    elif w.spread_cm is None:
        verdict, reason = "short of water", f"The dry ingredients need {w.missing_g:.0f} g more water."
    elif w.spread_cm < 8:
        verdict, reason = "does not flow", "Stiffer than a spoon can pour."
    elif w.spread_cm > 18:
        verdict, reason = "too thin to measure", "Thinner than a plate can tell."
    elif w.spread_cm < band[0]:
        verdict, reason = (
            "stiff",
            f"60 mL spreads to {w.spread_cm:.1f} cm; {bowl.form.label}s work from {band[0]:g} cm.",
        )
    elif w.spread_cm > band[1]:
        verdict, reason = (
            "thin",
            f"60 mL spreads to {w.spread_cm:.1f} cm; {bowl.form.label}s work up to {band[1]:g} cm.",
        )
    else:
        verdict, reason = "fits", f"60 mL spreads to {w.spread_cm:.1f} cm on a cold plate."
    return Ledger(
        key="flow", label="Flow", unit="g water", total=w.brought_g - w.bound_g, per_100g=bowl.per_100g(w.brought_g - w.bound_g), mark=w.spread_cm, mark_unit="cm",
        low=w.spread_low_cm, high=w.spread_high_cm, band=Band(*band), verdict=verdict, reason=reason, contributions=w.contributions,
    )  # fmt: skip
