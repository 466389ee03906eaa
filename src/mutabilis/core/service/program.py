"""The constraint program of a job: its variables, the rules between them, and the way from a draft to a hint and back from a solution.

A load's turn and off are fixed offsets of its start; starts lie on a grid, every end is exact.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Any

from .draft import Draft, clean_s
from .hands import alike
from .hours import DAY
from .job import Job, Lump, Table
from .needs import has_met

BEYOND_S = 2 * 3600  # a plan may end so long after the last hour


@dataclass(slots=True)
class Model:
    """The program: its variables by what they stand for."""

    cp: Any
    on: dict[str, Any] = field(default_factory=dict)
    lies: dict[tuple[str, str], Any] = field(default_factory=dict)
    made: dict[str, Any] = field(default_factory=dict)
    served: dict[tuple[str, int], Any] = field(default_factory=dict)
    late: dict[tuple[str, int], Any] = field(default_factory=dict)
    is_late: dict[tuple[str, int], Any] = field(default_factory=dict)
    fed: dict[tuple[str, int], Any] = field(default_factory=dict)
    waits: list[tuple[int, Any]] = field(default_factory=list)
    all_waits: list[tuple[int, Any]] = field(default_factory=list)
    bowls: list[tuple[str, Any, Any, dict[str, Any]]] = field(default_factory=list)
    old: dict[str, dict[str, Any]] = field(default_factory=dict)
    weigh: dict[str, Any] = field(default_factory=dict)
    clean: dict[str, tuple[Any, Any]] = field(default_factory=dict)
    who: dict[tuple[str, str], list[tuple[str, Any]]] = field(default_factory=dict)
    moved: list[Any] = field(
        default_factory=list
    )  # of the loads that an earlier plan had, whether each lies elsewhere or at another second
    steps: dict[int, Any] = field(default_factory=dict)  # the grid variable under each second: what a hint is given for


class Builder:
    """Puts the rules of a job into a program."""

    def __init__(self, job: Job, cp_model: Any, all_fed: bool) -> None:
        self.job, self.s, self.all_fed = job, job.service, all_fed
        self.m = Model(cp_model.CpModel())
        self.cp = self.m.cp
        self.end = max([t.wanted for t in job.tables] + [self.s.begin]) + BEYOND_S
        self.hands: list[tuple[str, str, Any, int, Any]] = []  # what, of what, start, seconds, whether

    def model(self) -> Model:
        """The whole program of the job: loads, surfaces, bowls, tables and hands, in seconds."""
        job = self.job
        for t in job.open:
            self.m.fed[t.key] = self.cp.new_bool_var("") if not self.all_fed else self.cp.new_constant(1)
        for x in job.lumps:
            self._load(x)
        self._surfaces()
        self._bowls()
        for t in job.open:
            self._table(t)
        self._hands()
        return self.m

    def _second(self, low: int, high: int, base: int | None = None) -> Any:
        """A second of the morning on the grid, as an expression."""
        base = self.s.start if base is None else base
        g = self.job.grid
        x = self.cp.new_int_var(-(-(low - base) // g), max(-(-(low - base) // g), (high - base) // g), "")
        expression = base + g * x
        self.m.steps[id(expression)] = (x, base)
        self._keep = [*getattr(self, "_keep", []), expression]  # its id stands for it as long as it lives
        return expression

    def _load(self, x: Lump) -> None:
        m, cp = self.m, self.cp
        if x.on is not None:
            m.on[x.id], m.made[x.id] = x.on, cp.new_constant(1)
            m.lies[x.id, x.stations[0].id] = m.made[x.id]
            for do, after, long in x.hands:
                if x.on + after + long > self.s.begin:
                    self.hands.append((do, x.id, x.on + after, long, None))
            return
        low = max(self.s.begin, min(self.job.hot(s) for s in x.stations))
        on = m.on[x.id] = self._second(low, self.end - x.ready_s)
        made = m.made[x.id] = cp.new_constant(1) if self.all_fed else cp.new_bool_var("")
        if not self.all_fed:
            cp.add_max_equality(made, [m.fed[k] for k in x.tables if k in m.fed])
        places = []
        for s in x.stations:
            lies = made if len(x.stations) == 1 else cp.new_bool_var("")
            m.lies[x.id, s.id] = lies
            places.append(lies)
            if self.job.hot(s) > low:
                cp.add(on >= self.job.hot(s)).only_enforce_if(lies)
            if s.dead_from is not None:
                cp.add(on + x.lies_s <= s.dead_from).only_enforce_if(lies)
        if len(places) > 1:
            cp.add(sum(places) == made)
        for do, after, long in x.hands:
            self.hands.append((do, x.id, on + after, long, None if self.all_fed else made))
        if x.was is not None and (x.id, x.was[0]) in m.lies:
            moved = cp.new_bool_var("")
            cp.add(on == x.was[1]).only_enforce_if(moved.negated())
            cp.add_implication(moved.negated(), m.lies[x.id, x.was[0]])
            m.moved.append(moved)

    def _surfaces(self) -> None:
        cp, m, job = self.cp, self.m, self.job
        for s in self.s.stations:
            here = [x for x in job.lumps if (x.id, s.id) in m.lies]
            if not here:
                continue
            spans = []
            for x in here:
                size = x.lies_s + x.offer.off_s + s.recover_s
                if x.on is not None:
                    spans.append(cp.new_fixed_size_interval_var(x.on, size, ""))
                else:
                    spans.append(cp.new_optional_fixed_size_interval_var(m.on[x.id], size, m.lies[x.id, s.id], ""))
            cleaning = self._cleaning(s, here)
            if cleaning is not None:
                spans.append(cleaning)
            if not _already_clash([(x.on, x.lies_s + x.offer.off_s + s.recover_s) for x in here if x.on is not None]):
                cp.add_no_overlap(spans)
            if s.kind == "oven":
                for a, b in ((a, b) for n, a in enumerate(here) for b in here[:n] if a.offer.oven_c != b.offer.oven_c):
                    first = cp.new_bool_var("")
                    both = [m.lies[a.id, s.id], m.lies[b.id, s.id]]
                    cp.add(m.on[b.id] >= m.on[a.id] + a.lies_s + s.change_s).only_enforce_if([first, *both])
                    cp.add(m.on[a.id] >= m.on[b.id] + b.lies_s + s.change_s).only_enforce_if([first.negated(), *both])

    def _cleaning(self, s: Any, here: list[Lump]) -> Any:
        """Free loads before what spoils the surface, or after it was cleaned. One cleaning a surface and morning."""
        cp, m, job = self.cp, self.m, self.job
        done = max((t.to for t in job.cleaned.get(s.id, ())), default=None)
        pairs = [(a, b) for a in here for b in here if a is not b and a.mind(b, job.rules)]
        met = [x for x in here if x.minds and has_met(s, x.minds, job.rules) and x.on is None]
        wiped = cp.new_bool_var("") if s.cleanable and done is None and (pairs or met) else None
        at: Any = None
        span: Any = None
        if wiped is not None:
            long = clean_s(job, s.id)
            at = self._second(self.s.begin, self.end)
            span = cp.new_optional_fixed_size_interval_var(at, long, wiped, "")
            self.hands.append(("clean", s.id, at, long, wiped))
            m.clean[s.id] = (at, wiped)
        after: dict[str, Any] = {}  # whether a load goes on after the surface was cleaned this time
        for x in ({x.id: x for pair in pairs for x in pair} | {x.id: x for x in met}).values():
            if wiped is None:
                after[x.id] = None
                continue
            flag = after[x.id] = cp.new_bool_var("")
            on = m.on[x.id]
            cp.add_implication(flag, wiped)
            cp.add(on >= at + clean_s(job, s.id)).only_enforce_if(flag)
            cp.add(on + x.lies_s <= at).only_enforce_if([flag.negated(), wiped, m.lies[x.id, s.id]])
        for x in met:
            if done is not None:
                cp.add(m.on[x.id] >= done).only_enforce_if(m.lies[x.id, s.id])
            elif after[x.id] is not None:
                cp.add_implication(m.lies[x.id, s.id], after[x.id])
            else:
                cp.add(m.lies[x.id, s.id] == 0)
        for a, b in pairs:  # a minds b
            if a.on is not None and b.on is not None:
                continue
            both = [m.lies[a.id, s.id], m.lies[b.id, s.id]]
            first = cp.new_bool_var("")
            cp.add(m.on[a.id] + a.lies_s <= m.on[b.id]).only_enforce_if([first, *both])
            saved = [first.negated(), *both]
            if after[a.id] is not None:
                cp.add_bool_and([after[a.id], after[b.id].negated()]).only_enforce_if(saved)
            elif done is not None:
                cp.add(m.on[a.id] >= done).only_enforce_if(saved)
                if b.on is None:
                    cp.add(m.on[b.id] + b.lies_s <= done).only_enforce_if(saved)
            else:
                cp.add_bool_or([x.negated() for x in both]).only_enforce_if(first.negated())
        return span

    def _bowls(self) -> None:
        cp, m, job = self.cp, self.m, self.job
        for o in job.offers:
            mine = [x for x in job.lumps if x.offer.id == o.id and x.on is None]
            old = [b for b in job.bowls if b.batter == o.id]
            if not mine:
                continue
            chosen: dict[str, list[Any]] = {x.id: [] for x in mine}
            for b in old:
                for x in mine:
                    flag = cp.new_bool_var("")
                    cp.add(m.on[x.id] >= b.usable_from).only_enforce_if(flag)
                    cp.add(m.on[x.id] <= b.usable_to).only_enforce_if(flag)
                    chosen[x.id].append(flag)
                    m.old.setdefault(x.id, {})[b.id] = flag
            weighed = self._weighed(o.id, bool(old))
            low = max(self.s.begin, self.s.start)
            beside = {y.id for x in mine for y in x.stations}
            work = sum(x.ready_s + min(y.recover_s for y in x.stations) for x in mine) // max(1, len(beside))
            span = max(x.due for x in mine) - min(x.due for x in mine) + work  # one surface may need longer than a bowl lives
            most = min(len(mine), 2 + span // max(1, o.life_s - o.rest_s))
            before = None
            for _ in range(most):
                mix = self._second(low, self.end)
                there = cp.new_bool_var("")
                if weighed is not None:
                    cp.add(mix >= weighed).only_enforce_if(there)
                flags = {x.id: cp.new_bool_var("") for x in mine}
                for x in mine:
                    ready = mix + o.mix_s
                    cp.add(m.on[x.id] >= ready + o.rest_s).only_enforce_if(flags[x.id])
                    cp.add(m.on[x.id] <= ready + o.life_s).only_enforce_if(flags[x.id])
                    cp.add_implication(flags[x.id], there)
                    chosen[x.id].append(flags[x.id])
                cp.add_bool_or(list(flags.values())).only_enforce_if(there)
                if before is not None:
                    cp.add_implication(there, before[1])
                    cp.add(before[0] <= mix)
                before = (mix, there)
                if o.mix_s:
                    self.hands.append(("mix", f"{o.id}:{len(m.bowls)}", mix, o.mix_s, there))
                m.bowls.append((o.id, mix, there, flags))
            for x in mine:
                cp.add(sum(chosen[x.id]) == m.made[x.id])
        for clean, other in job.first_strict():
            if clean in m.weigh and other in m.weigh:
                cp.add(m.weigh[clean] + self.s.offer(clean).weigh_s <= m.weigh[other])

    def _weighed(self, id: str, stands: bool) -> Any:
        if id in self.job.weighed:
            return self.job.weighed[id].to
        if stands or not self.s.offer(id).weigh_s:
            return None
        at = self.m.weigh[id] = self._second(self.s.begin, self.end)
        long = self.s.offer(id).weigh_s
        self.hands.append(("weigh", id, at, long, None))
        return at + long

    def _table(self, t: Table) -> None:
        cp, m, s = self.cp, self.m, self.s
        mine = [x for x in self.job.lumps if any(g.id in x.guests for g in t.guests)]
        served = m.served[t.key] = self._second(max(t.wanted, s.begin + (s.plate_s if s.now is not None else 0)), self.end, t.wanted)
        fed = m.fed[t.key]
        late = m.late[t.key] = cp.new_int_var(0, DAY, "")
        flag = m.is_late[t.key] = cp.new_bool_var("")
        only = [] if self.all_fed else [fed]
        cp.add(late >= served - t.wanted).only_enforce_if(only)
        cp.add(late <= s.grace_s).only_enforce_if(flag.negated())
        if s.plate_s:
            self.hands.append(("plate", f"{t.seat}@{t.wanted}", served - s.plate_s, s.plate_s, None if self.all_fed else fed))
        for x in mine:
            n = sum(x.guests.get(g.id, 0) for g in t.guests)
            ready = m.on[x.id] + x.ready_s
            cp.add(served - s.plate_s >= ready).only_enforce_if(only)
            cp.add(served - ready <= x.offer.hold_s).only_enforce_if(only)
            wait = cp.new_int_var(0, max(0, x.offer.hold_s - s.free_hold_s), "")
            if x.offer.hold_s > s.free_hold_s:
                cp.add(wait >= served - ready - s.free_hold_s).only_enforce_if(only)
                m.waits.append((n, wait))
            whole = cp.new_int_var(0, max(x.offer.hold_s, 0), "")
            cp.add(whole >= served - ready).only_enforce_if(only)
            m.all_waits.append((n, whole))

    def _hands(self) -> None:
        cp, s = self.cp, self.s
        if alike(s):
            spans = [self._span(start, long, there) for _, _, start, long, there in self.hands]
            if len(s.people) == 1:
                cp.add_no_overlap(spans)
            else:
                cp.add_cumulative(spans, [1] * len(spans), len(s.people))
            return
        of: dict[str, list[Any]] = {p.id: [] for p in s.people}
        for do, what, start, long, there in self.hands:
            able = [p for p in s.people if p.can(do)]
            flags = []
            for p in able:
                flag = cp.new_bool_var("")
                flags.append((p.id, flag))
                of[p.id].append(cp.new_optional_fixed_size_interval_var(start, long, flag, ""))
                if p.begins is not None:
                    cp.add(start >= p.begins).only_enforce_if(flag)
                if p.ends is not None:
                    cp.add(start + long <= p.ends).only_enforce_if(flag)
            cp.add(sum(f for _, f in flags) == (1 if there is None else there))
            self.m.who[do, what] = flags
        for spans in of.values():
            cp.add_no_overlap(spans)

    def _span(self, start: Any, long: int, there: Any) -> Any:
        if there is None:
            return self.cp.new_fixed_size_interval_var(start, long, "")
        return self.cp.new_optional_fixed_size_interval_var(start, long, there, "")


def _already_clash(spans: list[tuple[int, int]]) -> bool:
    """Whether what is under way lies on top of itself already: then the surface cannot be asked to hold it apart."""
    ends = sorted((on, on + size) for on, size in spans)
    return any(b[0] < a[1] for a, b in pairwise(ends))


def read(m: Model, job: Job, solver: Any) -> Draft:
    """The draft that a solution stands for."""
    value: Callable[[Any], int] = lambda x: x if isinstance(x, int) else solver.value(x)  # noqa: E731
    d = Draft()
    for x in job.lumps:
        if value(m.made[x.id]):
            station = next(s.id for s in x.stations if value(m.lies[x.id, s.id]))
            d.on[x.id] = (value(m.on[x.id]), station)
            for bowl, flag in m.old.get(x.id, {}).items():
                if value(flag):
                    d.in_old_bowl[x.id] = bowl
    for n, (batter, mix, there, flags) in enumerate(m.bowls):
        if value(there):
            taken = tuple(id for id, flag in flags.items() if value(flag) and id in d.on)
            d.bowls.append((batter, value(mix), taken))
            for person, flag in m.who.get(("mix", f"{batter}:{n}"), []):
                if value(flag):
                    d.who["mix", f"{batter}@{value(mix)}"] = person
    made = {x.offer.id for x in job.lumps if x.id in d.on}
    d.weigh = {id: value(at) for id, at in m.weigh.items() if id in made}
    d.clean = [(station, value(at)) for station, (at, there) in m.clean.items() if value(there)]
    for t in job.tables:
        if t.served is not None:
            d.served[t.key] = t.served
        elif value(m.fed[t.key]):
            d.served[t.key] = value(m.served[t.key])
    for (do, what), able in m.who.items():
        for person, flag in able:
            if value(flag):
                if do == "plate":
                    seat, _, wanted = what.rpartition("@")
                    at = d.served.get((seat, int(wanted)))
                    d.who["plate", f"{seat}@{at}"] = person
                elif do != "mix":
                    d.who[do, what] = person
    return d


def hint(m: Model, job: Job, d: Draft) -> None:
    """Begin from a draft."""
    m.cp.clear_hints()
    hinted: set[int] = set()

    def hint(variable: Any, value: int) -> None:
        if hasattr(variable, "index") and variable.index not in hinted:
            hinted.add(variable.index)
            m.cp.add_hint(variable, value)

    def second(expression: Any, value: int) -> None:
        step = m.steps.get(id(expression))
        if step is not None:
            hint(step[0], (value - step[1]) // job.grid)

    for x in job.lumps:
        if x.on is None and x.id in d.on:
            second(m.on[x.id], d.on[x.id][0])
            if len(x.stations) > 1:
                for s in x.stations:
                    hint(m.lies[x.id, s.id], int(d.on[x.id][1] == s.id))
    for key, at in d.served.items():
        if key in m.served:
            second(m.served[key], at)
            hint(m.late[key], max(0, at - key[1]))
            hint(m.is_late[key], int(at - key[1] > job.service.grace_s))
    for batter, at in d.weigh.items():
        if batter in m.weigh:
            second(m.weigh[batter], at)
    by: dict[str, list[tuple[int, tuple[str, ...]]]] = {}
    for batter, mix, ids in sorted(d.bowls, key=lambda b: b[1]):
        by.setdefault(batter, []).append((mix, ids))
    for batter, mix, there, flags in m.bowls:
        mixed = by.get(batter, [])
        hint(there, int(bool(mixed)))
        begun = mixed.pop(0) if mixed else None
        if begun is not None:
            second(mix, begun[0])
        for lump, flag in flags.items():
            hint(flag, int(begun is not None and lump in begun[1]))
    for lump, flags in m.old.items():
        for bowl, flag in flags.items():
            hint(flag, int(d.in_old_bowl.get(lump) == bowl))
    for station, (at, there) in m.clean.items():
        begins = next((w for s, w in d.clean if s == station), None)
        hint(there, int(begins is not None))
        if begins is not None:
            second(at, begins)
