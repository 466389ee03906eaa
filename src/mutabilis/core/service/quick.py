"""A plan at once: tables in the order of their hours, each load as late as still fits before its plate, bowls behind them."""

from collections import defaultdict
from collections.abc import Iterator, Mapping
from typing import Literal

from .draft import Draft, clean_s
from .hands import Diary, Hands
from .hours import DAY
from .job import Job, Lump, Table
from .needs import has_met
from .wishes import Station

Order = Literal["due", "strict"]
SEARCH_S = 3 * 3600  # how far beyond its hour a place is sought
ROUNDS = 25


def first_draft(job: Job, order: Order = "due", hours: Mapping[tuple[str, int], int] | None = None) -> Draft | None:
    """A draft that keeps every rule, or None where this hand finds none; `order`: by the hour, or whoever must not meet something first.
    `hours`: when each table is to be served, where that is not its own hour.

    A table whose loads cannot all be ready in time moves on, and all is laid out anew for its later hour.
    """
    hours = {t.key: (hours or {}).get(t.key, t.wanted) for t in job.open}
    for _ in range(ROUNDS):
        try:
            return _Quick(job, hours).draft(order)
        except _Later as later:
            hours |= later.hours
        except _NoRoom:
            return None
    return None


class _Later(Exception):
    """Tables that can only be served at these later hours."""

    def __init__(self, hours: dict[tuple[str, int], int]) -> None:
        self.hours = hours


class _NoRoom(Exception):
    """There is no place for a load, a bowl or a plate."""


class _Quick:
    def __init__(self, job: Job, hours: dict[tuple[str, int], int]) -> None:
        self.job, self.d, self.hours = job, Draft(), hours
        self.hands = Hands(job.service)
        self.surfaces = {s.id: Diary() for s in job.service.stations}
        self.on_it: dict[str, list[tuple[Lump, int, int]]] = defaultdict(list)  # what lies on a surface, from when to when it is free
        self.cleaned_to: dict[str, int] = {k: max(t.to for t in ts) for k, ts in job.cleaned.items()}

    def draft(self, order: Order) -> Draft:
        job, s = self.job, self.job.service
        for x in job.lumps:
            if x.on is not None:
                self._lay(x, x.on, x.stations[0], [t for t in self._tasks(x, x.on) if t[2] > s.begin], fixed=True)
        for t in job.tables:
            if t.served is not None:
                self.d.served[t.key] = t.served
        ready = self._weigh()
        due = {x.id: min((self.hours[k] for k in x.tables if k in self.hours), default=x.due) for x in job.lumps}
        waiting = sorted((x for x in job.lumps if x.on is None), key=lambda x: (order == "strict" and not x.minds, due[x.id], x.id))
        for x in waiting:
            earliest = max(s.begin, ready[x.offer.id] + x.offer.mix_s + x.offer.rest_s)
            last = max((self.hours[k] for k in x.tables if k in self.hours), default=x.due)
            keeps = last - x.offer.hold_s - x.ready_s  # earlier than this, a piece would wait longer than it keeps
            self._place(x, max(earliest, keeps), due[x.id] - s.plate_s - x.ready_s)
        self._bowls(ready)
        later: dict[tuple[str, int], int] = {}
        for t in sorted(job.open, key=lambda t: (self.hours[t.key], t.key)):
            later |= self._serve(t)
        if later:
            raise _Later(later)
        return self.d

    def _weigh(self) -> dict[str, int]:
        """Every batter once, the clean ones first, then as they are needed; when each is weighed."""
        job, s = self.job, self.job.service
        ready: dict[str, int] = {id: t.to for id, t in job.weighed.items()}
        before = job.first_strict()
        due = {o.id: min(x.due for x in job.lumps if x.offer.id == o.id) for o in job.offers}
        waiting = [o for o in job.offers if o.id not in ready and any(x.on is None for x in job.lumps if x.offer.id == o.id)]
        waiting = [o for o in waiting if not any(b.batter == o.id for b in job.bowls)] + [
            o for o in waiting if any(b.batter == o.id for b in job.bowls)
        ]
        for o in job.offers:
            ready.setdefault(o.id, s.begin)
        while waiting:
            free = [o for o in waiting if not any(b == o.id and a in {w.id for w in waiting} for a, b in before)] or waiting
            o = min(free, key=lambda o: (due[o.id], o.id))
            waiting.remove(o)
            if any(b.batter == o.id for b in job.bowls):
                continue  # it stands mixed already: its dry mix was weighed
            at = job.earliest(max([s.begin, *(ready[a] for a, b in before if b == o.id)]))
            if o.weigh_s:
                at, found = self._hands(("weigh", o.weigh_s), self._upward(at))
                self.hands.take(found)
                self.d.weigh[o.id] = at
            ready[o.id] = at + o.weigh_s
        return ready

    def _hands(self, task: tuple[str, int], when: Iterator[int]) -> tuple[int, list[tuple[Diary, int, int]]]:
        for at in when:
            found = self.hands.find([(task[0], at, at + task[1])])
            if found is not None:
                return at, found
        raise _NoRoom

    def _upward(self, at: int) -> Iterator[int]:
        return iter(range(at, at + SEARCH_S, self.job.grid))

    def _tasks(self, x: Lump, on: int) -> list[tuple[str, int, int]]:
        return [(do, on + after, on + after + long) for do, after, long in x.hands]

    def _place(self, x: Lump, earliest: int, latest: int) -> None:
        """As late as fits; where nothing fits before its hour, as early as fits after it."""
        job = self.job
        low = min((max(earliest, job.hot(s)) for s in x.stations), default=DAY)
        low, top = job.earliest(low), job.earliest(latest - job.grid + 1)
        down = range(top, low - 1, -job.grid)
        up = range(max(low, top + job.grid), max(low, top) + SEARCH_S, job.grid)
        for on in (*down, *up):
            tasks = self._tasks(x, on)
            for s in self._order(x, on):
                if on >= max(earliest, job.hot(s)) and self._fits(x, on, s):
                    found = self.hands.find(tasks)
                    if found is None:
                        break
                    self.hands.take(found)
                    self._lay(x, on, s, [])
                    return
        raise _NoRoom

    def _order(self, x: Lump, on: int) -> list[Station]:
        """Whoever minds something takes a surface that is clean anyway; whoever leaves something, one that is not."""
        return sorted(x.stations, key=lambda s: (self._dirty(s, x, on) == bool(x.minds), s.places, s.id))

    def _dirty(self, s: Station, x: Lump, on: int) -> bool:
        return bool(s.met) or any(from_ < on and other.offer.contains for other, from_, _ in self.on_it[s.id])

    def _fits(self, x: Lump, on: int, s: Station) -> bool:
        _job, rules = self.job, self.job.rules
        free = on + x.lies_s + x.offer.off_s + s.recover_s
        if s.dead_from is not None and on + x.lies_s > s.dead_from:
            return False
        if not self.surfaces[s.id].free(on, free):
            return False
        clean_from = self.cleaned_to.get(s.id, -1)
        if x.minds and has_met(s, x.minds, rules) and on < clean_from:
            return False
        if x.minds and has_met(s, x.minds, rules) and clean_from < 0:
            if not s.cleanable or not self._clean(s, on):
                return False
            clean_from = self.cleaned_to[s.id]
        for other, begin, _ in self.on_it[s.id]:
            if begin < on and x.mind(other, rules) and not (begin < clean_from <= on):
                return False
            if begin > on and other.mind(x, rules) and not (on < clean_from <= begin):
                return False
        if s.kind == "oven":
            for other, begin, end in self.on_it[s.id]:
                if other.offer.oven_c != x.offer.oven_c and (begin - free < s.change_s if begin > on else on - end < s.change_s):
                    return False
        return True

    def _clean(self, s: Station, before: int) -> bool:
        """A surface that has met something is cleaned once, before anything lies on it."""
        job = self.job
        first = min((begin for _, begin, _ in self.on_it[s.id]), default=2 * DAY)
        long = clean_s(job, s.id)
        begin = job.earliest(job.service.begin)
        for at in range(begin, min(before, first) - long + 1, job.grid):
            found = self.hands.find([("clean", at, at + long)])
            if found is not None and self.surfaces[s.id].free(at, at + long):
                self.hands.take(found)
                self.surfaces[s.id].take(at, at + long)
                self.d.clean.append((s.id, at))
                self.cleaned_to[s.id] = at + long
                return True
        return False

    def _lay(self, x: Lump, on: int, s: Station, tasks: list[tuple[str, int, int]], fixed: bool = False) -> None:
        free = on + x.lies_s + x.offer.off_s + s.recover_s
        self.d.on[x.id] = (on, s.id)
        self.on_it[s.id].append((x, on, free))
        if not fixed or self.surfaces[s.id].free(on, free):
            self.surfaces[s.id].take(on, free)
        for task in tasks:
            found = self.hands.find([task])
            if found is not None:
                self.hands.take(found)

    def _bowls(self, ready: dict[str, int]) -> None:
        """As few bowls as the life of the batter allows, each mixed as late as it can be; what stands mixed is used up first."""
        job, s = self.job, self.job.service
        for o in job.offers:
            waiting = sorted((self.d.on[x.id][0], x.id) for x in job.lumps if x.offer.id == o.id and x.on is None)
            for bowl in job.bowls:
                if bowl.batter == o.id:
                    fit = [(at, id) for at, id in waiting if bowl.usable_from <= at <= bowl.usable_to]
                    self.d.in_old_bowl |= {id: bowl.id for _, id in fit}
                    waiting = [w for w in waiting if w not in fit]
            while waiting:
                first = waiting[0][0]
                latest = job.earliest(first - o.rest_s - o.mix_s - job.grid + 1)
                for mix in range(latest, latest - o.life_s, -job.grid):
                    if mix < max(ready[o.id], s.begin) or mix + o.mix_s + o.life_s < first:
                        raise _NoRoom
                    found = self.hands.find([("mix", mix, mix + o.mix_s)]) if o.mix_s else []
                    if found is not None:
                        self.hands.take(found)
                        break
                else:
                    raise _NoRoom
                last = mix + o.mix_s + o.life_s
                taken = tuple(id for at, id in waiting if at <= last)
                self.d.bowls.append((o.id, mix, taken))
                waiting = [w for w in waiting if w[1] not in taken]

    def _serve(self, t: Table) -> dict[tuple[str, int], int]:
        """Serve a table; where a piece would wait longer than it keeps, the later hour that its loads have to be laid out for."""
        s = self.job.service
        mine = [x for x in self.job.lumps if any(g.id in x.guests for g in t.guests)]
        ready = max((self.d.on[x.id][0] + x.ready_s for x in mine), default=s.begin)
        begin = max(t.wanted, ready + s.plate_s, s.begin + s.plate_s)
        begin += -(begin - t.wanted) % self.job.grid
        last = min((self.d.on[x.id][0] + x.ready_s + x.offer.hold_s for x in mine), default=2 * DAY)
        at, found = self._hands(("plate", s.plate_s), iter(range(begin - s.plate_s, begin - s.plate_s + SEARCH_S, self.job.grid)))
        if at + s.plate_s > last:
            if at + s.plate_s <= self.hours[t.key]:
                raise _NoRoom
            return {t.key: at + s.plate_s}
        self.hands.take(found)
        self.d.served[t.key] = at + s.plate_s
        return {}
