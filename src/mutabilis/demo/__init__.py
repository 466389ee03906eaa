"""The demo scenario: a guest house beside an observatory on a hillside. Night observers breakfast at 05:30, walkers at 07:30.
All people, places and batters are made up."""

import tomllib
from collections.abc import Sequence
from functools import cache
from importlib.resources import files
from typing import Any

from mutabilis.core.batter.batter import Batter
from mutabilis.core.book.versions import NewVersion
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.allergen_tokens import ALLERGENS
from mutabilis.core.food.larder import Item
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.service.guests import read_guests
from mutabilis.core.service.tables import ServiceTables
from mutabilis.core.service.wishes import Person
from mutabilis.store.book import Book
from mutabilis.store.larder import Larder
from mutabilis.store.mornings import KeptGuest, Mornings, Wished
from mutabilis.store.stove import Stove


def demo_batters(facts: AllFacts) -> list[tuple[str, NewVersion]]:
    """The demo batters: name and first version."""
    return [(card["name"], _version(card, card, facts)) for card in _cards()]


def opens_with() -> dict[str, tuple[str, ...]]:
    """The demo batters that the Bench opens on, by name, with the diets it then asks for."""
    return {card["name"]: tuple(card["open_with"]) for card in _cards() if card.get("open_with")}


def fill(book: Book, facts: AllFacts, larder: Larder | None = None) -> None:
    """Put the demo batters with their families, and what is in the demo's larder, into an empty book; a book that has any is left
    as it is."""
    if book.count() > 0:
        return
    for card in reversed(_cards()):
        first = book.add(card["name"], _version(card, card, facts))
        for later in card.get("later", ()):
            version = book.save(first.batter_id, _version(later, card, facts, first.id))
            for good in later.get("made", ()):
                book.made(version.id, good, "")
    if larder is not None:
        rows = tomllib.loads(files(__package__).joinpath("larder.toml").read_text(encoding="utf-8"))["item"]
        larder.put(Item.model_validate(row) for row in rows)


def guests(rules: ServiceTables, day: str, forget: str, mornings: Mornings) -> None:
    """Put the guests of the house down for a day, where no morning is planned yet; Tam comes at half past six to turn and plate."""
    known = mornings.day(day)
    if known.revision or known.wished.guests:
        return
    text = files(__package__).joinpath("guests.txt").read_text(encoding="utf-8")
    found, unread = read_guests(text, rules, ALLERGENS)
    assert not unread
    tam = Person.model_validate({"id": "tam", "name": "Tam", "may": ["turn", "off", "plate", "clean"], "from": "06:30"})
    mornings.wish(day, Wished(guests=tuple(KeptGuest(guest=g, forget=forget) for g in found), people=(Person(id="you", name="You"), tam)))


def second_griddle(stove: Stove, surfaces: Sequence[Surface]) -> None:
    """The house has a smaller griddle beside the large one, which stays the first; where the kitchen has surfaces of its own, they stand."""
    own, away = stove.surfaces()
    griddle = next((s for s in surfaces if s.kind == "griddle"), None)
    if own or away or griddle is None:
        return
    stove.put_surface(griddle)
    stove.put_surface(
        griddle.model_copy(update={"id": f"{griddle.id}_beside", "name": "Side griddle", "width": 40.0, "length": 30.0, "heat_up_min": 6.0})
    )


@cache
def _cards() -> list[dict[str, Any]]:
    folder = files(__package__).joinpath("batters")
    return [
        tomllib.loads(path.read_text(encoding="utf-8"))
        for path in sorted(folder.iterdir(), key=lambda p: p.name)
        if path.name.endswith(".toml")
    ]


def _version(row: dict[str, Any], card: dict[str, Any], facts: AllFacts, parent: str | None = None) -> NewVersion:
    batter = Batter(lines=read_lines(row["lines"], facts, Profile()), form=card["form"], servings=card["servings"])
    return NewVersion(batter=batter, parent=parent, diets=tuple(row.get("diets", ())), note=row["note"])
