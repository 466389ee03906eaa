"""A plan before it is written out: seconds for everything, and the plan that follows from them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from .hands import spread_out
from .job import Job, as_load
from .plan import Bound, Bowl, Conflict, Plan, Plated, Proven, Task


@dataclass(slots=True, kw_only=True)
class Draft:
    """When each load goes on and where, the bowls with their loads, when each batter is weighed, each surface cleaned, each table served.
    `who` where that was decided as well."""

    on: dict[str, tuple[int, str]] = field(default_factory=dict)
    bowls: list[tuple[str, int, tuple[str, ...]]] = field(default_factory=list)
    weigh: dict[str, int] = field(default_factory=dict)
    clean: list[tuple[str, int]] = field(default_factory=list)
    served: dict[tuple[str, int], int] = field(default_factory=dict)
    in_old_bowl: dict[str, str] = field(default_factory=dict)
    who: dict[tuple[str, str], str] = field(default_factory=dict)


def written(
    job: Job, draft: Draft, conflicts: Sequence[Conflict] = (), proven: Proven | None = None, bound: Bound | None = None
) -> Plan | None:
    """The plan of a draft; None where its tasks find no hands. Its figures are reckoned anew from its own loads and plates."""
    s = job.service
    bowls = list(job.bowls)
    bowl_of: dict[str, str] = {x.id: x.bowl for x in job.lumps if x.on is not None and x.bowl} | dict(draft.in_old_bowl)
    taken = {b.id for b in bowls}
    names = (f"bowl_{n}" for n in range(1, 10_000) if f"bowl_{n}" not in taken)
    for batter, mix, lumps in sorted(draft.bowls, key=lambda b: (b[1], b[0])):
        offer, id = s.offer(batter), next(names)
        ready = mix + offer.mix_s
        bowls.append(Bowl(id=id, batter=batter, mix=mix, usable_from=ready + offer.rest_s, usable_to=ready + offer.life_s))
        bowl_of |= dict.fromkeys(lumps, id)
    loads = tuple(
        sorted((as_load(x, *draft.on[x.id], bowl_of.get(x.id, "")) for x in job.lumps if x.id in draft.on), key=lambda x: (x.on, x.id))
    )
    plates = tuple(
        Plated(table=t.seat, wanted=t.wanted, served=draft.served[t.key], guests=tuple(g.id for g in t.guests))
        for t in job.tables
        if t.key in draft.served
    )
    tasks = tasks_of(job, draft, bowls)
    given = {(t.do, t.of): t.who for t in tasks if t.who} | draft.who
    for b in bowls:  # a bowl has its name only now
        who = draft.who.get(("mix", f"{b.batter}@{b.mix}"))
        given |= {("mix", b.id): who} if who else {}
    handed = spread_out(tasks, s, given)
    if handed is None:
        return None
    plan = Plan(
        serves=dict(job.serves), bowls=tuple(sorted(bowls, key=lambda b: (b.mix, b.id))), plates=plates, loads=loads, tasks=handed,
        batters_used=tuple(dict.fromkeys(x.batter for x in loads)), conflicts=tuple(conflicts), proven=proven or Proven(), bound=bound or Bound(),
        unserved=tuple(g.id for g in s.guests if not any(g.id in p.guests for p in plates)),
    )  # fmt: skip
    return plan.model_copy(update=figures(job, plan))


def tasks_of(job: Job, draft: Draft, bowls: Sequence[Bowl]) -> list[Task]:
    """What hands do, in the order of the hours, nobody named yet but for what is done."""
    s = job.service
    found = [*job.weighed.values(), *(t for ts in job.cleaned.values() for t in ts)]
    for batter, at in draft.weigh.items():
        found.append(Task(at=at, to=at + s.offer(batter).weigh_s, who="", do="weigh", of=batter))
    for b in bowls:
        mix_s = s.offer(b.batter).mix_s
        if mix_s:
            found.append(Task(at=b.mix, to=b.mix + mix_s, who="", do="mix", of=b.id))
    for station, at in draft.clean:
        found.append(Task(at=at, to=at + clean_s(job, station), who="", do="clean", of=station))
    for x in job.lumps:
        if x.id in draft.on:
            on = draft.on[x.id][0]
            found += [Task(at=on + after, to=on + after + long, who="", do=do, of=x.id) for do, after, long in x.hands]
    if s.plate_s:
        for t in job.tables:
            if t.key in draft.served:
                at = draft.served[t.key]
                found.append(Task(at=at - s.plate_s, to=at, who="", do="plate", of=t.seat))
    return sorted(found, key=lambda t: (t.at, t.to, t.do, t.of))


def clean_s(job: Job, station: str) -> int:
    """Seconds that a surface takes to be cleaned."""
    return job.service.station(station).clean_s or job.rules.limits.clean_s


def figures(job: Job, plan: Plan) -> Mapping[str, int]:
    """Guests late beyond the grace, their seconds, and the seconds that pieces wait beyond the free ones."""
    s = job.service
    late = {g: max(0, p.served - p.wanted) for p in plan.plates for g in p.guests}
    return {
        "late_guests": sum(x > s.grace_s for x in late.values()),
        "late_guest_s": sum(late.values()),
        "held_beyond_free_s": held(job, {(p.table, p.wanted): p.served for p in plan.plates}, {x.id: x.ready for x in plan.loads}),
    }


def held(job: Job, served: Mapping[tuple[str, int], int], ready: Mapping[str, int]) -> int:
    """The seconds that pieces wait on a rack beyond the free ones."""
    found = 0
    for x in job.lumps:
        for t in job.tables:
            n = sum(x.guests.get(g.id, 0) for g in t.guests)
            if n and t.key in served and x.id in ready:
                found += n * max(0, served[t.key] - ready[x.id] - job.service.free_hold_s)
    return found
