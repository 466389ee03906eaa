"""Guests as a cook writes them: "Bram, 07:30, egg allergy, 3 cakes", or "nine walkers, 07:30, two vegan, one coeliac".

What is not understood may be somebody's allergy: a line with a word that means nothing here is handed back whole, and nobody is put down.
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass

from ..batter.batter import FormKey
from .hours import seconds
from .need_words import NeedWords
from .tables import ServiceTables
from .wishes import Guest, Need

FORMS: dict[str, FormKey] = {
    "cake": "griddle", "pancake": "griddle", "griddle cake": "griddle", "waffle": "waffle", "crepe": "crepe", "crêpe": "crepe", "piece": "tray", "tray cake": "tray", "square": "tray",
}  # fmt: skip
USUAL_PIECES = 3
MOST_OF_A_GROUP = 60
LONGEST = 300  # characters of a line
SMALL = ("nought", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")
_HOUR = re.compile(r"(?:\bat\s+)?(?<![\d:.])(\d{1,2}[:.]\d{2}(?::\d{2})?)(?![\d:]|\.\d)(?:\s*(?:am\b|a\.m\.|h\b))?", re.I)
_EVENING = re.compile(r"\d\s*p\.?m\b", re.I)
_PIECES = re.compile(r"(\w+)\s+([a-zê ]+?)s?\Z")
_TABLE = re.compile(r"table\s+(?:[\"“]([^\"”]+)[\"”]|(\S{1,20}))\Z", re.I)
_COUNT = re.compile(r"(\d{1,3}(?=\s*[x×]\s)|\d{1,3}|[a-z]+)(?:\s*[x×])?\s+(.+)\Z", re.I)
_OF = re.compile(r"(.+)\s+of\s+(\w+)\Z", re.I)  # "a family of four"
_QUOTED = re.compile(r"\s*[\"“]\s*([^\"”]*\w[^\"”]*?)\s*[\"”]")
_AFTER_NAME = re.compile(r"\s*[()\[\]]\s*|\s+[-–—]\s+|:\s+")
_TOGETHER = re.compile(r"\s+(?:&|and)\s+|\s*\+\s*", re.I)
ANYTHING = ("eats anything", "anything", "everything", "no needs", "none", "no allergies", "no allergy", "nothing")


@dataclass(frozen=True, slots=True, kw_only=True)
class Unread:
    """A line that is not understood, and why, in words."""

    line: str
    why: str


def read_guests(
    text: str, rules: ServiceTables, allergens: Iterable[str], taken: Iterable[str] = (), at: int | None = None
) -> tuple[tuple[Guest, ...], tuple[Unread, ...]]:
    """The guests of a text, a line each (who first; commas, semicolons or tabs between the other parts, in any order), and the lines that
    are not understood. `at`: the hour of whoever names none [s]. `taken`: ids that are in use."""
    found: list[Guest] = []
    unread: list[Unread] = []
    used = set(taken)
    words = NeedWords(rules, allergens)
    for raw in text.splitlines():
        line = " ".join(raw.split()).strip()
        if not line or line.casefold().replace(" ", "") in ("name,time,needs,pieces", "name;time;needs;pieces", "name,hour,needs,pieces"):
            continue
        try:
            guests = _line(raw, words, used, at)
        except ValueError as error:
            unread.append(Unread(line=line[:200], why=str(error)))
            continue
        used |= {g.id for g in guests}
        found += guests
    return tuple(found), tuple(unread)


def _line(raw: str, words: NeedWords, used: set[str], at: int | None) -> list[Guest]:
    if len(raw) > LONGEST:
        raise ValueError("a line is too long")
    quoted = _QUOTED.match(raw)
    hours, parts = _hours_out(p.strip() for p in re.split(r"[,;\t]", raw[quoted.end() :] if quoted else raw))
    count, who, beside, needs = (None, quoted[1], [], ()) if quoted else _who(parts[0] if parts else "", words)
    everyone = list(needs)
    some: list[tuple[int, Need]] = []
    table, pieces, form = None, USUAL_PIECES, None
    for part in beside + parts[0 if quoted else 1 :]:
        if m := _TABLE.match(part):
            table = m[1] or m[2]
        elif part.casefold() in ANYTHING:
            continue
        elif part.isdigit() and not hours:
            raise ValueError(f"“{part}”: an hour is written 07:30, an amount “3 cakes”")
        elif told := _pieces(part):
            pieces, form = told
        else:
            n, said = _counted(part)
            if n is not None and n > (count or 0):
                raise ValueError(f"“{part}”: there are not so many")
            some += [(n, need) for need in words.read(said) if n is not None]
            everyone += words.read(said) if n is None else ()
    if len(hours) > 1:
        raise ValueError("two hours are given")
    if not hours and at is None:
        raise ValueError("an hour is missing, such as 07:30")
    named = [who] if quoted else _names(who)
    members = _group(who, count, everyone, some) if count else [(name, everyone) for name in named]
    seat = table or (who if len(members) > 1 else None)
    made: list[Guest] = []
    for name, minds in members:
        made.append(_guest(name, seat, hours[0] if hours else at, pieces, form, minds, used | {g.id for g in made}))
    return made


def _group(who: str, count: int, everyone: list[Need], some: list[tuple[int, Need]]) -> list[tuple[str, list[Need]]]:
    """The names and needs of so many guests: each need of a group is somebody else's, as long as there is somebody left."""
    if count > MOST_OF_A_GROUP:
        raise ValueError("a group is at most sixty")
    members = [(f"{_single(who)} {k}", list(everyone)) for k in range(1, count + 1)]
    for k, need in enumerate(need for n, need in some for _ in range(n)):
        members[k % count][1].append(need)
    return members


def _names(who: str) -> list[str]:
    """Those whom a line names together: "Ada & Bo", "Ada + 1"."""
    first, *rest = [name for name in _TOGETHER.split(who) if re.search(r"\w", name)]
    names = [first]
    for name in rest:
        names += [f"{first} + {name}"] * int(name) if name.isdigit() and int(name) < MOST_OF_A_GROUP else [name]
    return names


def _hours_out(parts: Iterable[str]) -> tuple[list[int], list[str]]:
    """The hours [s] that stand in the parts, and what is left of these without them."""
    hours: list[int] = []
    left: list[str] = []
    for part in parts:
        if _EVENING.search(part):
            raise ValueError("an hour of the morning is meant, such as 07:30")
        hours += [seconds(m[1].replace(".", ":")) for m in _HOUR.finditer(part)]
        left += [rest for one in _HOUR.split(part)[::2] if (rest := one.strip())]
    return hours, left


def _who(part: str, words: NeedWords) -> tuple[int | None, str, list[str], tuple[Need, ...]]:
    """How many, who, what else stands beside the name (in brackets, after a dash), and the needs that stand in the name itself: a cook writes
    "Bram egg allergy" as well, and no word of it may be lost."""
    if not re.search(r"\w", part):
        raise ValueError("a name is missing")
    name, *more = [x for x in _AFTER_NAME.split(part) if x]
    count, who = _counted(name)
    if count is None and (m := _OF.match(who)) and (n := _number(m[2])):
        count, who = n, m[1]
    if count is None and more and more[0].isdigit():
        count, more = int(more[0]), more[1:]
    who, needs = words.out_of(who)
    return count, who, more, needs


def _guest(name: str, table: str | None, at: int | None, pieces: int, form: FormKey | None, needs: list[Need], used: set[str]) -> Guest:
    base = re.sub(r"[^a-z0-9]+", "_", name.casefold()).strip("_")[:60] or "guest"
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
    n = int(part) if part.isdigit() else _number(m[1]) if m and m[2] in FORMS else None
    if not n:
        return None
    if n > 40:
        raise ValueError(f"“{part}” is more than one guest eats")
    return n, FORMS[m[2]] if m and m[2] != "piece" else None
