"""Numbers as cooks write them: 1 1/2, 1½, 1-1/2, 0,5, two, half a, 2–3, "between 2 and 3"."""

import math
import re

VULGAR = {
    "½": 1 / 2, "⅓": 1 / 3, "⅔": 2 / 3, "¼": 1 / 4, "¾": 3 / 4, "⅕": 1 / 5, "⅖": 2 / 5, "⅗": 3 / 5, "⅘": 4 / 5,
    "⅙": 1 / 6, "⅚": 5 / 6, "⅐": 1 / 7, "⅛": 1 / 8, "⅜": 3 / 8, "⅝": 5 / 8, "⅞": 7 / 8, "⅑": 1 / 9, "⅒": 1 / 10,
}  # fmt: skip
WORDS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
    "eleven": 11, "twelve": 12, "dozen": 12, "couple": 2,
}  # fmt: skip
WORD_FRACTIONS = {"half": 1 / 2, "third": 1 / 3, "thirds": 1 / 3, "quarter": 1 / 4, "quarters": 1 / 4, "eighth": 1 / 8}

_V = "".join(VULGAR)
_PLAIN = r"\d+(?:[.,]\d+)*"
# One number. Longest spellings first, so that "1 1/2" is not read as 1.
NUMBER = rf"(?:\d+\s+dozen|\d+\s+(?:and|&|\+)\s+(?:\d\s*/\s*\d+|[{_V}])|\d+\s*[-\s]\s*\d+\s*/\s*\d+|\d+\s*/\s*\d+|\d+\s*[-\s]?\s*[{_V}]|[{_V}]|\.\d+|{_PLAIN})"
_WORD_NUMBER = (
    r"(?:(?:an?|one|two|three)\s+(?:half|thirds?|quarters?|eighth)|(?:one|two|three|four|five)\s+and\s+a\s+(?:half|quarter|third)"
    r"|half(?:\s+an?)?|(?:a|one)?\s*quarter|(?:a|one)?\s*third|half\s+a\s+dozen|a\s+dozen|a\s+couple(?:\s+of)?|"
    + "|".join(WORDS)
    + r"|an?)"
)
ANY_NUMBER = rf"(?:{NUMBER}|\b{_WORD_NUMBER}\b)"
_RANGE = re.compile(
    rf"^\s*(?:between\s+)?(?P<low>{ANY_NUMBER})\s*(?:(?:-|–|—|~|\bto\b|\bor\b|\band\b)\s*(?P<high>{NUMBER}|\b(?:{'|'.join(WORDS)})\b))?\s*",
    re.IGNORECASE,
)


def value(text: str) -> float:
    """The number that `text` spells. ValueError where it spells none.

    >>> [value(t) for t in ("1 1/2", "1½", "1-1/2", "0,5", "1,000", "two", "half a", ".25", "one and a half")]
    [1.5, 1.5, 1.5, 0.5, 1000.0, 2.0, 0.5, 0.25, 1.5]
    """
    t = re.sub(rf"(?<=\d)\s+(?:and|&|\+)\s+(?=\d+\s*/|[{_V}])", " ", " ".join(text.lower().replace("⁄", "/").split()))
    if m := re.fullmatch(r"(\d+)\s*[-\s]\s*(\d+)\s*/\s*(\d+)", t):
        return int(m[1]) + _ratio(m[2], m[3])
    if m := re.fullmatch(r"(\d+)\s*/\s*(\d+)", t):
        return _ratio(m[1], m[2])
    if m := re.fullmatch(rf"(\d+)?\s*-?\s*([{_V}])", t):
        return int(m[1] or 0) + VULGAR[m[2]]
    if re.fullmatch(r"\.\d+|\d+(?:[.,]\d+)*", t):
        return _plain(t)
    if t in WORDS:
        return float(WORDS[t])
    if t in ("a", "an"):
        return 1.0
    if "dozen" in t:
        return 6.0 if "half" in t else 12.0 * int((re.match(r"\d+", t) or ["1"])[0])
    if "couple" in t:
        return 2.0
    if m := re.fullmatch(r"(\w+) and an? (\w+)", t):
        return WORDS[m[1]] + WORD_FRACTIONS[m[2]]
    words = [w for w in t.split() if w not in ("a", "an")]
    if words and words[-1] in WORD_FRACTIONS:
        return (WORDS[words[0]] if len(words) > 1 else 1) * WORD_FRACTIONS[words[-1]]
    raise ValueError(f"not a number: {text!r}")


def take_range(text: str) -> tuple[float, float, str] | None:
    """The number or range at the head of `text`, as (low, high, what follows); None where there is none.

    >>> take_range("2–3 tbsp oil")
    (2.0, 3.0, 'tbsp oil')
    >>> take_range("between 2 and 3 eggs")
    (2.0, 3.0, 'eggs')
    """
    t = text.replace("⁄", "/")
    m = _RANGE.match(t)
    if not m or not m["low"]:
        return None
    try:
        low = value(m["low"])
        high = value(m["high"]) if m["high"] else low
    except (ValueError, KeyError, ZeroDivisionError, OverflowError):
        return None
    if m["high"] and "and" in t[m.end("low") : m.start("high")].lower() and not t.lower().lstrip().startswith("between"):
        return None
    return min(low, high), max(low, high), t[m.end() :]


def _ratio(top: str, bottom: str) -> float:
    if int(bottom) == 0:
        raise ValueError("a fraction over 0")
    return int(top) / int(bottom)


def _plain(t: str) -> float:
    if t.count(",") == 1 and "." not in t:
        whole, part = t.split(",")
        # "1,250" is a thousand and more; "0,250" and "1,5" are decimals.
        t = whole + part if len(part) == 3 and whole != "0" else f"{whole}.{part}"
    elif t.count(",") and t.count(".") <= 1:
        t = t.replace(",", "")
    number = float(t)
    if not math.isfinite(number):
        raise ValueError("not a finite number")
    return number
