"""A morning under way: what was done, who is late, what broke. Folded from events, it gives the wishes from which the rest is planned."""

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..words import listed
from .hours import Hour
from .plan import Plan
from .wishes import Guest, Service, UnderWay

FREEZE_S = 60


class Happening(BaseModel):
    """One thing that happened: an act done (`do`, `of`), a guest's new hour, a guest who does not come, one more guest, a surface that
    died, a bowl that spoiled, a helper who went; or an earlier one taken back (`of` its id)."""

    model_config = ConfigDict(frozen=True, extra="forbid")  # a request is checked by it: built at once

    id: Annotated[str, Field(pattern=r"^[0-9a-z-]{8,40}$")]
    at: Hour
    kind: Literal["done", "late", "gone", "came", "dead", "spoiled", "left", "undone"]
    do: Annotated[str, Field(max_length=20)] = ""
    of: Annotated[str, Field(max_length=80)] = ""
    to: Hour | None = None
    guest: Guest | None = None


def standing(events: Sequence[Happening]) -> tuple[Happening, ...]:
    """What was not taken back, in order."""
    undone = {e.of for e in events if e.kind == "undone"}
    return tuple(e for e in events if e.kind != "undone" and e.id not in undone)


def done_of(events: Sequence[Happening]) -> frozenset[tuple[str, str]]:
    """The acts that are done, as (what, of what)."""
    return frozenset((e.do, e.of) for e in standing(events) if e.kind == "done")


def from_stove(
    plan: Plan, made: Mapping[str, Sequence[tuple[float, float | None, float | None]]], mixed: Mapping[str, int]
) -> tuple[Happening, ...]:
    """What the Stove's own batches have done of a plan: `made` has the loads of each batter in their order, (on, turned, off) in seconds of the
    day, `mixed` how many bowls of it are wetted. A load that was put on there is the next load of that batter here."""
    found: list[Happening] = []

    def done(do: str, of: str, at: float) -> None:
        found.append(Happening(id=f"stove-{len(found):04d}", at=min(86_399, max(0, int(at))), kind="done", do=do, of=of))

    for batter, loads in made.items():
        waiting = sorted((x for x in plan.loads if x.batter == batter), key=lambda x: (x.on, x.id))
        for x, (on, turned, off) in zip(waiting, loads, strict=False):
            for do, at in (("pour", on), ("turn", turned), ("off", off)):
                if at is not None:
                    done(do, x.id, at)
    for batter, count in mixed.items():
        if count:
            done("weigh", batter, 0)
        for b in sorted((b for b in plan.bowls if b.batter == batter), key=lambda b: b.mix)[:count]:
            done("mix", b.id, b.mix)
    return tuple(found)


def begun(plan: Plan, events: Sequence[Happening], now: int) -> tuple[UnderWay, ...]:
    """The rows of a plan that do not move any more: what was ticked, and what begins within the next minute.

    A load on a surface that died, or out of a bowl that spoiled and is still on the fire, has to be made anew.
    """
    stand = standing(events)
    done = done_of(events)
    dead = {e.of: e.at for e in stand if e.kind == "dead"}
    spoiled = {e.of for e in stand if e.kind == "spoiled"}
    edge = now + FREEZE_S
    rows: list[UnderWay] = []
    for x in plan.loads:
        lost = (x.station in dead and x.off > dead[x.station]) or (x.bowl in spoiled and ("pour", x.id) not in done)
        if (x.on <= edge or ("pour", x.id) in done) and not lost:
            rows.append(UnderWay.model_validate({**x.model_dump(), "guests": x.guests}))
    for b in plan.bowls:
        if (b.mix <= edge or ("mix", b.id) in done) and b.id not in spoiled:
            rows.append(UnderWay(id=b.id, batter=b.batter, mix=b.mix, usable_to=b.usable_to))
    for p in plan.plates:
        if p.served <= edge or ("plate", p.table) in done:
            rows.append(UnderWay(table=p.table, wanted=p.wanted, served=p.served))
    for t in plan.tasks:
        if t.do in ("weigh", "clean") and (t.at <= edge or (t.do, t.of) in done):
            rows.append(UnderWay(at=t.at, to=t.to, who=t.who, do=t.do, of=t.of))
    return tuple(rows)


def wishes_now(service: Service, plan: Plan | None, events: Sequence[Happening], now: int) -> Service:
    """The wishes as they are by now: the guests as they come, the surfaces that still heat, and what is under way."""
    stand = standing(events)
    late = {e.of: e.to for e in stand if e.kind == "late" and e.to is not None}
    gone = {e.of for e in stand if e.kind == "gone"}
    left = {e.of: e.at for e in stand if e.kind == "left"}
    dead = {e.of: min(e.at, now) for e in stand if e.kind == "dead"}
    more = tuple(e.guest for e in stand if e.kind == "came" and e.guest is not None)
    guests = tuple(
        g.model_copy(update={"at": max(g.at, late[g.id]) if g.id in late else g.at}) for g in (*service.guests, *more) if g.id not in gone
    )
    people = tuple(p.model_copy(update={"ends": left[p.id]}) if p.id in left else p for p in service.people)
    stations = tuple(s.model_copy(update={"dead_from": dead[s.id]}) if s.id in dead else s for s in service.stations)
    started = now > service.start
    under_way = begun(plan, events, now) if plan is not None and started else ()
    moving = {r.id for r in under_way if r.on is not None}
    loads = plan.loads if plan is not None and started else ()
    return service.model_copy(
        update={
            "guests": guests, "people": people, "stations": stations, "now": now if started else None, "under_way": under_way,
            "planned": tuple(UnderWay.model_validate({**x.model_dump(), "guests": x.guests}) for x in loads if x.id not in moving),
        }
    )  # fmt: skip


def moved(before: Plan, after: Plan, service: Service) -> str:
    """What a new plan moves, in one line: whose plate comes at another hour."""
    old, new = _served(before), _served(after)
    names = {g.id: g.said for g in service.guests}
    changed = [names.get(g, g) for g, at in new.items() if g in old and abs(at - old[g]) >= FREEZE_S]
    if not changed:
        return "Nobody's plate moves."
    who = listed(changed) if len(changed) <= 3 else f"{len(changed)} guests"
    return f"{who} {'eats' if len(changed) == 1 else 'eat'} at another hour; nobody else is touched."


def _served(plan: Plan) -> dict[str, int]:
    return {g: p.served for p in plan.plates for g in p.guests}
