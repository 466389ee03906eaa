"""The chart of heat against thickness, and what can be read off it."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..batter.batter import FormKey
from .cooking import Verdict
from .stack import verdicts
from .tables import GreaseKey, HeatTables


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatMap:
    """Verdicts over heat [°C] and thickness [mm]: `verdicts[thickness][heat]`."""

    heats_c: tuple[float, ...]
    thick_mm: tuple[float, ...]
    verdicts: tuple[tuple[Verdict, ...], ...]


@lru_cache(maxsize=64)
def heat_map(facts: HeatTables, form: FormKey, grease: GreaseKey = "film", heats: int = 13, thicks: int = 11) -> HeatMap:
    """The chart of heat against thickness, with the region that works and the one that is burnt outside and raw inside."""
    how = facts.form[form]
    over = [float(x) for x in np.linspace(*how.heats_c, heats)]
    by = [float(x) for x in np.linspace(*how.thick_mm, thicks)]
    thick, heat = (x.ravel() for x in np.meshgrid(by, over, indexing="ij"))
    found = verdicts(facts, form, thick, heat, grease)
    rows = tuple(tuple(found[n * heats : (n + 1) * heats]) for n in range(thicks))
    return HeatMap(heats_c=tuple(over), thick_mm=tuple(by), verdicts=rows)


@dataclass(frozen=True, slots=True, kw_only=True)
class Range:
    """The heats [°C] that work for a thickness, and the thickest piece [mm] for a heat; None where there is none."""

    low_c: float | None
    high_c: float | None
    thickest_mm: float | None


@lru_cache(maxsize=512)
def working_range(facts: HeatTables, form: FormKey, thickness_mm: float, celsius: float, grease: GreaseKey = "film") -> Range:
    """Which heats work for this thickness, and how thick a piece may be at this heat; read off the chart, between its lines."""
    chart = heat_map(facts, form, grease)
    columns = np.array([[1.0 if v == "works" else 0.0 for v in row] for row in chart.verdicts])
    row = np.array([np.interp(thickness_mm, chart.thick_mm, columns[:, n]) for n in range(len(chart.heats_c))])
    works = [c for c, v in zip(chart.heats_c, row, strict=True) if v >= 0.5]
    column = np.array([np.interp(celsius, chart.heats_c, columns[n]) for n in range(len(chart.thick_mm))])
    thick = [mm for mm, v in zip(chart.thick_mm, column, strict=True) if v >= 0.5]
    return Range(low_c=min(works, default=None), high_c=max(works, default=None), thickest_mm=max(thick, default=None))
