"""Events for tests, with ids and moments of their own; and a batch to put them on."""

from itertools import count

from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.events import EVENT

_next = count(1)


def event(kind, at=None, id=None, **more):
    n = next(_next)
    return EVENT.validate_python({"kind": kind, "id": id or f"{n:016x}", "at": 1000.0 + n if at is None else at, **more})


def batch(plan, *events, diets=(), first_at=None):
    return Batch(
        id="b" * 16, version_id="v", batter_id="x", name="Ridge", number=1, plan=plan, diets=diets, whom="", first_at=first_at, order="two_bowls",
        mark=0, started=1000.0, events=tuple(events),
    )  # fmt: skip


def poured_all(plan, facts, factor=None, **more):
    """Every line poured at its target, or `factor` times it."""
    return [
        event("poured", line=at, slot=0, grams=line.grams * (factor or {}).get(at, 1.0), **more)
        for at, line in enumerate(plan.lines)
        if line.counts and not line.problem and line.grams > 0
    ]
