"""Amounts as they are said, put the way they are written: "a cup and a quarter of", "a fourth of a cup", "500 mils", and lines that say
one amount of several things."""

import re

from .numbers import ANY_NUMBER, NUMBER, value
from .units import Units

_FRACTION = r"(?:a\s+|one\s+)?(?:half|third|quarter|fourth|eighth)|two\s+thirds|three\s+(?:quarters|fourths)|three\s+eighths"
_SAID = {
    "half": "1/2",
    "third": "1/3",
    "quarter": "1/4",
    "fourth": "1/4",
    "eighth": "1/8",
    "thirds": "2/3",
    "quarters": "3/4",
    "fourths": "3/4",
    "eighths": "3/8",
}
_WORD = {"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6}
_TOP = re.compile(r"^(\s*(?:[•*·▢□☐◦‣–—+-]\s*)?)(?:about\s+|around\s+|roughly\s+|approximately\s+)?", re.IGNORECASE)
_AND_FRACTION = re.compile(
    rf"\b(?P<n>an?|one|two|three|four|five|six|\d+)\s+(?P<unit>[a-z]+)\s+(?:and|&)\s+(?P<f>{_FRACTION}|[½¼¾⅓⅔⅛]|1/2|1/4|3/4|1/3|2/3|a\s+bit)(?:\s+of)?\b(?!\s+(?:cup|tea|table|tsp|tbsp|teaspoon|tablespoon)s?\b)",
    re.IGNORECASE,
)
_OF_A = re.compile(rf"\b(?P<f>{_FRACTION})\s+of\s+(?:an?|one)\s+(?=(?P<unit>[a-z]+))", re.IGNORECASE)
_BARE_FRACTION = re.compile(
    r"\b(?P<f>(?:a\s+|one\s+)?fourth|three\s+fourths|three\s+eighths)\s+(?=(?:cup|tea|table|tsp|tbsp)s?)", re.IGNORECASE
)
_HALF_MORE = re.compile(r"\b(?P<n>one|two|three|four|five|six|\d+)\s+(?:and|&)\s+(?P<f>a\s+half|half)\s+(?=(?:of\s+)?[a-z])", re.IGNORECASE)
_FEW = re.compile(r"^\s*(?:just\s+)?a\s+few\s+(?=drops?|dashes|sprigs|slices|gratings|pinches|spoonfuls)", re.IGNORECASE)
_MILS = re.compile(r"\b(\d+(?:[.,]\d+)?)\s*mils?\b", re.IGNORECASE)
_TWO_WORD_UNITS = re.compile(r"\b(dessert|tea|table|soup)\s+(spoon(?:ful)?s?)\b", re.IGNORECASE)
_FROM_A_TIN = re.compile(
    r"\s*\b(?:from|out of)\s+(?:an?|the|one)\s+(?:can|tin|carton|jar|bottle|packet|pack|tub)\b(?!\s+of)", re.IGNORECASE
)
_LIQUID_FROM = re.compile(
    r"\b(?:liquid|water|brine|juice)\s+(?:from|of|off)\s+(?:an?|the|one|\d+)\s+(?:can|tin|jar)s?\s+(?:of\s+)?(?:chick\s?peas?|garbanzos?)\b",
    re.IGNORECASE,
)
_SOMEWHAT = re.compile(
    r"^\s*(?:an?|another)?\s*(?P<unit>splash|knob|pat|drizzle|dash|glug|handful|pinch|dab|dollop)\s+(?:more|extra)\s+(?:of\s+)?",
    re.IGNORECASE,
)
_A_BIT = re.compile(
    r"^\s*(?:just\s+)?(?:(?:an?|another)\s+(?:(?:little|tiny|wee)\s+)?(?:bit|touch|lick)\s+(?:more\s+|extra\s+)?(?:of\s+)?|(?:bit|touch|lick)\s+of\s+)(?P<food>.+)$",
    re.IGNORECASE,
)
# "b.p.", "A.P. flour": letters that stand for words, with points between.
_INITIALS = re.compile(r"\b(?:[a-z]\.){2,}", re.IGNORECASE)
# "x7" before a name may be the name of a mill, so it counts only at the end.
_TIMES_A_SIZE = re.compile(
    rf"^\s*(?P<n>\d+|two|three|four|five|six)\s*[x×]\s*(?P<size>{NUMBER})\s*(?P<unit>[a-z]+)\b|(?<![\w.,/])(?P<size2>{NUMBER})\s*(?P<unit2>[a-z]+)\s*(?:[x×]\s+|×|x(?=\d+\s*$))(?P<n2>\d+)\b(?![.,]\d)",
    re.IGNORECASE,
)
_HEAPED = re.compile(r"^\s*(?P<how>[a-z]+)\s+(?P<unit>[a-z]+)\b", re.IGNORECASE)
_EACH_OF = re.compile(r"^(?P<amount>.*?\S)\s+each\s*(?:of\s*)?[:,]?\s+(?P<list>.+)$", re.IGNORECASE)
_EACH_END = re.compile(
    r"^(?P<list>[^\d½¼¾⅓⅔]+?)[,:]?\s+(?:-\s*)?(?P<amount>[\d½¼¾⅓⅔].*?)\s+(?:of\s+)?each\s*(?:of\s+them)?$", re.IGNORECASE
)
_LIST = re.compile(r"\s*,\s*(?:and\s+|&\s*)?|\s+and\s+|\s*&\s*|\s+plus\s+|\s*/\s*", re.IGNORECASE)
_UP_TO = re.compile(
    rf"^(?P<food>[^\d½¼¾⅓⅔]+?)[,:]?\s*(?:enough\s+)?to\s+(?:make\s+(?:it\s+|them\s+|this\s+)?(?:up\s+)?(?:to\s+)?|bring\s+(?:it\s+)?(?:up\s+)?to\s+|fill\s+(?:up\s+)?(?:to\s+)?)(?P<amount>{ANY_NUMBER}\s*[a-z]+)\b.*$",
    re.IGNORECASE,
)


def written(text: str, units: Units) -> str:
    """The line with its spoken amounts written as figures.

    >>> from mutabilis.data import load_facts
    >>> u = load_facts().units
    >>> [written(t, u) for t in ("a cup and a quarter of flour", "three fourths of a cup milk", "500 mils of milk", "a pinch and a half of salt")]
    ['1 1/4 cup flour', '3/4 cup milk', '500 ml of milk', '1 1/2 pinch salt']
    """
    line = _FEW.sub("3 ", _MILS.sub(r"\1 ml", text))
    line = _INITIALS.sub(lambda m: m[0].replace(".", ""), line)
    line = _TIMES_A_SIZE.sub(lambda m: _times(m, units), line)
    if (m := _HEAPED.match(line)) and m["how"].lower() in units.heaps and units.find(m["unit"]):
        line = f"1 {line.strip()}"
    line = _TWO_WORD_UNITS.sub(lambda m: f"{m[1]}{m[2]}", line)
    line = _LIQUID_FROM.sub("aquafaba", line)
    line = _FROM_A_TIN.sub("", line)
    line = _SOMEWHAT.sub(lambda m: f"1 {m['unit']} ", line)
    line = _A_BIT.sub(lambda m: f"{m['food']} to taste", line)  # a pinch of salt, a spoon of milk: what it is says how much

    def mixed(m: re.Match[str]) -> str:
        if units.find(m["unit"]) is None:
            return m[0]
        whole = _WORD.get(m["n"].lower(), m["n"])
        part = "" if "bit" in m["f"] else f" {_fraction(m['f'])}"
        return f"{whole}{part} {m['unit']}"

    line = _AND_FRACTION.sub(mixed, line)
    line = _HALF_MORE.sub(lambda m: f"{_WORD.get(m['n'].lower(), m['n'])} 1/2 ", line)
    line = _OF_A.sub(lambda m: f"{_fraction(m['f'])} " if units.find(m["unit"]) else m[0], line)
    return _BARE_FRACTION.sub(lambda m: f"{_fraction(m['f'])} ", line)


def _times(m: re.Match[str], units: Units) -> str:
    """ "2 x 200 ml" as 400 ml, "250 g x 2" as 500 g; a size that is no measure ("20 cm x 2") stays, and the upper end of a range."""
    n, size, unit = m["n"] or m["n2"], m["size"] or m["size2"], m["unit"] or m["unit2"]
    if units.find(unit) is None or re.search(r"(?:[-–—~]|\b(?:to|or|and|between))\s*$", m.string[: m.start()]):
        return m[0]
    return f"{value(n) * value(size):g} {unit}"


def _fraction(text: str) -> str:
    return _SAID.get(text.lower().split()[-1], text)


def each_of(text: str, units: Units) -> tuple[str, ...]:
    """The lines that stand in "half a teaspoon each of salt, sugar and baking powder"; the line alone where it is one.

    >>> from mutabilis.data import load_facts
    >>> each_of("½ tsp each salt and cinnamon", load_facts().units)
    ('½ tsp salt', '½ tsp cinnamon')
    """
    bare = re.sub(r"\([^()]*\)", lambda m: "·" * len(m[0]), text)
    for pattern in (_EACH_OF, _EACH_END):
        m = pattern.match(bare)
        if m is None:
            continue
        amount, items = text[m.start("amount") : m.end("amount")], text[m.start("list") : m.end("list")]
        things = [t for t in (p.strip(" .;") for p in _LIST.split(items)) if t]
        if len(things) > 1 and re.search(r"[\d½¼¾⅓⅔]|\b(?:an?|half|one|two)\b", amount, re.IGNORECASE) and _is_amount(amount, units):
            return tuple(f"{amount.strip()} {thing}" for thing in things)
    return (text,)


def _is_amount(text: str, units: Units) -> bool:
    words = re.findall(r"[a-z]+", text.lower())
    return all(
        units.find(w)
        or w in units.heaps
        or w in ("a", "an", "half", "of", "one", "two", "three", "quarter", "third", "about", "heaped", "level")
        for w in words
    )


def up_to(text: str) -> tuple[str, str] | None:
    """(food, amount) of "milk to make up to 2 cups": as much as the volume still lacks; None where the line says no such thing.

    >>> up_to("milk to make up to 2 cups")
    ('milk', '2 cups')
    """
    m = _UP_TO.match(text)
    return (m["food"].strip(), m["amount"].strip()) if m else None
