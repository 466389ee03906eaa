"""Figures of planning: the first plan, what is proven by two seconds, replanning, and what fixing the loads costs on small services."""

import itertools
import time
from dataclasses import replace

from tests.core.service.making import service

from mutabilis.core.service.cover import covers
from mutabilis.core.service.draft import written
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.job import Job, job_of
from mutabilis.core.service.plan import Plan
from mutabilis.core.service.planning import plans
from mutabilis.core.service.quick import first_draft
from mutabilis.core.service.solve import Effort, improve, ready
from mutabilis.core.service.wishes import Service
from mutabilis.data import load_service

RULES = load_service()
SECONDS = 2.0


def planned(wishes: Service, seconds: float = SECONDS) -> tuple[float, Plan, float]:
    """Seconds to the first plan, the plan that stands at the end, and the second at which its lateness was proven."""
    begun = time.monotonic()
    first = proven = float("nan")
    plan = Plan()
    for plan in plans(wishes, RULES, Effort(left=lambda: begun + seconds - time.monotonic())):
        at = time.monotonic() - begun
        first = at if first != first else first
        if plan.proven.late_guests and proven != proven:
            proven = at
    return first, plan, proven


def services() -> None:
    """By size: first plan, guests late, their seconds, waiting, each with whether it is proven for the loads as they were cut."""
    ready()
    print("orders/hands      first plan   late (proven at)   seconds late   waiting beyond free (bound)")
    for orders, hands in ((6, 1), (12, 1), (30, 1), (30, 2), (60, 1), (60, 2), (120, 2)):
        for seed in (1, 2):
            first, p, at = planned(read_service(service(orders, hands, seed), RULES))
            print(
                f"{orders:>4} / {hands} seed {seed}   {first:6.2f} s   {p.late_guests:>4} ({'open' if at != at else f'{at:.1f} s'})   {p.late_guest_s:>8} {'proven' if p.proven.late else ''}"
                f"   {p.held_beyond_free_s:>8} ({p.bound.held_beyond_free_s}{', proven' if p.proven.waiting else ''})"
            )


def replanning() -> None:
    """The first plan after a guest is late, in the middle of a service of sixty."""
    told = service(60, 2, 2)
    _, plan, _ = planned(read_service(told, RULES))
    now = "08:00:00"
    rows = [x for x in plan.told()["loads"] if x["on"] <= now] + [b for b in plan.told()["bowls"] if b["mix"] <= now]
    rows += [{k: p[k] for k in ("table", "wanted", "served")} for p in plan.told()["plates"] if p["served"] <= now]
    rows += [t for t in plan.told()["tasks"] if t["at"] <= now and t["do"] in ("weigh", "clean")]
    late = next(g for g in told["guests"] if g["at"] > "08:15")
    guests = [{**g, "at": "08:45"} if g is late else g for g in told["guests"]]
    first, again, _ = planned(read_service({**told, "guests": guests, "now": now, "under_way": rows}, RULES))
    print(f"replanned at 08:00, one guest late: first plan {first:.2f} s; {again.late_guests} late, {again.late_guest_s} s in all")


def fixing_the_loads() -> None:
    """Small services: every way to cut each batter's pieces into loads, against the cuts that planning tries."""
    worse = []
    for seed in range(12):
        wishes = read_service(service(4, 1, 100 + seed), RULES)
        _, plan, _ = planned(wishes, 3.0)
        cover = covers(wishes, RULES)[0][0]
        best = plan.value
        for cut in itertools.islice(_cuts(job_of(wishes, cover, RULES)), 40):
            draft = first_draft(cut)
            for found in improve(cut, written(cut, draft) if draft else None, draft, Effort(left=lambda: 0.6, workers=1)):
                best = min(best, found.value)
        worse.append((plan.value[2] - best[2], plan.value[3] - best[3]))
    late, held = [a for a, _ in worse], [b for _, b in worse]
    print(
        f"what fixing the loads costs, 12 services of 4 orders: seconds late at most {max(late)}, waiting at most {max(held)} piece-seconds, in {sum(x > (0, 0) for x in worse)} of 12"
    )


def _cuts(job: Job) -> "itertools.chain[Job]":
    """The same job with each of its loads cut in two at every place."""

    def split(job: Job) -> "list[Job]":
        found = []
        for n, x in enumerate(job.lumps):
            pieces = [g for g, count in x.guests.items() for _ in range(count)]
            for at in range(1, len(pieces)):
                halves = []
                for part, some in enumerate((pieces[:at], pieces[at:])):
                    guests = {g: some.count(g) for g in dict.fromkeys(some)}
                    tables = tuple(t.key for t in job.tables if any(g.id in guests for g in t.guests))
                    halves.append(
                        replace(x, id=f"{x.id}_{part}", guests=guests, pieces=len(some), tables=tables, due=min(k[1] for k in tables))
                    )
                found.append(replace(job, lumps=(*job.lumps[:n], *halves, *job.lumps[n + 1 :])))
        return found

    once = split(job)
    return itertools.chain(once, (two for one in once for two in split(one)))


def main() -> None:
    """All of it."""
    services()
    replanning()
    fixing_the_loads()


if __name__ == "__main__":
    main()
