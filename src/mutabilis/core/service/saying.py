"""How a plan speaks: lists, remedies, and the names of things done."""

from collections.abc import Sequence

from .hours import spoken
from .plan import Change, Remedy
from .wishes import Guest, Offer

FORM_WORD = {"griddle": "cakes", "waffle": "waffles", "crepe": "crêpes", "tray": "pieces of the tray cake"}


def listed(names: Sequence[str], word: str = "and") -> str:
    """Names as they are said one after the other.

    >>> listed(["Ada", "Bram", "Cleo"]), listed(["Ada"], "or")
    ('Ada, Bram and Cleo', 'Ada')
    """
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} {word} {names[-1]}" if names else "nobody"


def remedy_of(guest: Guest, offer: Offer) -> Remedy:
    """Another batter for a guest."""
    return Remedy(words=f"{guest.said} takes {offer.said}", changes=(Change(guest=guest.id, batter=offer.id),))


def later(guests: Sequence[Guest], at: int) -> Remedy:
    """Guests who eat at a later hour."""
    who = listed([g.said for g in guests]) if len(guests) <= 3 else f"{len(guests)} guests"
    return Remedy(words=f"{who} at {spoken(at)}", changes=tuple(Change(guest=g.id, at=at) for g in guests))
