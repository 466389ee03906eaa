"""Amounts as a scale or a spoon can follow them, with the balance made good in what is left."""

from collections.abc import Sequence

from ..batter.flow import flow_of
from ..food.coefficients import per_gram
from ..food.ingredients import Ingredient
from ..measures.profile import Profile
from ..roots import boundary

# What does its work in pinches, so that a gram is much.
IN_PINCHES = frozenset({"leavener", "salt", "binder", "intense_sweetener", "flavour", "acid"})


def step_for(i: Ingredient, grams: float) -> float:
    """The step a kitchen scale can follow [g]: a gram, a half below ten, a tenth for what works in pinches."""
    if i.group in IN_PINCHES or grams < 3:
        return 0.01 if grams < 0.3 else 0.1
    return 0.5 if grams < 10 else 1.0


def to_step(i: Ingredient, grams: float) -> float:
    """`grams` in the step of `step_for` [g]."""
    step = step_for(i, grams)
    return round(round(grams / step) * step, 3)


def stress_of(portions: Sequence[tuple[Ingredient, float]], rest_min: float) -> float:
    """Yield stress [Pa] of a list of ingredients and grams; infinite where nothing is free to flow."""
    found = flow_of((g, per_gram(i, rest_min)) for i, g in portions).stress_pa
    return float("inf") if found is None else found


def settle(portions: list[tuple[Ingredient, float]], liquid: int, tau: float, rest_min: float, step: float = 1.0) -> float:
    """Grams of the portion at index `liquid` that bring the stress nearest to `tau` [Pa], in steps of `step` [g]; every
    other amount stays. Bisection: more liquid never thickens, save where the liquid is itself a thickener."""
    ingredient, now = portions[liquid]

    def stress(grams: float) -> float:
        return stress_of([*portions[:liquid], (ingredient, grams), *portions[liquid + 1 :]], rest_min)

    low, high = 0.0, 3 * now + 50
    if not stress(low) >= tau >= stress(high):
        return to_step(ingredient, now)
    low, _ = boundary(lambda grams: stress(grams) > tau, low, high)
    down = int(low / step) * step
    nearest: float = min((down, down + step), key=lambda g: abs(stress(g) - tau))
    return round(nearest, 3)


def to_kitchen(i: Ingredient, grams: float, profile: Profile) -> float:
    """`grams` [g] in the steps of a spoon set: eighths of a tea spoon for soda, quarters for what works in pinches, half
    table spoons, table spoons from a quarter cup up; whole eggs."""
    if grams <= 0:
        return 0.0
    if i.group == "egg" and i.unit_g:
        return max(1, round(grams / i.unit_g)) * i.unit_g
    tsp = i.grams_per_ml("tsp")[0] * profile.tsp_ml
    tbsp = i.grams_per_ml("tbsp")[0] * profile.tbsp_ml
    if i.group in IN_PINCHES:
        step = tsp / (8 if i.soda_fraction > 0.8 or grams < tsp else 4)
    elif grams < 4 * tbsp:
        step = tbsp / 2
    else:
        step = tbsp
    return round(max(1, round(grams / step)) * step, 3)


def liquid_step(i: Ingredient, profile: Profile) -> float:
    """The finest step a liquid is measured in, a tea spoon [g]."""
    return i.grams_per_ml("tsp")[0] * profile.tsp_ml
