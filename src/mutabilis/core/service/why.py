"""Why not everybody can eat when they want to, in words, and what would settle it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..words import listed
from .cover import remedies_for
from .hours import lasting, spoken
from .job import Job, Lump, Table
from .plan import Change, Conflict, Plan, Remedy, Rule
from .saying import FORM_WORD, later
from .solve import Effort, punctual, servable
from .wishes import Guest, Person

HELPER = "helper"
LEAST_S = 0.25
EXPLAINED = 3  # so many conflicts are explained whatever it takes; more only where there is time
EACH_S = 0.4  # seconds for one question of the kind "and without that table?"


@dataclass(frozen=True, slots=True, kw_only=True)
class _Cause:
    rule: Rule
    tables: tuple[Table, ...]
    proven: bool


def conflicts_of(job: Job, plan: Plan, effort: Effort) -> tuple[Conflict, ...]:
    """One conflict for each group of tables of which not all can be on time (or be served at all), thinned by leaving out one at a time."""
    served = {(p.table, p.wanted): p.served for p in plan.plates}
    late = [t for t in job.open if served.get(t.key, 10**9) - t.wanted > job.service.grace_s]
    found: list[Conflict] = []
    blamed: set[tuple[str, int]] = set()
    for t in late:
        if t.key in blamed:
            continue
        if len(found) >= EXPLAINED and effort.left() <= 0:
            found.append(_conflict(job, plan, _Cause(rule="late", tables=(t,), proven=False), [t], served))
            continue
        cause = _cause(job, t, [x for x in job.open if x.wanted <= t.wanted + 3600], effort)
        blamed |= {x.key for x in cause.tables} & {x.key for x in late}
        found.append(_conflict(job, plan, cause, [x for x in late if x.key in {y.key for y in cause.tables}] or [t], served))
    return tuple(found)


def _cause(job: Job, late: Table, others: Sequence[Table], effort: Effort) -> _Cause:
    """The fewest tables that cannot all be on time together, the late one among them, and the rule that stands in the way."""
    kinds = {y.id for x in job.lumps if late.key in x.tables for y in x.stations}
    near = [t for t in others if t.key == late.key or (_share(job, t, late) and _uses(job, t, kinds))]
    alone = punctual(job, [late], _slice(effort)) is False
    tables = [late] if alone else near
    rule: Rule = "late"
    limits: tuple[Rule, ...] = ("hold", "hands", "life", "station")
    for name in limits:
        if punctual(_relaxed(job, name), tables, _slice(effort)):
            rule = name
            break
    proven = alone
    for t in [x for x in tables if x.key != late.key]:
        if effort.left() < EACH_S:
            break
        fewer = [x for x in tables if x.key != t.key]
        if punctual(job, fewer, _slice(effort)) is False:
            tables, proven = fewer, True
    return _Cause(rule=rule, tables=tuple(tables), proven=proven)


def _uses(job: Job, table: Table, stations: set[str]) -> bool:
    """Whether a table's food can lie on any of these surfaces."""
    return any(y.id in stations for x in job.lumps if table.key in x.tables for y in x.stations)


def never_served(job: Job, table: Table, effort: Effort) -> Conflict:
    """Why a table cannot be served at all, by the first limit whose lifting would let it be."""
    rule: Rule = "late"
    limits: tuple[Rule, ...] = ("hold", "life", "station", "hands")
    for name in limits:
        if servable(_relaxed(job, name), [table], _slice(effort)):
            rule = name
            break
    lumps = [x for x in job.lumps if table.key in x.tables]
    return _conflict(job, Plan(), _Cause(rule=rule, tables=(table,), proven=True), [table], {}, {s.id for x in lumps for s in x.stations})


def no_place(guests: Sequence[Guest]) -> Conflict:
    """Guests for whom no place was found in the time there was to look."""
    who = listed([g.said for g in guests]) if len(guests) <= 3 else f"{len(guests)} guests"
    words = f"No place was found for {who} in the time there was to look; it may be that there is none."
    ids = tuple(g.id for g in guests)
    hours = [g.at for g in guests]
    return Conflict.model_validate(
        {"guests": ids, "stations": (), "rule": "late", "from": min(hours), "to": max(hours), "words": words, "remedies": ()}
    )


def _slice(effort: Effort) -> Effort:
    """Time for one question: a cause is looked for also where the plan took all the time there was."""
    return replace(effort, left=lambda: max(LEAST_S, min(EACH_S, effort.left())), workers=1)


def _share(job: Job, a: Table, b: Table) -> bool:
    """Whether two tables want the same hands or surfaces at about the same time."""
    return abs(a.wanted - b.wanted) <= 3600


def _relaxed(job: Job, rule: str) -> Job:
    """The same morning without one of its limits."""
    s = job.service
    if rule == "hands":
        people = tuple(Person(id=f"{HELPER}_{n}") for n in range(12))
        return replace(job, service=s.model_copy(update={"people": people}))
    if rule in ("hold", "life"):
        field = {"hold": "hold_s", "life": "life_s"}[rule]
        offers = {o.id: o.model_copy(update={field: 6 * 3600}) for o in s.batters}
        service = s.model_copy(update={"batters": tuple(offers.values())})
        return replace(job, service=service, lumps=tuple(replace(x, offer=offers[x.offer.id]) for x in job.lumps))
    # Twice the surfaces: every load may lie on a twin as well.
    twins = {x.id: x.model_copy(update={"id": f"{x.id}~"}) for x in s.stations if not x.dead}
    service = s.model_copy(update={"stations": (*s.stations, *twins.values())})
    lumps = tuple(
        x if x.on is not None else replace(x, stations=(*x.stations, *(twins[y.id] for y in x.stations if y.id in twins)))
        for x in job.lumps
    )
    return replace(job, service=service, lumps=lumps)


def _conflict(
    job: Job, plan: Plan, cause: _Cause, late: Sequence[Table], served: dict[tuple[str, int], int], standing: set[str] | None = None
) -> Conflict:
    s = job.service
    guests = [g for t in late for g in t.guests]
    keys = {t.key for t in cause.tables}
    lumps = [x for x in job.lumps if keys & set(x.tables)]
    used = standing or {x.station for x in plan.loads}
    forms = {x.offer.form for x in job.lumps if {t.key for t in late} & set(x.tables)}
    stations = tuple(x for x in s.stations if x.id in used and any(x in y.stations for y in lumps if y.offer.form in forms))
    ids = {x.id for x in lumps}
    begins = min((x.on for x in plan.loads if x.id in ids), default=late[0].wanted)
    ends = max((served.get(t.key, t.wanted) for t in late), default=late[0].wanted)
    remedies = _remedies(job, plan, late, served, cause.rule)
    words = _words(job, cause, late, lumps, stations, begins)
    if remedies:
        words += f" Offer: {listed([r.words for r in remedies], 'or')}."
    return Conflict.model_validate(
        {"guests": tuple(g.id for g in guests), "stations": tuple(x.id for x in stations), "rule": cause.rule, "from": begins, "to": ends, "words": words, "remedies": remedies}
    )  # fmt: skip


def _words(job: Job, cause: _Cause, late: Sequence[Table], lumps: Sequence[Lump], stations: Sequence[object], begins: int) -> str:
    guests = [g for t in late for g in t.guests]
    all_guests = [g for t in cause.tables for g in t.guests]
    hour = spoken(late[0].wanted)
    names = listed([getattr(x, "said", "") for x in stations]) if stations else "what is here"
    forms = sorted({FORM_WORD[x.offer.form] for x in lumps if any(t.key in x.tables for t in late)})
    pieces = sum(x.pieces for x in lumps if x.offer.form in {y.offer.form for y in lumps if any(t.key in y.tables for t in late)})
    what = f"{pieces} {listed(forms)}"
    span = sum(x.ready_s + min(s.recover_s for s in x.stations) for x in lumps) // max(1, len(stations))
    on_time = len(all_guests) - len(guests)
    can = f" {on_time} of {len(all_guests)} can be on time." if on_time > 0 and len(all_guests) > 1 else ""
    who = "One guest" if len(guests) == 1 else f"{len(guests)} guests"
    if cause.rule == "hands":
        return f"{who} too many at {hour} for the hands that are here: from {spoken(begins)} they are needed everywhere at once.{can}"
    if cause.rule == "hold":
        keeps = min(x.offer.hold_s for x in lumps)
        return f"{who} too many at {hour} for {names}: {what} span {lasting(span)}, and they keep {lasting(keeps)}.{can}"
    if cause.rule == "life":
        return f"{who} too many at {hour}: no bowl stays good from the first load to the last.{can}"
    if cause.rule == "station":
        return f"{who} too many at {hour} for {names}: {what} take {lasting(span)} there.{can}"
    first = min((x for x in lumps), key=lambda x: x.due)
    takes = first.offer.weigh_s + first.offer.mix_s + first.offer.rest_s + first.ready_s
    if job.service.begin + takes <= late[0].wanted:
        return f"{who} too many at {hour} for the hands and surfaces that are here.{can}"
    return f"{listed([g.said for g in guests]) if len(guests) < 4 else who} cannot eat at {hour}: from {spoken(job.service.begin)} there is too little time; weighing, mixing, resting and cooking take {lasting(takes)} and more.{can}"


def _remedies(job: Job, plan: Plan, late: Sequence[Table], served: dict[tuple[str, int], int], rule: Rule) -> tuple[Remedy, ...]:
    found: list[Remedy] = []
    by_hour: dict[int, list[Guest]] = {}
    for t in late:
        if t.key in served:
            by_hour.setdefault(-(-served[t.key] // 60) * 60, []).extend(t.guests)
    if by_hour:
        found.append(
            later([g for gs in by_hour.values() for g in gs], max(by_hour))
            if len(by_hour) == 1
            else Remedy(
                words=listed([later(gs, at).words for at, gs in sorted(by_hour.items())]),
                changes=tuple(Change(guest=g.id, at=at) for at, gs in sorted(by_hour.items()) for g in gs),
            )
        )
    for g in [g for t in late for g in t.guests][:1]:
        found += remedies_for(g, job.service, job.rules, job.serves[g.id])
    if rule == "hands":
        found.append(Remedy(words="a helper who plates and turns", changes=(Change(helper=("plate", "turn", "off")),)))
    return tuple(found)
