"""The server's clock: true through sleep, and never back."""

import time
from collections.abc import Callable

SKEW_S = 5.0


def _steady() -> float:
    """Seconds of a clock that goes on through sleep where the system has one."""
    boot = getattr(time, "CLOCK_BOOTTIME", None)
    return time.clock_gettime(boot) if boot is not None else time.monotonic()


class Clock:
    """Seconds since 1970 that only go forward: the wall's time at the start (or the last moment in the book, where the wall has fallen behind
    it), and from there a steady clock, so that nobody who sets the wall clock moves a timer."""

    def __init__(self, latest: float = 0.0, wall: Callable[[], float] = time.time, steady: Callable[[], float] = _steady) -> None:
        self._wall, self._steady = wall, steady
        self._start, self._from = max(wall(), latest), steady()

    def now(self) -> float:
        """This moment."""
        return self._start + self._steady() - self._from

    @property
    def off_by_s(self) -> float:
        """How far the wall clock has moved away from this one [s]; above nought where it was set forward."""
        return self._wall() - self.now()

    def words(self) -> str:
        """What is told where the wall clock was moved; "" where it was not."""
        off = self.off_by_s
        if abs(off) < SKEW_S:
            return ""
        minutes = abs(off) / 60
        amount = f"{minutes:.0f} minutes" if minutes >= 1.5 else f"{abs(off):.0f} seconds"
        return f"The clock of this machine was set {'forward' if off > 0 else 'back'} by {amount}. Timers here go on as they were."
