"""Guests as a cook writes them: "Bram, 07:30, egg allergy, 3 cakes", or "nine walkers, 07:30, two vegan, one coeliac".

What is not understood may be somebody's allergy: a line with a word that means nothing here is handed back whole, and nobody is put down.
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass

from ..batter.batter import FormKey
from .hours import seconds
from .tables import ServiceTables
from .wishes import Guest, Need

FORMS: dict[str, FormKey] = {
    "cake": "griddle", "pancake": "griddle", "griddle cake": "griddle", "waffle": "waffle", "crepe": "crepe", "crêpe": "crepe", "piece": "tray", "tray cake": "tray", "square": "tray",
}  # fmt: skip
USUAL_PIECES = 3
SMALL = ("nought", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")
_HOUR = re.compile(r"(?:at\s+)?(\d{1,2}[:.]\d{2})(?:\s*(?:am|a\.m\.|h))?\Z", re.I)
_PIECES = re.compile(r"(\w+)\s+([a-zê ]+?)s?\Z")
_TABLE = re.compile(r"table\s+(\S{1,20})\Z", re.I)
_COUNT = re.compile(r"(\d{1,3}|[a-z]+)\s+(.+)\Z", re.I)
_ALLERGY = re.compile(r"(?:allergic to |allergy to |anaphyla(?:ctic|xis) (?:to|from) )(.+)|(.+?) allerg(?:y|ic)\Z", re.I)
_INTOLERANCE = re.compile(r"(?:intolerant (?:to|of) )(.+)|(.+?)[ -]intoleran(?:ce|t)\Z", re.I)
_FREE = re.compile(r"(?:no |without )(.+)|(.+?)[ -]free\Z", re.I)
_CHOICE = re.compile(r"\s*(?:\(?by choice\)?|\(?prefers?\)?|\(?preference\)?|\(?likes? it so\)?)\s*", re.I)
ANYTHING = ("eats anything", "anything", "everything", "no needs", "none")
NUTS = ("nut", "nuts", "all nuts", "any nuts")
BY_CHOICE = ("vegan", "vegetarian", "low_carb", "no_added_sugar", "low_sodium", "oil_free")


@dataclass(frozen=True, slots=True, kw_only=True)
class Unread:
    """A line that is not understood, and why, in words."""

    line: str
    why: str


def read_guests(
    text: str, rules: ServiceTables, allergens: Iterable[str], taken: Iterable[str] = (), at: int | None = None
) -> tuple[tuple[Guest, ...], tuple[Unread, ...]]:
    """The guests of a text, a line each (commas, semicolons or tabs between its parts, in any order), and the lines that are not
    understood. `at`: the hour of whoever names none [s]. `taken`: ids that are in use."""
    found: list[Guest] = []
    unread: list[Unread] = []
    used = set(taken)
    known = _known(rules, allergens)
    for raw in text.splitlines():
        line = " ".join(raw.split()).strip()
        if not line or line.casefold().replace(" ", "") in ("name,time,needs,pieces", "name;time;needs;pieces", "name,hour,needs,pieces"):
            continue
        try:
            guests = _line(re.split(r"\s*[,;\t]\s*", raw.strip().strip(",;")), rules, known, used, at)
        except ValueError as error:
            unread.append(Unread(line=line[:200], why=str(error)))
            continue
        used |= {g.id for g in guests}
        found += guests
    return tuple(found), tuple(unread)


def _line(parts: list[str], rules: ServiceTables, known: frozenset[str], used: set[str], at: int | None) -> list[Guest]:
    name, *rest = [p.strip() for p in parts if p.strip()]
    count, who = _counted(name)
    table = None
    pieces, form = USUAL_PIECES, None
    hour = at
    everyone: list[Need] = []
    some: list[tuple[int, Need]] = []
    for part in rest:
        if m := _HOUR.match(part):
            hour = seconds(m[1].replace(".", ":"))
        elif m := _TABLE.match(part):
            table = m[1]
        elif part.casefold() in ANYTHING:
            continue
        elif told := _pieces(part):
            pieces, form = told
        else:
            n, words = _counted(part)
            need = _need(words, rules, known)
            if n is None:
                everyone.append(need)
            elif count is None or n > count:
                raise ValueError(f"“{part}”: there are not so many")
            else:
                some.append((n, need))
    if hour is None:
        raise ValueError("an hour is missing, such as 07:30")
    if count is None:
        return [_guest(who, who, table, hour, pieces, form, everyone, used)]
    if count > 60:
        raise ValueError("a group is at most sixty")
    single = _single(who)
    members: list[list[Need]] = [list(everyone) for _ in range(count)]
    next_one = 0
    for n, need in some:
        # Each need of a group is somebody else's, as long as there is somebody left.
        for k in range(n):
            members[(next_one + k) % count].append(need)
        next_one += n
    made: list[Guest] = []
    for k, needs in enumerate(members, 1):
        made.append(_guest(f"{single} {k}", f"{single} {k}", table or who, hour, pieces, form, needs, used | {g.id for g in made}))
    return made


def _guest(id: str, name: str, table: str | None, at: int, pieces: int, form: FormKey | None, needs: list[Need], used: set[str]) -> Guest:
    base = re.sub(r"[^a-z0-9]+", "_", id.casefold()).strip("_")[:60] or "guest"
    free = base
    n = 2
    while free in used:
        free, n = f"{base}_{n}", n + 1
    return Guest(id=free, name=name[:1].upper() + name[1:80], table=table, at=at, pieces=pieces, form=form, needs=tuple(needs))


def _number(word: str) -> int | None:
    if word.isdigit():
        return int(word)
    return SMALL.index(word.casefold()) if word.casefold() in SMALL else None


def _counted(text: str) -> tuple[int | None, str]:
    """("nine walkers") → (9, "walkers"); a name alone has no number."""
    m = _COUNT.match(text)
    n = _number(m[1]) if m else None
    return (n, m[2].strip()) if m and n else (None, text)


def _single(who: str) -> str:
    return who[:-1] if who.endswith("s") and not who.endswith("ss") else who


def _pieces(part: str) -> tuple[int, FormKey | None] | None:
    m = _PIECES.match(part.casefold())
    n = _number(m[1]) if m else None
    if m is None or not n or m[2] not in FORMS:
        return None
    if n > 40:
        raise ValueError(f"“{part}” is more than one guest eats")
    return n, None if m[2] == "piece" else FORMS[m[2]]


def _need(words: str, rules: ServiceTables, known: frozenset[str]) -> Need:
    """A need with its grade. Where nobody says how bad it is, an allergy is meant: only a diet that people choose is a choice."""
    chosen = bool(_CHOICE.search(words))
    plain = _CHOICE.sub(" ", words).strip().casefold()
    for pattern, grade in ((_ALLERGY, "allergy"), (_INTOLERANCE, "intolerance")):
        if m := pattern.match(plain):
            return Need(what=_allergen(m[1] or m[2], rules, known), grade=grade)
    key = rules.name(plain)
    if key in BY_CHOICE:
        return Need(what=key, grade="preference")
    if key in rules.diets:
        return Need(what=key, grade="preference" if chosen else "allergy")
    m = _FREE.match(plain)
    return Need(what=_allergen((m[1] or m[2]) if m else plain, rules, known), grade="preference" if chosen else "allergy")


def _allergen(word: str, rules: ServiceTables, known: frozenset[str]) -> str:
    if word.casefold().strip() in NUTS:
        return "nut_free"  # whoever says nuts may mean peanuts too
    key = rules.name(word)
    if key not in known and key.endswith("s") and rules.name(key[:-1]) in known:
        key = rules.name(key[:-1])
    if key not in known:
        raise ValueError(f"“{word}” is not understood; what no batter is checked for cannot be vouched for here: cook for this guest apart")
    return key


def _known(rules: ServiceTables, allergens: Iterable[str]) -> frozenset[str]:
    """Every allergen that batters are checked for, by the name that it has here."""
    tracked = {rules.name(a) for a in allergens}
    kinds = {x for family, members in rules.families.items() if tracked & {family, *members} for x in (family, *members)}
    return frozenset(tracked | kinds | {"gluten"})
