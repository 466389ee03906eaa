"""Every word of a stretch of text told for what it is: a food, an amount, a claim, a word that names an allergen, a word that never
changes what a thing is, or one that nobody knows. Nothing is passed over that is not on the closed list (`preparation.toml`)."""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from ..food.naming import Names, singular, unmarked
from ..measures.numbers import WORD_FRACTIONS, WORDS
from ..measures.units import Units

_TOKEN = re.compile(r"\d+(?:[.,]\d+)*%?[^\W\d_]*|[^\W_]+|[^\w\s]")
_AMOUNT = re.compile(r"(?:\d+(?:[.,]\d+)*|[½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅐⅛⅜⅝⅞⅑⅒])+%?")
_INTO = re.compile(
    r"\b(ground|blended|blitzed|milled|whizzed|pulsed|processed|pounded|powdered)\s+(?:in)?to\s+(?:an?\s+)?(?:fine\s+|coarse\s+|smooth\s+)?"
    r"(?:flour|meal|powder|slurry|paste|pur[ée]e|crumbs?|dust)\b",
    re.IGNORECASE,
)
LONGEST_AMOUNT = 80  # letters: no amount is longer
_BESIDE_AMOUNTS = frozenset(["about", "approx", "approximately", "roughly", "circa", "ca", "around", "each", "per", "total", "weight", "x", "or", "to", "of", "a", "an", "plus", "and", "packed", "loosely", "firmly", "lightly", "large", "small", "medium", "extra", "just", "nearly", "weighed", "up", "more", "another", "if", "needed", "minus", "less"])  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Heard:
    """What a stretch of words held: foods by id, tokens of words that name an allergen, claims, and words nobody knows."""

    foods: tuple[str, ...] = ()
    tokens: tuple[str, ...] = ()
    claims: tuple[str, ...] = ()
    unknown: tuple[str, ...] = ()

    @property
    def plain(self) -> bool:
        """Nothing in it but words that never change what a thing is."""
        return not (self.foods or self.tokens or self.claims or self.unknown)


class Words:
    """The closed lists over a set of names: preparation, grammar, claims, wishes, negation, and words that are never passed over."""

    def __init__(self, names: Names, units: Units) -> None:
        table = names.passed
        self.names, self.units = names, units
        alone = {phrase[0] for phrase, _ in names.all() if len(phrase) == 1}
        self.danger = {singular(str(k)): tuple(str(t) for t in v) for k, v in _table(table, "danger").items()}  # type: ignore[attr-defined]
        self.free_of = frozenset(_list(table, "claims", "free_of"))
        self.claim_words = frozenset(_list(table, "claims", "words"))
        self.wish = frozenset(_list(table, "wish", "words"))
        self.ordinary = frozenset(_list(table, "ordinary", "words"))
        self.also_fits = frozenset(_list(table, "ordinary", "also"))
        self.negation = frozenset(_list(table, "negation", "words"))
        self.denies = self.negation | frozenset(_list(table, "negation", "denies"))
        self.doubt = frozenset(_list(table, "negation", "doubt"))
        self.beside_denial = frozenset(singular(w) for w in _list(table, "negation", "beside"))
        self.adding = frozenset(_list(table, "adding", "words")) - alone
        self.heads = frozenset(_list(table, "adding", "heads"))
        passed: set[str] = set().union(*(_bag(table[k]) for k in ("how", "kind", "grammar", "tools")))
        self.passed = (passed - alone) | set(WORDS) | set(WORD_FRACTIONS)
        wrong = self.passed & (set(self.danger) | self.claim_words | {"free", "not", "no", "non"})
        if wrong:
            raise ValueError(f"preparation.toml: passed over, and also a claim or a danger: {', '.join(sorted(wrong))}")
        self._remember()
        self.claim = re.compile(
            rf"\b(?:(?:{'|'.join(sorted(self.free_of))})[\s-]free|plant[\s-]based|non[\s-]dairy|{'|'.join(sorted(self.claim_words))})\b",
            re.IGNORECASE,
        )

    def _remember(self) -> None:
        """One line asks the same of the same stretch of words again and again."""
        self.scan = lru_cache(maxsize=4096)(self._scan)
        self.tokens = lru_cache(maxsize=4096)(self._tokens)
        self.is_amount = lru_cache(maxsize=8192)(self._is_amount)

    def __getstate__(self) -> dict[str, object]:
        return {k: v for k, v in self.__dict__.items() if k not in ("scan", "tokens", "is_amount")}

    def __setstate__(self, state: dict[str, object]) -> None:
        self.__dict__.update(state)
        self._remember()

    def _tokens(self, text: str) -> tuple[str, ...]:
        """Lower-case words in the singular, letters of any script kept, numbers and marks as they are."""
        return tuple(t if not t.isalpha() else self.names.spelled(singular(t)) for t in _TOKEN.findall(unmarked(text)))

    def _is_amount(self, token: str) -> bool:
        """A number, a unit, both in one, or a mark."""
        if not token[0].isalnum():
            return True
        if token[0].isdigit() or token.isnumeric():
            rest = _AMOUNT.sub("", token.replace("⁄", "")).strip(".")
            return not rest or self.units.find(rest) is not None or rest in ("x", "st", "nd", "rd", "th", "in", "ml", "cm", "mm")
        return self.units.find(token) is not None

    def only_amount(self, text: str) -> bool:
        """Nothing but an amount, and at least a number."""
        tokens = self.tokens(text) if len(text) <= LONGEST_AMOUNT else ()
        return (
            any(t[0].isdigit() or t in WORDS for t in tokens)
            and all(self.is_amount(t) or t in _BESIDE_AMOUNTS or t in WORDS or t in WORD_FRACTIONS or t in self.units.heaps for t in tokens)
            and not self.scan(text).foods
        )

    def denied(self, text: str) -> bool:
        """Whether a text doubts or takes back a claim: "not certified", "no longer", "gf?", "maybe". A "not" of another thing does not."""
        tokens = [t for t in self.tokens(re.sub(r"(?<=\w)['’](?=\w)", "", text)) if t != "-"]
        return any(t in self.doubt or (t in self.denies and self._of_a_claim(tokens[at + 1 :])) for at, t in enumerate(tokens))

    def _of_a_claim(self, said: Sequence[str]) -> bool:
        for at, t in enumerate(said):
            if t in self.claim_words or (t in self.free_of and said[at + 1 : at + 2] == ["free"]) or not t[0].isalnum():
                return True
            if t not in self.beside_denial and not self.is_amount(t):
                return False
        return True

    def empty(self, text: str) -> bool:
        """Nothing that could be a name stands here."""
        rest = self.claim.sub(" ", text)
        return all(self.is_amount(t) or t in self.passed for t in self.tokens(rest)) and not self.scan(rest).foods

    def _scan(self, text: str) -> Heard:
        """Left to right: the longest name that begins here, else amount, listed word, claim, danger word, else unknown."""
        return _Scan(self, self.tokens(_INTO.sub(r"\1", text))).run()


class _Scan:
    """One walk over the tokens of a text."""

    def __init__(self, words: Words, tokens: Sequence[str]) -> None:
        self.words, self.tokens = words, tokens
        self.bare = [t for t in tokens if t != "-"]  # a hyphen joins: "oat-drink" is oat drink
        self.at = 0
        self.negated = False
        self.named = -1  # where a name ended last
        self.foods: dict[str, None] = {}
        self.found: dict[str, None] = {}
        self.claims: list[str] = []
        self.unknown: dict[str, None] = {}

    def run(self) -> Heard:
        while self.at < len(self.bare):
            if not self.bare[self.at][0].isalnum():
                self.negated = False
                self.at += 1
            elif not (self._name() or self._claim()):
                self._word(self.bare[self.at])
        return Heard(foods=tuple(self.foods), tokens=tuple(self.found), claims=tuple(self.claims), unknown=tuple(self.unknown))

    def _next(self, ahead: int = 1) -> str:
        return self.bare[self.at + ahead] if self.at + ahead < len(self.bare) else ""

    def _name(self) -> bool:
        end, named = self.words.names.longest_at(self.bare, self.at)
        if named is None or (end < len(self.bare) and self.bare[end] == "free" and (self.bare[end - 1] in self.words.free_of)):
            return False
        if not self.negated:
            self.foods.update(dict.fromkeys(named.ids))
        elif end < len(self.bare) and self.bare[end] in ("blend", "mix", "mixture"):
            end += 1  # "without a flour blend"
        self.negated, self.at = False, end
        self.named = end
        return True

    def _claim(self) -> bool:
        """ "gluten-free", "non-dairy", "free from nuts", "free-range" (no claim), "vegan"."""
        token, after, w = self.bare[self.at], self._next(), self.words
        if token in w.free_of and after == "free":
            said, size = f"{token} free", 2
        elif token in ("non", "plant") and after in ("dairy", "based"):
            said, size = f"{token} {after}", 2
        elif token in w.claim_words:
            said, size = token, 1
        elif token == "free" and after == "range":
            self.at += 2
            return True
        elif token == "free" and after in ("from", "of"):
            self.negated, self.at = True, self.at + 2
            return True
        else:
            return False
        if not self.negated:
            self.claims.append(said)
        self.negated, self.at = False, self.at + size
        return True

    def _word(self, token: str) -> None:
        w = self.words
        if token in w.negation:
            self.negated = True
        elif token in w.heads and self.named == self.at:
            self.named = self.at + 1  # "almond paste", "soy product": what the food was made into
        elif token in w.adding:
            # With what is named after it that is counted; alone it leaves the line open.
            if not {"with", "in", "by"} & set(self.bare[self.at + 1 :]) and token not in w.passed:
                self.found["check:any"] = None
        elif token in w.danger:
            if not self.negated:
                self.found.update(dict.fromkeys(w.danger[token]))
            self.negated = False
            self.named = self.at + 1
        elif not (w.is_amount(token) or token in w.passed or token in w.wish):
            if not self.negated:  # "not quick", "no thumb": what a thing is said not to be leaves nothing open
                self.unknown[token] = None
            self.negated = False
        self.at += 1


def open_token(token: str) -> str:
    """An allergen named in what is only one of several."""
    kind, _, rest = token.partition(":")
    if kind == "animal":
        return {"dairy": "check:milk", "egg": "check:egg"}.get(rest, "animal:check")
    return token if kind in ("check", "may") or token == "gluten" else f"check:{token}"


def _bag(text: object) -> set[str]:
    return {singular(w) for w in re.findall(r"[a-z]+", str(text))}


def _table(table: Mapping[str, object], key: str) -> Mapping[str, object]:
    found = table[key]
    assert isinstance(found, Mapping)
    return found


def _list(table: Mapping[str, object], key: str, inner: str) -> Iterable[str]:
    found = _table(table, key)[inner]
    assert isinstance(found, list)
    return [str(x) for x in found]
