"""Degrees and figures as a kitchen reads them: Celsius, Fahrenheit, or gas marks on an oven; a point or a comma. What is reckoned and
kept is Celsius."""

import re
from typing import Literal

HeatScale = Literal["celsius", "fahrenheit", "gas"]
Decimal = Literal["point", "comma"]
_POINT = re.compile(r"(?<=\d)(?<!\.\d)(?<!\.\d\d)\.(?=\d+(?![\d]*\.\d))")
_SAID = re.compile(r"(?P<low>\d+)(?P<to> to (?P<high>\d+))? °C(?! \(\d+ °F\))(?P<by> (?:hotter|cooler|higher|lower|too hot|too cold))?")
_OVEN = re.compile(r"\b(?:oven|tray|dish)\b", re.IGNORECASE)
# The gas mark up to each heat [°C]: the usual table of cooks, a mark every 14 °C from 140 °C (gas 1).
GAS_FROM_C, GAS_STEP_C, GAS_MOST = 126.0, 14.0, 10


def fahrenheit(celsius: float) -> float:
    """A heat on the other scale, to five degrees where it is a pan's or an oven's.

    >>> fahrenheit(190), fahrenheit(71), fahrenheit(5)
    (375, 160, 41)
    """
    exact = 9 * celsius / 5 + 32
    return 5 * round(exact / 5) if celsius >= 60 else round(exact)


def gas_mark(celsius: float) -> int | None:
    """The gas mark of an oven's heat; None where there is none so low or so high.

    >>> [gas_mark(c) for c in (120, 140, 180, 190, 220, 240)]
    [None, 1, 4, 5, 7, 8]
    """
    mark = round((celsius - GAS_FROM_C) / GAS_STEP_C)
    return mark if 1 <= mark <= GAS_MOST else None


def told(text: str, scale: HeatScale) -> str:
    """A sentence with its degrees in the kitchen's scale. Where both scales stand already it stays as it is.

    >>> told("Heat the griddle to about 190 °C; 10 °C hotter; 35 to 38 °C; 71 °C (160 °F)", "fahrenheit")
    'Heat the griddle to about 375 °F; 20 °F hotter; 95 to 100 °F; 71 °C (160 °F)'
    >>> told("Heat the oven to about 220 °C", "gas"), told("Heat the griddle to about 190 °C", "gas")
    ('Heat the oven to about 220 °C (gas 7)', 'Heat the griddle to about 190 °C')
    """
    if scale == "celsius" or "°C" not in text:
        return text
    if scale == "gas":
        return _SAID.sub(_in_gas, text) if _OVEN.search(text) else text
    return _SAID.sub(_in_fahrenheit, text)


def in_figures(text: str, decimal: Decimal) -> str:
    """A sentence with its figures as the kitchen writes them. Times of day, dates and numbers of chapters have more points or none.

    >>> in_figures("60 mL spreads to 9.8 cm. 3 of 12 are done at 07.30.26", "comma")
    '60 mL spreads to 9,8 cm. 3 of 12 are done at 07.30.26'
    """
    return text if decimal == "point" else _POINT.sub(",", text)


def _in_fahrenheit(m: re.Match[str]) -> str:
    if m["by"]:
        return f"{max(5, 5 * round(1.8 * int(m['low']) / 5))} °F{m['by']}"
    low = f"{fahrenheit(int(m['low'])):.0f}"
    return f"{low} to {fahrenheit(int(m['high'])):.0f} °F" if m["high"] else f"{low} °F"


def _in_gas(m: re.Match[str]) -> str:
    mark = None if m["by"] or m["high"] else gas_mark(int(m["low"]))
    return m[0] if mark is None else f"{m[0]} (gas {mark})"
