"""Better plans, proven where there is time: a constraint program in tiers, each begun from the last.

Interval variables with fixed moments (a load's turn and off are offsets of its start), solved by CP-SAT. The tiers, the first the first:
guests unserved, guests late beyond the grace, their seconds, pieces waiting beyond the free seconds, bowls, loads moved from where an earlier
plan had them, then all waiting. Bounds hold for the loads as they were cut.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

from .check import faults
from .draft import Draft, written
from .job import Job, Table
from .plan import Bound, Plan, Proven
from .program import Builder, read
from .program import hint as give_hint
from .quick import first_draft
from .wishes import Service

SAME_EACH_TIME = 24  # guests, up to which the same wishes give the same plan where it is proven in time


@dataclass(frozen=True, slots=True, kw_only=True)
class Effort:
    """How hard to try: seconds left by the caller's clock, workers, and the limit that gives the same plan each time."""

    left: Callable[[], float]
    workers: int = 2
    deterministic: float | None = None


def improve(job: Job, first: Plan | None, draft: Draft | None, effort: Effort, all_fed: bool = True) -> Iterator[Plan]:
    """Better plans than the first, each with its bound; ends when nothing better can be had, or no time is left.

    `all_fed` False lets tables go without where not all can be served; their guests are named by the caller.
    """
    from ortools.sat.python import cp_model

    m = Builder(job, cp_model, all_fed).model()
    names = ("fed", "late_guests", "late", "waiting", "bowls", "moved", "all")
    goals: dict[str, Any] = {
        "fed": sum(len(t.guests) * (1 - m.fed[t.key]) for t in job.open) if not all_fed else None,
        "late_guests": sum(len(t.guests) * m.is_late[t.key] for t in job.open),
        "late": sum(len(t.guests) * m.late[t.key] for t in job.open),
        "waiting": sum(n * w for n, w in m.waits) if m.waits else None,
        "bowls": sum(p for _, _, p, _ in m.bowls) if len(m.bowls) > len({b for b, *_ in m.bowls}) else None,
        "moved": sum(m.moved) if m.moved else None,
        "all": sum(n * w for n, w in m.all_waits) if m.all_waits else None,
    }
    share = {"fed": 0.3, "late_guests": 0.45, "late": 0.5, "waiting": 0.8, "bowls": 0.6, "moved": 0.7, "all": 0.9}
    proven: dict[str, bool] = {}
    bound: dict[str, int] = {}
    best, hint = first, draft
    if best is not None and best.unserved:
        best = None
    for tier in names:
        goal = goals[tier]
        if goal is None:
            proven[tier] = True
            continue
        reached = moved_loads(job.service, best) if tier == "moved" else _reached(best, tier)
        if reached == 0:
            proven[tier], bound[tier] = True, 0
            m.cp.add(goal <= 0)
            continue
        left = effort.left() * share[tier]
        if left < 0.05:
            break
        solver = cp_model.CpSolver()
        solver.parameters.max_time_in_seconds = left
        solver.parameters.num_workers = effort.workers
        solver.parameters.random_seed = 7
        if effort.deterministic is not None:
            solver.parameters.max_deterministic_time = effort.deterministic
        if hint is not None:
            give_hint(m, job, hint)
        m.cp.minimize(goal)
        status = solver.solve(m.cp)
        if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            if status == cp_model.INFEASIBLE:
                return
            bound[tier] = max(0, round(solver.best_objective_bound)) if tier != "fed" else 0
            if best is None:
                return
            m.cp.add(goal <= max(0, _reached(best, tier) or 0))
            continue
        hint = read(m, job, solver)
        reached = int(solver.objective_value + 1e-6)
        proven[tier] = status == cp_model.OPTIMAL
        bound[tier] = max(0, int(solver.best_objective_bound + 1e-6))
        plan = written(job, hint)
        if tier in ("late_guests", "late"):
            hint, plan = _laid_later(job, hint, plan)
        if plan is not None and (best is None or plan.value <= best.value):
            best = plan.model_copy(update={"proven": _proven(proven), "bound": _bound(bound)})
            yield best
        m.cp.add(goal <= min(reached, _reached(plan, tier) or reached))
    if best is not None:
        yield best.model_copy(update={"proven": _proven(proven), "bound": _bound(bound)})


def _laid_later(job: Job, draft: Draft, plan: Plan | None) -> tuple[Draft, Plan | None]:
    """The same hours with every load as late as fits: a solver that was asked for lateness alone leaves pieces waiting for no reason."""
    again = first_draft(job, hours=dict(draft.served))
    other = written(job, again) if again is not None else None
    if again is None or other is None or (plan is not None and other.value >= plan.value) or faults(job.service, other, job.rules):
        return draft, plan
    return again, other


def _reached(plan: Plan | None, tier: str) -> int | None:
    if plan is None:
        return None
    return {"fed": len(plan.unserved), "late_guests": plan.late_guests, "late": plan.late_guest_s, "waiting": plan.held_beyond_free_s}.get(
        tier
    )


def moved_loads(service: Service, plan: Plan | None) -> int | None:
    """How many loads of an earlier plan, for the same guests, lie elsewhere or at another second in this one."""
    if plan is None:
        return None
    now = {(x.batter, tuple(sorted(x.guests.items()))): (x.station, x.on) for x in plan.loads}
    before = {(r.batter, tuple(sorted(r.guests.items()))): (r.station, r.on) for r in service.planned}
    return sum(1 for what, where in before.items() if what in now and now[what] != where)


def _proven(told: dict[str, bool]) -> Proven:
    """A tier is proven only where every tier before it is."""
    fed = told.get("fed", False)
    guests = fed and told.get("late_guests", False)
    late = guests and told.get("late", False)
    return Proven(late_guests=guests, late=late, waiting=late and told.get("waiting", False))


def _bound(told: dict[str, int]) -> Bound:
    return Bound(late_guests=told.get("late_guests", 0), late_guest_s=told.get("late", 0), held_beyond_free_s=told.get("waiting", 0))


def only(job: Job, tables: Sequence[Table]) -> Job:
    """The same morning with these tables alone, beside what is done."""
    keys = {t.key for t in tables}
    lumps = tuple(x for x in job.lumps if x.on is not None or keys & set(x.tables))
    return replace(job, tables=tuple(t for t in job.tables if t.key in keys or t.served is not None), lumps=lumps)


def punctual(job: Job, tables: Sequence[Table], effort: Effort) -> bool | None:
    """Whether these tables can all be served within the grace, the others left out; None where time ran out before it was known."""
    return servable(job, tables, effort, late=False)


def servable(job: Job, tables: Sequence[Table], effort: Effort, late: bool = True) -> bool | None:
    """Whether these tables can all be served, `late` or only within the grace; None where time ran out before it was known."""
    from ortools.sat.python import cp_model

    if effort.left() <= 0:
        return None
    small = only(job, tables)
    m = Builder(small, cp_model, True).model()
    if not late:
        for t in small.open:
            m.cp.add(m.is_late[t.key] == 0)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = effort.left()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 7
    if effort.deterministic is not None:
        solver.parameters.max_deterministic_time = effort.deterministic
    status = solver.solve(m.cp)
    return {cp_model.OPTIMAL: True, cp_model.FEASIBLE: True, cp_model.INFEASIBLE: False}.get(status)


def workers_for(service: Service) -> int:
    """One worker finds the same plan each time; a large service needs two to find it soon."""
    return 1 if len(service.guests) <= SAME_EACH_TIME else 2


def ready() -> None:
    """Load the solver: it takes longer than a small plan does."""
    from ortools.sat.python import cp_model  # noqa: F401
