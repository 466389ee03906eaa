"""A batter of the Book as an offer of a morning: its moments from the heat model, the plan of making and the window of its rest."""

import math

from ..analysis.analysis import Analysis
from ..balances.lift import FOAM_HALF_MIN
from ..errors import CannotBe
from ..heat.largest_piece import largest_piece
from ..heat.surfaces import Surface, per_load
from ..process.parts import Process
from ..stove.facts import StoveFacts
from ..stove.resting import window
from .tables import ServiceTables
from .wishes import Offer, Station

KEEP = 0.85  # of the lift: the share at which every batter here is past its best
LEAST_MIN = 5.0  # minutes in which a bowl can be poured; a judgement
LINE_MIN = 0.3  # hands for one line on the scale, beside what is prepared; a judgement
EACH_S = 4  # hands for each piece beyond the first, at the pour, the turn and the lifting off; a judgement


def foam_life_min() -> float:
    """Minutes after the fold in which whipped air keeps 85 % of itself: its half-life times log2(1/0.85).

    >>> round(foam_life_min(), 1)
    5.9
    """
    return FOAM_HALF_MIN * math.log2(1 / KEEP)


def offer_of(id: str, name: str, a: Analysis, plan: Process, surface: Surface, facts: StoveFacts, rules: ServiceTables) -> Offer:
    """The offer of an analysed batter on a surface. CannotBe where no heat cooks it through before it burns.

    What may be in it counts, and a line that was not read may hold anything. Foam bounds the life, whatever the powder would still do.
    """
    piece = largest_piece(a, facts, surface)
    if piece is None:
        raise CannotBe(f"{name}: no heat on {surface.name} cooks it through before it burns")
    lies = per_load(surface, a.batter.form, piece.diameter_cm)
    rest, life = _rest_and_life(a, plan, facts)
    mine = [o for o in plan.operations if not o.side]
    weigh = sum(o.hands_min for o in mine if o.skill == "weigh") + LINE_MIN * len(a.batter.lines)
    mix = sum(o.hands_min for o in mine if o.skill == "mix")
    more = EACH_S * (lies - 1)
    turned = piece.turn_s is not None and a.batter.form in ("griddle", "crepe")
    return Offer(
        id=id, name=name, form=a.batter.form, contains=a.plate.contains, may_contain=tuple(x.split(" (")[0] for x in a.plate.may_contain),
        fits=tuple(k for k, judged in a.plate.diets.items() if judged.verdict == "fits"), pour_s=15 + more, turn_at_s=round(piece.turn_s or 0) if turned else None,
        turn_s=10 + more if turned else 0, done_s=round(piece.done_s), off_s=10 + more, hold_s=rules.hold_s[a.batter.form], weigh_s=_quarter(weigh), mix_s=_quarter(mix),
        rest_s=_quarter(rest), life_s=max(_quarter(rest), int(60 * life)), oven_c=round(piece.celsius / 5) * 5 if a.batter.form == "tray" else None,
    )  # fmt: skip


def _rest_and_life(a: Analysis, plan: Process, facts: StoveFacts) -> tuple[float, float]:
    """From when to when a bowl can be poured [min since it was mixed]: rested, with 85 % of its lift, and not standing warm too long.

    Powder that is wetted last, and foam that is folded in last, begin to lose at the end of the rest; powder among the flour at once. Where
    that leaves no time, a rest is cut down to what the flour needs to drink.
    """
    stands, rest = window(a.bowl, a.batter.blender, facts.stove.time), plan.rest_min
    leavening = plan.moments.leavening
    most = max(facts.stove.time.room_most_min, rest)
    last = leavening is not None and leavening.at != "dry"  # on the hot surface, or at the very end
    lasts = leavening.lasts_min if leavening is not None else None
    if plan.moments.foam:
        foam = foam_life_min()
        lasts, last = (foam if lasts is None or not last else min(lasts, foam)), True
    if last:
        return rest, rest + min(lasts if lasts is not None else most, most)
    latest = min(lasts if lasts is not None else most, most)
    return (rest, latest) if latest - rest >= LEAST_MIN else (max(0.0, min(stands.earliest_min, latest - LEAST_MIN)), latest)


def station_of(surface: Surface, places: int, met: tuple[str, ...] = (), cleanable: bool | None = None) -> Station:
    """A kitchen's surface as a station; an iron is not cleaned of what it has met, and a plate can be."""
    kind = "pan" if surface.kind == "two_pans" else surface.kind
    return Station(
        id=surface.id, name=surface.name, kind=kind, places=places, recover_s=round(surface.recover_s), heat_up_s=round(60 * surface.heat_up_min),
        met=met, cleanable=surface.kind != "iron" if cleanable is None else cleanable,
    )  # fmt: skip


def _quarter(minutes: float) -> int:
    """Minutes as seconds, to the next quarter of a minute."""
    return math.ceil(4 * minutes - 1e-9) * 15
