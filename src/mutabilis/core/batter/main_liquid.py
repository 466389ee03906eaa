"""The main liquid of a batter, which is held back, takes up what rounding left and thins a bowl; and the main flour, which thickens it."""

from collections.abc import Iterable

from ..food.ingredients import LIQUIDS, Ingredient

WATERY = 60.0  # g water in 100 g, from which a liquid thins a batter
THIN = 0.2  # thickening, below which a liquid pours (milk, drinks, buttermilk); yogurt does not


def thins(i: Ingredient) -> bool:
    """Whether more of it makes a batter thinner: a liquid, and mostly water."""
    return i.group in LIQUIDS and i.water_g > WATERY


def pours(i: Ingredient) -> bool:
    """Whether it thins and is thin itself."""
    return thins(i) and i.thickening < THIN


def main_liquid(amounts: Iterable[tuple[int, Ingredient, float]]) -> int | None:
    """Which of the ingredients, each with its place and grams [g], is the main liquid; None where nothing thins. One that pours comes
    before one that does not, then the most of it."""
    found = max(((pours(i), grams, i.id, at) for at, i, grams in amounts if thins(i)), default=None)
    return None if found is None else found[3]


def main_flour(amounts: Iterable[tuple[int, Ingredient, float]]) -> int | None:
    """Which of the ingredients, each with its place and grams [g], is the main flour: the one that there is most of; None without any."""
    found = max(((grams, i.id, at) for at, i, grams in amounts if i.is_flour), default=None)
    return None if found is None else found[2]
