"""What is known of how recipes are written."""

from dataclasses import dataclass

from ..food.facts import FoodFacts
from .clauses import Clauses
from .prose import Prose
from .words import Words


@dataclass(frozen=True, kw_only=True, eq=False)
class ReadingFacts(FoodFacts):
    """The words beside the foods, how a line is taken apart, and what is said in sentences."""

    words: Words
    clauses: Clauses
    prose: Prose
