"""Soda and powder in each other's place: computed from gas and acid, never spoon for spoon."""

from dataclasses import dataclass

from ..errors import CannotBe
from ..food.coefficients import per_gram
from ..food.ingredients import Ingredient
from ..roots import boundary
from .lift import ML_PER_MMOL, gas_ml


@dataclass(frozen=True, slots=True, kw_only=True)
class Swapped:
    """`grams` of the other leavening for the same gas [mL], the acid it leaves unmet or brings [meq], and what spoon for
    spoon would have given [mL]."""

    grams: float
    gas_ml: float
    acid_change_meq: float
    spoon_for_spoon_ml: float


def swap_leavening(old: Ingredient, grams: float, new: Ingredient, acid_meq: float = 0.0, buffer_meq: float = 0.0) -> Swapped:
    """Put `new` for `grams` [g] of `old`, with so much acid and buffer [meq] in the bowl; the gas stays the same.

    CannotBe where one of them is no leavening. Where acid is short, soda gives less gas than its bicarbonate, so its amount
    is found from the gas, not from the bicarbonate.
    """
    a, b = per_gram(old, 10.0), per_gram(new, 10.0)
    if a.soda <= 0 or b.soda <= 0:
        raise CannotBe(f"{old.name if a.soda <= 0 else new.name} is no leavening")

    def gas(grams_: float, soda: float, acid: float) -> float:
        return gas_ml(grams_ * soda, acid_meq + grams_ * acid, buffer_meq)

    wanted = gas(grams, a.soda, a.acid)
    low, _ = boundary(lambda g: gas(g, b.soda, b.acid) < wanted, 0.0, wanted / (0.3 * ML_PER_MMOL * b.soda) + 1.0)
    change = low * (b.acid - b.soda) - grams * (a.acid - a.soda)
    return Swapped(grams=low, gas_ml=wanted, acid_change_meq=change, spoon_for_spoon_ml=gas(grams, b.soda, b.acid))
