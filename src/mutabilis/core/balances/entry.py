"""The shape of every ledger: contributions first, totals from them."""

import math
from collections.abc import Callable
from dataclasses import dataclass

from ..batter.bowl import Bowl, Portion
from ..food.ingredients import Confidence


@dataclass(frozen=True, slots=True, kw_only=True)
class Contribution:
    """What one line brings [unit of the ledger], by which rule, how sure. `part` tells the halves of a ledger apart."""

    line: int
    name: str
    amount: float
    rule: str
    confidence: Confidence
    part: str = ""


@dataclass(frozen=True, slots=True)
class Band:
    """From where to where a form works."""

    low: float
    high: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Ledger:
    """A balance. `mark` is the figure shown on its track, in `mark_unit`; `low` and `high` its uncertainty (about 19 in
    20); `band` where the form works; `verdict` a word of the ledger's own."""

    key: str
    label: str
    unit: str
    total: float
    per_100g: float
    mark: float | None
    mark_unit: str
    low: float | None
    high: float | None
    band: Band | None
    verdict: str
    reason: str
    contributions: tuple[Contribution, ...]


def contributions(bowl: Bowl, amount: Callable[[Portion], float], rule: str, part: str = "") -> tuple[Contribution, ...]:
    """One contribution for each line whose amount is not nought."""
    amounts = [(p, amount(p)) for p in bowl.portions]
    return tuple(
        [
            Contribution(line=p.line, name=p.ingredient.name, amount=a, rule=rule, confidence=p.confidence, part=part)
            for p, a in amounts
            if a > 1e-9 or a < -1e-9
        ]
    )


def spread_of(bowl: Bowl, weight: Callable[[Portion], float]) -> float:
    """Standard deviation of Σ m·weight from the uncertainty of the amounts alone, in the unit of the sum."""
    return math.sqrt(sum([(p.sd * weight(p)) ** 2 for p in bowl.portions]))
