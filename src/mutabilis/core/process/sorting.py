"""Which line of a batter goes which way: into the dry or the wet, into a cup of its own, whipped, laid on later, or onto the plate."""

from dataclasses import dataclass
from typing import Literal

from ..analysis.analysis import Analysis
from ..balances.lift import YEASTS
from ..batter.batter import BatterLine
from ..batter.bowl import foaming_share
from ..batter.main_liquid import main_liquid, thins
from ..food.functions import SOAKED
from ..food.ingredients import LIQUIDS, Ingredient
from .facts import ProcessFacts

Use = Literal["soak", "dry", "wet", "late", "foam", "plate"]
WET_GROUPS = ("fat_solid", "fat_oil", "nut_butter", "liquid_sweetener", "egg", "milk", "cultured_dairy")
RUNNY = 0.5  # thickening, below which a seed still finds water in it
WATERY = 25.0  # g water in 100 g from which a thing goes in with the wet


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """A line that goes somewhere: its place in the batter, its grams [g] and its use; `white` is the share of it that is whipped."""

    at: int
    line: BatterLine
    i: Ingredient
    grams: float
    use: Use
    white: float = 0.0

    @property
    def inside(self) -> bool:
        """In the batter, not on the plate."""
        return self.use != "plate"

    @property
    def states(self) -> tuple[str, ...]:
        """How it is or was treated."""
        return self.line.states

    @property
    def melts(self) -> bool:
        """A fat that is hard in the kitchen; one that comes melted or as an oil is not melted again."""
        return (self.i.group == "fat_solid" or self.i.id == "coconut_oil") and self.use == "wet"

    @property
    def yeast(self) -> bool:
        """Whether it is yeast."""
        return self.i.id in YEASTS


def sort_lines(a: Analysis, facts: ProcessFacts) -> list[Item]:
    """Every line that was read and weighed, in its use."""
    known = [
        (at, line, facts.ingredients[line.ingredient or ""]) for at, line in enumerate(a.batter.lines) if line.known and line.grams > 0
    ]
    liquid = any(line.where == "batter" and _soaks(i) for _, line, i in known)
    found = []
    for at, line, i in known:
        white = foaming_share(i, facts) if line.foamed and line.where == "batter" else 0.0
        found.append(Item(at=at, line=line, i=i, grams=line.grams, use=_use(line, i, liquid, white), white=white))
    return found


def main_of(items: list[Item]) -> Item | None:
    """The main liquid of the bowl, where a seed can be stirred into it: drinks and buttermilk, not yogurt."""
    inside = [x for x in items if x.use == "wet" and _soaks(x.i)]
    at = main_liquid((n, x.i, x.grams) for n, x in enumerate(inside))
    return None if at is None else inside[at]


def _soaks(i: Ingredient) -> bool:
    return thins(i) and i.thickening < RUNNY


def _use(line: BatterLine, i: Ingredient, liquid: bool, white: float) -> Use:
    if line.where == "plate":
        return "plate"
    if i.group == "mix_in":
        return "late"
    if white >= 1:
        return "foam"
    if i.id in SOAKED and liquid:
        return "soak"
    dried = i.id.endswith("_powder")
    wet = i.water_g >= WATERY or (i.group in (*LIQUIDS, *WET_GROUPS) and not dried)
    return "wet" if wet and i.group != "leavener" else "dry"
