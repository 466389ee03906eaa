"""What an analysis goes by: all that can be said of one batter."""

from dataclasses import dataclass

from ..balances.facts import BalanceFacts
from ..diets.facts import DietFacts
from ..reading.facts import ReadingFacts


@dataclass(frozen=True, kw_only=True, eq=False)
class AnalysisFacts(BalanceFacts, DietFacts, ReadingFacts):
    """Batters, their balances, their lines and the diets."""
