"""A kitchen scale: the protocol, and the simulated one that ships."""

import math
from typing import Any, Protocol

from mutabilis.core.stove.weighing import Reading

SETTLE_S, DRIFT_G_PER_MIN, MOST_G = 0.22, 0.05, 5000.0


class Scale(Protocol):
    """A scale that can be read. `read` never blocks and never raises: a scale that is gone says so in its reading."""

    resolution_g: float

    def read(self, now: float) -> Reading:
        """The reading at `now` [s, any steady clock]."""


class SimulatedScale:
    """A scale that settles, drifts, rounds to its resolution, overloads at five kilograms, and can be unplugged, frozen, knocked, tared, or
    have its bowl lifted, from a panel. Time is handed in."""

    def __init__(self, resolution_g: float = 1.0) -> None:
        self.resolution_g = resolution_g
        self.on_g = 0.0
        self.lifted_g: float | None = None
        self.tare_g = 0.0
        self.plugged, self.frozen = True, False
        self._shown: float | None = None
        self._at: float | None = None
        self._n = 0
        self._last: Reading | None = None

    def read(self, now: float) -> Reading:
        """What it shows at `now` [s]: the load, as far as it has settled, in steps of its resolution."""
        if not self.plugged:
            self._n += 1
            return Reading(n=self._n, at=now, grams=0.0, status="unplugged")
        if self.frozen and self._last is not None:
            return self._last
        gone = 0.0 if self._at is None else max(0.0, now - self._at)
        self._at = now
        self.on_g += DRIFT_G_PER_MIN * gone / 60 if self.on_g > 0 else 0.0
        start = self.on_g if self._shown is None else self._shown
        self._shown = self.on_g + (start - self.on_g) * math.exp(-gone / SETTLE_S)
        self._n += 1
        net = self._shown - self.tare_g
        grams = round(net / self.resolution_g) * self.resolution_g
        self._last = Reading(n=self._n, at=now, grams=round(grams, 3) + 0.0, status="overload" if self._shown > MOST_G else "ok")
        return self._last

    # ---- the panel

    def pour(self, grams: float) -> None:
        """Put `grams` on it, or take them off (below nought)."""
        self.on_g = max(0.0, self.on_g + grams)

    def lift(self) -> None:
        """Lift the bowl with all that is in it."""
        if self.lifted_g is None:
            self.lifted_g, self.on_g = self.on_g, 0.0

    def put_back(self) -> None:
        """Put the lifted bowl back."""
        if self.lifted_g is not None:
            self.on_g, self.lifted_g = self.on_g + self.lifted_g, None

    def tare(self) -> None:
        """Press its own tare."""
        self.tare_g = self.on_g

    def clear(self) -> None:
        """Take everything off, and its tare with it."""
        self.on_g, self.lifted_g, self.tare_g = 0.0, None, 0.0

    def saved(self) -> dict[str, Any]:
        """Its load and switches: what a real scale would still hold after the server was restarted."""
        return {k: getattr(self, k) for k in ("on_g", "lifted_g", "tare_g", "plugged", "frozen")}

    def restore(self, saved: dict[str, Any]) -> None:
        """Stand as it was saved."""
        for k, v in saved.items():
            if k in ("on_g", "lifted_g", "tare_g", "plugged", "frozen"):
                setattr(self, k, v)
