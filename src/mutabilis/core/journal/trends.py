"""Whether something drifts: the Theil–Sen slope with its 95 % interval (Sen 1968), and only where that leaves nought out."""

import math
import statistics
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..batter.main_liquid import thins
from ..food.ingredients import Ingredient
from ..stove.batch import Batch
from ..stove.fold import fold
from .entry import Entry

LEAST = 6  # batches, below which no drift is ever said
Z95 = 1.96


FOLLOWED = (  # what is followed over the batches of a batter: its key, its name, its unit
    ("spread", "Spread, off the reckoned one", "cm"),
    ("liquid", "Liquid poured, of what was meant", "%"),
    ("turned", "Turned, of its reckoned second", "%"),
    ("heat", "Heat, off the right one", "°C"),
    ("pieces", "Pieces, of what was reckoned", "%"),
    ("stars", "Stars", ""),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Drift:
    """The slope [unit a batch] with its interval, the median, and whether that is a drift."""

    slope: float
    low: float
    high: float
    median: float
    drifts: bool


def drift(values: Sequence[float]) -> Drift | None:
    """The drift of values in their order, one a batch; None for fewer than two.

    The median of all pairwise slopes; its interval from the ranks of Kendall's S (normal approximation, ties ignored).

    >>> d = drift([1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0])
    >>> d.slope, d.drifts
    (1.0, True)
    """
    n = len(values)
    if n < 2:
        return None
    slopes = sorted((values[j] - values[i]) / (j - i) for i in range(n) for j in range(i + 1, n))
    count = len(slopes)
    spread = Z95 * math.sqrt(n * (n - 1) * (2 * n + 5) / 18)
    low = slopes[max(0, math.floor((count - spread) / 2))]
    high = slopes[min(count - 1, math.ceil((count + spread) / 2))]
    return Drift(
        slope=statistics.median(slopes), low=low, high=high, median=statistics.median(values), drifts=n >= LEAST and (low > 0 or high < 0)
    )


def words_of(d: Drift, n: int, unit: str) -> str:
    """A drift over `n` batches in a sentence, said only where it is one.

    >>> words_of(Drift(slope=-2.0, low=-3.0, high=-1.0, median=0.0, drifts=True), 8, "°C")
    'It drifts: 2.0 °C less with each batch.'
    """
    if d.drifts:
        return f"It drifts: {abs(d.slope):.1f} {unit or 'stars'} {'more' if d.slope > 0 else 'less'} with each batch."
    return "No drift that is more than chance." if n >= LEAST else "Too few batches to tell a drift."


def value_of(key: str, batch: Batch, e: Entry, known: Mapping[str, Ingredient]) -> float | None:
    """One figure of a batch that is followed; None where it was not recorded."""
    if key == "stars":
        return None if e.stars is None else float(e.stars)
    if key == "liquid":
        lines = fold(batch.plan, batch.events).lines
        mine = [(x.poured, x.planned) for x in lines if x.planned > 0 and x.poured > 0 and thins(known[x.ingredient])]
        return 100 * sum(p for p, _ in mine) / sum(q for _, q in mine) if mine else None
    row = next((r for r in e.rows if r.key == key), None)
    if row is None:
        return None
    return row.happened - row.meant if key in ("heat", "spread") else 100 * row.happened / row.meant if row.meant else None
