"""Lines of a recipe that are no ingredients: headings, times, servings, instructions. They are set aside, never lost; a food that only
they name counts as one that the batter could hold."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..batter.batter import BatterLine
from ..food.naming import words_of
from ..measures.amount import read_amount
from ..measures.numbers import WORDS
from .words import Words, open_token

Kind = Literal["line", "heading", "aside"]
Section = Literal["batter", "plate", "aside"]
_NUMBERED = re.compile(r"^\s*(?:step\s*)?\d{1,2}\s*[.):]\s*(?=[A-Za-z])", re.IGNORECASE)
_LINK = re.compile(r"https?://|www\.", re.IGNORECASE)
_COUNT = re.compile(r"^(?:about|approx\w*|ca|circa|up to|roughly)?\s*[\d½¼¾⅓⅔\s.,/–-]+°?")
_CONTAINS = re.compile(r"\bcontain(?:s|ing)?\b", re.IGNORECASE)
LONGEST_NAME = 60  # letters of the name of a dish beside the batter
_SPOKEN_NOUN = ("warm", "separate", "top", "cover", "with", "on", "in", "the", "my", "our", "use", "using", "see")


@dataclass(frozen=True, slots=True)
class Told:
    """What a line is, and under a heading the section it opens and the dish beside the batter that it names."""

    kind: Kind
    section: Section = "batter"
    side: str = ""


class Prose:
    """Tells lines that are no ingredients, by the lists of `prose.toml`."""

    def __init__(self, table: Mapping[str, Mapping[str, str]], words: Words) -> None:
        self.words, self._table = words, table
        headings = {k: set(v.split()) for k, v in table["headings"].items()}
        self._heading, self._plate, self._sides = headings["words"], headings["plate"], headings["dishes"]
        self._aside, self._batter, self._empty = headings["aside"], headings["batter"], headings["empty"]
        self._made, self._cooked, self._foods, self._part = headings["made"], headings["cooked"], headings["foods"], headings["part"]
        self._starts = re.compile(rf"^(?:{table['amounts']['starts']})\b\s*(?=[:\d~–-]|for\b|about\b|$)", re.IGNORECASE)
        self._counted = set(table["amounts"]["counted"].split())
        self._verbs = set(table["instructions"]["verbs"].split())
        self._dishes = {tuple(d.split("-")) for d in table["instructions"]["dishes"].split()}
        self._serves = set(table["instructions"]["serves"].split())

    def over(self, words: Words) -> "Prose":
        """The same lists over other names."""
        return Prose(self._table, words)

    def tell(self, text: str, alone: bool = False) -> Told:
        """What one line is; `alone` where an empty line stands before it and an amount begins the next."""
        plain = _plain(text)
        if not plain and not re.search(r"\d", text):
            return Told("aside")
        bare = not re.search(r"\d", text)
        ends = text.rstrip().endswith(":") and bare
        only = plain and len(plain) <= 6 and bare and set(plain) <= self._known
        named = alone and bare and 0 < len(plain) <= 5 and (plain[-1] in self._made or self._names_a_dish(text, plain))
        if ends or named or (only and (plain[:2] == ["for", "the"] or not self.words.scan(text).foods)):
            return Told("heading", *self._opened(text, plain))
        if _LINK.search(text) or self._starts.match(text) or self._is_count(text, plain) or self._is_instruction(text):
            return Told("aside")
        return Told("line")

    def headed(self, text: str) -> tuple[Told, str, bool] | None:
        """ "To serve: lemon and sugar": what one line opens for itself, the rest of it, and whether it is an extra. None where what
        stands before the colon is no heading, as in "butter: 50 g"."""
        m = re.match(r"^\W*(?P<head>[^\W\d][^:\d]{1,40}):\s+(?P<rest>\S.*)$", text)
        head = _plain(m["head"]) if m else []
        if m is None or not head:
            return None
        if not self._names_a_dish(m["head"], head) and (not set(head) <= self._known or self.words.scan(m["head"]).foods):
            return None
        return Told("heading", *self._opened(m["head"], head)), m["rest"], bool(set(head) & {"optional", "extra", "extras"})

    @property
    def dish_words(self) -> frozenset[str]:
        """The words that name a dish beside the batter."""
        return frozenset(self._sides)

    @property
    def foods(self) -> frozenset[str]:
        """Of those, the words that are plain foods as well."""
        return frozenset(self._foods)

    @property
    def _known(self) -> set[str]:
        return self._heading | self._plate | self._sides | self._aside

    def _names_a_dish(self, text: str, plain: Sequence[str]) -> bool:
        """ "Blueberry compote": the name of a dish beside the batter, and not of a food that is bought, "maple syrup"."""
        return (
            plain[-1] in self._sides - self._foods and not self.words.names.resolve(text.strip(" :")).parts and len(self._phrase(plain)) > 1
        )

    def _phrase(self, plain: Sequence[str]) -> list[str]:
        """What a heading names, without what it is for: "topping for the pancakes" is a topping."""
        words = list(plain)
        for joint in ("for", "with", "on", "over"):
            if joint in words[1:] and set(words[: words.index(joint, 1)]) - self._empty:
                words = words[: words.index(joint, 1)]
        return [w for w in words if w not in self._empty] or list(plain)

    def _opened(self, text: str, plain: Sequence[str]) -> tuple[Section, str]:
        """The section that a heading opens, and the name of the dish where it is one beside the batter."""
        if set(plain) & self._aside:
            return "aside", ""
        phrase = self._phrase(_plain(re.sub(r"\([^()]*\)", " ", text)) or plain)
        if set(phrase) & self._part:
            return "batter", ""
        if phrase[-1] in self._batter and not (phrase[:1] == ["to"] and set(phrase) & self._plate):
            return "batter", ""
        if set(phrase) & self._plate and phrase[-1] not in self._sides:
            return "plate", ""
        if not (set(phrase) & self._sides or phrase[0] in self._cooked):
            return "batter", ""
        name = re.sub(r"^\W*(?:for\s+)?(?:the\s+|your\s+|our\s+|my\s+)?", "", text, flags=re.IGNORECASE)
        name = re.sub(
            r"\s*\b(?:ingredients|mixture)\b", "", re.split(r"\s+(?:for|with|over)\s+the\b|\(", name, flags=re.IGNORECASE)[0]
        ).strip(" :-–—*#.")
        return "plate", (name[:1].upper() + name[1:])[:LONGEST_NAME]

    def _is_count(self, text: str, plain: Sequence[str]) -> bool:
        """ "30 minutes", "12 pancakes", "180 °C", and a title that ends with a dish, "Dutch baby for 4"."""
        rest = re.findall(r"[a-z]+", _COUNT.sub("", text.lower()))
        if re.match(r"^\D{0,8}\d", text) and rest and set(rest) <= self._counted | {"to", "or", "about", "and", "large", "small"}:
            return not (len(rest) == 1 and rest[0] in ("c", "piece", "pieces"))
        text = self._unserved(text)
        plain = _plain(text)
        bare = re.search(r"^(.*[a-zè-ê])\s*\(([^()]*)\)\s*$", text.lower())  # "Crêpes (gluten-free option)"
        heard = self.words.scan(bare[2]) if bare else None
        if bare and heard and not (heard.foods or heard.tokens or heard.unknown):
            plain = _plain(bare[1])
        return bool(self._dishes & {tuple(plain[-1:]), tuple(plain[-2:])}) and not re.search(r"\d", text)

    def _unserved(self, text: str) -> str:
        """A title without for how many it is at its end: "Dutch baby (for 4 to 6 guests)"."""
        words = list(re.finditer(r"[^\W_]+", text.lower()))
        at = max((n for n, w in enumerate(words) if w[0] in self._serves), default=len(words))
        whom = [w[0] for w in words[at + 1 :] if not w[0].isdigit()]
        known = self._counted | self._empty | WORDS.keys() | {"about", "to", "or"}
        return text[: words[at].start()].rstrip(" ,;:(–—-") if at + 1 < len(words) and set(whom) <= known else text

    def _is_instruction(self, text: str) -> bool:
        bare = _NUMBERED.sub("", text)
        plain = re.findall(r"[a-z’']+", bare.lower())
        if len(plain) < 2 or plain[0].replace("’", "").replace("'", "") not in self._verbs or re.match(r"^\s*[\d½¼¾⅓⅔]", bare):
            return False
        amount = read_amount(bare, self.words.units)
        if amount.grams or amount.measures:
            return False
        if plain[0] in _SPOKEN_NOUN:  # "warm milk" is food; "warm the milk gently" is not
            return bool(set(plain[1:3]) & {"the", "a", "an", "your", "each", "all", "it", "this", "both", "until"}) and len(plain) > 3
        return not self.words.names.resolve(bare).parts


def _plain(text: str) -> list[str]:
    return re.findall(r"[a-z]+", text.lower().replace("ê", "e").replace("è", "e"))


def heading(text: str, told: Told, prose: Prose) -> str:
    """What of a heading may name a food that is listed nowhere: the name of a dish beside the batter, without the word for the dish."""
    words = prose.dish_words if told.side else frozenset()
    plain = _plain(told.side)
    if not words or (len(plain) == 1 and plain[0] in prose.foods):
        return text
    return re.sub(r"[^\W\d_]+", lambda m: "" if m[0].lower() in words else m[0], text)


def set_aside(text: str) -> BatterLine:
    """A line that is no ingredient, kept as it was written."""
    return BatterLine(text=text[:2000], where="aside", confidence="low", note="not an ingredient")


def foods_only_told(aside: BatterLine, lines: Sequence[BatterLine], words: Words) -> BatterLine:
    """The line set aside with the foods that only it names, "melt a little butter in the pan" where no line lists butter, and with the
    allergens that it tells of, "note: may contain nuts"."""
    listed = {w for line in lines if line.where != "aside" for w in words_of(line.text)}
    held = {id_ for line in lines if line.where != "aside" for id_ in (line.ingredient, *line.also, *line.maybe) if id_}
    found: list[str] = []
    told = words.scan(aside.text)
    for id_ in told.foods:
        name = words_of(words.names.ingredients[id_].short)
        if id_ not in held and not set(name) & listed:
            found.append(id_)
    heard = tuple(dict.fromkeys(open_token(t) for t in told.tokens))[:20]
    unread = tuple(w[:80] for w in told.unknown if not w.startswith("contain"))[:20] if _CONTAINS.search(aside.text) else ()
    update = {"maybe": tuple(found[:20]), "heard": heard, "unread": unread, "note": "not an ingredient"}
    return aside.model_copy(update=update) if found or heard or unread else aside
