"""What is known of batters."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..food.facts import FoodFacts
from .batter import Form, FormKey


@dataclass(frozen=True, kw_only=True, eq=False)
class BatterFacts(FoodFacts):
    """The forms a batter is made for, and the most that is usual of what works in spoons [g per 100 g flour, by ingredient or
    `group:…`]."""

    forms: Mapping[FormKey, Form]
    usual: Mapping[str, float]
