"""How many pieces, how big, how heavy when cooked (batter-science, section 5)."""

import math
from dataclasses import dataclass

from ..batter.bowl import Bowl
from ..batter.flow import DENSITY, TEST_ML, VOLUME_POWER
from .entry import Ledger, contributions
from .lift import Lift
from .water import Water

LEFT_IN_BOWL = 0.035
EARLY_HELD = 0.3  # of the gas set free before the pour, what the batter holds; a judgement
RISEN_DENSITY = 700.0  # kg/m³, risen crumb


@dataclass(frozen=True, slots=True, kw_only=True)
class Yield:
    """Pieces of a portion [mL]: so many whole ones and the share of a last small one; batter a piece [g]; diameter and
    risen thickness [cm] where the piece spreads freely; cooked grams a piece, from and to."""

    portion_ml: float
    portion_g: float
    density_g_per_ml: float
    whole: int
    last_share: float
    diameter_cm: float | None
    thickness_cm: float | None
    cooked_low_g: float
    cooked_high_g: float

    @property
    def pieces(self) -> float:
        """Whole pieces and the share of the last."""
        return self.whole + self.last_share


def yields(bowl: Bowl, w: Water, x: Lift) -> Yield:
    """The yield of a bowl: batter less what stays in it, by portion; volume from density with the gas already in it."""
    dense = DENSITY / 1000
    volume = bowl.batter_g / dense
    soda = bowl.total("soda")
    early = sum(p.grams * p.per.soda * p.ingredient.early_fraction for p in bowl.portions) / soda if soda > 0 else 0.0
    gas = x.air_ml + EARLY_HELD * early * x.co2_ml
    density = bowl.batter_g / (volume + gas) if volume > 0 else dense
    grams = bowl.portion_ml * density
    count = bowl.batter_g * (1 - LEFT_IN_BOWL) / grams if grams > 0 else 0.0
    whole = math.floor(count + 1e-6)
    diameter = thickness = None
    if w.spread_cm is not None and bowl.form.key in ("griddle", "crepe"):
        diameter = w.spread_cm * (bowl.portion_ml / TEST_ML) ** VOLUME_POWER
        thickness = bowl.portion_ml / (math.pi * (diameter / 2) ** 2) * DENSITY / RISEN_DENSITY
    low, high = bowl.form.evaporation
    return Yield(
        portion_ml=bowl.portion_ml,
        portion_g=grams,
        density_g_per_ml=density,
        whole=whole,
        last_share=max(0.0, count - whole),
        diameter_cm=diameter,
        thickness_cm=thickness,
        cooked_low_g=grams * (1 - high),
        cooked_high_g=grams * (1 - low),
    )


def yield_ledger(bowl: Bowl, y: Yield) -> Ledger:
    """Yield as a ledger: grams of batter by line, its mark the number of pieces."""
    last = f" and a small one of {y.last_share:.0%}" if y.last_share >= 0.1 else ""
    size = f", about {y.diameter_cm:.0f} cm across" if y.diameter_cm else ""
    return Ledger(
        key="yield", label="Pieces", unit="g batter", total=bowl.batter_g, per_100g=100.0 if bowl.batter_g else 0.0, mark=y.pieces, mark_unit="pieces", low=0.97 * y.pieces, high=1.03 * y.pieces, band=None, verdict="fits",
        reason=f"{y.whole} pieces of {y.portion_ml:g} mL{last}{size}; 3 to 4 % stays in the bowl.", contributions=contributions(bowl, lambda p: p.grams, "grams in the bowl"),
    )  # fmt: skip
