"""The bowl: what really goes in, resolved and weighed, ready for the ledgers."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from ..food.coefficients import PerGram, per_gram
from ..food.functions import FOAMING, WHOLE_EGGS
from ..food.ingredients import Confidence, Ingredient
from .batter import ROOM_C, Batter, BatterLine, Form
from .facts import BatterFacts
from .told_rest import told_rest

BLENDER_MIN = 10.0
SCALDING = 1.5  # g of boiling liquid that turn the starch of a gram of meal to paste (kitchen practice; a judgement)


@dataclass(frozen=True, slots=True, kw_only=True)
class Portion:
    """One line in the bowl: `grams` with a standard deviation `sd` [g], and what a gram of it does; `foam_g` [g] of it is whipped to foam."""

    line: int
    ingredient: Ingredient
    grams: float
    sd: float
    confidence: Confidence
    foam_g: float
    per: PerGram


@dataclass(frozen=True, slots=True, kw_only=True)
class Bowl:
    """All portions, their sum [g], the form and the rest [min]; `flat` where a lack of lift is wished."""

    portions: tuple[Portion, ...]
    batter_g: float
    form: Form
    rest_min: float
    portion_ml: float
    pace: float = 1.0
    flat: bool = False
    _totals: dict[str, float] = field(default_factory=dict, compare=False, repr=False)

    @property
    def age_min(self) -> float:
        """The rest as the leavening feels it [min]: longer in a warm kitchen, shorter in the cold."""
        return self.rest_min * self.pace

    def total(self, key: str) -> float:
        """Σ m·coefficient over the bowl, in the unit of the coefficient."""
        known = self._totals.get(key)
        if known is None:
            known = self._totals[key] = float(sum([p.grams * getattr(p.per, key) for p in self.portions]))
        return known

    def per_100g(self, amount: float) -> float:
        """An amount per 100 g of batter; 0 for an empty bowl."""
        return 100 * amount / self.batter_g if self.batter_g > 0 else 0.0


def fill(batter: Batter, facts: BatterFacts, where: str = "batter") -> Bowl:
    """The bowl of a batter, or what is on its plate. Unresolved lines stay out; unknown ids raise NotKnown."""
    form = facts.forms[batter.form]
    rest = rest_of(batter, form)
    pace = pace_at(batter.rest_c)
    portions = tuple(_portions(batter.lines, where, facts, drinking_minutes(rest, pace, batter.blender)))
    return Bowl(
        portions=portions,
        batter_g=sum(p.grams for p in portions),
        form=form,
        rest_min=rest,
        portion_ml=batter.portion_ml or form.portion_ml,
        pace=pace,
        flat=batter.flat,
    )


def rest_of(batter: Batter, form: Form) -> float:
    """The rest [min]: as the cook set it, else as the recipe's own words ask, else as the form takes it."""
    if batter.rest_min is not None:
        return batter.rest_min
    told = told_rest(batter.lines)
    return form.rest_min if told is None else told


def pace_at(celsius: float) -> float:
    """How fast swelling and leavening go at a temperature [°C], against 21 °C: twice for every ten degrees (the usual rule
    of thumb for both, medium sure).

    >>> pace_at(21.0), round(pace_at(4.0), 2)
    (1.0, 0.31)
    """
    return float(2 ** ((celsius - ROOM_C) / 10))


def drinking_minutes(rest_min: float, pace: float, blender: bool) -> float:
    """The rest as the drinkers feel it [min]. A blender does in its half-minute what a bowl does in ten (kitchen practice)."""
    return rest_min * pace + (BLENDER_MIN if blender else 0.0)


def scalded(lines: Iterable[BatterLine], facts: BatterFacts) -> float:
    """The share of the flours' starch that boiling liquid turns to paste: 1 where each gram finds 1.5 g of water in it, or was scalded before."""
    boiling = flour = before = 0.0
    for line in lines:
        if not line.counts:
            continue
        i = facts.ingredients[line.ingredient or ""]
        if i.is_flour:
            flour += line.grams
            before += line.grams if "scalded" in line.states else 0.0
        elif "boiling" in line.states:
            boiling += line.grams * i.water_g / 100  # hot fat turns no starch to paste
    return round(min(1.0, (before + boiling / SCALDING) / flour), 2) if flour > 0 else 0.0


def _portions(lines: Sequence[BatterLine], where: str, facts: BatterFacts, rest: float) -> Iterable[Portion]:
    pasted = scalded(lines, facts) if where == "batter" else 0.0
    for at, line in enumerate(lines):
        if not line.known or line.where != where or line.grams <= 0:
            continue
        ingredient = facts.ingredients[line.ingredient or ""]
        # The bounds of a line are two standard deviations to either side; bounds that meet mean it was weighed, and a
        # kitchen scale is good to about a gram, or to what a tenth-of-a-gram scale does for pinches.
        sd = (line.high - line.low) / 4 if line.high > line.low else min(0.5, 0.05 * line.grams)
        foam = line.grams * foaming_share(ingredient, facts) if line.foamed else 0.0
        yield Portion(
            line=at,
            ingredient=ingredient,
            grams=line.grams,
            sd=sd,
            confidence=line.confidence,
            foam_g=foam,
            per=per_gram(ingredient, rest, 1.0, pasted),
        )


def foaming_share(i: Ingredient, facts: BatterFacts) -> float:
    """The share of an ingredient that foams: whites and aquafaba whole, of a whole egg its white."""
    white, egg = facts.ingredients["egg_white"], facts.ingredients["egg"]
    if i.id in WHOLE_EGGS:
        return (white.unit_g or 0.0) / (egg.unit_g or 1.0)
    return 1.0 if i.id in FOAMING else 0.0
