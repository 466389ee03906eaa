"""Water: who brings it, who drinks it, how the batter flows (batter-science, section 1)."""

import math
from dataclasses import dataclass

from ..batter.bowl import Bowl
from ..errors import CannotBe
from ..food.ingredients import Ingredient
from .entry import Band, Contribution, Ledger, contributions

G = 9.81
DENSITY = 1050.0  # kg/m³, batter as it is poured
WETTING = 0.005  # N/m, the edge term of Roussel and Coussot (2005)
TEST_ML = 60.0
MOST_BOUND = 0.85  # of the free water there is; beyond it the drinkers lack water
VOLUME_POWER = 0.4  # a spread grows with the volume to this power
PHI_0, TAU_0, STEEP, OFFSET, THICK = 0.48, 3.0, 12.0, 0.5, 3.0


@dataclass(frozen=True, slots=True)
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


def yield_stress(phi: float, theta: float) -> float:
    """Yield stress [Pa] of a batter with solids fraction φ and thickening θ of its liquid.

    τ = [3.0·exp(12·(φ − 0.48)) + 0.5]·exp(3·θ) − 0.5; fitted to some two dozen batters, medium sure.
    """
    return (TAU_0 * math.exp(STEEP * (phi - PHI_0)) + OFFSET) * math.exp(THICK * theta) - OFFSET


def solids_for(tau: float, theta: float) -> float | None:
    """The solids fraction at which the yield stress is `tau` [Pa]; None where the liquids alone are too thick.

    The inverse of `yield_stress`:

    >>> round(solids_for(yield_stress(0.5, 0.2), 0.2), 6)
    0.5
    """
    bracket = (tau + OFFSET) * math.exp(-THICK * theta) - OFFSET
    return PHI_0 + math.log(bracket / TAU_0) / STEEP if bracket > 0 else None


def stress_from_spread(diameter_cm: float, volume_ml: float = TEST_ML) -> float:
    """Yield stress [Pa] from a measured spread [cm] of a volume [mL] on a level, cold plate.

    τ = 225·ρ·g·V²/(128·π²·R⁵) − λ·R²/V (Roussel and Coussot 2005, J. Rheol. 49, 705). Holds for about 9 to 17 cm.
    """
    if not diameter_cm > 0 or not volume_ml > 0:
        raise CannotBe("a spread and a volume are above nought")
    radius, volume = diameter_cm / 200, volume_ml * 1e-6
    return 225 * DENSITY * G * volume**2 / (128 * math.pi**2 * radius**5) - WETTING * radius**2 / volume


def spread_from_stress(tau: float, volume_ml: float = TEST_ML) -> float:
    """Spread [cm] at which a volume [mL] of yield stress `tau` [Pa] comes to rest: the same relation, solved for R.

    >>> round(spread_from_stress(stress_from_spread(12.5)), 6)
    12.5
    """
    volume = volume_ml * 1e-6
    pull, edge = 225 * DENSITY * G * volume**2 / (128 * math.pi**2), WETTING / volume
    # Newton on ln R, from where the edge term alone would hold the batter or the stress alone: τ falls as R grows.
    x = min(math.log(pull / max(tau, 1e-9)) / 5, math.log(pull / edge) / 7)
    for _ in range(30):
        falling, rising = pull * math.exp(-5 * x), edge * math.exp(2 * x)
        step = (falling - rising - tau) / (5 * falling + 2 * rising)
        x += step
        if abs(step) < 1e-12:
            break
    return 200 * math.exp(x)


def kind_of(spread_cm: float | None) -> str:
    """dough, thick, griddle or crepe, by the spread of 60 mL [cm]."""
    if spread_cm is None or spread_cm < 8:
        return "dough"
    if spread_cm < 10.5:
        return "thick"
    return "griddle" if spread_cm < 15.5 else "crepe"


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
    swollen = bowl.total("swollen_dry") + bound
    free = bowl.total("free") - bound
    whole = swollen + free
    phi = swollen / whole if whole > 0 else 0.0
    wet = bowl.total("wet")
    theta = bowl.total("thick") / wet if wet > 0 else 0.0
    flour = bowl.total("flour")
    liquid_water = sum(p.grams * p.per.water for p in bowl.portions if not p.per.flour)
    tau = spread = low = high = None
    if missing <= 0 and bowl.batter_g > 0 and swollen > 0:
        tau = yield_stress(phi, theta)
        spread = spread_from_stress(tau)
        doubt = 2 * _phi_doubt(bowl, phi, whole)
        low = spread_from_stress(yield_stress(phi + doubt, theta))
        high = spread_from_stress(yield_stress(phi - doubt, theta))
    elif missing <= 0 and bowl.batter_g > 0:
        tau = max(0.0, yield_stress(0.0, theta))
        spread = low = high = spread_from_stress(tau)
    return Water(
        total_g=bowl.total("water"), brought_g=brought, bound_g=bound, missing_g=missing, swollen_ml=swollen, free_ml=free,
        solids_fraction=phi, thickening=theta, yield_stress_pa=tau, spread_cm=spread, spread_low_cm=low, spread_high_cm=high,
        hydration_pct=100 * liquid_water / flour if flour > 0 else None, kind=kind_of(spread),
        contributions=contributions(bowl, lambda p: 0.0 if p.ingredient.is_drinker else p.grams * p.per.water, "m · water share", "brings")
        + contributions(bowl, lambda p: -p.grams * p.per.bound, "m · absorption · (1 − exp(−2.303·t/t90))", "drinks"),
    )  # fmt: skip


def _phi_doubt(bowl: Bowl, phi: float, whole: float) -> float:
    """Standard deviation of φ from amounts and absorptions, to first order."""
    variance = 0.0
    for p in bowl.portions:
        by_gram = ((1 - phi) * p.per.flow_solid - phi * p.per.flow_free) / whole
        by_thirst = p.grams * p.per.bound / whole
        variance += (by_gram * p.sd) ** 2 + (by_thirst * absorption_doubt(p.ingredient)) ** 2
    return math.sqrt(variance)


def flow_ledger(bowl: Bowl, w: Water) -> Ledger:
    """Flow as a track: the spread of 60 mL, with the band of the form."""
    band = bowl.form.spread_cm
    if w.spread_cm is not None and any(p.foam_g for p in bowl.portions):
        verdict, reason = (
            "not measured",
            "A foamed batter does not spread as it flows: judge it by eye. The figure is the batter before its foam goes in.",
        )
    elif w.spread_cm is None:
        verdict, reason = "short of water", f"The drinkers lack {w.missing_g:.0f} g of water."
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
        "flow", "Flow", "g water", w.brought_g - w.bound_g, bowl.per_100g(w.brought_g - w.bound_g), w.spread_cm, "cm",
        w.spread_low_cm, w.spread_high_cm, Band(*band), verdict, reason, w.contributions,
    )  # fmt: skip
