"""Heat through the thickness of a piece, by finite volumes (batter-science, section 9)."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import CannotBe
from .tables import STEP_S, Crumb

Array = NDArray[np.float64]
CELL_M = 0.0005


@dataclass(frozen=True, slots=True, kw_only=True)
class Slab:
    """A slab that takes heat on both faces: profiles [°C] at `times` [s], the faces [°C], the heat taken in, stored, and carried
    away by steam [J/m²]."""

    times: Array
    profiles: Array
    bottom: Array
    top: Array
    taken: float
    stored: float
    steamed: float

    @property
    def imbalance(self) -> float:
        """What the account is out by, as a share of the heat that was taken in."""
        return abs(self.taken - self.stored - self.steamed) / max(abs(self.taken), 1e-9)


class Conduction:
    """Heat in a slab by finite volumes, backward in time, with a plateau at the boiling point that lasts while a cell has water.

    ρ·c·∂T/∂t = ∂/∂x(k·∂T/∂x), −k·∂T/∂x = h·(T_out − T) on the faces. A cell at the plateau is held there, and what flows in boils
    its water away; so heat is conserved to rounding. `thickness` [m], `start_c` [°C]; CannotBe where there is no thickness.
    """

    def __init__(
        self, crumb: Crumb, thickness: float, start_c: float, cell: float = CELL_M, step: float = STEP_S, wet: bool = True
    ) -> None:
        if not thickness > 0:
            raise CannotBe("a piece has a thickness")
        self.crumb, self.step = crumb, step
        self.n = max(8, round(thickness / cell))
        self.dx = thickness / self.n
        self.heat = crumb.density * crumb.heat_capacity * self.dx  # J/m²K of a cell
        self.between = crumb.conductivity / self.dx
        self.at = np.full(self.n, float(start_c))
        self.start_c = float(start_c)
        self.water = np.full(self.n, crumb.free_water * crumb.density * self.dx if wet else 0.0)
        self.held = np.zeros(self.n, dtype=bool)
        self.taken = self.steamed = 0.0
        self._inverses: dict[tuple[float, float, bytes], Array] = {}

    def face(self, contact: float) -> float:
        """Conductance from outside to the middle of the outermost cell [W/m²K]."""
        return 1.0 / (1.0 / contact + self.dx / (2 * self.crumb.conductivity)) if contact > 0 else 0.0

    def go(self, below_c: float, below: float, above_c: float, above: float) -> tuple[float, float]:
        """One step of `step` seconds between two outsides [°C] with their contacts [W/m²K]; the two faces [°C] after it."""
        b, t = self.face(below), self.face(above)
        held, boils = self.held, self.crumb.boils_c
        inverse = self._inverse(b, t)
        push = self.at * (self.heat / self.step)
        push[0] += b * below_c
        push[-1] += t * above_c
        push[held] = boils
        new = inverse @ push
        q_b, q_t = b * (below_c - new[0]), t * (above_c - new[-1])
        self.taken += (q_b + q_t) * self.step
        # What flows into a held cell boils its water; what flows into any other has warmed it, and above the plateau boils too.
        over = new - boils
        if held.any() or over.max() > 0:
            spare = np.maximum(over, 0.0) * self.heat
            if held.any():
                flow = self.between * (new[:-1] - new[1:])
                net = np.empty(self.n)
                net[0] = q_b
                net[1:] = flow
                net[:-1] -= flow
                net[-1] += q_t
                spare[held] = net[held] * self.step
            boiled = np.minimum(np.maximum(spare / self.crumb.latent, 0.0), self.water)
            self.water = self.water - boiled
            self.steamed += float(boiled.sum()) * self.crumb.latent
            touched = held | (boiled > 0)
            new[touched] = boils + (spare[touched] - boiled[touched] * self.crumb.latent) / self.heat
            self.held = (self.water > 1e-12) & (new >= boils - 1e-9)
        self.at = new
        return float(new[0] + q_b * self.dx / (2 * self.crumb.conductivity)), float(new[-1] + q_t * self.dx / (2 * self.crumb.conductivity))

    def turn(self) -> None:
        """The upper face down."""
        self.at, self.water, self.held = self.at[::-1].copy(), self.water[::-1].copy(), self.held[::-1].copy()

    @property
    def stored(self) -> float:
        """Heat stored since the start [J/m²]."""
        return float((self.at - self.start_c).sum() * self.heat)

    def _inverse(self, b: float, t: float) -> Array:
        key = (b, t, self.held.tobytes())
        found = self._inverses.get(key)
        if found is None:
            k, n = self.between, self.n
            diagonal = np.full(n, self.heat / self.step + 2 * k)
            diagonal[0] += b - k
            diagonal[-1] += t - k
            matrix = np.diag(diagonal) - np.diag(np.full(n - 1, k), 1) - np.diag(np.full(n - 1, k), -1)
            matrix[self.held] = 0.0
            matrix[self.held, self.held] = 1.0
            found = self._inverses[key] = np.linalg.inv(matrix)
        return found


def slab(
    crumb: Crumb, thickness: float, start_c: float, below_c: float, below: float, above_c: float, above: float, seconds: float,
    cell: float = CELL_M, step: float = STEP_S, wet: bool = True,
) -> Slab:  # fmt: skip
    """A slab between two steady outsides for `seconds` [s]: the bare conduction, without turning or browning."""
    body = Conduction(crumb, thickness, start_c, cell, step, wet)
    times, profiles, bottoms, tops = [0.0], [body.at], [start_c], [start_c]
    for n in range(1, round(seconds / step) + 1):
        low, high = body.go(below_c, below, above_c, above)
        times.append(n * step)
        profiles.append(body.at)
        bottoms.append(low)
        tops.append(high)
    return Slab(
        times=np.array(times),
        profiles=np.array(profiles),
        bottom=np.array(bottoms),
        top=np.array(tops),
        taken=body.taken,
        stored=body.stored,
        steamed=body.steamed,
    )
