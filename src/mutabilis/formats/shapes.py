"""What the formats have in common: what was found in a file, and what a format cannot carry."""

import re
from dataclasses import dataclass

from mutabilis.core.batter.batter import Batter, FormKey
from mutabilis.core.errors import CannotBe
from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines

LARGEST_FILE = 10_000_000  # bytes; a saved page with its styles is a tenth of that
MOST_RECIPES, MOST_LINES = 200, 200
_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\u202a-\u202e\u2066-\u2069\ufeff]")


@dataclass(frozen=True, slots=True)
class Found:
    """One recipe out of a file: its name, the batter as it was read (lines that could not be read are kept and marked), its note,
    and what of the file was not taken over."""

    name: str
    batter: Batter
    note: str
    left_out: tuple[str, ...] = ()


class Unreadable(CannotBe):
    """A file that holds nothing to be read; its text is plain words for the user."""


def decoded(data: bytes) -> str:
    """Text of a file: UTF-8, UTF-16 by its mark, else Windows western. Control and direction marks go, line ends become one kind.

    >>> decoded(b"a\\x00b\\r\\nc")
    'ab\\nc'
    """
    if len(data) > LARGEST_FILE:
        raise Unreadable(f"larger than {LARGEST_FILE // 1_000_000} MB: that is no recipe")
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        text = data.decode("utf-16", errors="replace")
    else:
        try:
            text = data.decode("utf-8")
        except UnicodeDecodeError:
            text = data.decode("cp1252", errors="replace")
    return clean(text.replace("\r\n", "\n").replace("\r", "\n"))


def clean(text: str) -> str:
    """Text without control characters and marks that turn the direction of writing."""
    return _CONTROL.sub("", text)


def batter_of(lines: str, name: str, facts: AllFacts, profile: Profile, servings: float | None = None, about: str = "") -> Batter:
    """The batter of a list of lines; its form guessed from the name and what is said about it."""
    servings = servings if servings and 0 < servings <= 10_000 else None
    return Batter(lines=read_lines(lines, facts, profile)[:MOST_LINES], form=form_of(f"{name} {about}"), servings=servings)


def form_of(text: str) -> FormKey:
    """The form that a name speaks of; a griddle cake where it speaks of none.

    >>> form_of("Meridian crêpes"), form_of("Sheet-tray cake")
    ('crepe', 'tray')
    """
    words = text.lower()
    if "waffle" in words:
        return "waffle"
    if re.search(r"cr[eê]pe|galette|\bthin pancake", words):
        return "crepe"
    return "tray" if re.search(r"\btray|\bsheet|\boven\b|\bbaked?\b", words) else "griddle"


def said_name(text: str, otherwise: str = "New batter") -> str:
    """A name within what the Book takes."""
    return " ".join(clean(text).split())[:120] or otherwise


def number_in(text: object) -> float | None:
    """The first number in a text or a list of texts ("4 servings"); None where there is none."""
    if isinstance(text, list):
        return next((n for n in map(number_in, text[:10]) if n is not None), None)
    found = re.search(r"\d+(?:[.,]\d+)?", str(text)[:200]) if isinstance(text, (str, int, float)) and not isinstance(text, bool) else None
    return float(found[0].replace(",", ".")) if found else None
