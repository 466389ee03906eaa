"""From what a cook calls a thing to the ingredient it is, word by word in the order of the words. An unknown word leaves the name
unresolved: never a guess that could be falsely safe ("cricket flour" is not flour, "chocolate milk" is not milk chocolate)."""

import re
import unicodedata
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache
from itertools import chain, combinations

from .ingredients import Confidence, Ingredient, certified, risks

_IRREGULAR = {"berries": "berry", "halves": "half", "leaves": "leaf", "loaves": "loaf", "cherries": "cherry", "potatoes": "potato", "tomatoes": "tomato", "molasses": "molasses", "hummus": "hummus", "couscous": "couscous", "swiss": "swiss", "bus": "bus", "glass": "glass", "cookies": "cookie", "brownies": "brownie", "smoothies": "smoothie", "smarties": "smartie", "quiches": "quiche"}  # fmt: skip
_NOT_PLURAL = ("ss", "us", "is")
STATES = {
    "whipped": "whipped", "stiff": "whipped", "stiffly": "whipped", "peak": "whipped", "foamy": "whipped",
    "melted": "melted", "grated": "grated", "squeezed": "squeezed", "mashed": "mashed", "separated": "separated", "scooped": "scooped", "spooned": "spooned",
    "certified": "certified", "organic": "organic", "unsweetened": "unsweetened", "raw": "raw", "roasted": "roasted", "toasted": "roasted", "salted": "salted", "unsalted": "unsalted",
    "boiling": "boiling", "scalded": "scalded",
}  # fmt: skip
_STATE_PHRASES = {
    ("low", "fat"): "low-fat", ("reduced", "fat"): "low-fat", ("no", "added", "sugar"): "unsweetened", ("just", "boiled"): "boiling", ("freshly", "boiled"): "boiling",
}  # fmt: skip
# What a name may claim, and the risk (see `risks`) of which the row must then be free.
_FREE = {
    "dairy": "milk", "milk": "milk", "cow": "milk", "casein": "milk", "lactose": "lactose", "egg": "egg", "nut": "tree_nut", "peanut": "peanut", "soy": "soy",
    "wheat": "wheat", "gluten": "gluten", "sugar": "sugar", "grain": "gluten",
}  # fmt: skip
_CLAIMS: dict[tuple[str, ...], str] = {
    **{(what, "free"): risk for what, risk in _FREE.items()},
    ("glutenfree",): "gluten", ("gf",): "gluten", ("df",): "milk", ("non", "dairy"): "milk", ("nondairy",): "milk",
    ("vegan",): "animal", ("plant", "based"): "animal", ("plantbased",): "animal",
}  # fmt: skip
MOST_CLAIMS = 5  # more of one name are only taken off together
_INERT_GROUPS = ("salt", "sugar", "starch", "water_juice", "leavener", "acid", "liquid_sweetener")


def words_of(text: str) -> list[str]:
    """Plain lower-case words in the singular, without accents or marks.

    >>> words_of("Crème fraîche, plant-based (2 Eggs')")
    ['creme', 'fraiche', 'plant', 'based', '2', 'egg']
    """
    return [singular(w) for w in re.findall(r"[a-z0-9]+", unmarked(text))]


def unmarked(text: str) -> str:
    """Lower case, without accents, apostrophes and the s of a genitive."""
    plain = text.lower()
    if not plain.isascii():
        plain = "".join(c for c in unicodedata.normalize("NFKD", plain) if not unicodedata.combining(c))
    return re.sub(r"['’]s?\b|['’]", "", plain)


def foreign(text: str) -> bool:
    """Letters that `words_of` would lose: a word in another script, or one like "œ" that has no plain form."""
    return not text.isascii() and any(
        c.isalpha() and not "a" <= c <= "z" and not unicodedata.combining(c) for c in unicodedata.normalize("NFKD", text.lower())
    )


def singular(word: str) -> str:
    """The singular of an English kitchen word, well enough to match names."""
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    if len(word) < 4 or word.endswith(_NOT_PLURAL) or not word.endswith("s"):
        return word
    if word.endswith("ies"):
        return word[:-3] + "y"
    if word.endswith(("oes", "ches", "shes", "xes")):
        return word[:-2]
    return word[:-1]


def states_of(text: str) -> frozenset[str]:
    """What a line says of how a thing is or was treated, as kept with the line: whipped, organic, low-fat …"""
    words = words_of(text)
    said = {STATES[w] for w in words if w in STATES}
    said |= {state for phrase, state in _STATE_PHRASES.items() if _starts(words, phrase)}
    if _starts(words, ("free", "range")):
        said.add("free-range")
    return frozenset(said)


@dataclass(frozen=True, slots=True)
class Named:
    """What a name turned out to be. `parts` are (ingredient id, share): shares of the weight, or, where `per_piece` is
    set, grams in one piece. Empty `parts` means not known; `suggestion` may then help. `corrected`: only by a change of spelling."""

    parts: tuple[tuple[str, float], ...]
    confidence: Confidence
    note: str = ""
    per_piece: bool = False
    suggestion: str = ""
    corrected: str = ""
    size: int = 0  # words of the name that was found

    @property
    def ids(self) -> tuple[str, ...]:
        """The ingredients it is made of."""
        return tuple(id_ for id_, _ in self.parts)


NOTHING = Named((), "low")


@dataclass(slots=True)
class _Node:
    """A place in the tree of names: what may follow, and what ends here."""

    next: dict[str, "_Node"] = field(default_factory=dict)
    end: Named | None = None


class Names:
    """All names: each ingredient's own, the alias table, prepared things, as sequences of words; and the words that may stand
    inside a name without changing it, which are a closed list and come from `preparation.toml` (`table["passed"]`)."""

    def __init__(self, ingredients: Mapping[str, Ingredient], table: Mapping[str, Mapping[str, object]]) -> None:
        self.ingredients = ingredients
        self._table = table
        words = table["words"]
        spelling = words.get("spelling", {})
        assert isinstance(spelling, Mapping)
        self._spelling = {singular(str(k)): singular(str(v)) for k, v in spelling.items()}
        self._root = _Node()
        self.spoken: list[str] = []
        self._read_names(table)
        self._heads = frozenset(words[-1] for words, _ in self.all())  # what a name can be the name of: flour, pudding, milk
        alone = {w for w, node in self._root.next.items() if node.end}
        self.passed: Mapping[str, object] = table["passed"]
        self._unlike = [tuple(words_of(n)) for n in _strings(_table(self.passed["unlike"])["names"])]
        self._between = {singular(w) for k in ("how", "kind", "glue") for w in re.findall(r"[a-z]+", str(self.passed[k]))}
        self._between -= alone | {"free", "not", "no", "non"}
        self._heads -= self._between  # "tiger nuts ground": how it is, not what it is
        telling = {singular(str(w)) for w in _strings(words["telling"])}
        listed = {singular(w) for k in ("how", "kind", "glue", "grammar", "tools") for w in re.findall(r"[a-z]+", str(self.passed[k]))}
        self._vocabulary = {w for phrase, _ in self.all() for w in phrase} | listed | telling
        self._guessable = sorted(w for w in self._vocabulary - listed if len(w) >= 5)
        self.resolve = lru_cache(maxsize=4096)(self._resolve)

    def __getstate__(self) -> dict[str, object]:
        return {k: v for k, v in self.__dict__.items() if k != "resolve"}

    def __setstate__(self, state: dict[str, object]) -> None:
        self.__dict__.update(state)
        self.resolve = lru_cache(maxsize=4096)(self._resolve)

    def _read_names(self, table: Mapping[str, Mapping[str, object]]) -> None:
        for ingredient in self.ingredients.values():
            named = Named(((ingredient.id, 1.0),), "high")
            for own in (re.sub(r"\(.*?\)", "", ingredient.name), ingredient.id.replace("_", " ")):
                self._add(own, named)
                head, comma, rest = own.partition(",")
                if comma and "," not in rest:
                    self._add(f"{rest} {head}", named)
        for id_, names in table["aliases"].items():
            if id_ not in self.ingredients:
                raise ValueError(f"names for an ingredient that is not there: {id_}")
            for name in _strings(names):
                self._add(name, Named(((id_, 1.0),), "high"), override=True)
        for id_, row in table["ask"].items():
            self._add(str(_table(row)["name"]), Named(((id_, 1.0),), "medium", str(_table(row)["question"])), override=True)
        for kind in ("prepared", "prepared_by_weight"):
            for name, parts in table[kind].items():
                of = {str(k): float(v) for k, v in _table(parts).items()}  # type: ignore[arg-type]
                note = " and ".join(self.ingredients[p].name for p in of)
                self._add(name, Named(tuple(of.items()), "medium", note, kind == "prepared"), override=True)
        self.little: dict[str, str] = {str(k): str(v) for k, v in table["little"].items()}
        self.milled: dict[str, str] = {str(k): str(v) for k, v in table["milled"].items()}

    def over(self, ingredients: Mapping[str, Ingredient]) -> "Names":
        """The same names over more ingredients, which answer to their own."""
        return Names(ingredients, self._table)

    def all(self) -> Iterator[tuple[tuple[str, ...], Named]]:
        """Every name, as its words in their order, and what it is."""
        open_: list[tuple[tuple[str, ...], _Node]] = [((), self._root)]
        while open_:
            words, node = open_.pop()
            if node.end:
                yield words, node.end
            open_ += [((*words, w), n) for w, n in node.next.items()]

    def spelled(self, word: str) -> str:
        """A word in the spelling of the tables, where its other spelling is a known one."""
        return self._spelling.get(word, word)

    def longest_at(self, words: Sequence[str], at: int, tail: bool = True) -> tuple[int, Named | None]:
        """The longest name that begins at `words[at]`, and the place after it; words that never change what a thing is may stand
        inside it. `tail` False: not in inner searches, where each word must follow at once."""
        if words[at] not in self._root.next:
            return at, None
        best: tuple[int, int, Named | None] = (0, at, None)
        open_: list[tuple[_Node, int, int, int]] = [(self._root, at, 0, 0)]
        while open_:
            node, place, size, skipped = open_.pop()
            if node.end and (size, -place) > (best[0], -best[1]):
                best = (size, place, node.end)
            if place >= len(words):
                continue
            if (after := node.next.get(words[place])) is not None:
                open_.append((after, place + 1, size + 1, skipped))
            if tail and size and skipped < 3 and words[place] in self._between:
                open_.append((node, place + 1, size, skipped + 1))
        return best[1], best[2]

    def _add(self, name: str, named: Named, override: bool = False) -> None:
        words = [self.spelled(w) for w in words_of(name)]
        if not words:
            return
        self.spoken.append(name)
        node = self._root
        for word in words:
            node = node.next.setdefault(word, _Node())
        if override or node.end is None:
            node.end = replace(named, size=len(words))

    def _resolve(self, text: str) -> Named:
        if foreign(text):
            return NOTHING
        raw = [self.spelled(w) for w in words_of(re.sub(r"\bfree[\s-]+range\b", " ", text, flags=re.IGNORECASE))]
        words = [self._corrected(w) for w in raw]
        if not words or any(_starts(words, u) for u in self._unlike):
            return NOTHING
        corrected = " ".join(words) if words != raw else ""
        found = max((n for n in (self._one(words), self._turned(words)) if n), key=lambda n: n.size, default=None) or self._claimed(words)
        if found and corrected and any(self.ingredients[id_].group in _INERT_GROUPS for id_ in found.ids):
            return replace(NOTHING, suggestion=self.ingredients[found.ids[0]].name)
        if found:
            note = "; ".join(x for x in (found.note, f"read as {corrected}" if corrected else "") if x)
            return replace(found, note=note, corrected=corrected, confidence="medium" if corrected else found.confidence)
        return replace(NOTHING, suggestion=self._suggest(words))

    def _one(self, words: Sequence[str]) -> Named | None:
        """The one thing these words name: the longest name in them, with nothing but passable words and numbers beside it."""
        best: Named | None = None
        best_size = 0
        for at in range(len(words)):
            end, named = self.longest_at(words, at)
            if named is None or not all(self._idle(w) for w in (*words[:at], *words[end:])):
                continue
            telling = sum(not self._idle(w) for w in words[at:end]) * 100 + (end - at)
            if best is None or telling > best_size:
                best, best_size = named, telling
        return best

    def _idle(self, word: str) -> bool:
        return word in self._between or word.isdigit()

    def _turned(self, words: Sequence[str]) -> Named | None:
        """The head first and its kind after it: "sugar caster", "oats rolled". Only where what follows is no thing of its own:
        "butter almonds" is not almond butter, and rice pudding is not pudding rice."""
        if len(words) < 2 or any(w in self._heads or self.longest_at(words, at, tail=False)[1] for at, w in enumerate(words) if at):
            return None
        return self._one([*words[1:], words[0]])

    def _claimed(self, words: Sequence[str]) -> Named | None:
        """A claim before the name: "gluten-free oats", "dairy-free granola". It picks the certified row where there is one; it never
        makes a row other than it is, and a row that certainly holds what the claim denies is not what is meant ("vegan eggs")."""
        found = (
            (named, denied)
            for bare, denied in _without_claims(words)
            if bare and (named := self._one(bare)) is not None and len(named.parts) == 1
        )
        named, denied = next(found, (None, set()))
        if named is None:
            return None
        row = self.ingredients[named.ids[0]]
        twin = self.ingredients.get(certified(row.id))
        row = twin if "gluten" in denied and twin is not None else row
        held = {risk.partition(":")[0] for risk, level in risks(row).items() if level == 2}
        if any(risk in held for risk in denied):
            return None
        return replace(named, parts=((row.id, 1.0),), confidence="medium")

    def _corrected(self, word: str) -> str:
        """The word, or the one known word it is a slip of the pen for: first and last letter agree, two slips only where the endings
        agree, and never onto a word that only tells how a thing is."""
        if word in self._vocabulary or word.isdigit() or len(word) < 5:
            return word
        from rapidfuzz import process  # only for a word nobody knows: a script's start need not wait for it
        from rapidfuzz.distance import OSA

        near = process.extract(word, self._guessable, scorer=OSA.distance, score_cutoff=2 if len(word) >= 8 else 1, limit=3)
        near = [n for n in near if (n[0][0], n[0][-1]) == (word[0], word[-1]) and (n[1] == 1 or n[0][-3:] == word[-3:])]
        return near[0][0] if near and (len(near) == 1 or near[0][1] < near[1][1]) else word

    def _suggest(self, words: Sequence[str]) -> str:
        """The longest name in the words, the last of them where two are as long."""
        found = [n for at in range(len(words)) if (n := self.longest_at(words, at)[1])]
        row = self.ingredients[max(reversed(found), key=lambda n: n.size).ids[0]] if found else None
        return row.name if row is not None and row.group not in _INERT_GROUPS else ""

    def could_be(self, text: str, note: str, problem: str) -> tuple[str, ...]:
        """What a line could be, where its name is two things and one was taken (the note asks which), or was not known at all."""
        for id_, row in self._table["ask"].items():
            if note and str(_table(row)["question"]) in note:
                return tuple(dict.fromkeys((id_, str(_table(row)["other"]))))
        unknown = re.search(r"not known: “([^”]*)”", problem)
        if unknown is None:
            return ()
        words = [w for w in words_of(unknown[1]) if not w.isdigit()]
        meant = re.search(r"did you mean (.+)\?", problem)
        found: dict[str, None] = {i.id: None for i in self.ingredients.values() if meant and i.name == meant[1]}
        for some in (words, words[-1:], words[:1]):
            for id_ in self.search(" ".join(some), 4) if some else ():
                found[id_] = None
        return tuple(found)[:4]

    def search(self, text: str, limit: int = 20) -> list[str]:
        """Ingredient ids whose names hold all of the words begun in `text`, best first; misspellings forgiven."""
        wanted = [self.spelled(w) for w in words_of(text)]
        if not wanted:
            return sorted(self.ingredients)[:limit]
        found: dict[str, tuple[int, int]] = {}
        for phrase, named in self.all():
            if len(named.parts) == 1 and all(any(w.startswith(q) for w in phrase) for q in wanted):
                rank = (0 if tuple(wanted) == phrase else 1, len(phrase))
                found[named.ids[0]] = min(found.get(named.ids[0], (9, 99)), rank)
        if not found:
            corrected = [self._corrected(w) for w in wanted]
            if corrected != wanted:
                return self.search(" ".join(corrected), limit)
        return sorted(found, key=lambda i: (found[i], i))[:limit]


def _starts(words: Sequence[str], phrase: Sequence[str]) -> bool:
    """Whether the phrase stands somewhere in the words, word after word."""
    return any(tuple(words[at : at + len(phrase)]) == tuple(phrase) for at in range(len(words) - len(phrase) + 1))


def _without_claims(words: Sequence[str]) -> Iterator[tuple[list[str], set[str]]]:
    """The words without some of what they claim to be free of, and the risks that those claims deny: as few of the claims as may be first,
    since a claim can be half of a name.

    >>> [" ".join(bare) for bare, _ in _without_claims(["gluten", "free", "vegan", "butter"])]
    ['vegan butter', 'gluten free butter', 'butter']
    """
    claims: list[tuple[int, int]] = []
    at = 0
    while at < len(words):
        size = next((n for n in (2, 1) if tuple(words[at : at + n]) in _CLAIMS), 0)
        if size:
            claims.append((at, at + size))
        at += size or 1
    for taken in chain.from_iterable(
        combinations(claims, n) for n in range(1 if len(claims) <= MOST_CLAIMS else len(claims), len(claims) + 1)
    ):
        gone = {at for begin, end in taken for at in range(begin, end)}
        yield [w for at, w in enumerate(words) if at not in gone], {_CLAIMS[tuple(words[begin:end])] for begin, end in taken}


def _table(value: object) -> Mapping[str, object]:
    assert isinstance(value, Mapping)
    return value


def _strings(value: Iterable[object] | object) -> list[str]:
    assert isinstance(value, (list, tuple))
    return [str(v) for v in value]
