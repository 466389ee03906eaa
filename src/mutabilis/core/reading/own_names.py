"""What the cook calls a food: the words of the line itself, where they name it."""

from weakref import WeakKeyDictionary

from ..batter.batter import BatterLine
from ..food.naming import Names
from ..measures.amount import read_amount
from ..measures.spoken import written
from .facts import ReadingFacts

LONGEST = 40  # letters of a name that is still one
_MOST_KEPT = 8192
_kept: WeakKeyDictionary[Names, dict[tuple[str, str], str]] = WeakKeyDictionary()


def called(line: BatterLine, facts: ReadingFacts) -> str:
    """The cook's own name for the food of a line ("plain flour"), without amount and preparation; the table's own where the line was
    guessed, left open, or names several things. A line of no food is called by its text.

    The name is read back as the same food: nothing that was judged is renamed.
    """
    if line.ingredient is None:
        return line.text
    known = _kept.setdefault(facts.names, {})
    key = (line.text, line.ingredient)
    if key not in known:
        if len(known) > _MOST_KEPT:
            known.clear()
        known[key] = _own(*key, facts)
    return (known[key] if line.settled else "") or facts.ingredients[line.ingredient].short


def _own(text: str, ingredient: str, facts: ReadingFacts) -> str:
    core = facts.clauses.account(written(text, facts.units)).core
    words = " ".join(read_amount(core, facts.units).words.split())
    again = read_amount(f"1 {words}", facts.units)
    if again.measures and again.measures[0].unit and again.words:  # "7 g sachet dried yeast": a sachet is no part of the name
        words = " ".join(again.words.split())
    named = facts.names.resolve(words) if 0 < len(words) <= LONGEST else None
    if facts.ingredients[ingredient].is_certified:
        return ""  # a certified thing is always called one
    if named is None or named.corrected or named.ids != (ingredient,) or named.per_piece:
        return ""
    return words
