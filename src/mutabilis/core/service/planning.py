"""From wishes to a plan: who gets what, a plan at once, better ones as long as there is time, and a reason for whatever cannot be had."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from .check import faults
from .cover import Cover, covers
from .draft import Draft, written
from .job import Job, Table, job_of
from .plan import Conflict, Plan
from .quick import Order, first_draft
from .solve import Effort, improve, moved_loads, only, servable
from .tables import ServiceTables
from .why import conflicts_of, never_served, no_place
from .wishes import Service

PRICES = (1.0, 0.2, 0.001, 5.0)  # what a second of a surface costs beside a waiting piece's, when pieces are cut into loads
ORDERS: tuple[Order, ...] = ("due", "strict")
EXTRA_BATTER_S = 60  # one batter more must save every piece a minute of waiting


@dataclass(frozen=True, slots=True, kw_only=True)
class _Try:
    job: Job
    draft: Draft | None
    plan: Plan | None

    @property
    def worth(self) -> tuple[int, ...]:
        """The first is compared first; no plan at all comes last."""
        if self.plan is None:
            return (1, 0, 0, 0, 0, 0)
        pieces = sum(g.pieces for g in self.job.service.guests)
        p = self.plan
        held = p.held_beyond_free_s + EXTRA_BATTER_S * pieces * len(p.batters_used)
        return (0, len(p.unserved), p.late_guests, p.late_guest_s, held, moved_loads(self.job.service, p) or 0)


def plans(service: Service, rules: ServiceTables, effort: Effort) -> Iterator[Plan]:
    """Plans, each better than the one before; the last is complete, with its conflicts named. At least one comes.

    Nothing that breaks a rule comes out of here: every plan is checked by a hand that knows nothing of how it was made.
    """
    rules = rules.of(service.batters)
    found, facts = covers(service, rules)
    if not found or not found[0].serves:
        yield _told(service, None, facts)
        return
    tries = _tries(service, rules, found, effort)
    if tries[0].plan is None:
        # Tables that nothing can serve, however late, are named first; the rest of the morning is planned without them.
        never = _never(tries[0].job, effort)
        if never:
            facts = (*facts, *never)
            gone = {g for c in never for g in c.guests}
            found = tuple(replace(c, serves={g: o for g, o in c.serves.items() if g not in gone}) for c in found)
            if not found[0].serves:
                yield _told(service, None, facts)
                return
            tries = _tries(service, rules, found, effort)
    best = tries[0] if tries[0].plan is not None else _one_by_one(tries[0].job, effort)
    if best.plan is not None:
        yield _told(service, best.plan, facts)
    total = effort.left()
    for n, one in enumerate(tries[:3]):
        if n and (best.plan is not None and best.plan.value[:4] == (0, 0, 0, 0)):
            break  # nobody is late and nothing waits: no other cut can do better
        keep = total * (0.3 if n == 0 and len(tries) > 1 else 0.15)
        more = replace(effort, left=lambda keep=keep: effort.left() - keep)  # type: ignore[misc]
        for better in _improved(one, more):
            found_try = _Try(job=one.job, draft=one.draft, plan=better)
            if faults(service, better, rules) or (best.plan is not None and found_try.worth > best.worth):
                continue
            known, best = best.plan, found_try
            if known is None or _told_of(service, known) != _told_of(service, better):
                yield _told(service, better, facts)
    if best.plan is None or len(best.plan.unserved) > len({g for c in facts for g in c.guests}):
        rest = _for_the_rest(tries[0].job, effort)
        best = min((best, rest), key=lambda t: t.worth)
    more_facts = list(facts)
    if best.plan is not None and (best.plan.late_guests or len(best.plan.unserved) > len({g for c in facts for g in c.guests})):
        more_facts += conflicts_of(best.job, best.plan, effort)
    yield _told(service, best.plan, more_facts)


def _tries(service: Service, rules: ServiceTables, found: Sequence[Cover], effort: Effort) -> list[_Try]:
    """A first plan for each way to serve all and to cut the loads, the best first; cut short where time is."""
    tries: list[_Try] = []
    seen = set()
    begun = effort.left()
    for price in PRICES:
        for widest in (True, False):
            for cover in found:
                if tries and effort.left() < 0.6 * begun:
                    return sorted(tries, key=lambda t: t.worth)
                job = job_of(service, cover, rules, price, widest)
                shape = tuple((x.offer.id, tuple(sorted(x.guests.items()))) for x in job.lumps)
                if shape in seen:
                    continue
                seen.add(shape)
                tries.append(min((_first(job, order) for order in ORDERS), key=lambda t: t.worth))
    return sorted(tries, key=lambda t: t.worth)


def _first(job: Job, order: Order) -> _Try:
    draft = first_draft(job, order)
    plan = written(job, draft) if draft is not None else None
    if plan is not None and faults(job.service, plan, job.rules):
        draft, plan = None, None
    return _Try(job=job, draft=draft, plan=plan)


def _never(job: Job, effort: Effort) -> tuple[Conflict, ...]:
    """The tables that cannot be served by themselves: what keeps too short for its surface, or has no time at all."""
    alone = [t for t in job.open if first_draft(only(job, [t])) is None and servable(job, [t], effort) is False]
    return tuple(never_served(job, t, effort) for t in alone)


def _one_by_one(job: Job, effort: Effort) -> _Try:
    """A plan for as many tables as the quick hand can place, one after the other in the order of their hours."""
    taken: list[Table] = []
    found: tuple[Draft, Plan] | None = None
    begun = effort.left()
    for t in job.open:
        if effort.left() < begun / 2:
            break
        draft = first_draft(only(job, [*taken, t]))
        plan = written(job, draft) if draft is not None else None
        if draft is not None and plan is not None and not faults(job.service, plan, job.rules):
            taken.append(t)
            found = draft, plan
    return _Try(job=job, draft=found[0] if found else None, plan=found[1] if found else None)


def _improved(one: _Try, effort: Effort) -> Iterator[Plan]:
    yield from improve(one.job, one.plan, one.draft, effort)


def _told_of(service: Service, plan: Plan) -> tuple[object, ...]:
    return plan.value, plan.proven, plan.bound, moved_loads(service, plan)


def _for_the_rest(job: Job, effort: Effort) -> _Try:
    """Where not all can be served whatever waits: the best plan for the rest."""
    found = list(improve(job, None, None, effort, all_fed=False))
    plan = found[-1] if found else None
    if plan is not None and faults(job.service, plan, job.rules):
        plan = None
    return _Try(job=job, draft=None, plan=plan)


def _told(service: Service, plan: Plan | None, conflicts: Sequence[Conflict]) -> Plan:
    if plan is None:
        plan = Plan(unserved=tuple(g.id for g in service.guests))
    named = {g for c in conflicts for g in c.guests}
    nameless = [g for g in service.guests if g.id in plan.unserved and g.id not in named]
    if nameless:
        conflicts = (*conflicts, no_place(nameless))
    settled = not conflicts and not plan.late_guests and not plan.unserved
    return plan.model_copy(update={"status": "ok" if settled else "conflict", "conflicts": tuple(conflicts)})


def last(found: Iterator[Plan]) -> Plan:
    """The last of the plans."""
    *_, plan = found
    return plan
