"""Who gets which batter: the fewest batters that serve all, and a few other choices of as few or one more."""

from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from ..adapt.solver import Rows, minimise
from ..words import listed
from .needs import harms, has_met, strict, suits
from .plan import Conflict, Remedy, Rule
from .saying import remedy_of
from .tables import ServiceTables
from .wishes import Guest, Offer, Service, Station

MOST_COVERS = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Cover:
    """Which batter each guest gets, and how many guests get another form than they asked for."""

    serves: Mapping[str, str]
    other_form: int

    @property
    def batters(self) -> frozenset[str]:
        """The batters that are made."""
        return frozenset(self.serves.values())


def alive(station: Station, service: Service) -> bool:
    """Whether a surface can be used for anything that has not begun."""
    return not station.dead and (station.dead_from is None or station.dead_from > service.begin)


def surfaces(guest: Guest, offer: Offer, service: Service, tables: ServiceTables) -> tuple[Station, ...]:
    """The surfaces on which this guest's pieces of a batter can ever lie."""
    minds = strict([guest], tables)
    return tuple(
        s
        for s in service.stations
        if tables.stands_on(offer.form, s.kind) and alive(s, service) and (s.cleanable or has_met(s, minds, tables) is None)
    )


def choices(guest: Guest, service: Service, tables: ServiceTables) -> tuple[tuple[Offer, ...], Conflict | None]:
    """The batters a guest can have, those of the form they asked for first; none, and why."""
    wanted = [service.offer(guest.batter)] if guest.batter is not None else [o for o in service.batters if guest.form in (None, o.form)]
    fits = [o for o in wanted if (suits(guest, o, tables) if guest.batter is None else harms(guest, o, tables) is None)]
    found = tuple(o for o in fits if surfaces(guest, o, service, tables))
    if found:
        return found, None
    others = [o for o in service.batters if o not in wanted and suits(guest, o, tables) and surfaces(guest, o, service, tables)]
    if guest.batter is None and others:
        return tuple(others), None
    return (), _nothing(guest, wanted, fits, others, service, tables)


def _nothing(
    guest: Guest, wanted: list[Offer], fits: list[Offer], others: list[Offer], service: Service, tables: ServiceTables
) -> Conflict:
    """Why a guest can have nothing, the facts first, and what they could have."""
    remedies = tuple(remedy_of(guest, o) for o in others[:3])
    rule: Rule
    blamed: tuple[str, ...] = ()
    if not fits:
        told = next(((o, h) for o in wanted if (h := harms(guest, o, tables))), None)
        rule = "contains" if guest.batter is not None else "nothing_fits"
        if guest.batter is not None and told:
            what = told[1] if told[1].startswith("not confirmed") else f"contains {told[1].replace('_', ' ')}"
            words = f"{told[0].said} {'is ' if what.startswith('not') else ''}{what}: not for {guest.said}{_graded(guest)}."
        else:
            unchecked = next((n.what for n in guest.minds if not tables.checked_for(n.what)), None)
            words = f"No batter on offer is safe for {guest.said}{_graded(guest)}."
            if unchecked:
                words = f"No batter is checked for {unchecked}: cook for {guest.said}{_graded(guest)} apart."
    else:
        offer = fits[0]
        standing = [s for s in service.stations if tables.stands_on(offer.form, s.kind)]
        blamed = tuple(s.id for s in standing)
        dead = [s for s in standing if not alive(s, service)]
        if not standing:
            rule, words = "no_station", f"There is nothing here to make {offer.said} on."
        elif len(dead) == len(standing):
            rule, words = "dead", f"{listed([s.said for s in dead])} no longer heats: no {offer.said} for {guest.said}."
        else:
            met = next(s for s in standing if alive(s, service))
            rule = "met"
            what = has_met(met, strict([guest], tables), tables) or ""
            words = f"{met.said} has met {what.replace('_', ' ')}. It cannot be used for {guest.said}{_graded(guest)}."
    if remedies:
        words += f" Offer: {listed([o.said for o in others[:3]], 'or')}."
    return Conflict.model_validate(
        {"guests": (guest.id,), "stations": blamed, "rule": rule, "from": guest.at, "to": guest.at, "words": words, "remedies": remedies}
    )


def _graded(guest: Guest) -> str:
    grades = [n.grade for n in guest.minds]
    return next((f" ({g})" for g in ("allergy", "intolerance", "preference") if g in grades), "")


def covers(service: Service, tables: ServiceTables, most: int = MOST_COVERS) -> tuple[tuple[Cover, ...], tuple[Conflict, ...]]:
    """Up to `most` covers in rising number of batters, and the guests whom nothing serves.

    The fewest batters are found exactly, as a covering program; a batter that somebody named is made in any case. One cover after
    another is struck out, with every larger one that contains it. Whoever has part of a meal on the fire keeps that batter.
    """
    can: dict[str, tuple[Offer, ...]] = {}
    conflicts: list[Conflict] = []
    begun = {g: r.batter for r in service.under_way if r.on is not None for g in r.guests}
    for g in service.guests:
        can[g.id], why = choices(g, service, tables)
        mine = tuple(o for o in service.batters if o.id == begun.get(g.id))
        if mine and g.batter in (None, mine[0].id) and harms(g, mine[0], tables) is None:
            can[g.id], why = mine, None  # some of it is made already
        if why:
            conflicts.append(why)
    served = [g for g in service.guests if can[g.id]]
    found = [_assign(chosen, served, can, service, tables) for chosen in _fewest(service, served, can, most)]
    return tuple(found), tuple(conflicts)


def _fewest(service: Service, served: list[Guest], can: Mapping[str, tuple[Offer, ...]], most: int) -> Iterator[frozenset[str]]:
    ids = [o.id for o in service.batters]
    column = {id: n for n, id in enumerate(ids)}
    sets = {frozenset(o.id for o in can[g.id]) for g in served}
    rows: list[dict[int, float]] = [{column[id]: 1.0 for id in sorted(s)} for s in sorted(sets, key=sorted)]
    low, high = [1.0] * len(rows), [1e9] * len(rows)
    if not rows:
        yield frozenset()
        return
    stand = {r.batter for r in service.under_way if r.mix is not None or r.on is not None}
    # Of equals, the one that stands first; what is mixed already costs next to nothing.
    cost = np.array([0.01 if id in stand else 1.0 for id in ids]) + np.arange(len(ids)) * 1e-4
    fewest: int | None = None
    for _ in range(most):
        answer = minimise(cost, Rows.of(rows, low, high), np.zeros(len(ids)), np.ones(len(ids)), np.ones(len(ids), dtype=bool), 1e-9)
        if answer is None:
            return
        chosen = frozenset(id for id, x in zip(ids, answer[0], strict=True) if x > 0.5)
        fewest = fewest if fewest is not None else len(chosen)
        if len(chosen) > fewest + 1:
            return
        yield chosen
        rows.append({column[id]: 1.0 for id in sorted(chosen)})
        low.append(-1e9)
        high.append(len(chosen) - 1.0)


def _assign(
    chosen: frozenset[str], served: list[Guest], can: Mapping[str, tuple[Offer, ...]], service: Service, tables: ServiceTables
) -> Cover:
    """Each guest to one of the chosen, whoever has least choice first, so that the kinds of surface are used about evenly."""
    busy = Counter[str]()
    serves: dict[str, str] = {}
    other = 0
    width: Callable[[Offer], int] = lambda o: sum(s.places for s in service.stations if tables.stands_on(o.form, s.kind)) or 1  # noqa: E731
    for g in sorted(served, key=lambda g: (sum(o.id in chosen for o in can[g.id]), g.at, g.id)):
        of = [o for o in can[g.id] if o.id in chosen]
        best = min(of, key=lambda o: (busy[o.form] + g.pieces * o.done_s / width(o), o.id))
        busy[best.form] += round(g.pieces * best.done_s / width(best))
        serves[g.id] = best.id
        other += g.form is not None and best.form != g.form
    return Cover(serves={g.id: serves[g.id] for g in served}, other_form=other)


def remedies_for(guest: Guest, service: Service, tables: ServiceTables, besides: str) -> tuple[Remedy, ...]:
    """Other batters a guest could have, the other forms first."""
    now = service.offer(besides)
    others = [o for o in service.batters if o.id != besides and suits(guest, o, tables) and surfaces(guest, o, service, tables)]
    return tuple(remedy_of(guest, o) for o in sorted(others, key=lambda o: o.form == now.form)[:2])
