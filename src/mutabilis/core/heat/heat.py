"""Heat: how a piece cooks through its thickness (batter-science, section 9). No clock, no device: temperatures are handed in."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict

from ..batter.batter import FormKey
from ..errors import CannotBe

Array = NDArray[np.float64]
GreaseKey = Literal["none", "film", "generous"]
Verdict = Literal["works", "pale", "dark", "burnt", "raw"]
CELL_M, STEP_S, MOST_CELLS = 0.0005, 1.0, 24
MAP_STEPS = 2.0  # the chart is read by eye: its steps are longer
FRAME_S = 2.0  # between two profiles that are kept for the picture
KELVIN = 273.15


class Piece(BaseModel):
    """What the crumb is made of, in SI units and °C, as in the data file."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    conductivity: float
    density: float
    heat_capacity: float
    latent: float
    boils_c: float
    free_water: float
    set_c: float
    set_z: float
    set_s: float
    safe_c: float


class Brown(BaseModel):
    """Browning by Arrhenius: `reference_s` at `reference_c` count 1."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    activation: float
    gas_constant: float
    reference_c: float
    reference_s: float
    turn: float
    second: float
    golden: tuple[float, float]
    dark: float
    burnt: float


class Air(BaseModel):
    """The air over a piece."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    room_c: float
    contact: float


class FormHeat(BaseModel):
    """How a form meets its heat; `above` None where only air is above, and then it is turned; `steamed` the share of the batter that
    must have gone as steam before it is crisp; `step_s` the step of the reckoning [s], longer where all is slow."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    contact: float
    above: float | None = None
    turn_top_c: float = 0.0
    usual_c: float
    brown: float
    heats_c: tuple[float, float]
    thick_mm: tuple[float, float]
    steamed: float = 0.0
    spots: float = 0.0  # how far the spots that touch are from the face to the surface [-]
    second: float | None = None  # what the second side must reach, where it is not the usual
    step_s: float = STEP_S
    too_long_s: float


class Grease(BaseModel):
    """What grease does to contact and browning [-], and the fat it gives a piece [g per 100 cm² and side]."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    label: str
    contact: float
    brown: float
    fat_g: float


class HeatFacts(BaseModel):
    """All that is known of heat, from the data file."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    piece: Piece
    brown: Brown
    air: Air
    form: dict[FormKey, FormHeat]
    grease: dict[GreaseKey, Grease]
    smoke: dict[str, float]

    def __hash__(self) -> int:
        return id(self)


@dataclass(frozen=True, slots=True)
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
    its water away; so heat is conserved to rounding. `thickness` [m], `start_c` [°C]; ValueError where there is no thickness.
    """

    def __init__(
        self, piece: Piece, thickness: float, start_c: float, cell: float = CELL_M, step: float = STEP_S, wet: bool = True
    ) -> None:
        if not thickness > 0:
            raise CannotBe("a piece has a thickness")
        self.piece, self.step = piece, step
        self.n = max(8, round(thickness / cell))
        self.dx = thickness / self.n
        self.heat = piece.density * piece.heat_capacity * self.dx  # J/m²K of a cell
        self.between = piece.conductivity / self.dx
        self.at = np.full(self.n, float(start_c))
        self.start_c = float(start_c)
        self.water = np.full(self.n, piece.free_water * piece.density * self.dx if wet else 0.0)
        self.held = np.zeros(self.n, dtype=bool)
        self.taken = self.steamed = 0.0
        self._inverses: dict[tuple[float, float, bytes], Array] = {}

    def face(self, contact: float) -> float:
        """Conductance from outside to the middle of the outermost cell [W/m²K]."""
        return 1.0 / (1.0 / contact + self.dx / (2 * self.piece.conductivity)) if contact > 0 else 0.0

    def go(self, below_c: float, below: float, above_c: float, above: float) -> tuple[float, float]:
        """One step of `step` seconds between two outsides [°C] with their contacts [W/m²K]; the two faces [°C] after it."""
        b, t = self.face(below), self.face(above)
        held, boils = self.held, self.piece.boils_c
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
            boiled = np.minimum(np.maximum(spare / self.piece.latent, 0.0), self.water)
            self.water = self.water - boiled
            self.steamed += float(boiled.sum()) * self.piece.latent
            touched = held | (boiled > 0)
            new[touched] = boils + (spare[touched] - boiled[touched] * self.piece.latent) / self.heat
            self.held = (self.water > 1e-12) & (new >= boils - 1e-9)
        self.at = new
        return float(new[0] + q_b * self.dx / (2 * self.piece.conductivity)), float(new[-1] + q_t * self.dx / (2 * self.piece.conductivity))

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
    piece: Piece, thickness: float, start_c: float, below_c: float, below: float, above_c: float, above: float, seconds: float,
    cell: float = CELL_M, step: float = STEP_S, wet: bool = True,
) -> Slab:  # fmt: skip
    """A slab between two steady outsides for `seconds` [s]: the bare conduction, without turning or browning."""
    body = Conduction(piece, thickness, start_c, cell, step, wet)
    times, profiles, bottoms, tops = [0.0], [body.at], [start_c], [start_c]
    for n in range(1, round(seconds / step) + 1):
        low, high = body.go(below_c, below, above_c, above)
        times.append(n * step)
        profiles.append(body.at)
        bottoms.append(low)
        tops.append(high)
    return Slab(np.array(times), np.array(profiles), np.array(bottoms), np.array(tops), body.taken, body.stored, body.steamed)


def browning_rate(brown: Brown, celsius: float) -> float:
    """Browning a second at a surface of `celsius` [°C]: exp(−E/R·(1/T − 1/T_ref))/t_ref.

    Arrhenius; the scale is ours: 60 s at 150 °C is 1, golden from a half to 2, burnt above 5.
    """
    t = celsius + KELVIN
    return math.exp(-brown.activation / brown.gas_constant * (1 / t - 1 / (brown.reference_c + KELVIN))) / brown.reference_s


@dataclass(frozen=True, slots=True)
class Frame:
    """The piece at one moment: seconds, temperatures from the bottom to the top of the piece as it was poured [°C], browning of the
    first side and the second, and which is down."""

    at_s: float
    profile_c: tuple[float, ...]
    first_brown: float
    second_brown: float
    turned: bool


@dataclass(frozen=True, slots=True)
class Cooking:
    """How one piece cooks. Seconds from the pour: when to turn (None where it is not turned), when every point has been safe, when
    it is done; browning of both sides at the end, and of the under side when the middle was first safe; the share of the batter
    that steamed off; the verdict in a word. `heat_balance` is the account's error as a share."""

    thickness_mm: float
    celsius: float
    turn_s: float | None
    safe_s: float | None
    done_s: float | None
    first_brown: float
    second_brown: float
    first_brown_at_safe: float
    steamed_share: float
    centre_c: float
    verdict: Verdict
    heat_balance: float
    kept: tuple[tuple[float, Array, float, float, bool], ...] = field(repr=False, compare=False, default=())

    def frames(self, points: int = 25) -> tuple[Frame, ...]:
        """What was kept for the picture, each profile at so many points from the bottom to the top of the piece as it was poured."""
        return tuple(_frame(at, profile, first, second, turned, points) for at, profile, first, second, turned in self.kept)


def cook(
    facts: HeatFacts, form: FormKey, thickness_mm: float, celsius: float, grease: GreaseKey = "film", start_c: float = 20.0,
    brown_factor: float = 1.0, cell: float | None = None, step: float | None = None, turn_at: float | None = None,
) -> Cooking:  # fmt: skip
    """Cook a piece of risen `thickness_mm` [mm] on a surface (or in an oven) of `celsius` [°C].

    Turned when its upper face has reached the form's mark and its under side has browned (or at `turn_at` [s], where the cook turns
    by the clock); done when the second side has browned, every point has set and has been safe (71 °C). Setting is a matter of
    time and heat: ∫ 10^((T − 90 °C)/z) dt must come to so many seconds, which a point that passes 90 °C has at once. `brown_factor`
    scales the browning of this batter and surface. ValueError for a thickness or a heat that is none.
    """
    if not 0.2 <= thickness_mm <= 80 or not 60 <= celsius <= 350:
        raise CannotBe("a piece is 0.2 to 80 mm thick, and a surface 60 to 350 °C hot")
    how, brown, piece = facts.form[form], facts.brown, facts.piece
    greased = facts.grease[grease]
    contact = how.contact * (greased.contact if form != "tray" else 1.0)
    step = step or how.step_s
    speed = brown_factor * greased.brown
    body = Conduction(piece, thickness_mm / 1000, start_c, cell or max(CELL_M, thickness_mm / 1000 / MOST_CELLS), step)
    above_c, above = (facts.air.room_c, facts.air.contact) if how.above is None else (celsius, how.above * (contact / how.contact))
    both, turned = how.above is not None, False
    wet = piece.latent * piece.density * thickness_mm / 1000  # J/m², all of the piece as steam
    most, dose = body.at.copy(), np.zeros(body.n)
    per_degree = np.log(10) / piece.set_z
    first = second = at_safe = 0.0
    turn_s = safe_s = done_s = None
    kept: list[tuple[float, Array, float, float, bool]] = [(0.0, body.at, 0.0, 0.0, False)]
    every = max(1, round(FRAME_S / step))
    at = 0.0
    for n in range(1, round(min(how.too_long_s * 2, 3600) / step) + 1):
        low, high = body.go(celsius, contact, above_c, above)
        at = n * step
        most = np.maximum(most, body.at)
        dose += step * np.exp(per_degree * (body.at - piece.set_c))
        gain = browning_rate(brown, low + how.spots * max(0.0, celsius - low)) * step * speed
        if turned:
            second += gain
        else:
            first += gain
        if both:
            second += browning_rate(brown, high) * step * speed
        elif turned:
            first += browning_rate(brown, high) * step * speed
        if safe_s is None and most.min() >= piece.safe_c:
            safe_s, at_safe = at, first
        if n % every == 0:
            kept.append((at, body.at, first, second, turned))
        if not both and not turned:
            ready = at >= turn_at if turn_at is not None else high >= how.turn_top_c and first >= brown.turn
            if ready:
                turn_s, turned = at, True
                body.turn()
                most, dose = most[::-1].copy(), dose[::-1].copy()
            continue
        wanted = how.second if how.second is not None else brown.second
        browned = second >= (how.brown if both else wanted) and body.steamed >= how.steamed * wet
        if browned and safe_s is not None and dose.min() >= piece.set_s:
            done_s = at
            break
    kept.append((at, body.at, first, second, turned))
    steam = body.steamed / wet
    account = abs(body.taken - body.stored - body.steamed) / max(abs(body.taken), 1e-9)
    verdict = _verdict(brown, how, done_s, safe_s, first, second)
    return Cooking(
        thickness_mm, celsius, turn_s, safe_s, done_s, first, second, at_safe if safe_s is not None else first, steam,
        float(body.at[body.n // 2]), verdict, account, tuple(kept),
    )  # fmt: skip


def _frame(at: float, profile: Array, first: float, second: float, turned: bool, points: int) -> Frame:
    n = len(profile)
    shown = np.interp(np.linspace(0, n - 1, points), np.arange(n), profile[::-1] if turned else profile)
    return Frame(at, tuple(np.round(shown, 1).tolist()), round(first, 3), round(second, 3), turned)


def _verdict(brown: Brown, how: FormHeat, done_s: float | None, safe_s: float | None, first: float, second: float) -> Verdict:
    most = max(first, second)
    if safe_s is None:
        return "raw"
    if most > brown.burnt:
        return "burnt"
    if done_s is None or done_s > how.too_long_s:
        return "pale"
    return "dark" if most > brown.dark else "works"


@dataclass(frozen=True, slots=True)
class HeatMap:
    """Verdicts over heat [°C] and thickness [mm]: `verdicts[thickness][heat]`."""

    heats_c: tuple[float, ...]
    thick_mm: tuple[float, ...]
    verdicts: tuple[tuple[Verdict, ...], ...]


@lru_cache(maxsize=64)
def heat_map(facts: HeatFacts, form: FormKey, grease: GreaseKey = "film", heats: int = 13, thicks: int = 11) -> HeatMap:
    """The chart of heat against thickness, with the region that works and the one that is burnt outside and raw inside."""
    how = facts.form[form]
    over = [float(x) for x in np.linspace(*how.heats_c, heats)]
    by = [float(x) for x in np.linspace(*how.thick_mm, thicks)]
    rows = tuple(tuple(cook(facts, form, mm, c, grease, cell=mm / 12_000, step=MAP_STEPS * how.step_s).verdict for c in over) for mm in by)
    return HeatMap(tuple(over), tuple(by), rows)


@dataclass(frozen=True, slots=True)
class Range:
    """The heats [°C] that work for a thickness, and the thickest piece [mm] for a heat; None where there is none."""

    low_c: float | None
    high_c: float | None
    thickest_mm: float | None


@lru_cache(maxsize=512)
def working_range(facts: HeatFacts, form: FormKey, thickness_mm: float, celsius: float, grease: GreaseKey = "film") -> Range:
    """Which heats work for this thickness, and how thick a piece may be at this heat; read off the chart, between its lines."""
    chart = heat_map(facts, form, grease)
    columns = np.array([[1.0 if v == "works" else 0.0 for v in row] for row in chart.verdicts])
    row = np.array([np.interp(thickness_mm, chart.thick_mm, columns[:, n]) for n in range(len(chart.heats_c))])
    works = [c for c, v in zip(chart.heats_c, row, strict=True) if v >= 0.5]
    column = np.array([np.interp(celsius, chart.heats_c, columns[n]) for n in range(len(chart.thick_mm))])
    thick = [mm for mm, v in zip(chart.thick_mm, column, strict=True) if v >= 0.5]
    return Range(min(works, default=None), max(works, default=None), max(thick, default=None))


def risen_mm(poured_mm: float, piece: Piece, poured_density: float = 1050.0) -> float:
    """Risen thickness [mm] of batter poured so thick [mm]: L = ρ_batter/ρ_crumb times.

    >>> round(risen_mm(6.0, Piece(conductivity=0.4, density=700, heat_capacity=2900, latent=2.257e6, boils_c=100, free_water=0.45, set_c=90, set_z=5, set_s=5, safe_c=71)), 2)
    9.0
    """
    return poured_mm * poured_density / piece.density


def smokes_at(facts: HeatFacts, fats: Mapping[str, float] | tuple[str, ...]) -> float | None:
    """The lowest smoke point [°C] of the fats given by ingredient; None where none of them has one."""
    return min((facts.smoke[f] for f in fats if f in facts.smoke), default=None)
