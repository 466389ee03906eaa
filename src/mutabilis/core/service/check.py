"""Whether a plan keeps every rule, reckoned from the wishes alone: this file knows nothing of how plans are made."""

import itertools
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence

from .hours import spoken
from .needs import carries, harms, has_met, strict
from .plan import Load, Plan, Task
from .tables import ServiceTables
from .wishes import Guest, Service, Station


def faults(service: Service, plan: Plan, rules: ServiceTables) -> tuple[str, ...]:
    """Every rule that a plan breaks, each in one line; none for a plan that can be cooked as it stands."""
    return tuple(_Check(service, plan, rules.of(service.batters)).all())


class _Check:
    def __init__(self, service: Service, plan: Plan, rules: ServiceTables) -> None:
        self.s, self.p, self.rules = service, plan, rules
        self.guests = {g.id: g for g in service.guests}
        self.offers = {o.id: o for o in service.batters}
        self.stations = {x.id: x for x in service.stations}
        self.bowls = {b.id: b for b in plan.bowls}
        self.begun = [r for r in service.under_way if r.on is not None]
        self.tasks: dict[str, list[Task]] = defaultdict(list)
        for t in plan.tasks:
            self.tasks[t.do].append(t)

    def all(self) -> Iterator[str]:
        """Every fault; what is named and not known is told first, and ends it."""
        unknown = list(self._unknown())
        yield from unknown
        if unknown:
            return
        for part in (
            self._pieces,
            self._loads,
            self._surfaces,
            self._allergens,
            self._bowls,
            self._plates,
            self._hands,
            self._frozen,
            self._figures,
        ):
            yield from part()

    def _unknown(self) -> Iterator[str]:
        for x in self.p.loads:
            if x.batter not in self.offers:
                yield f"{x.id}: there is no batter {x.batter}"
            if x.station not in self.stations:
                yield f"{x.id}: there is no surface {x.station}"
            for g in x.guests:
                if g not in self.guests:
                    yield f"{x.id}: there is no guest {g}"
        for b in self.p.bowls:
            if b.batter not in self.offers:
                yield f"{b.id}: there is no batter {b.batter}"
        people = {p.id for p in self.s.people}
        for t in self.p.tasks:
            if t.who not in people:
                yield f"{t.do} {t.of}: there is nobody called {t.who}"
        for what, ids in (("load", [x.id for x in self.p.loads]), ("bowl", [b.id for b in self.p.bowls])):
            for id, n in Counter(ids).items():
                if n > 1:
                    yield f"{what} {id} stands {n} times"

    def _pieces(self) -> Iterator[str]:
        """Every piece is made, of the batter that its guest gets, and nothing for nobody."""
        made = Counter[str]()
        for x in self.p.loads:
            for id, n in x.guests.items():
                made[id] += n
                if x.batter != self.p.serves.get(id):
                    yield f"{x.id}: {id} is to have {self.p.serves.get(id)}, not {x.batter}"
                harm = harms(self.guests[id], self.offers[x.batter], self.rules)
                if harm:
                    yield f"{x.id}: {x.batter} is not for {id}: {harm}"
            if sum(x.guests.values()) != x.pieces and not any(r.id == x.id for r in self.begun):
                yield f"{x.id}: {x.pieces} pieces, and {sum(x.guests.values())} are for somebody"
            if set(x.tables) != {self.guests[g].seat for g in x.guests}:
                yield f"{x.id}: its tables are not those of its guests"
        for g in self.s.guests:
            if g.id in self.p.unserved:
                if not any(g.id in c.guests for c in self.p.conflicts) and self.p.conflicts:
                    yield f"{g.id} gets nothing, and nothing says why"
                continue
            if made[g.id] != g.pieces and not self._done(g):
                yield f"{g.id}: {made[g.id]} of {g.pieces} pieces"
            if g.batter is not None and self.p.serves.get(g.id) != g.batter:
                yield f"{g.id} asked for {g.batter}"

    def _done(self, g: Guest) -> bool:
        return any(r.served is not None and r.table == g.seat and r.wanted in (None, g.at) for r in self.s.under_way)

    def _loads(self) -> Iterator[str]:
        """Fixed moments, places and form, each within the life of its bowl, each handled when it has to be."""
        for x in self.p.loads:
            o, s = self.offers[x.batter], self.stations[x.station]
            if x.off != x.on + o.done_s or x.ready != x.off + o.off_s:
                yield f"{x.id}: off at {spoken(x.off)}, done at {spoken(x.on + o.done_s)}"
            if x.turn != (x.on + o.turn_at_s if o.turn_at_s is not None else None):
                yield f"{x.id}: is not turned when it has to be"
            if not self.rules.stands_on(o.form, s.kind):
                yield f"{x.id}: {o.form} does not go on {s.id}"
            if not 1 <= x.pieces <= s.places:
                yield f"{x.id}: {x.pieces} pieces on {s.places} places"
            fixed = any(r.id == x.id for r in self.begun)
            if not fixed:
                if x.on < self.s.begin:
                    yield f"{x.id}: begins before {spoken(self.s.begin)}"
                bowl = self.bowls.get(x.bowl)
                if bowl is None or bowl.batter != x.batter:
                    yield f"{x.id}: comes from no bowl of its batter"
                elif not bowl.usable_from <= x.on <= bowl.usable_to:
                    yield f"{x.id}: its bowl is good from {spoken(bowl.usable_from)} to {spoken(bowl.usable_to)}, not at {spoken(x.on)}"
            for do, at, long in (("pour", x.on, o.pour_s), ("turn", x.turn, o.turn_s), ("off", x.off, o.off_s)):
                if at is None or not long or (fixed and at + long <= self.s.begin):
                    continue
                if sum(t.of == x.id and t.at == at and t.to == at + long for t in self.tasks[do]) != 1:
                    yield f"{x.id}: nobody is there to {do} it at {spoken(at)}"

    def _free_at(self, x: Load) -> int:
        return x.ready + self.stations[x.station].recover_s

    def _surfaces(self) -> Iterator[str]:
        """Hot, alive, and one load at a time."""
        for s in self.s.stations:
            here = sorted((x for x in self.p.loads if x.station == s.id), key=lambda x: (x.on, x.id))
            hot = s.hot_from if s.hot_from is not None else self.s.start + s.heat_up_s
            for x in here:
                fixed = any(r.id == x.id for r in self.begun)
                if x.on < hot and not fixed:
                    yield f"{x.id}: {s.id} is not hot before {spoken(hot)}"
                if not fixed and (s.dead or (s.dead_from is not None and x.off > s.dead_from)):
                    yield f"{x.id}: {s.id} no longer heats"
            for a, b in itertools.pairwise(here):
                if b.on < self._free_at(a) and not all(any(r.id == x.id for r in self.begun) for x in (a, b)):
                    yield f"{a.id} and {b.id} lie on {s.id} at once"
                gap = self.offers[a.batter].oven_c != self.offers[b.batter].oven_c
                if s.kind == "oven" and gap and b.on - a.off < s.change_s:
                    yield f"{b.id}: {s.id} has another heat before"
            for t in self.tasks["clean"]:
                if t.of == s.id:
                    for x in here:
                        if x.on < t.to and t.at < x.off:
                            yield f"{s.id} is cleaned while {x.id} lies on it"
                    if not s.cleanable:
                        yield f"{s.id} cannot be cleaned"
                    if t.to - t.at < (s.clean_s or self.rules.limits.clean_s) and t.at >= self.s.begin:
                        yield f"{s.id}: cleaned in less time than it takes"

    def _allergens(self) -> Iterator[str]:
        """No guest's food on what has met their allergen, by the history of each surface; the clean mix weighed first."""
        for x in self.p.loads:
            s = self.stations[x.station]
            for allergen in strict([self.guests[g] for g in x.guests], self.rules):
                if self._met(s, allergen, x):
                    yield f"{x.id}: {s.id} has met {allergen}"
        for a in self.tasks["weigh"]:
            minds = self._minds(a.of)
            for b in self.tasks["weigh"]:
                if b.at >= a.to or a is b or a.at < self.s.begin or b.at < self.s.begin:
                    continue
                met = [m for m in minds if carries(self.offers[b.of], m, self.rules) and not carries(self.offers[a.of], m, self.rules)]
                back = [
                    m
                    for m in self._minds(b.of)
                    if carries(self.offers[a.of], m, self.rules) and not carries(self.offers[b.of], m, self.rules)
                ]
                if met and not back:
                    yield f"{a.of} is weighed after {b.of}, which has {met[0]} in it"

    def _minds(self, batter: str) -> frozenset[str]:
        return strict([self.guests[g] for x in self.p.loads if x.batter == batter for g in x.guests], self.rules)

    def _met(self, s: Station, allergen: str, x: Load) -> bool:
        """Whether a surface has met an allergen when a load goes on, since it was last cleaned."""
        clean = max((t.to for t in self.tasks["clean"] if t.of == s.id and t.to <= x.on), default=None)
        if clean is None and has_met(s, [allergen], self.rules):
            return True
        before = [y for y in self.p.loads if y.station == s.id and y.id != x.id and y.on < x.off and (clean is None or y.off > clean)]
        return any(carries(self.offers[y.batter], allergen, self.rules) for y in before)

    def _bowls(self) -> Iterator[str]:
        """Weighed, mixed, rested, in that order."""
        old = {r.id for r in self.s.under_way if r.mix is not None}
        weighed = {t.of: t for t in self.tasks["weigh"]}
        for b in self.p.bowls:
            o = self.offers[b.batter]
            if b.id in old:
                continue
            ready = b.mix + o.mix_s
            if (b.usable_from, b.usable_to) != (ready + o.rest_s, ready + o.life_s):
                yield f"{b.id}: is good from {spoken(ready + o.rest_s)} to {spoken(ready + o.life_s)}"
            if b.mix < self.s.begin:
                yield f"{b.id}: is mixed before {spoken(self.s.begin)}"
            if o.mix_s and sum(t.of == b.id and t.at == b.mix and t.to == ready for t in self.tasks["mix"]) != 1:
                yield f"{b.id}: nobody is there to mix it"
            if o.weigh_s and b.batter not in weighed and not any(x.batter == b.batter for x in self.p.bowls if x.id in old):
                yield f"{b.batter} is mixed and was not weighed"
            elif b.batter in weighed and weighed[b.batter].to > b.mix:
                yield f"{b.id} is mixed before its dry mix is weighed"
        for t in self.tasks["weigh"]:
            if t.of in self.offers and t.at >= self.s.begin and t.to - t.at != self.offers[t.of].weigh_s:
                yield f"{t.of}: weighed in {t.to - t.at} seconds"

    def _plates(self) -> Iterator[str]:
        """Served with everything ready, not before it is wanted, and nothing held too long."""
        plated = {(p.table, p.wanted): p for p in self.p.plates}
        for g in self.s.guests:
            if g.id in self.p.unserved:
                continue
            p = plated.get((g.seat, g.at))
            if p is None or g.id not in p.guests:
                yield f"{g.id} has no plate at {spoken(g.at)}"
                continue
            if self._done(g):
                continue
            if p.served < g.at:
                yield f"{g.id}: served at {spoken(p.served)}, before {spoken(g.at)}"
            for x in self.p.loads:
                if g.id in x.guests:
                    if x.ready > p.served - self.s.plate_s:
                        yield f"{g.id}: plated before {x.id} is ready"
                    if p.served - x.ready > self.offers[x.batter].hold_s:
                        yield f"{g.id}: {x.id} is held longer than it keeps"
        if self.s.plate_s:
            for p in self.p.plates:
                over = p.served <= self.s.begin and self.s.now is not None
                if not over and not any(
                    t.of == p.table and t.to == p.served and t.at == t.to - self.s.plate_s for t in self.tasks["plate"]
                ):
                    yield f"table {p.table}: nobody plates it"

    def _hands(self) -> Iterator[str]:
        """Each person does one thing at a time, and only what is theirs, while they are there."""
        for person in self.s.people:
            mine: Sequence[Task] = sorted(
                (t for t in self.p.tasks if t.who == person.id and t.to > self.s.begin), key=lambda t: (t.at, t.to)
            )
            for t in mine:
                if not person.can(t.do) and t.at >= self.s.begin:
                    yield f"{person.id} may not {t.do}"
                if (person.begins is not None and t.at < person.begins) or (person.ends is not None and t.to > person.ends):
                    yield f"{person.id} is not there at {spoken(t.at)}"
            for a, b in itertools.pairwise(mine):
                if b.at < a.to:
                    yield f"{person.id}: {a.do} {a.of} and {b.do} {b.of} at once"

    def _frozen(self) -> Iterator[str]:
        """What had begun lies where it lay."""
        loads = {x.id: x for x in self.p.loads}
        for r in self.begun:
            x = loads.get(r.id or "")
            if r.id and (x is None or (x.on, x.station, x.batter, x.pieces) != (r.on, r.station, r.batter, r.pieces)):
                yield f"{r.id} has begun, and was moved"
        for r in self.s.under_way:
            if r.mix is not None and r.on is None and r.id and (r.id not in self.bowls or self.bowls[r.id].mix != r.mix):
                yield f"{r.id} stands mixed, and was moved"

    def _figures(self) -> Iterator[str]:
        """The figures that the plan gives of itself."""
        late = {g: max(0, p.served - p.wanted) for p in self.p.plates for g in p.guests}
        ready = {(x.id, g): (x.ready, n) for x in self.p.loads for g, n in x.guests.items()}
        served = {g: p.served for p in self.p.plates for g in p.guests}
        held = sum(n * max(0, served[g] - at - self.s.free_hold_s) for (_, g), (at, n) in ready.items() if g in served)
        for name, is_, said in (
            ("late_guests", sum(x > self.s.grace_s for x in late.values()), self.p.late_guests),
            ("late_guest_s", sum(late.values()), self.p.late_guest_s),
            ("held_beyond_free_s", held, self.p.held_beyond_free_s),
        ):
            if is_ != said:
                yield f"{name} is {is_}, not {said}"
