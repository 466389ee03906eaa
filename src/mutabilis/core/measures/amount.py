"""The amount in a line as a cook writes it, apart from what it is an amount of."""

import re
from dataclasses import dataclass, field, replace

from .numbers import NUMBER, take_range, value
from .units import Heap, Unit, Units

LARGEST_G = 100_000.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """So many of a unit. `unit` None means pieces: "2 eggs"."""

    low: float
    high: float
    unit: Unit | None
    heap: Heap | None = None
    size: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Amount:
    """What was read: measures that add up ("1 cup plus 2 tbsp"), grams given beside them, and the words left over."""

    measures: tuple[Measure, ...]
    grams: tuple[float, float] | None
    words: str
    relation: tuple[float, str] | None = None
    optional: bool = False
    alternative: str | None = None
    to_taste: bool = False
    problem: str | None = None
    notes: tuple[str, ...] = field(default=())


_BULLET = re.compile(r"^\s*(?:[•*·▢□☐◦‣–—+]\s*|-\s+|\d+[.)]\s+(?=\d))")
_ABOUT = re.compile(r"^\s*(?:about|approx(?:imately|\.)?|roughly|around|circa|ca\.?|c\.|~|≈|up to|at least|another)\s+", re.IGNORECASE)
_PAREN = re.compile(r"\(([^()]*)\)|\[([^\[\]]*)\]")
_MASS_IN = re.compile(rf"(?:^|[\s(/=,~])(?:about|approx\.?|approximately|ca\.?|circa|roughly|~|≈|=)?\s*(?P<n>{NUMBER})(?:\s*(?:-|–|to)\s*(?P<n2>{NUMBER}))?\s*(?P<u>g|gr|gms?|grams?|grammes?|kg|oz|ounces?|lbs?)\b", re.IGNORECASE)  # fmt: skip
RELATION = re.compile(
    r"(?:(?P<times>twice|double|half|three times|two thirds)\s+)?(?:as much|the same (?:weight|amount)|same (?:weight|amount)|equal (?:weight|amount)s?|its weight)"
    r"(?:\s+of)?\s*(?P<what>[\w\s-]*?)\s*\b(?:as|to|in)\b\s+(?:the\s+)?(?P<other>[\w\s-]+)",
    re.IGNORECASE,
)
_TIMES = {"twice": 2.0, "double": 2.0, "half": 0.5, "three times": 3.0, "two thirds": 2 / 3}
TO_TASTE = re.compile(r",?\s*\b(?:to taste|as needed|as required|if needed|for seasoning)\b", re.IGNORECASE)
OPTIONAL = re.compile(r"[,;]?\s*\(?\b(?:optional(?:ly)?|if (?:you )?(?:like|want|wish|desired|liked)|or omit)\b\)?", re.IGNORECASE)
_OR = re.compile(r"\s*(?:\bor\b\s*(?=[a-zA-Z\d½¼¾⅓⅔])|/\s*(?=[a-zA-Z]))")
_LITTLE = re.compile(r"^(?:a (?:little|bit of|touch of)|some|enough)\s+", re.IGNORECASE)
_PACK_OF = re.compile(
    rf"^(?P<n>\d+|an?|one|two|three)\s*(?:[x×]\s*|\s)(?P<size>{NUMBER})\s*-?\s*(?P<unit>ml|l|g|oz|ounces?)\.?\s+(?:cans?|tins?|pots?|packs?|packets?|tubs?|jars?|cartons?|bottles?)\b",
    re.IGNORECASE,
)
_SEVERAL = re.compile(r"(?:cups|spoons|fuls)$", re.IGNORECASE)  # "cups of flour": how many is not said
_SIZES = {"small": "small", "sm": "small", "medium": "medium", "med": "medium", "large": "large", "lg": "large", "big": "large", "extra-large": "extra_large", "xl": "extra_large", "jumbo": "jumbo"}  # fmt: skip


def read_amount(text: str, units: Units) -> Amount:
    """Read one line. Never raises: what is wrong stands in `problem`."""
    line = " ".join(text.replace("\u00a0", " ").replace("\u2009", " ").replace("\u202f", " ").replace("⁄", "/").split())
    line = _BULLET.sub("", line)
    line = _LITTLE.sub("", line)
    if pack := _PACK_OF.match(line):
        # "1 x 400 ml tin of", "one 15-ounce can": so many times the size on the pack.
        line = f"{value(pack['n']) * value(pack['size']):g} {pack['unit']} {line[pack.end() :]}"
    if re.match(r"^-\s*[\d.½¼¾⅓⅔]", line) or re.search(r"[:=]\s*-\s*\d", line):
        return Amount(measures=(), grams=None, words=line, problem="a negative amount")
    if (m := re.match(r"^(?:nan|inf(?:inity)?)(?:\s+(\w+)|$)", line, re.IGNORECASE)) and (m[1] is None or units.find(m[1])):
        return Amount(measures=(), grams=None, words=line, problem="not a number")
    optional = bool(OPTIONAL.search(line))
    line = OPTIONAL.sub("", line).strip()
    to_taste = bool(TO_TASTE.search(line))
    line = TO_TASTE.sub("", line).strip()
    if relation := RELATION.search(line):
        words = (line[: relation.start()] + " " + (relation["what"] or "")).strip(" ,:-")
        times = _TIMES.get((relation["times"] or "").lower(), 1.0)
        return Amount(
            measures=(), grams=None, words=words, relation=(times, relation["other"].strip()), optional=optional, to_taste=to_taste
        )

    body, grams, each, inner = _parentheses(line, units)
    measures, rest = _measures(body, units)
    if not measures:
        measures, rest = _trailing(body, units)
    if measures:
        more, rest = _more(rest, units)
        measures = [*measures, *more]
    if measures and rest.lstrip().startswith("/"):
        second, after = _measures(rest.lstrip(" /"), units)
        if second:
            grams, measures, rest = _prefer_mass(grams, measures, second), measures, after
    if grams and each and measures and measures[0].unit is None:
        grams = (grams[0] * measures[0].low, grams[1] * measures[0].high)
    rest, alternative = _alternative(rest, units)
    problem = None
    if measures and any(m.high > 1e6 for m in measures):
        problem = "an amount beyond any kitchen"
    return Amount(
        measures=tuple(measures),
        grams=grams,
        words=rest.strip(" ,;:-"),
        relation=None,
        optional=optional,
        alternative=alternative,
        to_taste=to_taste,
        problem=problem,
        notes=tuple(inner),
    )


def _parentheses(line: str, units: Units) -> tuple[str, tuple[float, float] | None, bool, list[str]]:
    """Take out what stands in brackets; keep a mass given there and say whether it is for each one."""
    grams: tuple[float, float] | None = None
    each = False
    inner: list[str] = []
    body = line
    for match in _PAREN.finditer(line):
        content = (match[1] or match[2] or "").strip()
        mass = _mass(content, units)
        if mass and grams is None:
            grams = mass
            before = line[: match.start()].strip()
            # "2 (400 g) tins" means each; "2 bananas (about 240 g)" means all, unless it says otherwise.
            counted = take_range(before)
            each = bool(re.search(r"\beach\b|\bper\b", content)) or (counted is not None and not counted[2].strip())
        elif content:
            inner.append(content)
    body = _PAREN.sub(" ", line)
    if grams is None and (m := re.search(rf"\b[x×]\s*({NUMBER})\s*-?\s*(g|oz)\b", body)):
        grams, each = _mass(m[0].lstrip("x× "), units), True
        body = body.replace(m[0], " ")
    if grams is None and (m := re.search(rf"(?<=\d)\s+({NUMBER})-(oz|ounce|g)\.?\s+(?=can|tin|pot|pack|tub|jar)", body)):
        grams, each = _mass(f"{m[1]} {m[2]}", units), True
        body = body.replace(m[0], " ")
    return " ".join(body.split()), grams, each, inner


def _mass(text: str, units: Units) -> tuple[float, float] | None:
    m = _MASS_IN.search(" " + text)
    if not m:
        return None
    unit = units.find(m["u"])
    taken = take_range(m["n"])
    if unit is None or unit.g is None or taken is None:
        return None
    low = taken[0] * unit.g
    second = take_range(m["n2"]) if m["n2"] else None
    return low, (second[0] * unit.g if second else low)


def _measures(text: str, units: Units) -> tuple[list[Measure], str]:
    """Measures at the head of the text, those joined by "plus" or "+" too."""
    measures: list[Measure] = []
    rest = text
    joined: re.Match[str] | None = None
    while True:
        one, after = _one(rest, units)
        if one is None:
            return measures, rest
        measures.append(one if joined is None else _joined(one, joined))
        rest = re.sub(r"^\s*(?:more|extra)\b\s*(?:of\s+)?", "", after, flags=re.IGNORECASE) if joined else after
        joined = re.match(
            r"^\s*,?\s*(?P<how>plus|\+|and|&|minus|less)\s+(?P<most>up\s+to\s+)?(?=[\d½¼¾⅓⅔⅛⅜⅝⅞]|(?:scant|generous|level|rounded|heaped)\s+\d|an?\s+(?:pinch|dash|half)|half|one|two)",
            rest,
            re.IGNORECASE,
        )
        if not joined:
            return measures, rest
        rest = rest[joined.end() :]


def _joined(one: Measure, joined: re.Match[str]) -> Measure:
    """A measure that another is followed by: added, taken off ("minus 2 tbsp"), or only perhaps added ("plus up to 1 cup more")."""
    if joined["how"].lower() in ("minus", "less"):
        return replace(one, low=-one.high, high=-one.low)
    return replace(one, low=0.0) if joined["most"] else one


def _more(rest: str, units: Units) -> tuple[list[Measure], str]:
    """What a line adds or takes off behind its name: "2 cups milk, plus up to 1 cup more", "1 cup flour minus 2 tbsp"."""
    m = re.search(r",?\s*\b(?P<how>plus|minus|less)\s+(?P<most>up\s+to\s+)?(?=[\d½¼¾⅓⅔⅛]|an?\s|half\b|one\b|two\b)", rest, re.IGNORECASE)
    if not m:
        return [], rest
    one, after = _one(rest[m.end() :], units)
    if one is None or re.sub(r"\b(?:more|extra|if|needed|as|of|it|the|required)\b|[\s,.;()]", "", after, flags=re.IGNORECASE):
        return [], rest
    return [_joined(one, m)], rest[: m.start()]


def _one(text: str, units: Units) -> tuple[Measure | None, str]:
    head = _ABOUT.sub("", text)
    heap: Heap | None = None
    size: str | None = None
    if first := re.match(r"^\s*([a-z]+)\s+(?=[\d½¼¾⅓⅔⅛]|half|an?\b|cup|tbsp|tsp|tablesp|teasp)", head, re.IGNORECASE):
        heap = units.heaps.get(first[1].lower())
        if heap:
            head = head[first.end() :]
    taken = take_range(head)
    if taken is None:
        # "pinch of salt", "knob of butter", "heaped tablespoon flour", "cup of milk": one of them.
        word = re.match(r"^\s*([A-Za-z]+)\.?\s+(of\s+)?", head)
        unit = units.find(word[1]) if word and len(word[1]) > 2 else None
        spoon = bool(word and unit and unit.kind == "profile" and (heap or word[2]) and not _SEVERAL.search(word[1]))
        if word and unit and (spoon or unit.kind in ("piece", "volume")) and unit.key not in ("piece",):
            return Measure(low=1.0, high=1.0, unit=unit, heap=heap), head[word.end() :]
        return None, text
    low, high, rest = taken
    rest = re.sub(r"^\s*[x×]\s+", "", rest)
    if m := re.match(r"^\s*(?:half|½)\s+(?=[a-z])", rest, re.IGNORECASE):  # "1 half cup"
        low, high, rest = low / 2, high / 2, rest[m.end() :]
    while m := re.match(r"^\s*([A-Za-z-]+)\.?\s+(?=\S)", rest):
        word_ = m[1].lower()
        if word_ in units.heaps and (word_ != "short"):
            heap, rest = units.heaps[word_], rest[m.end() :]
        elif word_ in _SIZES:
            size, rest = _SIZES[word_], rest[m.end() :]
        elif word_ in ("extra",) and rest[m.end() :].lower().startswith("large"):
            size, rest = "extra_large", re.sub(r"^\s*large\s*", "", rest[m.end() :], flags=re.IGNORECASE)
        elif word_ in ("metric", "us", "uk", "standard", "american", "imperial", "a", "of", "an"):
            rest = rest[m.end() :]
        else:
            break
    unit, rest = _unit(rest, units)
    if unit and unit.key == "piece":
        unit = None
    rest = re.sub(r"^\s*of\s+", "", rest, flags=re.IGNORECASE)
    return Measure(low=low, high=high, unit=unit, heap=heap, size=size), rest


def _unit(rest: str, units: Units) -> tuple[Unit | None, str]:
    if fluid := re.match(r"^\s*((?:fl\.?|fluid)\s*(?:oz|ounces?)\.?)(?=\s|$|[,;/+])", rest, re.IGNORECASE):
        return units.by_name["fl oz"], rest[fluid.end() :]
    m = re.match(r"^\s*-?\s*([A-Za-z]+)\.?(?=\s|$|[,;/+)=-])", rest)
    if not m:
        return None, rest
    unit = units.find(m[1])
    # "1 c" is a cup; a lone "l" or "g" needs a number right before it, which holds here.
    return (unit, rest[m.end() :]) if unit else (None, rest)


def _trailing(body: str, units: Units) -> tuple[list[Measure], str]:
    """ "flour 200 g", "Flour: 1 cup", "milk - 1 1/2 cups": the amount at the end."""
    starts = list(re.finditer(r"(?:^|[\s:,=–-])(?=[\d½¼¾⅓⅔⅛⅜⅝⅞.])", body))
    for m in starts[-8:]:
        measures, rest = _measures(body[m.end() :], units)
        if measures and not rest.strip(" ,.;)"):
            return measures, body[: m.start()].strip(" :,=–-")
    if word := re.search(r"[\s:,-]+(?:an?\s+)?(pinch|dash|knob|handful)(?:es|s)?\s*$", body, re.IGNORECASE):
        return [Measure(low=1.0, high=1.0, unit=units.by_name[word[1].lower()])], body[: word.start()]
    return [], body


def _alternative(rest: str, units: Units) -> tuple[str, str | None]:
    """ "milk or oat drink": the first is taken, the second is kept to be told."""
    m = _OR.search(rest)
    if not m or not rest[: m.start()].strip(" ,"):
        return rest, None
    second = rest[m.end() :].strip(" ,.")
    measures, words = _measures(second, units)
    return rest[: m.start()], (words.strip() if measures else second) or None


def _prefer_mass(grams: tuple[float, float] | None, first: list[Measure], second: list[Measure]) -> tuple[float, float] | None:
    """ "200 g / 7 oz": the mass that was given first; "1 cup/120 g": the mass."""
    for measures in (first, second):
        unit = measures[0].unit
        if unit and unit.kind == "mass" and unit.g:
            return grams or (measures[0].low * unit.g, measures[0].high * unit.g)
    return grams
