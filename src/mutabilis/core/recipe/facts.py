"""What a recipe card goes by."""

from dataclasses import dataclass

from ..heat.facts import HeatFacts
from .leftovers import Leftovers


@dataclass(frozen=True, kw_only=True, eq=False)
class RecipeFacts(HeatFacts):
    """What is left over of tins and eggs."""

    leftovers: Leftovers
