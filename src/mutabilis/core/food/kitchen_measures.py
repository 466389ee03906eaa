"""Grams back into the kitchen's own cups, spoons and pieces, in steps that they have."""

from typing import Literal

from ..measures.profile import Profile
from .ingredients import Ingredient

_QUARTERS = {0: "", 1: "1/4", 2: "1/2", 3: "3/4"}
_CUP_PARTS = ((0.25, "1/4"), (1 / 3, "1/3"), (0.5, "1/2"), (2 / 3, "2/3"), (0.75, "3/4"), (1.0, ""))


def measure(i: Ingredient, grams: float, profile: Profile) -> str:
    """`grams` of an ingredient [g] as a cook would measure it; "" where it has no sensible measure.

    Cups from a quarter up, spoons in quarters; whole eggs by number. A measure that is more than 6 % off says "scant" or
    "generous".
    """
    if grams <= 0:
        return ""
    if i.group == "egg" and i.unit_g:
        count = grams / i.unit_g
        if abs(count - round(count)) < 0.04 and round(count) > 0:
            n, name = round(count), i.unit_name
            return f"{n} {name}{'s' if n > 1 else ''}"
        return f"{count:.1f} {i.unit_name}s"
    if not i.has_measures:
        return ""
    ml_cup, ml_tbsp, ml_tsp = (one_of(i, key, profile) for key in ("cup", "tbsp", "tsp"))
    if i.cup_g and grams >= 0.24 * ml_cup and i.group not in ("leavener", "binder", "salt"):
        return _cups(grams / ml_cup, ml_cup / ml_tbsp)
    if (
        grams >= 1.9 * ml_tbsp
        or abs(grams / ml_tbsp - 1) < 0.06
        or (i.group not in ("leavener", "salt") and abs(grams / ml_tbsp - 1.5) < 0.1)
    ):
        return _steps(grams / ml_tbsp, 2, "tbsp")
    if grams >= 0.2 * ml_tsp:
        return _steps(grams / ml_tsp, 4, "tsp")
    if grams >= 0.09 * ml_tsp:
        return "1/8 tsp"
    return "a pinch"


def one_of(i: Ingredient, key: Literal["cup", "tbsp", "tsp"], profile: Profile) -> float:
    """Grams of an ingredient in one cup or spoon of this kitchen."""
    return i.grams_per_ml(key)[0] * {"cup": profile.cup_ml, "tbsp": profile.tbsp_ml, "tsp": profile.tsp_ml}[key]


def _cups(cups: float, spoons_in_cup: float) -> str:
    whole = int(cups + 1e-9)
    rest = cups - whole
    parts = ((0.0, ""), *_CUP_PARTS)
    part, name = min(parts, key=lambda p: abs(p[0] - rest))
    if (whole + part - cups) * spoons_in_cup > 1 and whole + part > 0.25:  # more than a spoon short of it: the part below, and spoons
        part, name = max(p for p in parts if p[0] < part)
    if part == 1.0:
        whole, part, name = whole + 1, 0.0, ""
    told = whole + part
    left = (cups - told) * spoons_in_cup
    text = " ".join(x for x in (str(whole) if whole else "", name) if x) + (" cup" if told <= 1 else " cups")
    if left >= 0.75:
        return f"{text} + {_steps(left, 1, 'tbsp')}"
    if left <= -0.75 or (cups - told) / told < -0.06:
        return f"scant {text}"
    return f"generous {text}" if (cups - told) / told > 0.06 else text


def _steps(amount: float, per_one: int, unit: str) -> str:
    steps = max(1, round(amount * per_one))
    whole, part = divmod(steps, per_one)
    fraction = _QUARTERS[part * (4 // per_one)]
    told = steps / per_one
    text = " ".join(x for x in (str(whole) if whole else "", fraction) if x) + f" {unit}"
    if amount / told < 0.92:
        return f"scant {text}"
    return f"generous {text}" if amount / told > 1.08 else text
