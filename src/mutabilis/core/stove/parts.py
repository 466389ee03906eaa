"""The parts of what a batch shows: a line to weigh, a step of the mixing, a clock, a judgement, a step in the pan."""

from dataclasses import dataclass
from typing import Literal

from ..batter.batter import Moment, Whites
from ..process.parts import VesselKey
from .events import By, Way
from .judging import Advice


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighLine:
    """A line, or the part of it that goes into one vessel at one time: what it is to weigh, what is in, what is now to be poured [g] and how near
    [g]; by scale, spoon or measure, with the measure in words; what of it is held back [g]; whether too much went in. `part` is the
    operation that takes it; `last` where the line has no other part to come, `holds` where the rest of the line is kept back. `measured_g`
    is what the measure in words comes to [g]; `auto` where the next may follow by itself: not for eggs, nor where a pour was taken back. `bagged`: it comes out
    of a bag of dry mix, weighed at once with all that is in it."""

    at: int
    part: str
    vessel: VesselKey
    last: bool
    holds: bool
    ingredient: str
    name: str
    target: float
    poured: float
    missing: float
    tolerance: float
    by: By
    words: str
    held: float
    settled: bool
    none_left: bool
    over: float
    slot: int
    auto: bool
    measured_g: float
    note: str
    bagged: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class VesselView:
    """A vessel on the shelf: its name, what is in it [g], what of the plan goes there in order, and whether all of it is in; `held` is the cup of
    what is held back."""

    key: VesselKey
    name: str
    grams: float
    names: tuple[str, ...]
    settled: bool
    held: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class MixStep:
    """A step of the mixing: what to do, why, and what tells that it is done; done when; whether it wets the flour or the leavening; to which
    peaks whites are whipped in it, None where none are."""

    key: str
    title: str
    text: str
    why: str
    done_when: str
    vessel: VesselKey
    done: float | None
    wets: bool
    leavens: bool
    peaks: Whites | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MomentChoice:
    """A moment at which the leavening is wetted, and the lift left at the first and at the last piece, as shares."""

    moment: Moment
    label: str
    first: float
    last: float
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Timer:
    """A clock that runs: from when to when [s since 1970], and what it is for."""

    key: str
    label: str
    started: float
    due: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Scoop:
    """A scoop [mL], and how far it should run now on a cold plate and on the hot surface [cm]."""

    ml: float
    plate_cm: float
    piece_cm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Judging:
    """How this bowl can be judged and why not otherwise, the spread it should have now [cm of 60 mL], what each scoop should
    measure, the portion's among them; what is held back of the liquid [g], how long after the wetting a judgement begins to tell [min], and what the judgements say; what
    is held back and what is to be added also in the kitchen's own measures."""

    ways: tuple[Way, ...]
    why: str
    target_cm: float | None
    scoops: tuple[Scoop, ...]
    portion_ml: float
    held_g: float
    held_line: int | None
    held_name: str
    flour_line: int | None
    wait_min: float
    held_words: str
    add_words: str
    advice: Advice | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PanStep:
    """What is done on the surface at each load, as the plan says it: before it is poured, while its first side cooks, or once it is turned or, in an
    iron, all but done."""

    key: str
    title: str
    text: str
    when: Literal["before", "on", "turned"]
