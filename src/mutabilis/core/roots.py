"""The one bisection."""

from collections.abc import Callable

STEPS = 50  # a millionth of a thousandth of the interval


def boundary(holds: Callable[[float], bool], low: float, high: float, steps: int = STEPS) -> tuple[float, float]:
    """The last place between `low` and `high` where `holds` is still true and the first where it no longer is, as near to each other as
    (high − low)/2^steps. `holds` is taken to be true at `low`, and to turn false once.

    >>> [round(x, 6) for x in boundary(lambda x: x * x < 2, 0.0, 2.0)]
    [1.414214, 1.414214]
    """
    for _ in range(steps):
        middle = (low + high) / 2
        low, high = (middle, high) if holds(middle) else (low, middle)
    return low, high
