"""Whether something drifts: the Theil–Sen slope with its 95 % interval (Sen 1968), and only where that leaves nought out."""

import math
import statistics
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..batter.main_liquid import thins
from ..food.ingredients import Ingredient
from ..stove.batch import Batch
from ..stove.fold import fold
from .entry import NEAR, Entry
from .predicted import Predicted

LEAST = 6  # batches, below which no drift is ever said
Z95 = 1.96


FOLLOWED = (  # what is followed over the batches of a batter: its key, its name, its unit
    ("spread", "Spread, off the reckoned one", "cm"),
    ("liquid", "Liquid poured, of what was meant", "%"),
    ("held", "Held back and then asked for", "%"),
    ("turned", "Turned, of its reckoned second", "%"),
    ("heat", "Heat, off the right one", "°C"),
    ("pieces", "Pieces, of what was reckoned", "%"),
    ("stars", "Stars", ""),
    ("cost", "Cost of a piece", ""),
)
# Where a figure is as it was reckoned, give or take what a cook would not notice; the others have no such middle.
EXPECTED: Mapping[str, tuple[float, float]] = {
    "spread": (0.0, NEAR["cm"]), "liquid": (100.0, 100 * NEAR["g"]), "turned": (100.0, 100 * NEAR["s"]), "heat": (0.0, NEAR["°C"]), "pieces": (100.0, 100 * NEAR["pieces"]),
}  # fmt: skip


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


def band(key: str, frozen: Sequence[Predicted]) -> tuple[float, float] | None:
    """Between which values a figure was thought to lie: of the spread the mean of what was frozen with each batch, of the others what a cook would
    not notice; None where nothing is thought of it.

    >>> band("heat", []), band("stars", [])
    ((-8.0, 8.0), None)
    """
    if key not in EXPECTED:
        return None
    middle, reach = EXPECTED[key]
    if key == "spread":
        low = [p.spread_low_cm - p.spread_cm for p in frozen if p.spread_cm is not None and p.spread_low_cm is not None]
        high = [p.spread_high_cm - p.spread_cm for p in frozen if p.spread_cm is not None and p.spread_high_cm is not None]
        if low and high:
            return statistics.fmean(low), statistics.fmean(high)
    return middle - reach, middle + reach


@dataclass(frozen=True, slots=True, kw_only=True)
class Stand:
    """What a batch was made of, as far as a change of it may change what comes out: the number of its version, its surface, the packs by the name
    of what was in them ("" where nobody said)."""

    version: int
    surface: str
    packs: Mapping[str, str]


def changes(before: Stand, now: Stand) -> tuple[str, ...]:
    """What changed from one batch to the next, in words; what was not written down of either has not changed.

    >>> changes(Stand(version=1, surface="Griddle", packs={"flour": "lot 1"}), Stand(version=2, surface="Pan", packs={"flour": "lot 2"}))
    ('version 2', 'on Pan', 'new flour: lot 2')
    """
    found = []
    if now.version != before.version:
        found.append(f"version {now.version}")
    if now.surface and before.surface and now.surface != before.surface:
        found.append(f"on {now.surface}")
    for name, pack in now.packs.items():
        was = before.packs.get(name, "")
        if pack and was and pack != was:
            found.append(f"new {name}: {pack}")
    return tuple(found)


def value_of(key: str, batch: Batch, e: Entry, known: Mapping[str, Ingredient]) -> float | None:
    """One figure of a batch that is followed; None where it was not recorded, or follows from what was reckoned at its start."""
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
