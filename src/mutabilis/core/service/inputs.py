"""What of the wishes cannot be planned at all, said in one plain line each."""

from collections import Counter
from collections.abc import Iterable, Mapping
from typing import Any

from pydantic import ValidationError

from ..errors import CannotBe
from .hours import spoken
from .tables import ServiceTables
from .wishes import Service


def read_service(told: object, tables: ServiceTables) -> Service:
    """The wishes from JSON; CannotBe with one line where they cannot be planned."""
    if not isinstance(told, Mapping):
        raise CannotBe("a service is one JSON object with start, stations, batters and guests")
    try:
        service = Service.model_validate(told)
    except ValidationError as error:
        first = error.errors()[0]
        raise CannotBe(f"{_where(first['loc'], told)}: {_what(first)}") from None
    except RecursionError:
        raise CannotBe("the file is nested too deeply") from None
    for fault in faults_of(service, tables):
        raise CannotBe(fault)
    return service


def faults_of(s: Service, tables: ServiceTables) -> Iterable[str]:
    """Each thing that cannot be planned from."""
    for what, ids in (
        ("guests", [g.id for g in s.guests]),
        ("stations", [x.id for x in s.stations]),
        ("batters", [o.id for o in s.batters]),
        ("people", [p.id for p in s.people]),
    ):
        double = [id for id, n in Counter(ids).items() if n > 1]
        if double:
            yield f"two {what} have the id “{double[0]}”: give one of them another"
    for what, count, most in (
        ("guests", len(s.guests), tables.limits.guests),
        ("stations", len(s.stations), tables.limits.stations),
        ("batters", len(s.batters), tables.limits.batters),
    ):
        if count > most:
            yield f"{count} {what} are too many for one plan: at most {most}"
    if not s.guests:
        yield "nobody comes: name at least one guest"
    if not s.stations:
        yield "there is no surface to cook on"
    if not s.batters:
        yield "there is no batter to choose from"
    if not s.people:
        yield "nobody is there to cook"
    known = {o.id for o in s.batters}
    for g in s.guests:
        if g.at < s.start:
            yield f"{g.said} is to eat at {spoken(g.at)}, before the service starts at {spoken(s.start)}"
        if g.batter is not None and g.batter not in known:
            yield f"{g.said} is to have “{g.batter}”, and there is no such batter"
        if g.batter is None and g.form is None and not g.minds and not s.batters:
            yield f"{g.said}: name a batter or a form"
    tables = tables.of(())
    asked = {tables.name(n.what) for g in s.guests for n in g.minds}
    lists = [(o.said, x) for o in s.batters for x in (*o.contains, *o.may_contain)] + [(x.said, m) for x in s.stations for m in x.met]
    for whose, word in lists:
        if not tables.checked_for(word) and tables.name(word) not in asked and (meant := tables.near(word)):
            yield f"{whose} names “{word}”: is {meant} meant?"
    here, there = {x.id for x in s.stations}, {g.id for g in s.guests}
    for row in s.under_way:
        if row.batter is not None and row.batter not in known:
            yield f"what is under way names “{row.batter}”, and there is no such batter"
        if row.station is not None and row.station not in here:
            yield f"what is under way lies on “{row.station}”, and there is no such surface"
        if row.on is not None and row.guests and not set(row.guests) <= there:
            yield f"what is under way is for “{sorted(set(row.guests) - there)[0]}”, who is no guest"
    for p in s.people:
        if p.begins is not None and p.ends is not None and p.ends <= p.begins:
            yield f"{p.name or p.id} leaves at {spoken(p.ends)}, before coming at {spoken(p.begins)}"


def _where(loc: tuple[int | str, ...], told: Mapping[str, Any]) -> str:
    """The place of a fault in words: the row by its id where it has one."""
    if not loc:
        return "the service"
    if len(loc) > 1 and isinstance(loc[1], int):
        rows = told.get(str(loc[0]))
        row = rows[loc[1]] if isinstance(rows, list) and loc[1] < len(rows) else None
        name = row.get("id") if isinstance(row, Mapping) else None
        rest = " ".join(str(x) for x in loc[2:])
        return f"{loc[0]} {name if isinstance(name, str) else loc[1] + 1} {rest}".strip()
    return " ".join(str(x) for x in loc)


def _what(first: Any) -> str:
    kind, given = first["type"], first.get("input")
    if kind == "missing":
        return "is missing"
    if kind == "extra_forbidden":
        return "is not a name that is known here"
    text = str(first["msg"]).removeprefix("Value error, ").removeprefix("Input ")
    shown = f"“{given}” " if isinstance(given, (str, int, float)) and len(str(given)) < 40 else ""
    return f"{shown}{text[:1].lower()}{text[1:]}"
