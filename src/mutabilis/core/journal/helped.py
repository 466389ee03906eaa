"""Whether a change helped: how often a fault was seen before it and since, and how sure that it is seen less often now."""

import math
from dataclasses import dataclass

SAID_FROM = 0.95


@dataclass(frozen=True, slots=True, kw_only=True)
class Helped:
    """A fault in so many of so many batches before a change, and since; how likely it is that it has become rarer; and a sentence."""

    before: int
    of_before: int
    since: int
    of_since: int
    p: float
    words: str


def helped(before: int, of_before: int, since: int, of_since: int) -> Helped | None:
    """The two counts compared; None while nothing was made since. Each rate has a flat prior, so it is a Beta of its counts; the probability
    that the later is the lower is their exact sum for whole counts.

    >>> [round(helped(3, 4, 0, n).p, 2) for n in (1, 2, 3)]
    [0.86, 0.93, 0.96]
    """
    if of_since == 0:
        return None
    p = _lower(1 + before, 1 + of_before - before, 1 + since, 1 + of_since - since)
    told = f"Seen in {before} of {of_before} batches before, in {since} of {of_since} since."
    if p >= SAID_FROM:
        told += " It has helped."
    elif p <= 1 - SAID_FROM:
        told += " It has not helped."
    else:
        told += f" Too few to tell yet: {round(100 * p)} in 100 that it has helped."
    return Helped(before=before, of_before=of_before, since=since, of_since=of_since, p=p, words=told)


def _lower(a1: int, b1: int, a2: int, b2: int) -> float:
    """The probability that a Beta(a2, b2) lies below a Beta(a1, b1)."""

    def beta(a: float, b: float) -> float:
        return math.lgamma(a) + math.lgamma(b) - math.lgamma(a + b)

    return math.fsum(math.exp(beta(a2 + i, b1 + b2) - math.log(b1 + i) - beta(1 + i, b1) - beta(a2, b2)) for i in range(a1))
