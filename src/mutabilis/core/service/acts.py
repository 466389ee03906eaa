"""A plan as a cook reads it: acts in words, by the second they begin, and what can be done the evening before."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..words import listed
from .hours import lasting, spoken
from .live import Happening, done_of
from .plan import Load, Plan, Task
from .saying import FORM_WORD
from .wishes import Service

NUMBERS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")


@dataclass(frozen=True, slots=True, kw_only=True)
class Act:
    """One thing to do: what, of what, from when to when [s], whose hands, in words, why then, and whether it is done."""

    do: str
    of: str
    at: int
    to: int
    who: str
    words: str
    why: str
    done: bool


def acts(service: Service, plan: Plan, happened: Sequence[Happening] = ()) -> tuple[Act, ...]:
    """Every task of a plan in words, in the order in which they begin."""
    done = done_of(happened)
    loads = {x.id: x for x in plan.loads}
    bowls = {b.id: b.batter for b in plan.bowls}
    names = {g.id: g.said for g in service.guests}
    found = []
    for t in plan.tasks:
        words, why = _words(t, service, plan, loads, bowls, names)
        found.append(Act(do=t.do, of=t.of, at=t.at, to=t.to, who=t.who, words=words, why=why, done=(t.do, t.of) in done))
    return tuple(found)


def _words(
    t: Task, s: Service, plan: Plan, loads: Mapping[str, Load], bowls: Mapping[str, str], names: Mapping[str, str]
) -> tuple[str, str]:
    offers = {o.id: o for o in s.batters}
    stations = {x.id: x.said for x in s.stations}
    if t.do == "weigh":
        return f"Weigh out {_name(offers, t.of)}", "Its dry mix, before anything that would spoil it."
    if t.do == "mix":
        batter = bowls.get(t.of, "")
        o = offers.get(batter)
        return f"Mix {_name(offers, batter)}", f"It rests {lasting(o.rest_s)}, and is good for {lasting(o.life_s)}." if o else ""
    if t.do == "clean":
        return f"Clean {_the(stations.get(t.of, t.of))}", "What comes on next must not meet what lay here."
    if t.do == "plate":
        p = next((p for p in plan.plates if p.table == t.of and p.served == t.to), None)
        who = listed([names.get(g, g) for g in p.guests]) if p and len(p.guests) <= 4 else f"{len(p.guests)} guests" if p else t.of
        return f"Plate for {who}", f"Wanted at {spoken(p.wanted)}." if p else ""
    x = loads.get(t.of)
    if x is None:
        return f"{t.do.capitalize()} {t.of}", ""
    many = NUMBERS[x.pieces] if x.pieces < len(NUMBERS) else str(x.pieces)
    where = _the(stations.get(x.station, x.station))
    o = offers.get(x.batter)
    word = FORM_WORD[o.form] if o else "pieces"
    word = word[:-1] if x.pieces == 1 and word.endswith("s") else word
    for_whom = listed([names.get(g, g) for g in list(x.guests)[:3]]) + (" and others" if len(x.guests) > 3 else "")
    if t.do == "pour":
        return f"Pour {many} on {where}", f"{_name(offers, x.batter)}, for {for_whom}."
    if t.do == "turn":
        return f"Turn {many} on {where}", f"Off at {spoken(x.off)}."
    verb = "Open" if o and o.form == "waffle" else "Take out" if o and o.form == "tray" else "Lift off"
    return f"{verb} {many} {word}, {stations.get(x.station, x.station)}", f"For {for_whom}."


def _name(offers: Mapping[str, object], id: str) -> str:
    return getattr(offers.get(id), "said", id.replace("_", " "))


def _the(name: str) -> str:
    low = name[:1].lower() + name[1:]
    return low if low.startswith(("the ", "a ")) else f"the {low}"
