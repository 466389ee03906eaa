"""The demo scenario: a guest house beside an observatory on a hillside. Night observers breakfast at 05:30, walkers at 07:30.
All people, places and batters are made up."""

import tomllib
from importlib.resources import files

from mutabilis.core.batter import Batter
from mutabilis.core.book import NewVersion
from mutabilis.core.facts import Facts
from mutabilis.core.quantities.units import Profile
from mutabilis.core.reading import read_lines
from mutabilis.store.book import Book


def demo_batters(facts: Facts) -> list[tuple[str, NewVersion, tuple[str, ...]]]:
    """The demo batters as (name, first version, diets the Bench opens with)."""
    folder = files(__package__).joinpath("batters")
    found = []
    for path in sorted(folder.iterdir(), key=lambda p: p.name):
        if path.name.endswith(".toml"):
            card = tomllib.loads(path.read_text(encoding="utf-8"))
            batter = Batter(lines=read_lines(card["lines"], facts, Profile()), form=card["form"], servings=card["servings"])
            found.append((card["name"], NewVersion(batter=batter, note=card["note"]), tuple(card.get("open_with", ()))))
    return found


def fill(book: Book, facts: Facts) -> None:
    """Put the demo batters into an empty book; a book that has any is left as it is."""
    if not book.entries():
        for name, version, _ in demo_batters(facts):
            book.add(name, version)
