"""Which batter a guest may have, and which surface it may lie on: never given up for a better plan."""

from collections.abc import Iterable, Mapping

from .tables import ServiceTables
from .wishes import Guest, Need, Offer, Service, Station

UNREAD = ("anything", "unknown")  # may be in what nobody has read


def hard(guest: Guest) -> tuple[Need, ...]:
    """What would harm the guest: allergies, and intolerances, which are kept as strictly."""
    return tuple(n for n in guest.minds if n.grade != "preference")


def strict(guests: Iterable[Guest], tables: ServiceTables) -> frozenset[str]:
    """The allergens that the food of these guests may not meet on any surface."""
    return frozenset(a for g in guests for n in hard(g) for a in tables.allergens_of(n.what))


def minds_of(service: Service, serves: Mapping[str, str], tables: ServiceTables) -> dict[str, frozenset[str]]:
    """By batter: what the food of the guests who get it may not meet."""
    return {o.id: strict([g for g in service.guests if serves.get(g.id) == o.id], tables) for o in service.batters}


def clash(need: Need, offer: Offer, tables: ServiceTables) -> str | None:
    """What of a batter a need forbids, in a word; None where they go together.

    A diet must be among what the batter fits, whatever its list of allergens leaves out; traces count for what would harm.
    """
    key = tables.name(need.what)
    if not tables.checked_for(key):
        return f"not confirmed: no batter is checked for {need.what}"
    has = offer.contains if need.grade == "preference" else (*offer.contains, *offer.may_contain)
    if need.grade != "preference" and any(tables.name(x) in UNREAD for x in has):
        return "not confirmed: not all of it is read"
    met = next((m for a in tables.allergens_of(key) if (m := tables.meets(a, has))), None)
    if met:
        return met
    if tables.is_diet(key) and key not in {tables.name(f) for f in offer.fits}:
        return f"not confirmed {key.replace('_', ' ')}"
    return None


def suits(guest: Guest, offer: Offer, tables: ServiceTables) -> bool:
    """Whether a guest may and would eat of a batter, its form aside."""
    return all(clash(n, offer, tables) is None for n in guest.minds)


def harms(guest: Guest, offer: Offer, tables: ServiceTables) -> str | None:
    """What of a batter would harm a guest, in a word; None where nothing does."""
    return next((c for n in hard(guest) if (c := clash(n, offer, tables))), None)


def carries(offer: Offer, allergen: str, tables: ServiceTables) -> bool:
    """Whether a batter leaves an allergen on what it touches."""
    has = (*offer.contains, *offer.may_contain)
    return tables.meets(allergen, has) is not None or any(tables.name(x) in UNREAD for x in has)


def has_met(station: Station, allergens: Iterable[str], tables: ServiceTables) -> str | None:
    """The first of these allergens that a surface has met; None where it is clean of them."""
    return next((m for a in sorted(allergens) if (m := tables.meets(a, station.met))), None)
