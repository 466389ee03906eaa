"""A surface thermometer: the protocol, and the simulated surface under it."""

import math
from typing import Protocol

ROOM_C, WARM_S, LOAD_SHARE = 22.0, 90.0, 0.12


class Thermometer(Protocol):
    """A thermometer that can be read; None where it is not there."""

    def read(self, now: float) -> float | None:
        """The temperature [°C] at `now` [s, any steady clock]."""


class SimulatedThermometer:
    """A surface that comes to its heat by and by, falls when a load goes on, and runs too hot or too cold by what the panel says."""

    def __init__(self) -> None:
        self.aim_c, self.off_by_c, self.plugged = ROOM_C, 0.0, True
        self._c, self._at = ROOM_C, 0.0
        self._started = False

    def read(self, now: float) -> float | None:
        """The temperature in whole degrees."""
        if not self._started:
            self._at, self._started = now, True
        gone = max(0.0, now - self._at)
        self._at = now
        target = self.aim_c + (self.off_by_c if self.aim_c > ROOM_C else 0.0)
        self._c = target + (self._c - target) * math.exp(-gone / WARM_S)
        return float(round(self._c)) if self.plugged else None

    def aim(self, celsius: float) -> None:
        """The heat was set to `celsius`."""
        self.aim_c = celsius

    def load(self) -> None:
        """A load of cold batter went on."""
        self._c -= LOAD_SHARE * max(0.0, self._c - ROOM_C)
