"""How a plan speaks: remedies, and the names of things done."""

from collections.abc import Sequence

from ..words import listed
from .hours import spoken
from .plan import Change, Remedy
from .wishes import Guest, Offer

FORM_WORD = {"griddle": "cakes", "waffle": "waffles", "crepe": "crêpes", "tray": "pieces of the tray cake"}


def remedy_of(guest: Guest, offer: Offer) -> Remedy:
    """Another batter for a guest."""
    return Remedy(words=f"{guest.said} takes {offer.said}", changes=(Change(guest=guest.id, batter=offer.id),))


def later(guests: Sequence[Guest], at: int) -> Remedy:
    """Guests who eat at a later hour."""
    who = listed([g.said for g in guests]) if len(guests) <= 3 else f"{len(guests)} guests"
    return Remedy(words=f"{who} at {spoken(at)}", changes=tuple(Change(guest=g.id, at=at) for g in guests))
