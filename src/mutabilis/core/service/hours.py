"""Hours of one morning, in seconds since midnight."""

import re
from typing import Annotated

from pydantic import BeforeValidator, PlainSerializer

_HOUR = re.compile(r"(\d{1,2}):(\d{2})(?::(\d{2}))?\Z", re.ASCII)
DAY = 86_400


def seconds(hour: object) -> int:
    """Seconds since midnight of "05:30" or "05:30:15"; ValueError for what is no hour.

    >>> seconds("05:30"), seconds("7:05:30")
    (19800, 25530)
    """
    if isinstance(hour, int) and not isinstance(hour, bool) and 0 <= hour < DAY:
        return hour
    found = _HOUR.match(hour.strip()) if isinstance(hour, str) else None
    if found is None or int(found[1]) > 23 or int(found[2]) > 59 or int(found[3] or 0) > 59:
        raise ValueError("an hour is written 07:30 or 07:30:15")
    return int(found[1]) * 3600 + int(found[2]) * 60 + int(found[3] or 0)


def hour(at: int) -> str:
    """The hour of a second of the day: "07:30:15".

    >>> hour(25530)
    '07:05:30'
    """
    return f"{at // 3600 % 24:02d}:{at // 60 % 60:02d}:{at % 60:02d}"


def spoken(at: int) -> str:
    """The hour as it is said: without seconds where there are none.

    >>> spoken(27000), spoken(27015)
    ('07:30', '07:30:15')
    """
    return hour(at) if at % 60 else hour(at)[:5]


def lasting(s: int) -> str:
    """So many seconds as they are said.

    >>> lasting(45), lasting(60), lasting(1290)
    ('45 seconds', '1 minute', '22 minutes')
    """
    if s < 60:
        return f"{s} seconds"
    minutes = -(-s // 60)
    return "1 minute" if minutes == 1 else f"{minutes} minutes"


Hour = Annotated[int, BeforeValidator(seconds), PlainSerializer(hour, return_type=str)]
