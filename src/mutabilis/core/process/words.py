"""How a plan speaks of what it handles."""

from collections.abc import Iterable, Mapping

from ..food.ingredients import Ingredient
from ..words import listed
from .parts import Portion
from .shelf import WHITE, YOLK


def names(found: Iterable[Ingredient]) -> str:
    """Their short names in a row, each once; "nothing" where there is none.

    >>> names([])
    'nothing'
    """
    return listed(dict.fromkeys(i.short for i in found)) or "nothing"


def portion_names(portions: Iterable[Portion], known: Mapping[str, Ingredient]) -> str:
    """The names of portions in a row; a part of an egg under its own name."""
    return listed(named(portions, known)) or "nothing"


def named(portions: Iterable[Portion], known: Mapping[str, Ingredient]) -> list[str]:
    """The names of portions, each once; a part of an egg under its own name."""
    parts = {WHITE: "whites", YOLK: "yolks"}
    return list(dict.fromkeys(parts.get(p.ingredient) or known[p.ingredient].short for p in portions))


def small(text: str) -> str:
    """With a small letter first: the name of a dish inside a sentence.

    >>> small("Berry compote")
    'berry compote'
    """
    return text[:1].lower() + text[1:]


def cap(text: str) -> str:
    """With a capital first.

    >>> cap("whisk it")
    'Whisk it'
    """
    return text[:1].upper() + text[1:]
