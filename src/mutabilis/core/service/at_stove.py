"""A morning and the Stove as one story: a load that is put on, turned or taken off in either place is the same load in both."""

import hashlib
from collections.abc import Mapping, Sequence

from ..stove.events import Event, LoadOn, Off, Turned, Undone
from ..stove.fold import State
from .live import Happening
from .plan import Plan


def in_the_bowl(plan: Plan, happening: Happening, states: Mapping[str, State], at: float) -> tuple[str, Event] | None:
    """What a tick of the morning is at the Stove: the batch and its event, at `at` [s since 1970]. `states` are the batches of that
    load's batter, the oldest first. None where the Stove does not cook it, or has it already.

    The loads of a batter are the same in the order in which they go on: the third that is poured by the plan is the third at the Stove.
    """
    load = next((x for x in plan.loads if x.id == happening.of), None)
    if happening.kind != "done" or load is None:
        return None
    planned = sorted((x for x in plan.loads if x.batter == load.batter), key=lambda x: (x.on, x.id))
    n = planned.index(load)
    there = [(batch, at_, x) for batch, s in states.items() for at_, x in enumerate(s.loads) if not x.test]
    id_ = event_of(happening.id)
    if happening.do == "pour":
        cooking = [batch for batch, s in states.items() if s.chosen is not None and s.finished is None]
        if n != len(there) or not cooking:
            return None
        return cooking[-1], LoadOn(id=id_, at=at, load=len(states[cooking[-1]].loads), pieces=load.pieces)
    if n >= len(there):
        return None
    batch, at_, x = there[n]
    if states[batch].finished is not None:
        return None
    if happening.do == "turn" and x.turned is None and x.off is None:
        return batch, Turned(id=id_, at=at, load=at_)
    if happening.do == "off" and x.off is None:
        return batch, Off(id=id_, at=at, load=at_, good=x.pieces)
    return None


def taken_back(happening: Happening, events: Mapping[str, Sequence[Event]], at: float) -> tuple[str, Event] | None:
    """What taking back a tick is at the Stove, where the tick wrote an event there."""
    id_ = event_of(happening.of)
    for batch, have in events.items():
        if any(e.id == id_ for e in have):
            return batch, Undone(id=event_of(f"{happening.id} {happening.of}"), at=at, event=id_)
    return None


def served_by(plan: Plan, states: Mapping[str, State]) -> dict[str, tuple[tuple[int, str, int, float], ...]]:
    """Who ate of each batch by the plan: (load at the Stove, guest, pieces, when it came off [s since 1970]). `states` are the batches of one
    batter, the oldest first; a load that the plan does not know feeds nobody by it."""
    there = [(batch, n, x) for batch, s in states.items() for n, x in enumerate(s.loads) if not x.test]
    found: dict[str, list[tuple[int, str, int, float]]] = {batch: [] for batch in states}
    planned = sorted(plan.loads, key=lambda x: (x.on, x.id))
    for (batch, n, x), load in zip(there, planned, strict=False):
        if x.off is not None:
            found[batch] += [(n, guest, pieces, x.off) for guest, pieces in sorted(load.guests.items())]
    return {batch: tuple(rows) for batch, rows in found.items()}


def event_of(happening: str) -> str:
    """The id at the Stove of what a tick writes there: the same each time, so that one sent twice counts once."""
    return hashlib.sha256(f"morning {happening}".encode()).hexdigest()[:16]
