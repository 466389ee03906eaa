"""Figures of planning: the first plan, what is proven by two seconds, replanning, and what fixing the loads costs on small services."""

import itertools
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

from tests.core.service.making import service

from mutabilis.core.service.cover import covers
from mutabilis.core.service.draft import written
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.job import Job, Lump, job_of
from mutabilis.core.service.plan import Plan
from mutabilis.core.service.planning import plans
from mutabilis.core.service.quick import first_draft
from mutabilis.core.service.solve import Effort, improve, ready
from mutabilis.core.service.wishes import Service
from mutabilis.data import load_service

RULES = load_service()
SECONDS = 2.0
MOST_CUTS = 400  # ways to cut, above which a service is too large to try them all


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
    """Small services: every way there is to cut each batter's pieces into loads, against the cuts that planning tries."""
    worse, tried = [], []
    for seed in range(40):
        wishes = read_service(service(3, 1, 100 + seed), RULES)
        cover = covers(wishes, RULES)[0][0]
        every = list(itertools.islice(_every_cut(job_of(wishes, cover, RULES)), MOST_CUTS + 1))
        if not 4 < len(every) <= MOST_CUTS:
            continue
        _, plan, _ = planned(wishes, 3.0)
        best = plan.value
        for cut in every:
            draft = first_draft(cut)
            for found in improve(cut, written(cut, draft) if draft else None, draft, Effort(left=lambda: 0.4, workers=1)):
                best = min(best, found.value)
        worse.append((plan.value[2] - best[2], plan.value[3] - best[3]))
        tried.append(len(every))
        if len(worse) == 12:
            break
    late, held = [a for a, _ in worse], [b for _, b in worse]
    print(
        f"what fixing the loads costs, {len(worse)} services of 3 orders, every cut tried ({min(tried)} to {max(tried)} each): seconds late at most {max(late)},"
        f" waiting at most {max(held)} piece-seconds, in {sum(x > (0, 0) for x in worse)} of {len(worse)}"
    )


def _every_cut(job: Job) -> Iterator[Job]:
    """The same job with its loads cut in every way that the widest surface of each has places for."""
    kinds: dict[tuple[str, frozenset[str]], list[Lump]] = {}
    for x in job.lumps:
        kinds.setdefault((x.offer.id, x.minds), []).append(x)

    def loads(like: list[Lump]) -> Iterator[list[Lump]]:
        pieces = sum((Counter(x.guests) for x in like), Counter())
        places = max(s.places for s in like[0].stations)
        for parts in _parts(pieces, places):
            made = []
            for guests in parts:
                tables = tuple(t.key for t in job.tables if any(g.id in guests for g in t.guests))
                stations = tuple(s for s in like[0].stations if s.places >= sum(guests.values()))
                made.append(
                    replace(
                        like[0], guests=guests, pieces=sum(guests.values()), tables=tables, due=min(k[1] for k in tables), stations=stations
                    )
                )
            yield made

    for some in itertools.product(*(list(itertools.islice(loads(like), MOST_CUTS + 1)) for like in kinds.values())):
        lumps = [x for part in some for x in part]
        yield replace(job, lumps=tuple(replace(x, id=f"load_{n}") for n, x in enumerate(lumps, 1)))


def _parts(pieces: "Counter[str]", places: int, least: tuple[int, ...] = ()) -> Iterator[list[dict[str, int]]]:
    """Every way to part pieces into groups of at most so many, each way once (no group comes before the one it follows)."""
    names = sorted(pieces)
    left = tuple(pieces[n] for n in names)
    if not any(left):
        yield []
        return
    for group in itertools.product(*(range(n + 1) for n in left)):
        if 0 < sum(group) <= places and group >= least:
            rest = Counter({n: a - b for n, a, b in zip(names, left, group, strict=True)})
            for more in _parts(rest, places, group):
                yield [{n: g for n, g in zip(names, group, strict=True) if g}, *more]


def main() -> None:
    """All of it."""
    services()
    replanning()
    fixing_the_loads()


if __name__ == "__main__":
    main()
