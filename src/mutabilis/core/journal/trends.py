"""Whether something drifts: the Theil–Sen slope with its 95 % interval (Sen 1968), and only where that leaves nought out."""

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

LEAST = 6  # batches, below which no drift is ever said
Z95 = 1.96


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
