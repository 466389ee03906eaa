"""What a batter costs, from the kitchen's own prices."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..batter.batter import Batter
from .facts import AnalysisFacts


@dataclass(frozen=True, slots=True, kw_only=True)
class Cost:
    """Money for the batter, a serving and a piece, in the kitchen's own currency; `unpriced` are the names without a price,
    so that a sum is never taken for the whole where it is not."""

    total: float
    per_serving: float
    per_piece: float
    unpriced: tuple[str, ...]


def cost(batter: Batter, servings: float, pieces: float, prices: Mapping[str, float], facts: AnalysisFacts) -> Cost | None:
    """Cost of what goes into the bowl; `prices` are per kilogram by ingredient. None where no line has a price.

    Water from the tap costs nothing and is never unpriced.
    """
    total, priced = 0.0, False
    unpriced: dict[str, None] = {}
    for line in batter.lines:
        if not line.counts or line.grams <= 0 or line.ingredient in (None, "water"):
            continue
        assert line.ingredient is not None
        if line.ingredient in prices:
            total, priced = total + line.grams / 1000 * prices[line.ingredient], True
        else:
            unpriced[facts.ingredients[line.ingredient].short] = None
    if not priced:
        return None
    return Cost(total=total, per_serving=total / servings, per_piece=total / pieces if pieces > 0 else 0.0, unpriced=tuple(unpriced))
