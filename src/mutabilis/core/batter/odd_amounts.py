"""Amounts that are odd for their batter: queried at the line, never refused ("a tablespoon of powder, or a teaspoon?")."""

import re

from .batter import Batter
from .facts import BatterFacts

_TABLESPOON = re.compile(r"\b(?:table\s?spoons?|tbsps?|tbs|T)\b", re.IGNORECASE)
_CUP = re.compile(r"\bcups?\b", re.IGNORECASE)


def queries(batter: Batter, facts: BatterFacts) -> dict[int, str]:
    """A question for each line [its place in the batter] that holds more than a batter usually does, against its flour.

    Source of the usual amounts: `data/usual.toml`.
    """
    flour = sum(line.grams for line in batter.lines if line.counts and facts.ingredients[line.ingredient or ""].is_flour)
    if flour <= 0:
        return {}
    asked: dict[int, str] = {}
    for at, line in enumerate(batter.lines):
        if not line.counts:
            continue
        i = facts.ingredients[line.ingredient or ""]
        most = facts.usual.get(i.id, facts.usual.get(f"group:{i.group}"))
        share = 100 * line.grams / flour
        if most is None or share <= most:
            continue
        slip = ""
        if _TABLESPOON.search(line.text) and share / 3 <= most:
            slip = " A teaspoon, perhaps?"
        elif _CUP.search(line.text) and share / 16 <= most:
            slip = " A tablespoon, perhaps?"
        asked[at] = f"{share:.0f} g to 100 g of flour; seldom more than {most:g}.{slip}"
    return asked
