"""How a batter flows: from its solids to its yield stress, and from that to the spread of a spoonful (batter-science, section 1)."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from ..errors import CannotBe
from ..food.coefficients import PerGram

G = 9.81
DENSITY = 1050.0  # kg/m³, batter as it is poured
WETTING = 0.005  # N/m, the edge term of Roussel and Coussot (2005)
TEST_ML = 60.0
VOLUME_POWER = 0.4  # a spread grows with the volume to this power
PHI_0 = 0.48
TAU_0 = 3.0
STEEP = 12.0
OFFSET = 0.5
THICK = 3.0


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
        raise CannotBe("a spread and a volume are above 0")
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Flow:
    """What flows: the swollen solids and the free liquid [mL], the liquids that share in the thickening [g], and their thickening [g]."""

    swollen_ml: float
    free_ml: float
    wet_g: float
    thick_g: float

    @property
    def solids_fraction(self) -> float:
        """φ = Vs/(Vs + Vf); 0 of nothing."""
        whole = self.swollen_ml + self.free_ml
        return self.swollen_ml / whole if whole > 0 else 0.0

    @property
    def thickening(self) -> float:
        """θ = Σ m·thick/Σ m·wet; 0 where there is no liquid."""
        return self.thick_g / self.wet_g if self.wet_g > 0 else 0.0

    @property
    def stress_pa(self) -> float | None:
        """Its yield stress [Pa]; None where nothing is free to flow."""
        if self.free_ml <= 0 or self.swollen_ml + self.free_ml <= 0:
            return None
        return yield_stress(self.solids_fraction, self.thickening)


def flow_of(parts: Iterable[tuple[float, PerGram]]) -> Flow:
    """The flow of grams [g] with what a gram of each does."""
    swollen = free = wet = thick = 0.0
    for grams, per in parts:
        swollen += grams * per.flow_solid
        free += grams * per.flow_free
        wet += grams * per.wet
        thick += grams * per.thick
    return Flow(swollen_ml=swollen, free_ml=free, wet_g=wet, thick_g=thick)
