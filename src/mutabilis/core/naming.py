"""From what a cook calls a thing to the ingredient it is. An unknown word leaves the name unresolved: never a guess that
could be falsely safe ("cricket flour" is not flour)."""

import re
import unicodedata
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache

from .ingredients import Confidence, Ingredient

_IRREGULAR = {"berries": "berry", "halves": "half", "leaves": "leaf", "cherries": "cherry", "potatoes": "potato", "tomatoes": "tomato", "molasses": "molasses", "hummus": "hummus", "couscous": "couscous", "swiss": "swiss", "bus": "bus", "glass": "glass"}  # fmt: skip
JOINTS = ("with", "and", "plus", "containing", "contain")
_NOT_PLURAL = ("ss", "us", "is")
STATES = {
    "whipped": "whipped", "stiff": "whipped", "stiffly": "whipped", "peaks": "whipped", "foamy": "whipped",
    "melted": "melted", "grated": "grated", "squeezed": "squeezed", "mashed": "mashed", "separated": "separated", "scooped": "scooped", "spooned": "spooned",
    "certified": "certified",
}  # fmt: skip


def words_of(text: str) -> list[str]:
    """Plain lower-case words in the singular, without accents or marks.

    >>> words_of("Crème fraîche, plant-based (2 Eggs')")
    ['creme', 'fraiche', 'plant', 'based', '2', 'egg']
    """
    plain = unicodedata.normalize("NFKD", text.lower())
    plain = "".join(c for c in plain if not unicodedata.combining(c))
    plain = re.sub(r"['’]s?\b|['’]", "", plain)
    return [singular(w) for w in re.findall(r"[a-z0-9]+", plain)]


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


@dataclass(frozen=True, slots=True)
class Named:
    """What a name turned out to be. `parts` are (ingredient id, share): shares of the weight, or, where `per_piece` is
    set, grams in one piece. Empty `parts` means not known; `suggestion` may then help."""

    parts: tuple[tuple[str, float], ...]
    confidence: Confidence
    note: str = ""
    states: frozenset[str] = frozenset()
    per_piece: bool = False
    suggestion: str = ""


class Names:
    """All names: each ingredient's own, the alias table, prepared things, and the words to pass over."""

    def __init__(self, ingredients: Mapping[str, Ingredient], table: Mapping[str, Mapping[str, object]]) -> None:
        self._ingredients = ingredients
        self._table = table
        self._phrases: dict[frozenset[str], str] = {}
        words = table["words"]
        self._descriptors = {singular(str(w)) for w in _strings(words["descriptors"])}
        self._telling = {singular(str(w)) for w in _strings(words["telling"])}
        spelling = words.get("spelling", {})
        assert isinstance(spelling, Mapping)
        self._spelling = {singular(str(k)): singular(str(v)) for k, v in spelling.items()}
        for ingredient in ingredients.values():
            self._add(re.sub(r"\(.*?\)", "", ingredient.name), ingredient.id)
            self._add(ingredient.id.replace("_", " "), ingredient.id)
        for id_, names in table["aliases"].items():
            if id_ not in ingredients:
                raise ValueError(f"names for an ingredient that is not there: {id_}")
            for name in _strings(names):
                self._add(name, id_, override=True)
        milled = table["milled"]
        assert isinstance(milled, Mapping)
        self.milled: dict[str, str] = {str(k): str(v) for k, v in milled.items()}
        self._asked: dict[frozenset[str], tuple[str, str]] = {}
        for id_, row in table["ask"].items():
            assert isinstance(row, Mapping)
            self._asked[self._key(str(row["name"]))] = (id_, str(row["question"]))
        self._prepared: dict[frozenset[str], tuple[dict[str, float], bool]] = {}
        for name, parts in table["prepared"].items():
            self._prepared[self._key(name)] = (_numbers(parts), True)
        for name, parts in table["prepared_by_weight"].items():
            self._prepared[self._key(name)] = (_numbers(parts), False)
        self._vocabulary = {w for phrase in (*self._phrases, *self._prepared) for w in phrase} | self._descriptors | self._telling
        self._by_word: dict[str, list[frozenset[str]]] = {}
        for phrase in self._phrases:
            for word in phrase:
                self._by_word.setdefault(word, []).append(phrase)
        self._long_words = sorted(w for w in self._vocabulary if len(w) >= 5)
        self.resolve = lru_cache(maxsize=4096)(self._resolve)

    def over(self, ingredients: Mapping[str, Ingredient]) -> "Names":
        """The same names over more ingredients, which answer to their own."""
        return Names(ingredients, self._table)

    def _key(self, name: str) -> frozenset[str]:
        return frozenset(self._spelling.get(w, w) for w in words_of(name))

    def _add(self, name: str, id_: str, override: bool = False) -> None:
        key = self._key(name)
        if key and (override or key not in self._phrases):
            self._phrases[key] = id_

    def _resolve(self, text: str) -> Named:
        raw = words_of(text)
        states = frozenset(STATES[w] for w in raw if w in STATES)
        words, corrected = self._correct(raw)
        if not words:
            return Named((), "low")
        note = f"read as {' '.join(words)}" if corrected else ""
        wanted = frozenset(words)
        if wanted not in self._phrases and wanted not in self._prepared and self._joins(words):
            return Named((), "low", note, states, suggestion=self._suggest(wanted))
        for prepared, (parts, per_piece) in self._prepared.items():
            if prepared <= wanted and wanted - prepared <= self._descriptors:
                return Named(
                    tuple(parts.items()),
                    "medium",
                    " and ".join(self._ingredients[p].name for p in parts),
                    states,
                    per_piece,
                )
        if wanted in self._asked:
            asked, question = self._asked[wanted]
            return Named(((asked, 1.0),), "medium", question, states)
        if id_ := self._match(wanted):
            return Named(((id_, 1.0),), "medium" if corrected else "high", note, states)
        if claimed := self._claimed(wanted):
            return Named(((claimed, 1.0),), "medium", note, states)
        return Named((), "low", note, states, suggestion=self._suggest(wanted))

    def _joins(self, words: list[str]) -> bool:
        """Two things in one name, "coconut yogurt with milk": what follows the joint is food, not a manner."""
        joint = next((at for at, w in enumerate(words) if w in JOINTS), None)
        return joint is not None and any(w not in self._descriptors and not w.isdigit() for w in words[joint + 1 :])

    def _correct(self, raw: Iterable[str]) -> tuple[list[str], bool]:
        out: list[str] = []
        corrected = False
        for word in raw:
            word_ = self._spelling.get(word, word)
            corrected |= word_ != word and word not in (
                "soya",
                "yoghurt",
                "soja",
                "purée",
                "fibre",
                "yogourt",
                "yoghourt",
            )
            if word_ in self._vocabulary or word_.isdigit() or len(word_) < 5:
                out.append(word_)
                continue
            from rapidfuzz import process  # only for a word nobody knows: a script's start need not wait for it
            from rapidfuzz.distance import OSA

            limit = 2 if len(word_) >= 8 else 1
            near = process.extract(word_, self._long_words, scorer=OSA.distance, score_cutoff=limit, limit=3)
            near = [n for n in near if n[0][0] == word_[0]]
            if near and (len(near) == 1 or near[0][1] < near[1][1]):
                out.append(near[0][0])
                corrected = True
            else:
                out.append(word_)
        return out, corrected

    def _match(self, wanted: frozenset[str]) -> str | None:
        """The longest known phrase that is all there, with nothing but descriptors beside it."""
        if wanted in self._phrases:
            return self._phrases[wanted]
        best: frozenset[str] | None = None
        for word in wanted:
            for phrase in self._by_word.get(word, ()):
                if phrase <= wanted and all(w in self._descriptors or w.isdigit() for w in wanted - phrase):
                    key = (len(phrase), sum(map(len, phrase)), sorted(phrase))
                    if best is None or key > (len(best), sum(map(len, best)), sorted(best)):
                        best = phrase
        return self._phrases[best] if best else None

    def _claimed(self, wanted: frozenset[str]) -> str | None:
        """A claim before the name: "gluten-free oats", "dairy-free dark chocolate". Only believed where a variant exists,
        or where the thing never holds what it claims to be free of."""
        gluten_free = {"gluten", "free"} <= wanted or "gf" in wanted
        if gluten_free:
            id_ = self._match(wanted - {"gluten", "free", "gf"})
            if id_ and f"{id_}_gf" in self._ingredients:
                return f"{id_}_gf"
            return id_ if id_ and self._ingredients[id_].contains_gluten == "no" else None
        for claim in (
            {"dairy", "free"},
            {"non", "dairy"},
            {"vegan"},
            {"plant", "based"},
            {"lactose", "free"},
            {"milk", "free"},
        ):
            if claim <= wanted:
                id_ = self._match(wanted - claim)
                if id_ and self._ingredients[id_].animal == "none" and not any("milk" in a for a in self._ingredients[id_].allergens):
                    return id_
        return None

    def _suggest(self, wanted: frozenset[str]) -> str:
        known = wanted & set(self._by_word)
        id_ = self._match(frozenset(known)) if known else None
        return self._ingredients[id_].name if id_ else ""

    def could_be(self, text: str, note: str, problem: str) -> tuple[str, ...]:
        """What a line could be, where its name is two things and one was taken (the note asks which), or was not known at all."""
        for id_, row in self._table["ask"].items():
            assert isinstance(row, Mapping)
            if note and str(row["question"]) in note:
                return tuple(dict.fromkeys((id_, str(row["other"]))))
        unknown = re.search(r"not known: “([^”]*)”", problem)
        if unknown is None:
            return ()
        words = [w for w in words_of(unknown[1]) if not w.isdigit()]
        meant = re.search(r"did you mean (.+)\?", problem)
        found: dict[str, None] = {i.id: None for i in self._ingredients.values() if meant and i.name == meant[1]}
        for some in (words, words[-1:], words[:1]):
            for id_ in self.search(" ".join(some), 4) if some else ():
                found[id_] = None
        return tuple(found)[:4]

    def search(self, text: str, limit: int = 20) -> list[str]:
        """Ingredient ids whose names hold all of the words begun in `text`, best first; misspellings forgiven."""
        wanted = words_of(text)
        if not wanted:
            return sorted(self._ingredients)[:limit]
        found: dict[str, tuple[int, int]] = {}
        for phrase, id_ in self._phrases.items():
            if all(any(w.startswith(q) for w in phrase) for q in wanted):
                rank = (0 if frozenset(wanted) == phrase else 1, len(phrase))
                found[id_] = min(found.get(id_, (9, 99)), rank)
        if not found:
            corrected, _ = self._correct(wanted)
            if corrected != wanted:
                return self.search(" ".join(corrected), limit)
        return sorted(found, key=lambda i: (found[i], i))[:limit]


def _strings(value: object) -> list[str]:
    assert isinstance(value, (list, tuple))
    return [str(v) for v in value]


def _numbers(value: object) -> dict[str, float]:
    assert isinstance(value, Mapping)
    return {str(k): float(v) for k, v in value.items()}
