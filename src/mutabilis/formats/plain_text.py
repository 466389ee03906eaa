"""Plain text: a name, the lines of a batter, the method. Reading takes any text that lists ingredients a line each."""

import re

from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.recipe.card import Card, CardGroup

from .shapes import Found, Unreadable, batter_of, decoded, number_in, said_name

NOT_CARRIED = ("ranges and how sure an amount is", "the family of versions", "when it was made and what came of it")
_STOP = re.compile(r"^\W*(?:method|directions|instructions|preparation|steps|how to|cautions|per piece|nutrition)\b.{0,20}$", re.IGNORECASE)
_START = re.compile(r"^\W*ingredients?\b.{0,20}$", re.IGNORECASE)
_NOTE = re.compile(r"^\s*notes?:\s*(.+)$", re.IGNORECASE)
_SERVES = re.compile(r"\b(?:serves|servings|for)\s*:?\s*(\d+)", re.IGNORECASE)
_ONLY = re.compile(r"^\s*(?:serves|servings|yield|makes)\b", re.IGNORECASE)
_HEADING = re.compile(r"^\s*#+\s*")
_BULLET = re.compile(r"^\s*(?:[-*•–]|\d+[.)])\s+(?=\S)")


def read(data: bytes, facts: AllFacts, profile: Profile) -> tuple[Found, ...]:
    """The recipe of a text. The first line is its name where it is no ingredient; what follows "Method" is not taken over."""
    return (parsed(decoded(data), facts, profile),)


def parsed(text: str, facts: AllFacts, profile: Profile) -> Found:
    """As `read`, from text."""
    name, note, servings, left = "", "", None, False
    wanted: list[str] = []
    started = False
    for raw in text.split("\n"):
        line = _HEADING.sub("", " ".join(raw[:4000].split())).strip()
        bare = _BULLET.sub("", line).strip()
        if not bare:
            continue
        if _STOP.match(line):
            left = True
            break
        if _START.match(line):
            started = True
            continue
        if m := _NOTE.match(bare):
            note = m[1][:4000]
            continue
        if (m := _SERVES.search(bare)) and (_ONLY.match(bare) or (not started and not wanted and "·" in bare)):
            servings = number_in(m[1])
            continue
        if not name and not wanted and _is_a_name(bare, facts, profile):
            name = bare
            continue
        wanted.append(bare)
    if not wanted:
        raise Unreadable("no line of it reads as an ingredient")
    batter = batter_of("\n".join(wanted), name, facts, profile, servings, text[:2000])
    return Found(said_name(name), batter, note, ("the method: it is derived afresh from the batter",) if left else ())


def _is_a_name(line: str, facts: AllFacts, profile: Profile) -> bool:
    """Whether a first line is a recipe's name: it has no number, and no ingredient is called so.

    >>> from mutabilis.data import load_facts
    >>> [_is_a_name(x, load_facts(), Profile()) for x in ("Buttermilk pancakes", "a pinch of salt")]
    [True, False]
    """
    if re.search(r"[\d½¼¾⅓⅔⅛]", line) or line.endswith(":"):
        return False
    return all(x.ingredient is None for x in read_lines(line, facts, profile))


def write(card: Card) -> bytes:
    """A card as plain text, UTF-8."""
    out = [card.name, f"{card.form_label} · serves {card.servings:g} · about {card.pieces} pieces", "", "Ingredients"]
    own, beside = card.parts()
    out += [*_groups(own), *card.unread, *_groups(beside), "", "Method", ""]
    out += [f"{n}. {s.title}. {s.text}" for n, s in enumerate(card.steps, 1)]
    out += ["", f"Contains: {', '.join(card.contains) or 'none of the listed allergens'}."]
    if card.may_contain:
        out.append(f"May contain: {', '.join(card.may_contain)}.")
    out += ["", "Cautions", "", *card.cautions]
    if card.note:
        out.insert(2, f"Note: {' '.join(card.note.split())}")
    return ("\n".join(out) + "\n").encode()


def _groups(groups: tuple[CardGroup, ...]) -> list[str]:
    return [x for g in groups for x in ("", f"{g.title}:", *(_line(y.grams, f"{y.name}{y.said}", y.measure, y.note) for y in g.lines))]


def _line(grams: float, name: str, measure: str, note: str) -> str:
    amount = f"{grams:.0f}" if grams >= 10 else f"{grams:.2f}".rstrip("0").rstrip(".")
    beside = "; ".join(x for x in (measure, note) if x)
    return f"{amount} g {name}" + (f" ({beside})" if beside else "")
