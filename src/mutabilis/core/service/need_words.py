"""What a guest cannot or will not eat, out of the words that a cook puts down: "severe nut allergy", "no eggs or milk", "gf and vegan".

Every word must be understood: one that means nothing here may be somebody's allergy.
"""

import re
from collections.abc import Iterable
from functools import cached_property

from .tables import ServiceTables
from .wishes import Grade, Need

NUTS = ("nut", "nuts", "all nuts", "any nuts")
MOST_WORDS = 12  # of a name
BY_CHOICE = ("vegan", "vegetarian", "low_carb", "no_added_sugar", "low_sodium", "oil_free")
_CHOICE = re.compile(r"\(?(?:by choice|prefers?|preference|likes? it so)\)?", re.I)
_SEVERE = re.compile(r"\(?\b(?:severe(?:ly)?|serious(?:ly)?|life[- ]threatening|deadly|highly|strong(?:ly)?|bad(?:ly)?)\b\)?")
# What is said around a need and changes nothing of it; "not", "mostly" and their kind are no such words.
_AROUND = re.compile(
    r"\b(?:please|thanks|thank you|(?:she|he|they|who)(?:['’]s|['’]re)?|is|are|has|(?<!['’]t )(?<!not )have|with|an?|(?:all|both)(?: of them)?(?= )|everyone|everybody|each"
    r"|strict(?:ly)?|very|mild(?:ly)?|slight(?:ly)?|epi-?pen)\b"
)
_ALLERGY = re.compile(r"(?:allerg(?:ic|y|ies)|anaphyla\w+)(?: to| from)?:? (.+)|(.+?)[ -](?:allerg(?:y|ic|ies)|anaphyla\w+)")
_INTOLERANCE = re.compile(r"(?:intolerant|sensitive) (?:to|of) (.+)|(.+?)[ -](?:intoleran(?:ce|t)|sensitiv(?:e|ity))")
_FREE = re.compile(
    r"(?:no|without|avoids|free (?:of|from)|can(?:not|['’]?t) (?:eat|have)|do(?:es)?(?: not|n['’]?t) (?:eat|have)"
    r"|(?:eats )?(?:anything|everything) (?:but|except)(?: for)?) (.+)|(.+?)[ -]free"
)
_JOINED = re.compile(r"\s*(?:&|/|\+|\band\b|\bor\b|\bnor\b|\bplus\b)\s*|\s+(?=(?:no|without) )")
_FLAT = re.compile(r"\b(\w{2,})(free|less)\b")  # "nutfree", "eggless"
# Words that tell of a need wherever they stand, also in what was meant for a name.
_TELLING = re.compile(
    r"allerg\w*|anaphyla\w*|(?:in)?toleran\w*|sensitiv\w*|c(?:o|)eliac\w*|diabet\w*|vegan\w*|vegetarian\w*|veggie\w*|pescatarian\w*|halal|kosher|pregnan\w*"
    r"|epi-?pen\w*|diets?|\w*free|no|not|without|avoids?|gf|df|nf|ef|lf"
)


class NeedWords:
    """The words for needs, of one table of rules and the allergens that batters are checked for."""

    def __init__(self, rules: ServiceTables, allergens: Iterable[str]) -> None:
        self.rules = rules
        self.allergens = tuple(allergens)

    @cached_property
    def known(self) -> frozenset[str]:
        """Every allergen that batters are checked for, by the name that it has here."""
        tracked = {self.rules.name(a) for a in self.allergens}
        kinds = {x for family, members in self.rules.families.items() if tracked & {family, *members} for x in (family, *members)}
        return frozenset(tracked | kinds | {"gluten"})

    def read(self, words: str) -> tuple[Need, ...]:
        """The needs that the words tell, each with its grade. Where nobody says how bad it is, an allergy is meant: only a diet that people
        choose is a choice. ValueError, in words, where any of it is not understood."""
        plain = re.sub(r"[()\s]+", " ", words.casefold().strip(" .!?*")).replace("w/o", "without")
        chosen = bool(_CHOICE.search(plain))
        severe = bool(_SEVERE.search(plain))
        plain = _CHOICE.sub(" ", plain) if chosen else plain
        plain = _AROUND.sub(" ", _SEVERE.sub(" ", plain))
        plain = _FLAT.sub(lambda m: f"{m[1]} free" if self._allergen(m[1]) else m[0], plain)
        found = self._needs(" ".join(plain.split()), chosen, severe)
        if not found:
            raise ValueError(
                f"“{words.strip()}” is not understood; what no batter is checked for cannot be vouched for here: cook for this guest apart"
            )
        return tuple(dict.fromkeys(found))

    def out_of(self, name: str) -> tuple[str, tuple[Need, ...]]:
        """What was meant for a name, and the needs that stand in it: ("Bram egg allergy") → ("Bram", an egg allergy). ValueError where a
        word of it may tell of a need and cannot be told apart from the name."""
        words = name.split()
        if len(words) > MOST_WORDS:
            raise ValueError(f"“{name[:40]}…” is too long for a name")
        for at in range(len(words)):
            if needs := self._said(words[at:]):
                name, rest = " ".join(words[:at]) or name, words[:at]
                break
            if needs := self._said(words[: len(words) - at]):
                name, rest = " ".join(words[len(words) - at :]) or name, words[len(words) - at :]
                break
        else:
            needs, rest = (), words
        for word in re.findall(r"[^\W\d_]+", " ".join(rest).casefold()):
            if _TELLING.fullmatch(word) or self._allergen(word):
                raise ValueError(f"“{name}”: what a guest cannot eat stands after a comma; a name that only sounds so stands in quotes")
        return name, needs

    def _said(self, words: list[str]) -> tuple[Need, ...]:
        """The needs that words tell by themselves. A food alone is none: it may be a name."""
        text = " ".join(words)
        if not words or (self._allergen(text.casefold()) and not _TELLING.fullmatch(text.casefold())):
            return ()
        try:
            return self.read(text)
        except ValueError:
            return ()

    def _needs(self, plain: str, chosen: bool, severe: bool) -> list[Need]:
        """The needs of plain words; none where any word is not understood."""
        grade: Grade
        if not plain:
            return []
        for pattern, grade in ((_ALLERGY, "allergy"), (_INTOLERANCE, "allergy" if severe else "intolerance")):
            if (m := pattern.fullmatch(plain)) and (whats := self._foods(m[1] or m[2], diets=True)):
                return [Need(what=what, grade=grade) for what in whats]
        grade = "preference" if chosen and not severe else "allergy"
        key = self.rules.name(plain) if self.rules.name(plain) in self.rules.diets else self.rules.name(plain.removesuffix("s"))
        if key in self.rules.diets:
            return [Need(what=key, grade="preference" if key in BY_CHOICE else grade)]
        m = _FREE.fullmatch(plain)
        if whats := self._foods((m[1] or m[2]) if m else plain):
            return [Need(what=what, grade=grade) for what in whats]
        for apart in (_JOINED.split(plain), plain.split() if not m else []):
            parts = [self._needs(part, chosen, severe) for part in apart if part] if len(apart) > 1 else []
            if parts and all(parts):
                return [need for part in parts for need in part]
        return []

    def _foods(self, words: str, diets: bool = False) -> list[str]:
        """The allergens that words name (or diets, where one may be meant), one or several; none where any of them is not known."""
        names = [part for part in _JOINED.split(words) if part]
        found = [self.rules.name(n) if diets and self.rules.name(n) in self.rules.diets else self._allergen(n) for n in names]
        return [what for what in found if what] if all(found) else []

    def _allergen(self, word: str) -> str | None:
        """An allergen by the name that it has here, None where batters are not checked for it."""
        if word.strip() in NUTS:
            return "nut_free"  # whoever says nuts may mean peanuts too
        key = self.rules.name(word)
        return key if key in self.known else None
