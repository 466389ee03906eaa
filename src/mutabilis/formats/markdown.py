"""A card in Markdown: for a wiki, a note or a message. Reading takes the list under its name."""

import re

from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile
from mutabilis.core.recipe.card import Card, CardGroup

from . import plain_text
from .plain_text import _line
from .shapes import Found, decoded

NOT_CARRIED = plain_text.NOT_CARRIED
_AWAY = 0xE000  # escaped marks wait in the private use area while emphasis is taken off


def read(data: bytes, facts: AllFacts, profile: Profile) -> tuple[Found, ...]:
    """The recipe of a Markdown card: emphasis and links go, lists stay, and what was escaped is text."""
    text = re.sub(r"\\([^\w\s])", lambda m: chr(_AWAY + ord(m[1])) if ord(m[1]) < 128 else m[1], decoded(data))
    text = re.sub(r"\[([^\]]*)\]\([^)]*\)", r"\1", text)
    text = re.sub(r"(?<!\w)([*_]{1,3})(\S(?:.*?\S)?)\1(?!\w)", r"\2", text)
    text = re.sub(r"[\ue000-\ue07f]", lambda m: chr(ord(m[0]) - _AWAY), text)
    return (plain_text.parsed(text, facts, profile),)


def write(card: Card) -> bytes:
    """A card as Markdown, UTF-8; what a cook wrote is escaped, so that it stays text."""
    out = [f"# {escaped(card.name)}", "", f"{card.form_label} · serves {card.servings:g} · about {card.pieces} pieces", ""]
    if card.note:
        out += [f"Note: {escaped(' '.join(card.note.split()))}", ""]
    out += ["## Ingredients"]
    own, beside = card.parts()
    out += _groups(own) + [f"- {escaped(text)}" for text in card.unread] + _groups(beside)
    out += ["", "## Method", ""] + [f"{n}. **{s.title}.** {escaped(s.text)}" for n, s in enumerate(card.steps, 1)]
    out += ["", "## Cautions", ""] + [f"- {escaped(text)}" for text in card.cautions]
    out += ["", f"Contains: {', '.join(card.contains) or 'none of the listed allergens'}."]
    return ("\n".join(out) + "\n").encode()


def _groups(groups: tuple[CardGroup, ...]) -> list[str]:
    out: list[str] = []
    for g in groups:
        lines = [f"- {escaped(_line(x.grams, f'{x.name}{x.said}', x.measure, x.note))}" for x in g.lines]
        out += ["", f"### {escaped(g.title)}:", "", *lines]
    return out


def escaped(text: str) -> str:
    """Text in which no mark of Markdown or HTML means anything.

    >>> escaped("<b> *x* [y](z)")
    '\\\\<b\\\\> \\\\*x\\\\* \\\\[y\\\\](z)'
    """
    return re.sub(r"([\\`*_\[\]<>#|~])", r"\\\1", text)
