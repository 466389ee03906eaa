"""The rest that a recipe's own words ask for: "let the batter rest 20 minutes"."""

import re
from collections.abc import Iterable

from .batter import BatterLine

_TIME = r"[^.;!]{0,40}?\b(\d{1,3})(?:\s*(?:-|–|to|or)\s*(\d{1,3}))?\s*(min|minutes?|mins|hours?|hrs?|h)\b"
_RESTS = re.compile(r"\brest(?:s|ing)?\b(?!\s+of\b)" + _TIME, re.IGNORECASE)
_STANDS = re.compile(r"\bbatter\b[^.;!]{0,30}?\b(?:stand|sit)s?\b" + _TIME, re.IGNORECASE)
# What rests on its own, beside the batter.
_OTHER = re.compile(r"\b(?:flax|chia|seeds?|yeast|dough|waffles?|pancakes|cakes|overnight)\b", re.IGNORECASE)
MOST_MIN = 1440.0


def told_rest(lines: Iterable[BatterLine]) -> float | None:
    """The minutes of rest [min] that the lines set aside ask for; of a range its middle. None where they ask for none.

    >>> told_rest([BatterLine(text="Let the batter rest for 20 to 30 minutes.", where="aside")])
    25.0
    """
    for line in lines:
        if line.where != "aside":
            continue
        found = _RESTS.search(line.text) or _STANDS.search(line.text)
        if found and not _OTHER.search(line.text[max(0, found.start() - 40) : found.end()]):
            first = float(found[1])
            minutes = (first + float(found[2] or found[1])) / 2 * (60 if found[3].lower().startswith("h") else 1)
            return minutes if minutes <= MOST_MIN else None
    return None
