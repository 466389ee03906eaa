"""What adapting goes by."""

from dataclasses import dataclass

from ..analysis.facts import AnalysisFacts
from .craft import Craft


@dataclass(frozen=True, kw_only=True, eq=False)
class AdaptFacts(AnalysisFacts):
    """The craft of swaps."""

    craft: Craft
