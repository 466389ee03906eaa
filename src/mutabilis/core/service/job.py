"""The work of a morning once it is known who gets what: tables, loads to be made, and what is under way and does not move."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import gcd

from .cover import Cover, alive
from .loads import Piece, cuts
from .needs import carries, has_met, minds_of, strict
from .plan import Bowl, Load, Task
from .tables import ServiceTables
from .wishes import Guest, Offer, Service, Station, UnderWay

GRID_S = 15  # starts are planned on this grid; five seconds took a whole service thirty times as long
SMALL = 12  # so many guests are planned to the second where their moments ask for it


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """Guests who are served together at one hour; `served` where that has happened."""

    seat: str
    wanted: int
    guests: tuple[Guest, ...]
    served: int | None = None

    @property
    def key(self) -> tuple[str, int]:
        """The seat and the hour."""
        return self.seat, self.wanted


@dataclass(frozen=True, slots=True, kw_only=True)
class Lump:
    """A load to be planned: pieces of one batter for these guests, what their surface may not have met, and where it can lie. `on`, `station`
    and `bowl` where it is under way; `was` where and when an earlier plan had it."""

    id: str
    offer: Offer
    guests: Mapping[str, int]
    tables: tuple[tuple[str, int], ...]
    pieces: int
    due: int
    minds: frozenset[str]
    stations: tuple[Station, ...]
    on: int | None = None
    bowl: str | None = None
    was: tuple[str, int] | None = None

    @property
    def lies_s(self) -> int:
        """From the pour until the pieces are off [s]."""
        return self.offer.done_s

    @property
    def ready_s(self) -> int:
        """From the pour until the pieces can be plated [s]."""
        return self.offer.done_s + self.offer.off_s

    @property
    def hands(self) -> tuple[tuple[str, int, int], ...]:
        """What hands do for it: (what, seconds after the pour, seconds long)."""
        o = self.offer
        turn = (("turn", o.turn_at_s, o.turn_s),) if o.turn_at_s is not None else ()
        return tuple(h for h in (("pour", 0, o.pour_s), *turn, ("off", o.done_s, o.off_s)) if h[2] > 0)

    def mind(self, other: "Lump", tables: ServiceTables) -> bool:
        """Whether this load may not follow the other on a surface that was not cleaned."""
        return any(carries(other.offer, a, tables) for a in self.minds)


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """All of it, in seconds. `weighed` and `cleaned` are done; `bowls` stand on the counter."""

    service: Service
    rules: ServiceTables
    serves: Mapping[str, str]
    tables: tuple[Table, ...]
    lumps: tuple[Lump, ...]
    bowls: tuple[Bowl, ...]
    weighed: Mapping[str, Task]
    cleaned: Mapping[str, tuple[Task, ...]]
    grid: int

    @property
    def offers(self) -> tuple[Offer, ...]:
        """The batters that are made, in the order of the wishes."""
        used = {x.offer.id for x in self.lumps}
        return tuple(o for o in self.service.batters if o.id in used)

    @property
    def open(self) -> tuple[Table, ...]:
        """The tables that still wait."""
        return tuple(t for t in self.tables if t.served is None)

    def hot(self, station: Station) -> int:
        """The first second at which a surface is hot."""
        return station.hot_from if station.hot_from is not None else self.service.start + station.heat_up_s

    def earliest(self, at: int) -> int:
        """The first moment of the grid that is not before `at`."""
        base = self.service.start
        return base + -(-(at - base) // self.grid) * self.grid

    def first_strict(self) -> tuple[tuple[str, str], ...]:
        """Pairs of batters of which the first is weighed before the second: the clean mix before what would spoil it."""
        minds = minds_of(self.service, self.serves, self.rules)
        return tuple(
            (a.id, b.id)
            for a in self.offers
            for b in self.offers
            if a.id != b.id
            and any(carries(b, m, self.rules) and not carries(a, m, self.rules) for m in minds[a.id])
            # two batters that each spoil the other's guests cannot both come first: the cleaner of the two does
            and not any(carries(a, m, self.rules) and not carries(b, m, self.rules) for m in minds[b.id])
        )


def job_of(service: Service, cover: Cover, rules: ServiceTables, price: float = 1.0, widest: bool = True) -> Job:
    """The job of a cover. `price` is what a second of a surface costs beside a second of a waiting piece when pieces are cut into loads;
    `widest` cuts for the widest surface of a kind, else for the narrowest."""
    seats: dict[tuple[str, int], list[Guest]] = {}
    for g in service.guests:
        if g.id in cover.serves:
            seats.setdefault((g.seat, g.at), []).append(g)
    done = {(r.table, r.wanted): r.served for r in service.under_way if r.served is not None and r.table is not None}
    done_any = {t for t, w in done if w is None}
    tables = tuple(
        Table(seat=seat, wanted=at, guests=tuple(gs), served=done.get((seat, at), done.get((seat, None)) if seat in done_any else None))
        for (seat, at), gs in sorted(seats.items(), key=lambda x: (x[0][1], x[0][0]))
    )
    needs = Counter({g.id: g.pieces for t in tables for g in t.guests})
    known = {g.id: g for t in tables for g in t.guests}
    fixed = _under_way(service, rules, cover, tables, needs)
    for t in tables:
        if t.served is not None:
            for g in t.guests:
                needs[g.id] = 0
    lumps: list[Lump] = []
    matter = _matter(service, cover, rules)
    kinds: dict[tuple[str, frozenset[str]], list[Piece]] = {}
    for t in tables:
        for g in t.guests:
            offer = service.offer(cover.serves[g.id])
            minds = strict([g], rules) & matter.get(offer.form, frozenset())
            pieces = kinds.setdefault((offer.id, minds), [])
            pieces.extend(Piece(guest=g.id, due=t.wanted, table=t.key) for _ in range(needs[g.id]))
    for (id, minds), pieces in kinds.items():
        offer = service.offer(id)
        standing = tuple(
            s for s in service.stations
            if rules.stands_on(offer.form, s.kind) and alive(s, service) and (s.cleanable or has_met(s, minds, rules) is None)
        )  # fmt: skip
        if not pieces or not standing:
            continue
        lasting = [s for s in standing if s.dead_from is None] or list(standing)  # cut for what is there all the morning
        places = (max if widest else min)(s.places for s in lasting)
        takes = offer.done_s + offer.off_s + min(s.recover_s for s in standing)
        for cut in cuts(pieces, places, max(0, offer.hold_s - service.plate_s), service.free_hold_s, price * takes):
            guests = Counter(p.guest for p in cut)
            lumps.append(
                Lump(
                    id="", offer=offer, guests=dict(guests), tables=tuple(dict.fromkeys(p.table for p in cut)), pieces=len(cut),
                    due=min(p.due for p in cut), minds=strict([known[g] for g in guests], rules) & matter.get(offer.form, frozenset()),
                    stations=tuple(s for s in standing if s.places >= len(cut)),
                )
            )  # fmt: skip
    lumps.sort(key=lambda x: (x.due, x.offer.id, sorted(x.minds), sorted(x.guests)))
    taken = {x.id for x in fixed}
    names = (f"load_{n}" for n in range(1, 10_000) if f"load_{n}" not in taken)
    was = {(r.batter, tuple(sorted(r.guests.items()))): (r.station, r.on) for r in service.planned if r.station and r.on is not None}
    named = [replace(x, id=next(names), was=was.get((x.offer.id, tuple(sorted(x.guests.items()))))) for x in lumps]
    return Job(
        service=service, rules=rules, serves=dict(cover.serves), tables=tables, lumps=(*fixed, *named), bowls=_bowls(service),
        weighed={t.of: t for t in _tasks(service, "weigh")}, cleaned=_cleaned(service), grid=_grid(service, cover),
    )  # fmt: skip


def _matter(service: Service, cover: Cover, rules: ServiceTables) -> dict[str, frozenset[str]]:
    """By form: the allergens that some surface for it has met, or that some batter made on the same surfaces carries."""
    used = [service.offer(id) for id in sorted(cover.batters)]
    guests = [g for g in service.guests if g.id in cover.serves]
    all_minds = strict(guests, rules)
    found: dict[str, frozenset[str]] = {}
    for form in {o.form for o in used}:
        standing = [s for s in service.stations if rules.stands_on(form, s.kind)]
        beside = [o for o in used if any(rules.stands_on(o.form, s.kind) for s in standing)]
        beside += [service.offer(r.batter) for r in service.under_way if r.on is not None and r.batter is not None]
        found[form] = frozenset(
            a for a in all_minds if any(has_met(s, [a], rules) for s in standing) or any(carries(o, a, rules) for o in beside)
        )
    return found


def _grid(service: Service, cover: Cover) -> int:
    if len(cover.serves) > SMALL:
        return GRID_S
    offers = [service.offer(id) for id in cover.batters]
    lengths = [service.plate_s, *(s.recover_s for s in service.stations), *(s.heat_up_s for s in service.stations)]
    for o in offers:
        lengths += [o.pour_s, o.turn_at_s or 0, o.turn_s, o.done_s, o.off_s, o.mix_s, o.weigh_s, o.rest_s]
    return min(GRID_S, max(1, gcd(*lengths)))


def _under_way(service: Service, rules: ServiceTables, cover: Cover, tables: tuple[Table, ...], needs: Counter[str]) -> list[Lump]:
    """The loads that have begun, as they lie; each takes from what is still needed. A piece is for whom it was put on, else for the first
    guest of its tables who gets that batter and lacks one."""
    found = []
    for n, row in enumerate(r for r in service.under_way if r.on is not None):
        offer, station = service.offer(str(row.batter)), service.station(str(row.station))
        guests = _whose(service, row, offer, cover, tables, needs)
        keys = tuple(t.key for t in tables if any(g.id in guests for g in t.guests))
        minds = strict([g for t in tables for g in t.guests if g.id in guests], rules)
        found.append(
            Lump(
                id=row.id or f"begun_{n + 1}", offer=offer, guests=guests, tables=keys, pieces=row.pieces or 1, due=min((k[1] for k in keys), default=row.on or 0), minds=minds,
                stations=(station,), on=row.on, bowl=row.bowl,
            )
        )  # fmt: skip
    return found


def _whose(service: Service, row: UnderWay, offer: Offer, cover: Cover, tables: tuple[Table, ...], needs: Counter[str]) -> dict[str, int]:
    left = row.pieces or 1
    guests = Counter[str]()
    seats = [g for t in tables if t.seat in row.tables for g in t.guests if cover.serves.get(g.id) == offer.id]
    ready = (row.on or 0) + offer.done_s + offer.off_s
    gone = {g.id for t in tables for g in t.guests if t.served is None and max(t.wanted, service.begin) > ready + offer.hold_s}
    for id, n in [*row.guests.items(), *((g.id, g.pieces) for g in seats if not row.guests)]:
        if id in gone:
            continue  # they would wait longer than they keep: made anew
        take = min(n, left, needs[id])
        if take > 0:
            guests[id] += take
            needs[id] -= take
            left -= take
    return dict(guests)


def _bowls(service: Service) -> tuple[Bowl, ...]:
    found = []
    for n, row in enumerate(r for r in service.under_way if r.mix is not None and r.batter is not None and r.on is None):
        offer, mix = service.offer(str(row.batter)), row.mix or 0
        ready = mix + offer.mix_s
        to = row.usable_to if row.usable_to is not None else ready + offer.life_s
        found.append(Bowl(id=row.id or f"bowl_begun_{n + 1}", batter=offer.id, mix=mix, usable_from=ready + offer.rest_s, usable_to=to))
    return tuple(found)


def _tasks(service: Service, do: str) -> tuple[Task, ...]:
    rows = [r for r in service.under_way if r.do == do and r.of and r.at is not None]
    return tuple(
        Task(at=r.at or 0, to=r.to if r.to is not None else r.at or 0, who=r.who or service.people[0].id, do=do, of=str(r.of)) for r in rows
    )


def _cleaned(service: Service) -> dict[str, tuple[Task, ...]]:
    found: dict[str, tuple[Task, ...]] = {}
    for t in _tasks(service, "clean"):
        found[t.of] = (*found.get(t.of, ()), t)
    return found


def as_load(lump: Lump, on: int, station: str, bowl: str) -> Load:
    """A lump as it stands in a plan."""
    o = lump.offer
    return Load(
        id=lump.id, batter=o.id, bowl=bowl, station=station, pieces=lump.pieces, tables=tuple(dict.fromkeys(seat for seat, _ in lump.tables)),
        guests=dict(lump.guests), on=on, turn=on + o.turn_at_s if o.turn_at_s is not None else None, off=on + o.done_s, ready=on + lump.ready_s,
    )  # fmt: skip
