"""What cooking a piece goes by."""

from dataclasses import dataclass

from ..analysis.facts import AnalysisFacts
from .surfaces import Surface
from .tables import HeatTables, Turning


@dataclass(frozen=True, kw_only=True, eq=False)
class HeatFacts(AnalysisFacts):
    """How heat goes into a piece, and what a kitchen cooks on."""

    heat: HeatTables
    turning: Turning
    surfaces: tuple[Surface, ...]
