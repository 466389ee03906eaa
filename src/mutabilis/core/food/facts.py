"""What is known of foods."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..measures.units import Units
from .ingredients import Ingredient
from .naming import Names


@dataclass(frozen=True, kw_only=True, eq=False)
class FoodFacts:
    """Ingredients by id, the names for them, and the units that they are measured in."""

    ingredients: Mapping[str, Ingredient]
    names: Names
    units: Units
