"""Many pieces at once, for the chart: the same conduction as of one piece, all of them stepped together, so that a map of a hundred and more is
drawn while the finger is still on the glass."""

import numpy as np
from numpy.typing import NDArray

from ..batter.batter import FormKey
from .conduction import Array
from .cooking import KELVIN, Verdict, judged
from .tables import Brown, Crumb, GreaseKey, HeatTables

CELLS = 12  # the chart is read by eye


class Stack:
    """`m` slabs of so many cells, side by side: temperatures [°C] by cell and slab, each with its own thickness [m] and its own outsides.

    Backward in time as `Conduction` is; the tridiagonal systems are solved by elimination (Thomas), a cell of all slabs at a time.
    """

    def __init__(self, crumb: Crumb, thick: Array, start_c: float, step: float) -> None:
        m = len(thick)
        self.crumb, self.step, self.dx = crumb, step, thick / CELLS
        self.heat = crumb.density * crumb.heat_capacity * self.dx
        self.between = crumb.conductivity / self.dx
        self.at = np.full((CELLS, m), start_c)
        self.water = np.repeat((crumb.free_water * crumb.density * self.dx)[None, :], CELLS, axis=0)
        self.held = np.zeros((CELLS, m), dtype=bool)
        self.steamed = np.zeros(m)

    def face(self, contact: Array) -> Array:
        """Conductance from outside to the middle of the outermost cell [W/m²K]."""
        return np.where(contact > 0, 1.0 / (1.0 / np.maximum(contact, 1e-12) + self.dx / (2 * self.crumb.conductivity)), 0.0)

    def go(self, below_c: Array, below: Array, above_c: Array, above: Array) -> tuple[Array, Array]:
        """One step between the outsides of each slab [°C] with their contacts [W/m²K]; the two faces [°C] after it."""
        b, t, k, boils = self.face(below), self.face(above), self.between, self.crumb.boils_c
        new = self._solved(b, t, b * below_c, t * above_c)
        q_b, q_t = b * (below_c - new[0]), t * (above_c - new[-1])
        over = new - boils
        spare = np.maximum(over, 0.0) * self.heat
        if self.held.any():
            flow = k * (new[:-1] - new[1:])
            net = np.empty_like(new)
            net[0] = q_b
            net[1:] = flow
            net[:-1] -= flow
            net[-1] += q_t
            spare = np.where(self.held, net * self.step, spare)
        boiled = np.minimum(np.maximum(spare / self.crumb.latent, 0.0), self.water)
        touched = self.held | (boiled > 0)
        if touched.any():
            self.water = self.water - boiled
            self.steamed += boiled.sum(axis=0) * self.crumb.latent
            new = np.where(touched, boils + (spare - boiled * self.crumb.latent) / self.heat, new)
            self.held = (self.water > 1e-12) & (new >= boils - 1e-9)
        self.at = new
        half = self.dx / (2 * self.crumb.conductivity)
        return new[0] + q_b * half, new[-1] + q_t * half

    def _solved(self, b: Array, t: Array, push_b: Array, push_t: Array) -> Array:
        k, held = self.between, self.held
        store = self.heat / self.step
        rhs = self.at * store
        rhs[0] += push_b
        rhs[-1] += push_t
        diagonal = np.repeat((store + 2 * k)[None, :], CELLS, axis=0)
        diagonal[0] += b - k
        diagonal[-1] += t - k
        off = np.where(held, 0.0, -k)
        diagonal[held], rhs[held] = 1.0, self.crumb.boils_c
        upper = np.empty_like(rhs)
        upper[0] = off[0] / diagonal[0]
        rhs[0] /= diagonal[0]
        for n in range(1, CELLS):
            pivot = diagonal[n] - off[n] * upper[n - 1]
            upper[n] = off[n] / pivot
            rhs[n] = (rhs[n] - off[n] * rhs[n - 1]) / pivot
        for n in range(CELLS - 2, -1, -1):
            rhs[n] -= upper[n] * rhs[n + 1]
        return rhs

    def turn(self, which: NDArray[np.bool_]) -> None:
        """The upper face of these slabs down."""
        for x in (self.at, self.water, self.held):
            x[:, which] = x[::-1, which]

    def keep(self, which: NDArray[np.bool_]) -> None:
        """Only these slabs go on."""
        self.at, self.water, self.held = self.at[:, which], self.water[:, which], self.held[:, which]
        self.dx, self.heat, self.between, self.steamed = self.dx[which], self.heat[which], self.between[which], self.steamed[which]


def verdicts(facts: HeatTables, form: FormKey, thick_mm: Array, heats_c: Array, grease: GreaseKey, start_c: float = 20.0) -> list[Verdict]:
    """How each of many pieces comes out, by `cooking.cook`'s own rules: `thick_mm` [mm] and `heats_c` [°C] of the same length."""
    how, brown, crumb = facts.form[form], facts.brown, facts.crumb
    step = how.step_s
    greased = facts.grease[grease]
    contact = how.contact * (greased.contact if form != "tray" else 1.0)
    m, both = len(thick_mm), how.above is not None
    body = Stack(crumb, thick_mm / 1000, start_c, step)
    hot = heats_c.astype(float)
    below = np.full(m, contact)
    above_c, above = (
        (hot, np.full(m, how.above * (contact / how.contact)))
        if how.above is not None
        else (np.full(m, facts.air.room_c), np.full(m, facts.air.contact))
    )
    wet = crumb.latent * crumb.density * thick_mm / 1000
    wanted = how.brown if both else how.second if how.second is not None else brown.second
    which = np.arange(m)
    first, second, safe_s, turned = np.zeros(m), np.zeros(m), np.full(m, np.nan), np.zeros(m, dtype=bool)
    most, dose = body.at.copy(), np.zeros_like(body.at)
    per_degree = np.log(10) / crumb.set_z
    found: list[Verdict] = ["raw"] * m

    def judge(mask: NDArray[np.bool_], done_s: float | None) -> None:
        for n in np.flatnonzero(mask):
            safe = None if np.isnan(safe_s[n]) else float(safe_s[n])
            found[which[n]] = judged(brown, how, done_s, safe, float(first[n]), float(second[n]))

    at = 0.0
    for n in range(1, round(min(how.too_long_s * 2, 3600) / step) + 1):
        low, high = body.go(hot, below, above_c, above)
        at = n * step
        most = np.maximum(most, body.at)
        dose += step * np.exp(per_degree * (body.at - crumb.set_c))
        gain = _rate(brown, low + how.spots * np.maximum(0.0, hot - low)) * step * greased.brown
        other = _rate(brown, high) * step * greased.brown
        first += np.where(turned, 0.0 if both else other, gain)
        second += np.where(turned, gain, other if both else 0.0)
        safe_s = np.where(np.isnan(safe_s) & (most.min(axis=0) >= crumb.safe_c), at, safe_s)
        cooks = np.ones(len(which), dtype=bool)
        if not both:
            ready = ~turned & (high >= how.turn_top_c) & (first >= brown.turn)
            cooks = turned.copy()
            if ready.any():
                turned |= ready
                body.turn(ready)
                most[:, ready], dose[:, ready] = most[::-1, ready], dose[::-1, ready]
        over = cooks & (second >= wanted) & (body.steamed >= how.steamed * wet) & ~np.isnan(safe_s) & (dose.min(axis=0) >= crumb.set_s)
        if over.any():
            judge(over, at)
            rest = ~over
            which, hot, below, above_c, above, wet = which[rest], hot[rest], below[rest], above_c[rest], above[rest], wet[rest]
            first, second, safe_s, turned, most, dose = first[rest], second[rest], safe_s[rest], turned[rest], most[:, rest], dose[:, rest]
            body.keep(rest)
            if len(which) == 0:
                return found
    judge(np.ones(len(which), dtype=bool), None)
    return found


def _rate(brown: Brown, celsius: Array) -> Array:
    """`cooking.browning_rate`, of many faces."""
    return np.exp(-brown.activation / brown.gas_constant * (1 / (celsius + KELVIN) - 1 / (brown.reference_c + KELVIN))) / brown.reference_s
