"""A line of a table of figures, and the clock behind it."""

import statistics
import time
from collections.abc import Callable


def show(what: str, times_ms: list[float], wanted: str = "") -> None:
    """One line of a table: median and 95th percentile."""
    ordered = sorted(times_ms)
    p95 = ordered[min(len(ordered) - 1, int(0.95 * len(ordered)))]
    print(f"{what:<52}{statistics.median(ordered):>9.2f}{p95:>9.2f} ms   {wanted}")


def timed(times: int, job: Callable[[], object]) -> list[float]:
    """Milliseconds of each of so many runs."""
    found = []
    for _ in range(times):
        start = time.perf_counter()
        job()
        found.append(1000 * (time.perf_counter() - start))
    return found
