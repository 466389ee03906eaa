"""How much of the liquid to hold back (batter-science, section 8): amounts are uncertain, so is the liquid they need."""

from dataclasses import dataclass
from typing import Literal

from ..batter.bowl import Bowl
from ..batter.main_liquid import main_liquid
from ..food.ingredients import LIQUIDS, Ingredient
from .water import phi_doubt, water

Way = Literal["scale", "cups"]
ONE_SIDED = 1.645  # 19 of 20, on one side
# Relative standard deviations by measure: half of the ± of section 8.
_CUPS = {"flour": 0.05, "egg": 0.05, "fruit": 0.10, "liquid": 0.015, "other": 0.04}
_SCALE_G = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldBack:
    """Pour `pour_g` of the liquid [g] at once, keep `hold_g` back; `plan_g` is what is planned, `enough_g` what is enough in
    19 of 20 bowls."""

    ingredient: str
    name: str
    plan_g: float
    pour_g: float
    hold_g: float
    enough_g: float


def hold_back(bowl: Bowl, way: Way) -> HoldBack | None:
    """What to hold back of the main liquid, weighing or by cups; None where nothing flows or no liquid is there.

    The liquid that meets the target varies as σ_L = σ_φ / |∂φ/∂L|, with σ_φ from amounts and absorptions to first order.
    """
    at = main_liquid((n, p.ingredient, p.grams) for n, p in enumerate(bowl.portions))
    w = water(bowl)
    if at is None or w.yield_stress_pa is None:
        return None
    main = bowl.portions[at]
    whole, phi = w.swollen_ml + w.free_ml, w.solids_fraction
    sigma_phi = phi_doubt(bowl, phi, whole, lambda p: 0.0 if p is main else measured_sd(p.ingredient, p.grams, way))
    slope = phi * main.per.flow_free / whole  # how much φ falls for a gram of the liquid
    if slope <= 0:
        return None
    sigma = sigma_phi / slope
    pour = max(0.0, main.grams - ONE_SIDED * sigma)
    enough = main.grams + ONE_SIDED * sigma
    return HoldBack(
        ingredient=main.ingredient.id, name=main.ingredient.short, plan_g=main.grams, pour_g=pour, hold_g=main.grams - pour, enough_g=enough
    )


def measured_sd(i: Ingredient, grams: float, way: Way) -> float:
    """Standard deviation [g] of `grams` of an ingredient [g] as it will be, or was, measured."""
    if way == "scale":
        return min(_SCALE_G, 0.05 * grams)
    if i.is_flour:
        kind = "flour"
    elif i.group == "egg":
        kind = "egg"
    elif i.group in ("fruit_puree", "vegetable"):
        kind = "fruit"
    else:
        kind = "liquid" if i.group in LIQUIDS else "other"
    return _CUPS[kind] * grams
