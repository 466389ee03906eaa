"""What needs time first, in the order in which it must start, and the whole morning counted back from the first piece."""

from dataclasses import dataclass

from ..process.parts import BESIDE, PREPARES, Operation, Process
from .fold import State
from .tables import TimeTable


@dataclass(frozen=True, slots=True, kw_only=True)
class Prep:
    """One thing that needs time: the minutes it takes, by when it must be begun [s since 1970], when it was begun, when it is due, when it was
    done. `start_by` None where no first piece was named; `weighed` where it takes something off the shelf, which is weighed for it; `side` the dish beside the batter that it makes."""

    key: str
    title: str
    text: str
    why: str
    minutes: float
    start_by: float | None
    started: float | None
    due: float | None
    done: float | None
    weighed: bool
    cautions: tuple[str, ...]
    side: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Clockwork:
    """The work counted back from the first piece [s since 1970]: when to begin anything at all, to weigh, to mix, to rest, to pour; `late_s` how
    much of it is already gone at `now`."""

    begin: float
    weigh: float
    mix: float
    rest: float
    pour: float
    first_piece: float
    late_s: float


def preparations(plan: Process, state: State, clock: Clockwork | None) -> tuple[Prep, ...]:
    """The preparations of a plan, the one that must start first at the top; heating the surface among them."""
    found = []
    for o in _ahead(plan):
        end = None if clock is None else _end(o, plan, clock.mix, clock.pour, clock.first_piece)
        p, minutes = state.prep.get(o.id), _minutes(o)
        started = p.started if p else None
        found.append(
            Prep(
                key=o.id, title=o.title, text=o.text, why=o.why, minutes=minutes, start_by=None if end is None else end - 60 * minutes, started=started,
                due=None if started is None else started + 60 * minutes, done=p.done if p else None, weighed=bool(o.portions), cautions=o.cautions, side=o.side,
            )
        )  # fmt: skip
    if clock is not None:
        return tuple(sorted(found, key=lambda p: p.start_by or 0.0))
    return tuple(sorted(found, key=lambda p: (p.key == "heat", bool(p.side), 0.0 if p.side else -p.minutes)))


def count_back(plan: Process, first_piece: float, now: float, rest_min: float, cook_s: float, lines: int, facts: TimeTable) -> Clockwork:
    """From the first piece on the plate [s since 1970] back through cooking [s], rest [min], mixing, weighing and what needs time."""
    pour = first_piece - cook_s
    rest = pour - 60 * rest_min
    mix = rest - 60 * facts.mix_min
    weigh = mix - facts.weigh_s * lines
    before = [_end(o, plan, mix, pour, first_piece) - 60 * _minutes(o) for o in _ahead(plan)]
    begin = min([weigh, *before])
    return Clockwork(begin=begin, weigh=weigh, mix=mix, rest=rest, pour=pour, first_piece=first_piece, late_s=max(0.0, now - begin))


def _ahead(plan: Process) -> list[Operation]:
    """What needs time first, the heating and the dishes beside the batter among it."""
    return [o for o in plan.operations if o.kind in PREPARES or o.kind in BESIDE or o.kind == "heat"]


def _minutes(o: Operation) -> float:
    return o.minutes if o.side else o.wait_min or o.hands_min


def _end(o: Operation, plan: Process, mix: float, pour: float, first_piece: float) -> float:
    """When a thing must be over [s since 1970]: before the mixing, the pouring, or, of a dish beside, with the first plate."""
    if not o.side:
        return pour if o.kind == "heat" else mix
    later = [x for x in _ahead(plan) if x.side == o.side and o.id in x.takes]
    return min((_end(x, plan, mix, pour, first_piece) - 60 * _minutes(x) for x in later), default=first_piece)
