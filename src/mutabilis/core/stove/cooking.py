"""Cooking: what lies on the surface, for how long, what the test piece says, and when the last plate leaves."""

import math
from dataclasses import dataclass
from functools import lru_cache

from ..analysis.analysis import Analysis
from ..balances.yields import LEFT_IN_BOWL
from ..batter.batter import ROOM_C, FormKey
from ..food.learning import Normal
from ..heat.cooking import Cooking, cook, smokes_at
from ..heat.pieces import Piece, reckon
from ..heat.surfaces import Surface, heat_words
from ..heat.tables import GreaseKey, HeatTables
from ..roots import boundary
from .events import Inside, SurfaceChosen
from .fold import Load, State
from .tables import Colour, StoveTables, TimeTable

RAW_THICKER = 1.15  # a piece that is raw where it should be done was that much thicker than reckoned; a judgement
DRY_THINNER = 0.9
NEAR_C = 8.0  # nearer than this a surface is at its heat
LEAST_MOVE_C = 6.0  # what a knob can be moved by
ONE_MOVE_C = 30.0  # no further in one move: then another test piece


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatAdvice:
    """What the test piece says: the heat to go to [°C] (the same where it was right), in words and in steps of the knob, how much longer or
    shorter a side takes [s], and how fast this surface browns against the reckoning."""

    celsius: float
    moved_c: float
    knob: str
    turn_s: float | None
    done_s: float | None
    brown_factor: float
    thickness_mm: float
    words: str


@lru_cache(maxsize=256)
def after_test(
    heat: HeatTables, stove: StoveTables, surface: Surface, form: FormKey, tested_mm: float, thickness_mm: float, celsius: float, grease: GreaseKey,
    colour: Colour, inside: Inside, turned_s: float | None = None,
) -> HeatAdvice:  # fmt: skip
    """From the colour and the cut of a test piece of `tested_mm` [mm], turned after `turned_s` [s] (by the reckoning where nobody said), to the
    heat and the times that give a golden, cooked-through piece of `thickness_mm` [mm].

    The colour over the reckoned browning is how fast this surface browns; raw means that pieces are thicker than reckoned, dry thinner. With both, the
    heat is sought (bisection) at which the first side is golden when it is done.
    """
    was = reckon(heat, form, tested_mm, celsius, grease, 1.0, turned_s)
    thick = thickness_mm * {"raw": RAW_THICKER, "just": 1.0, "dry": DRY_THINNER}[inside]
    reckoned = max(was.first_brown, 0.05)
    factor = 1.0 if colour == "golden" and _golden(heat, reckoned) else round(min(6.0, max(0.15, stove.colour[colour] / reckoned)), 3)
    now = reckon(heat, form, thick, celsius, grease, factor)
    best = celsius
    if colour != "golden" or not (_golden(heat, now.first_brown) and now.verdict == "works"):
        # A piece that is too dark is never answered with more heat, whatever the reckoning makes of the other side.
        dark = colour in ("dark", "burnt")
        low, high = max(90.0, celsius - ONE_MOVE_C), celsius - LEAST_MOVE_C if dark else min(320.0, celsius + ONE_MOVE_C)

        def paler(at_c: float) -> bool:
            tried = cook(heat, form, thick, at_c, grease, brown_factor=factor, cell=thick / 12_000)
            return (max(tried.first_brown, tried.second_brown) if dark else tried.first_brown) < stove.colour["golden"]

        best = round(sum(boundary(paler, low, high, 7)) / 2)
        while dark and not heat_words(surface, best - celsius) and celsius - best < ONE_MOVE_C:
            best -= 1
    then = reckon(heat, form, thick, best, grease, factor)
    moved = best - celsius
    knob = heat_words(surface, moved)
    if not knob:
        best, moved, then = celsius, 0.0, now
    before = reckon(heat, form, thickness_mm, celsius, grease)
    return HeatAdvice(
        celsius=best,
        moved_c=moved,
        knob=knob,
        turn_s=then.turn_s,
        done_s=then.done_s,
        brown_factor=factor,
        thickness_mm=thick,
        words=_test_words(colour, inside, knob, before, then),
    )


def _golden(heat: HeatTables, browning: float) -> bool:
    return heat.brown.golden[0] <= browning <= heat.brown.golden[1]


def _test_words(colour: Colour, inside: Inside, knob: str, was: Cooking, then: Cooking) -> str:
    seen = {"pale": "Pale", "golden": "Golden", "dark": "Dark", "burnt": "Burnt"}[colour]
    cut = {"raw": "raw in the middle", "just": "just done inside", "dry": "dry inside"}[inside]
    first = f"{seen} and {cut}: "
    if not knob and inside == "just":
        return first + "keep heat and time."
    told = f"{knob}" if knob else "the same heat"
    if was.done_s and then.done_s and abs(then.done_s - was.done_s) >= 5:
        told += f", {abs(then.done_s - was.done_s):.0f} seconds {'longer' if then.done_s > was.done_s else 'shorter'} in all"
    raw = " Do not serve this one: raw flour and raw egg are not eaten." if inside == "raw" else ""
    return first + told + "." + raw


def pace_of(state: State, predicted_turn: float | None, predicted_done: float | None, prior: Normal, facts: TimeTable) -> Normal:
    """How long this surface takes against the reckoning, as a logarithm: from what it was known for, and the cook's own taps.

    Each turned (or, where nothing is turned, taken off) load is a measurement; test pieces are of another size, and do not count.
    """
    belief = prior
    for load in state.loads:
        if load.test:
            continue
        seen = _tapped(load, predicted_turn, predicted_done)
        if seen is not None and 0.2 < seen < 5:
            belief = belief.told(math.log(seen), facts.tap_sd)
    return belief


def _tapped(load: Load, turn: float | None, done: float | None) -> float | None:
    if load.turned is not None and turn:
        return (load.turned - load.on) / turn
    if load.off is not None and done:
        return (load.off - load.on) / done
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """The cooking as it stands: pieces planned, made, still in the bowl; batter left [g]; loads to come; times of a load [s] by this kitchen's
    own pace, and when the last plate leaves [s since 1970]. `next_pieces` go on next; `care` is what the surface wants before."""

    planned: int
    made: int
    laid: int
    to_come: float
    left_g: float
    loads_left: int
    turn_s: float | None
    done_s: float
    pace: float
    next_load: int
    next_pieces: int
    last_plate: float
    care: str
    heat_words: str


def run(
    state: State, a: Analysis, piece: Piece, reckoned: Cooking, pace: Normal, chosen: SurfaceChosen, now: float, facts: StoveTables
) -> Run:
    """Where the cooking stands at `now` [s since 1970], for a batter with `a` in the bowl before any of it was cooked."""
    grams = state.bowl_g
    used = sum((load.portion_ml or piece.portion_ml) * a.yields.density_g_per_ml * load.pieces for load in state.loads)
    left = max(0.0, grams - used)
    usable = max(0.0, left - LEFT_IN_BOWL * grams)
    to_come = usable / piece.portion_g if piece.portion_g > 0 else 0.0
    loads_left = math.ceil(max(0.0, to_come - 0.25) / chosen.per_load) if to_come > 0.25 else 0
    factor = math.exp(pace.mean)
    done = (reckoned.done_s or chosen_too_long(reckoned)) * factor
    turn = reckoned.turn_s * factor if reckoned.turn_s else None
    on = [load for load in state.loads if load.off is None]
    # Two pans take turns, but a cook's hands are two: a load follows a load on the same surface.
    between = facts.time.handling_s + chosen.surface.recover_s
    running = max([max(0.0, load.on + done - now) for load in on], default=0.0)
    last = now + running + loads_left * (done + between)
    planned = math.floor(grams * (1 - LEFT_IN_BOWL) / piece.portion_g + 1e-6) if piece.portion_g > 0 else 0
    off = [load for load in state.loads if load.off is not None and not load.test]
    return Run(
        planned=planned, made=state.made, laid=state.laid, to_come=to_come, left_g=left, loads_left=loads_left, turn_s=turn, done_s=done, pace=factor,
        next_load=max([load.n for load in state.loads], default=-1) + 1, next_pieces=min(chosen.per_load, max(1, int(to_come + 0.5))), last_plate=last, care=_care(state, off, facts), heat_words=_drift(state, chosen),
    )  # fmt: skip


def chosen_too_long(reckoned: Cooking) -> float:
    """Where a piece is never done by the reckoning (too cold a surface), the time until it is at least safe, or ten minutes."""
    return max(reckoned.safe_s or 0.0, reckoned.kept[-1].at if reckoned.kept else 600.0)


def _care(state: State, off: list[Load], facts: StoveTables) -> str:
    """What the surface wants: wiping now and then, grease where it is greased each time."""
    if not off:
        return ""
    since = max((n for what, _, n in state.cared if what == "wiped"), default=0)
    wiped = len(state.loads) - since >= facts.time.wipe_every
    greased = (
        state.chosen is not None
        and state.chosen.grease != "none"
        and max((n for what, _, n in state.cared if what == "greased"), default=0) < len(state.loads)
    )
    if wiped:
        return "Wipe it, and grease it again." if greased else "Wipe it."
    return "Grease it again." if greased else ""


def _drift(state: State, chosen: SurfaceChosen) -> str:
    """Whether the surface as measured is hotter or colder than it was set to, told as the way back."""
    if state.read_c is None or state.celsius is None:
        return ""
    return drift(chosen.surface, state.celsius, state.read_c)


def drift(surface: Surface, set_c: float, read_c: float) -> str:
    """A surface measured at `read_c` where it was set to `set_c` [°C]: how far off, and the way back; "" where it is near enough."""
    by = set_c - read_c
    if abs(by) < NEAR_C:
        return ""
    way = heat_words(surface, by)
    return f"{abs(by):.0f} °C too {'hot' if by < 0 else 'cold'}: {way}." if way else ""


def heat_left(surface: Surface, set_c: float, heat_on: float, now: float, read_c: float | None) -> float:
    """Seconds until a surface that was begun at `heat_on` [s since 1970] has come to `set_c` [°C]: by its thermometer as the share of the way
    that is left, else by the clock; 0 where it is hot."""
    if read_c is None:
        return max(0.0, heat_on + 60 * surface.heat_up_min - now)
    near = set_c - NEAR_C
    return 0.0 if read_c >= near else 60 * surface.heat_up_min * min(1.0, (near - read_c) / max(1.0, near - ROOM_C))


def smoke(facts: HeatTables, fat: str | None, celsius: float) -> str:
    """A warning where the grease would smoke at this heat; "" where it does not."""
    at = smokes_at(facts, (fat,)) if fat else None
    if at is None or celsius < at:
        return ""
    return f"It smokes from about {at:.0f} °C: take another fat, or a lower heat. Hot fat burns and catches fire; never water on it."


SIGNS: dict[FormKey, tuple[str, ...]] = {
    "griddle": ("The rim is set and dull.", "Bubbles open and stay open.", "It lifts cleanly; look beneath."),
    "crepe": ("The rim is dry and lifts by itself.", "It slides when the pan is shaken."),
    "waffle": ("Hardly any steam comes.", "It lifts firm, not floppy."),
    "tray": ("The middle springs back.", "A stick comes out clean."),
}
