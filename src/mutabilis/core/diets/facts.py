"""What is known of diets."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..food.facts import FoodFacts
from .rules import DietRule


@dataclass(frozen=True, kw_only=True, eq=False)
class DietFacts(FoodFacts):
    """The diets by their keys, in their order."""

    diets: Mapping[str, DietRule]
