"""A batter in another size: by a factor, by pieces, by eggs, by the area of a pan, by what an iron takes, made up to a volume, or to fill a tray."""

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..balances.lift import lift
from ..balances.setting import setting
from ..balances.water import water
from ..balances.yields import LEFT_IN_BOWL, yields
from ..batter.batter import Batter, BatterLine, Tray
from ..batter.bowl import fill
from ..batter.main_liquid import main_liquid
from ..errors import CannotBe
from ..food.functions import WHOLE_EGGS
from .facts import AdaptFacts
from .rounding import settle

Length = Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)]
EGG_RICH, DOUBLED = 0.35, 1.9  # share of the set from eggs, and factor, from which some leave a yolk out


class Pan(BaseModel):
    """A pan or tray by its sides [cm]: round (diameter), square (side), tray (two sides)."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    shape: Literal["round", "square", "tray"]
    a: Length
    b: Length | None = None

    @property
    def as_tray(self) -> Tray:
        """A tray of its sides; of a round one, a square of the same area."""
        side = math.sqrt(self.area_cm2)
        return Tray(width=self.a, length=self.b or self.a) if self.shape == "tray" else Tray(width=side, length=side)

    @property
    def area_cm2(self) -> float:
        """Its area [cm²].

        >>> round(Pan(shape="round", a=20).area_cm2)
        314
        """
        if self.shape == "round":
            return math.pi * (self.a / 2) ** 2
        return self.a * (self.b if self.shape == "tray" and self.b else self.a)


class Size(BaseModel):
    """How the size is asked for. `amount` is the factor, the pieces, the eggs, the loads of the iron, the volume [mL] the batter is made up
    to, or how deep it is poured into the tray [cm]; `iron_ml` what one load takes [mL]; two pans, the batter's own and the other one,
    which is also the tray that is filled."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    by: Literal["factor", "pieces", "eggs", "pan", "iron", "volume", "tray"]
    amount: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)] = 1.0
    iron_ml: Annotated[float | None, Field(gt=1, le=5000, allow_inf_nan=False)] = None
    own_pan: Pan | None = None
    pan: Pan | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Scaled:
    """One way to scale: the factor, the batter, and what is particular to it."""

    label: str
    factor: float
    batter: Batter


def scale(batter: Batter, size: Size, facts: AdaptFacts) -> tuple[Scaled, ...]:
    """The batter in the size asked for, the straight way first; with whole eggs, and with a yolk less where some would.

    CannotBe where the batter has no eggs to go by, or a pan or the iron's capacity is missing, or the size is over a tonne.
    """
    factor, portion = _factor(batter, size, facts)
    if not 1e-3 <= factor <= 1000:
        raise CannotBe("that size is out of reach")
    servings = None if batter.servings is None else batter.servings * factor
    straight = batter.scaled(factor).model_copy(update={"servings": servings, "portion_ml": portion or batter.portion_ml})
    if size.by == "tray" and size.pan is not None:
        straight = straight.model_copy(update={"tray": size.pan.as_tray, "form": "tray"})
    found = [Scaled(label="straight", factor=factor, batter=straight)]
    egg = facts.ingredients["egg"]
    eggs = sum(line.grams for line in straight.lines if line.ingredient == "egg" and line.counts) / (egg.unit_g or 50.0)
    if eggs > 0 and abs(eggs - round(eggs)) > 0.05:
        found.append(
            Scaled(label="eggs to whole ones, the liquid follows", factor=factor, batter=_whole_eggs(straight, max(1, round(eggs)), facts))
        )
    share = setting(fill(batter, facts)).egg_share
    if factor >= DOUBLED and batter.form == "waffle" and share > EGG_RICH and eggs >= 2:
        found.append(Scaled(label="one yolk less, as some do", factor=factor, batter=_yolk_less(straight, facts)))
    return tuple(found)


def _factor(batter: Batter, size: Size, facts: AdaptFacts) -> tuple[float, float | None]:
    bowl = fill(batter, facts)
    y = yields(bowl, water(bowl), lift(bowl))
    if size.by == "factor":
        return size.amount, None
    if size.by == "eggs":
        egg = facts.ingredients["egg"].unit_g or 50.0
        eggs = sum(p.grams for p in bowl.portions if p.ingredient.id in WHOLE_EGGS) / egg
        if eggs <= 0:
            raise CannotBe("there is no whole egg in this batter to go by")
        return size.amount / eggs, None
    if size.by == "pan":
        if size.pan is None or size.own_pan is None:
            raise CannotBe("both pans are needed, the batter's own and the other")
        return size.pan.area_cm2 / size.own_pan.area_cm2, None
    if bowl.batter_g <= 0:
        raise CannotBe("there is nothing in the bowl")
    if size.by in ("volume", "tray"):
        if size.by == "tray" and size.pan is None:
            raise CannotBe("the tray's sides are missing")
        wanted_ml = size.amount if size.by == "volume" else size.amount * size.pan.area_cm2 if size.pan else 0.0
        kept = 1.0 if size.by == "volume" else 1 - LEFT_IN_BOWL  # a volume is what stands in the bowl
        return wanted_ml * y.density_g_per_ml / kept / bowl.batter_g, None
    if size.by == "iron":
        if size.iron_ml is None:
            raise CannotBe("what the iron takes is missing")
        wanted = size.amount * size.iron_ml * y.density_g_per_ml / (1 - LEFT_IN_BOWL)
        return wanted / bowl.batter_g, size.iron_ml
    return size.amount / y.pieces, None


def _whole_eggs(batter: Batter, eggs: int, facts: AdaptFacts) -> Batter:
    """Eggs brought to a whole number; the main liquid takes up the difference, so that the batter flows as it did."""
    grams = eggs * (facts.ingredients["egg"].unit_g or 50.0)
    now = sum(line.grams for line in batter.lines if line.ingredient == "egg" and line.counts)
    lines = [_times(line, grams / now) if line.ingredient == "egg" and line.counts else line for line in batter.lines]
    bowl = fill(batter, facts)
    stress = water(bowl).yield_stress_pa
    places = [at for at, line in enumerate(lines) if line.counts and line.grams > 0]
    main = main_liquid((at, facts.ingredients[lines[at].ingredient or ""], lines[at].grams) for at in places)
    if stress is None or main is None:
        return batter.model_copy(update={"lines": tuple(lines)})
    portions = [(facts.ingredients[lines[at].ingredient or ""], lines[at].grams) for at in places]
    poured = settle(portions, places.index(main), stress, bowl.rest_min)
    lines[main] = _times(lines[main], poured / lines[main].grams)
    return batter.model_copy(update={"lines": tuple(lines)})


def _yolk_less(batter: Batter, facts: AdaptFacts) -> Batter:
    yolk = facts.ingredients["egg_yolk"].unit_g or 17.0
    white = facts.ingredients["egg_white"].unit_g or 33.0
    lines, taken = [], False
    for line in batter.lines:
        if line.ingredient == "egg" and line.counts and not taken and line.grams > yolk + white:
            taken = True
            lines.append(_times(line, (line.grams - yolk - white) / line.grams))
            lines.append(
                BatterLine(
                    text=f"{white:g} g egg white",
                    ingredient="egg_white",
                    grams=white,
                    low=0.9 * white,
                    high=1.1 * white,
                    states=line.states,
                )
            )
        else:
            lines.append(line)
    return batter.model_copy(update={"lines": tuple(lines)})


def _times(line: BatterLine, factor: float) -> BatterLine:
    return line.model_copy(update={"grams": line.grams * factor, "low": line.low * factor, "high": line.high * factor})
