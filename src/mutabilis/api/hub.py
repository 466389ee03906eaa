"""The devices on the counter: one scale, one surface thermometer, one label printer, and the last seconds of the scale's readings."""

import threading
import time
from collections import deque
from collections.abc import Callable

from mutabilis.core.stove.tables import ScaleTable
from mutabilis.core.stove.weighing import Reading
from mutabilis.devices.label_printer import SimulatedPrinter
from mutabilis.devices.scale import SimulatedScale
from mutabilis.devices.thermometer import SimulatedThermometer

KEPT_S = 8.0


class Hub:
    """Reads the devices no oftener than the scale can be read, whoever asks, and remembers the last seconds. `steady` is the clock of the
    readings [s]; `ending`: the server goes, and no stream is told any more."""

    def __init__(self, facts: ScaleTable, saved: dict[str, object] | None = None, steady: Callable[[], float] = time.monotonic) -> None:
        self.scale = SimulatedScale(facts.resolution_g)
        self.scale.restore(saved or {})
        self.thermometer = SimulatedThermometer()
        self.printer = SimulatedPrinter()
        self._facts, self.steady = facts, steady
        self._lock = threading.Lock()
        self.ending = False
        self._kept: deque[Reading] = deque()

    def readings(self) -> tuple[tuple[Reading, ...], float]:
        """The last seconds of readings, the oldest first, a fresh one among them where it is due; and the moment [s]."""
        with self._lock:
            now = self.steady()
            if not self._kept or now - self._kept[-1].at >= self._facts.apart_s * 0.4 or self._kept[-1].status != "ok":
                reading = self.scale.read(now)
                if not self._kept or reading.n != self._kept[-1].n:
                    self._kept.append(reading)
            while self._kept and now - self._kept[0].at > KEPT_S and len(self._kept) > 1:
                self._kept.popleft()
            return tuple(self._kept), now

    def surface_c(self) -> float | None:
        """What the surface thermometer shows [°C]."""
        with self._lock:
            return self.thermometer.read(self.steady())
