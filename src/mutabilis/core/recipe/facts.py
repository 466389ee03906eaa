"""What a recipe card goes by."""

from dataclasses import dataclass

from ..process.facts import ProcessFacts
from .leftovers import Leftovers


@dataclass(frozen=True, kw_only=True, eq=False)
class RecipeFacts(ProcessFacts):
    """What is left over of tins and eggs."""

    leftovers: Leftovers
