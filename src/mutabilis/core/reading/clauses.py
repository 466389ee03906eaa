"""A line taken apart: what it is (its core), and what its clauses say beside it. Clauses only ever add to what is counted or leave
something open; they never make the food another, safer one.

    line   = [bullet] core clause*
    core   = amount unit size? word* food
    clause = opener text; openers are marks (, ; : — ( & + /) and words (with, in, or, such as, if, use … instead, without, may contain …)
"""

import re
from dataclasses import dataclass, field
from itertools import islice

from ..food.naming import singular
from ..measures.amount import OPTIONAL, RELATION, TO_TASTE
from ..measures.numbers import WORD_FRACTIONS, WORDS
from .words import Heard, Words, open_token

MOST_CLAUSES = 12
_OPENER = re.compile(
    r"(?:\s|^)(?P<word>with|w/|containing|contains?|made\s+(?:with|from|of|in)|such\s+as|like|at(?=\s+(?:room|body|blood|fridge))|e\.?g\.?|including|incl\.?|if|or|and/or|and|but|plus|in|on|over|using|used|see|i\s+used|minus|less|without|no|not|"
    r"preferably|ideally|when|unless|then|may\s+contain|alternatively|instead|rather\s+than|to|for|from|until|as)(?=\s)|\s*(?P<mark>&|\+)\s*|(?<=\w)\s*(?P<slash>/)\s*(?=\w)",
    re.IGNORECASE,
)
_SEPARATOR = re.compile(r"(?<!\d),|,(?!\d)|;|:(?=\s)|\s[-–—]\s|\s?—\s?|\.\s+(?=[A-Z])")
_OF_FRUIT = re.compile(
    r"^(?:[\d½¼¾⅓⅔\s/.,-]|\b(?:g|ml|tbsp|tsp|the|finely|grated|freshly|squeezed|strained|about|of|an?|half|one|two)\b)*(?:juice|zest)(?:\s+and\s+(?:juice|zest))?"
    r"\s+(?:of|from)\s+(?:[\w½]+\s+){0,3}?(?:lemon|lime|orange)s?\s*$",
    re.IGNORECASE,
)
_TRACES = re.compile(
    r"\b(?:may|might|can|could)\s+contain|\btraces?\b|\bfactory\b|\bfacility\b|\bsame\s+(?:line|equipment)\b", re.IGNORECASE
)
_NUMBERS = re.compile(
    r"(?:about|approx\.?|ca\.?|~)?\s*[\d½⅓⅔¼¾][\d.,/½⅓⅔¼¾\s–-]*\s*(?:g|gr|grams?|kg|oz|ounces?|lbs?|ml|each)\b(?:\s+each)?", re.IGNORECASE
)
_MEASURED = re.compile(r"[\d½⅓⅔¼¾].*[^\W\d_]")
_WORD = re.compile(r"[^\W\d_]+(?:['’-][^\W\d_]+)*")
_INSTEAD = re.compile(r"\bcan\s+(?:be|use|sub)|\buse\b.*\binstead\b|\bor use\b|\buse\b.*\b(?:if|for)\b", re.IGNORECASE)
_HIDDEN = re.compile(r"\([^()]*\)|\bbetween\s+\S+\s+and\s", re.IGNORECASE)

WITHOUT = ("without", "no", "not", "minus", "less", "rather than")
EITHER = ("or", "/", "and/or", "such as", "like", "eg", "e.g", "e.g.")
WISHED = ("if", "when", "unless", "preferably", "ideally", "alternatively", "instead")
_SAID_SO = frozenset(
    [
        "contain",
        "containing",
        "such",
        "eg",
        "e",
        "g",
        "used",
        "using",
        "i",
        "but",
        "incl",
        "made",
        "trace",
        "factory",
        "facility",
        "same",
        "equipment",
        "process",
        "line",
    ]
)
_MARKS = (",", "(")


@dataclass(slots=True, kw_only=True)
class Account:
    """A line taken apart. `core` goes to the reader of amounts and names. `also`: foods beside it; `maybe`: foods it could be instead;
    `heard`: tokens of allergens named; `unread`: words nobody knows; `claims` the line makes of itself; `wished`: claims that are only
    wished for; `finer`: clauses that may be part of the name, with the foods they hold; `others`: the alternatives as written;
    `headless`: clauses whose words may want the head of the core's name ("oil, I use sunflower"); `ordinary`: alternatives of which only
    the kind is said ("oat milk or regular"); `claimed`: those of which only a claim is ("or non-dairy"); `denied`: what the line claims
    it doubts or takes back."""

    core: str
    also: list[str] = field(default_factory=list)
    maybe: list[str] = field(default_factory=list)
    heard: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    claims: list[str] = field(default_factory=list)
    wished: list[str] = field(default_factory=list)
    finer: list[tuple[str, tuple[str, ...]]] = field(default_factory=list)
    others: list[str] = field(default_factory=list)
    headless: list[str] = field(default_factory=list)
    claimed: list[str] = field(default_factory=list)
    ordinary: list[str] = field(default_factory=list)
    conditional: bool = False
    denied: bool = False
    optional: bool = False
    to_taste: bool = False


class Clauses:
    """Takes lines apart by the closed lists."""

    def __init__(self, words: Words) -> None:
        self.words = words
        names = words.names
        self._own = {i.name.lower(): i.id for i in names.ingredients.values() if re.search(r"[,(]", i.name)}
        jointed = [n for n in names.spoken if _OPENER.search(n)]
        self._jointed = re.compile(
            "|".join(rf"\b{re.escape(n)}\b" for n in sorted(jointed, key=len, reverse=True)) or r"(?!)", re.IGNORECASE
        )

    def account(self, text: str) -> Account:
        """Take one line apart."""
        line = " ".join(text.split())
        low = line.lower()
        own = max((n for n in self._own if low.endswith(n)), key=len, default="")
        if own:  # the full name of a row, commas and brackets and all
            return Account(core=f"{line[: -len(own)]} {self._own[own].replace('_', ' ')}")
        if RELATION.search(line):
            heard = self.words.scan(line)
            unread = [w for w in heard.unknown if w not in ("much", "same", "twice", "double")]
            return Account(core=line, also=list(heard.foods), heard=list(heard.tokens), unread=unread)
        bare, bracketed = self._brackets(line)
        core, parts, amounts = self._parts(bare)
        core, opened = self._open(core)
        core = ", ".join((core, *amounts))
        account = Account(
            core=core, optional=bool(OPTIONAL.search(line)), to_taste=bool(TO_TASTE.search(line)), denied=self.words.denied(line)
        )
        clauses = [*opened, *(("(", c) for c in bracketed), *((",", p) for p in parts)]
        if len(clauses) > MOST_CLAUSES:  # no line of a recipe: all of it still counts, as one clause
            clauses = [*clauses[:MOST_CLAUSES], ("and", " , ".join(c for _, c in clauses[MOST_CLAUSES:]))]
        for kind, content in clauses:
            self._clause(account, kind, content)
        return account

    def _brackets(self, line: str) -> tuple[str, list[str]]:
        """The line without its brackets, and what stood in them. An amount in brackets stays in the line: of an amount beside words
        the amount alone, unless it is the amount of another thing."""
        out: list[str] = []
        kept: list[str] = []
        for piece, inner in _split_brackets(line):
            out.append(piece)
            if inner is None:
                continue
            if self.words.only_amount(inner) and not re.match(r"\s*or\b.*%", inner, re.IGNORECASE):
                out.append(f"({inner})")
                continue
            kept.append(inner)
            mine = _NUMBERS.search(inner)
            if mine and not self.words.scan(inner).foods and not re.match(r"\s*or\b", inner, re.IGNORECASE):
                out.append(f"({mine[0]})")
        return " ".join(" ".join(out).split()), kept

    def _parts(self, bare: str) -> tuple[str, list[str], list[str]]:
        """The core, the parts behind its marks, and those of them that are amounts. A first part without a name takes in the next: "large, ripe bananas"."""
        parts = [p.strip() for p in _SEPARATOR.split(bare, maxsplit=2 * MOST_CLAUSES) if p.strip()] or [bare]
        core = parts.pop(0)
        while parts and self.words.empty(core):
            core = f"{core} {parts.pop(0)}"
        amounts = [p for p in parts if self.words.only_amount(p)]
        return core, [p for p in parts if p not in amounts], amounts

    def _open(self, core: str, inside: int = 0) -> tuple[str, list[tuple[str, str]]]:
        """Split the core at the first word that opens a clause and stands after a name; a whole name is never split."""
        if _OF_FRUIT.search(core):
            return core, []
        for nth, m in enumerate(islice(_OPENER.finditer(self._masked(core)), MOST_CLAUSES)):
            head, tail = core[: m.start()].strip(), core[m.end() :].strip()
            last = re.search(r"\s(\w+)$", head)
            if (m["word"] or "").lower() in ("with", "in", "on") and last and singular(last[1].lower()) in self.words.adding:
                head, tail = head[: last.start()], f"{last[1]} {m['word']} {tail}"
            if not tail or (self.words.only_amount(tail) and "%" not in tail) or (m["slash"] and self._of_amount(head, tail)):
                continue
            opener = (m["word"] or m["slash"] or "").lower()
            if self._names_something(head):
                return head, self._split((m["word"] or m["mark"] or m["slash"]).lower(), tail)
            if nth == 0 and inside < 2 and opener in ("or", "/") and (found := self._shared(head, tail, inside)):
                return found
        return core, []

    def _shared(self, head: str, tail: str, inside: int) -> tuple[str, list[tuple[str, str]]] | None:
        """The core and the clauses where both sides of an "or" have one name between them, which stands behind the second: "2 cups or 250 g
        flour", "200 g plain or self-raising flour". None where it is not so."""
        kind = head.split()[-1] if head else ""
        measured = tail[0].isdigit() and _MEASURED.search(head) and self.words.empty(head)
        if not measured and (tail[0].isdigit() or not _WORD.fullmatch(kind) or self.words.is_amount(kind.lower())):
            return None
        pieces = self._split("or", tail)
        words = pieces[0][1].split()
        if not words:
            return None
        if measured:
            core, opened = self._open(tail, inside + 1)
            # "1 large or 1 flax egg": without a unit the first is of the bare name, which may be another food.
            sized = not self.words.units.find(head.split()[-1].lower())
            return core, [*opened, *([("or", words[-1])] if sized else [])]
        amounts = any(
            t[0].isdigit() or t in WORDS or t in WORD_FRACTIONS or self.words.units.find(t) for t in self.words.tokens(pieces[0][1])
        )
        if amounts:
            return None
        for at in range(1, min(len(words), 7)):  # "dark or milk chocolate chips"
            name = " ".join(words[at:])
            named = self.words.names.resolve(f"{kind} {name}".lower())
            if named.parts and not named.corrected:
                return f"{head} {name}", pieces
        return None

    def _of_amount(self, head: str, tail: str) -> bool:
        """A slash between two amounts, "200 g/7 oz", opens nothing."""
        if not tail[:1].isdigit():
            return False
        tokens = self.words.tokens(tail)
        find = self.words.units.find
        return bool(
            re.search(r"\d$", head)
            or self.words.empty(tail)
            or find((tokens[1:2] or ["g"])[0])
            or find(re.sub(r"[\d.,]+", "", tokens[0]) or "no")
        )

    def _names_something(self, head: str) -> bool:
        """Whether a food, a claim or a word that could be one stands in the head: an opener before any name is part of the amount."""
        if self.words.scan(head).foods or self.words.claim.search(head):
            return True
        small = ("a", "an", "of", "about", "and", "as", "much")
        left = [
            t
            for t in self.words.tokens(head)
            if t.isalpha()
            and not self.words.is_amount(t)
            and t not in WORDS
            and t not in small
            and t not in WORD_FRACTIONS
            and t not in self.words.units.heaps
        ]
        return bool(left) and not self.words.empty(" ".join(left))

    def _masked(self, text: str) -> str:
        """The text with the joints inside of whole names hidden: "half and half", "pancake and waffle mix"."""
        return _HIDDEN.sub(lambda m: "x" * len(m[0]), self._jointed.sub(lambda m: "x" * len(m[0]), text))

    def _split(self, kind: str, tail: str) -> list[tuple[str, str]]:
        """The rest of an opened core, at each further opener: "or margarine and a little cream"."""
        if kind in WISHED:
            return [(kind, tail)]
        found: list[tuple[str, str]] = []
        rest = tail
        while len(found) < MOST_CLAUSES and (m := next((m for m in _OPENER.finditer(self._masked(rest)) if m.start() > 0), None)):
            found.append((kind, rest[: m.start()].strip()))
            kind, rest = (m["word"] or m["mark"] or m["slash"]).lower(), rest[m.end() :].strip()
            if kind in WISHED:
                break
        return [*found, (kind, rest)]

    def _clause(self, a: Account, kind: str, content: str) -> None:
        """What one clause adds to the account."""
        kind = " ".join(kind.split())
        heard = self.words.scan(f"{kind} {content}" if kind in WITHOUT else content)
        bag = set(self.words.tokens(content))
        if kind == "may contain" or _TRACES.search(content):
            a.heard += [f"traces-of:{f}" for f in heard.foods] + [_softer(t) for t in heard.tokens]
            a.unread += [w for w in heard.unknown if w not in _SAID_SO]
            return
        either = kind in EITHER or bool(bag & {"or", "/", "either"})
        wish = (
            kind in WISHED or bool(bag & (self.words.wish - {"may", "can", "use", "like", "also", "too"})) or bool(_INSTEAD.search(content))
        )
        if wish and heard.plain:
            self._condition(a, kind, bag)
        if heard.plain:
            if kinds := self._ordinary(kind, content, bag):
                a.ordinary.append(kinds)
            if kind in _MARKS and not wish and not either:
                a.finer.append((content, ()))
            return
        a.unread += [w for w in heard.unknown if w not in _SAID_SO]
        if heard.unknown and (either or wish or bag & {"use", "used", "using"}):
            a.headless.append(content)
        if either or wish:
            a.maybe += heard.foods
            a.heard += [open_token(t) for t in heard.tokens]
            a.wished += heard.claims
            if either and not wish:
                a.claimed += heard.claims
                a.others.append(re.sub(r"^\s*(?:and/)?or\s+", "", content, flags=re.IGNORECASE))
            return
        self._joined(a, kind, content, heard, bag)

    def _ordinary(self, kind: str, content: str, bag: set[str]) -> str:
        """The kind that is said of an alternative where the thing itself is left out: "or regular", "whole works too"."""
        other = re.match(r"\s*(?:and/)?or\b|\s*/", content, re.IGNORECASE) or kind in EITHER or bag & self.words.also_fits
        return " ".join(t for t in self.words.tokens(content) if t in self.words.ordinary or t[-1] == "%") if other else ""

    def _condition(self, a: Account, kind: str, bag: set[str]) -> None:
        """ "if needed" behind a claim makes a wish of it; "to taste, if needed" does not."""
        opens = kind in ("if", "when", "preferably", "ideally")
        if opens or not bag <= {"taste", "to", "as", "optional", "needed", "required"}:
            a.conditional |= opens or bool(bag & {"if", "preferably", "ideally", "preferred"})

    def _joined(self, a: Account, kind: str, content: str, heard: Heard, bag: set[str]) -> None:
        a.also += heard.foods
        a.heard += heard.tokens
        if kind not in _MARKS:
            a.wished += heard.claims
            return
        a.claims += heard.claims
        if not heard.foods or not bag & {"in", "with", "on", "from", "by", "and", "&", "+"}:
            a.finer.append((content, heard.foods))


def _split_brackets(line: str) -> list[tuple[str, str | None]]:
    """The line as (text, bracket behind it); nested brackets are told with commas, an open one runs to the end.

    >>> _split_brackets("milk (whole (cold)), warmed")
    [('milk ', 'whole , cold'), (', warmed', None)]
    """
    found: list[tuple[str, str | None]] = []
    text: list[str] = []
    inner: list[str] = []
    depth = 0
    for c in line:
        if c in "([{（":
            depth += 1
            if depth > 1:
                inner.append(", ")
        elif c in ")]}）" and depth:
            depth -= 1
            if not depth:
                found.append(("".join(text), "".join(inner).strip()))
                text, inner = [], []
        else:
            (inner if depth else text).append(c)
    if depth:
        return [*found, ("".join(text), "".join(inner).strip())]
    return [*found, ("".join(text), None)]


def _softer(token: str) -> str:
    """An allergen named as a trace."""
    kind, _, rest = token.partition(":")
    return f"may:{rest}" if kind in ("check", "may") else (token if kind == "animal" else f"may:{token}")
