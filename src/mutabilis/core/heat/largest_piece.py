"""The largest piece that a batter can be made in, its heat and its time: one answer for the Bench, the card and the Stove."""

import math
from dataclasses import dataclass

import numpy as np

from ..analysis.analysis import Analysis
from ..balances.lift import STEAM
from ..batter.batter import FormKey
from ..batter.flow import TEST_ML, VOLUME_POWER
from .cooking import Cooking
from .facts import HeatFacts
from .pieces import piece_on, reckon, surfaces_for
from .surfaces import Surface
from .tables import GreaseKey

STEP_ML = 5.0  # what a scoop can be told apart by
LEAST_ML = 15.0
MOST_ML = 400.0
SMALLER = 0.8  # times, where no heat cooks it through before it burns
MOST_TRIES = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class LargestPiece:
    """A portion [mL] on a surface, its width [cm] where it runs free and thickness [mm], the heat [°C] at which it is golden when it is
    cooked through, seconds to the turn (None where it is not turned) and until it is done, what keeps it from being larger, and all of
    it in words."""

    surface: str
    portion_ml: float
    diameter_cm: float | None
    thickness_mm: float
    celsius: float
    turn_s: float | None
    done_s: float
    limit: str
    words: str


def largest_piece(a: Analysis, facts: HeatFacts, surface: Surface | None = None) -> LargestPiece | None:
    """For a surface, or the kitchen's first for the form. None where there is no such surface, nothing in the bowl that
    flows, or no heat that works.

    A free piece is as wide as it can be turned (by its set) and as the surface is, and no thicker than some heat cooks it through
    before it burns. An iron and a tray have their own size.
    """
    form = a.batter.form
    surface = surface or next(iter(surfaces_for(form, facts.surfaces, a.batter.tray)), None)
    outside = a.lift.verdict == STEAM  # what steam lifts is no flat layer
    if surface is None or outside or a.yields.whole < 1 or a.water.missing_g > 0 or form not in surface.forms:
        return None
    portion, limit = _by_size(a, facts, surface)
    for _ in range(MOST_TRIES):
        piece = piece_on(a, surface, portion, "film", facts)
        thick = round(piece.thickness_mm, 1)
        cooked = workable(thick, form, surface, facts)
        if cooked is not None and cooked.done_s is not None:
            words = _words(surface, portion, piece.diameter_cm, cooked.celsius, cooked.turn_s, cooked.done_s, limit)
            return LargestPiece(
                surface=surface.name,
                portion_ml=portion,
                diameter_cm=piece.diameter_cm,
                thickness_mm=thick,
                celsius=cooked.celsius,
                turn_s=cooked.turn_s,
                done_s=cooked.done_s,
                limit=limit,
                words=words,
            )
        if surface.kind in ("iron", "oven") or portion <= LEAST_ML:
            return None
        portion, limit = max(LEAST_ML, _stepped(SMALLER * portion)), "a larger one would burn before it is cooked through"
    return None


def workable(thickness_mm: float, form: FormKey, surface: Surface, facts: HeatFacts, grease: GreaseKey = "film") -> Cooking | None:
    """How a piece so thick [mm] cooks at the heat nearest to the surface's usual one that cooks it through before it burns; None where none does."""
    if not 0.2 <= thickness_mm <= 80:
        return None
    for cooler in facts.turning.cooler_c:
        cooked = reckon(facts.heat, form, round(thickness_mm, 1), surface.usual_c + cooler, grease)
        if cooked.verdict == "works" and cooked.done_s is not None:
            return cooked
    return None


def turnable_cm(set_per_100g: float, floor: float, comfort: float, facts: HeatFacts) -> float:
    """How wide a piece can be turned [cm] by its set [egg-equivalents per 100 g]: a straight line through the kitchen's three points."""
    p = facts.turning
    return float(np.interp(set_per_100g, [floor, comfort, 2 * comfort], [p.turn_floor_cm, p.turn_comfort_cm, p.turn_most_cm]))


def _by_size(a: Analysis, facts: HeatFacts, surface: Surface) -> tuple[float, str]:
    """The portion [mL] that the surface and the turning allow, and which of them does."""
    if surface.kind == "iron":
        return surface.iron_ml or a.yields.portion_ml, "the iron takes no more"
    if surface.kind == "oven":
        return a.yields.portion_ml, "cut as you like"
    if a.batter.form == "crepe":
        return a.yields.portion_ml, "as wide as the pan"
    form = facts.forms[a.batter.form]
    turn = turnable_cm(a.setting.per_100g, form.set_floor, form.set_comfort, facts)
    fits = min(surface.width, surface.length or surface.width)
    wide, limit = (turn, "a wider one breaks as it is turned") if turn <= fits else (fits, "the surface is no wider")
    portion = TEST_ML * (wide / max(a.water.spread_cm or wide, 1.0)) ** (1 / VOLUME_POWER)
    return min(MOST_ML, max(LEAST_ML, _stepped(portion))), limit


def _stepped(ml: float) -> float:
    return math.floor(ml / STEP_ML) * STEP_ML


def _words(surface: Surface, ml: float, cm: float | None, celsius: float, turn_s: float | None, done_s: float, limit: str) -> str:
    if surface.kind == "iron":
        what = f"{ml:.0f} mL to a place of the iron"
    elif surface.kind == "oven":
        what = "The whole tray"
    else:
        what = f"Pieces of at most {ml:.0f} mL, {cm:.0f} cm across" if cm else f"Pieces of at most {ml:.0f} mL"
    turned = f", turned after {time_words(turn_s)}" if turn_s else ""
    return f"{what}: about {celsius:.0f} °C{turned}, done in {time_words(done_s)} ({limit})."


def time_words(seconds: float) -> str:
    """Seconds as a cook says them, to five.

    >>> time_words(48), time_words(125), time_words(180)
    ('50 s', '2 min 5 s', '3 min')
    """
    whole = 5 * round(seconds / 5)
    minutes, rest = divmod(whole, 60)
    return " ".join(x for x in (f"{minutes} min" if minutes else "", f"{rest} s" if rest or not minutes else "") if x)
