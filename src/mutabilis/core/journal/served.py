"""Who ate of which load: by name for a while, then only how many and what they may not eat."""

from collections import Counter
from collections.abc import Sequence
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field


class Served(BaseModel):
    """Pieces of a load that one guest ate: the guest's name (None once it is forgotten) and what they may not eat, in words."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    load: Annotated[int, Field(ge=0, le=999)]
    at: float
    name: Annotated[str, Field(max_length=120)] | None
    needs: Annotated[str, Field(max_length=400)] = ""
    pieces: Annotated[int, Field(ge=1, le=500)]


def eaten_by(served: Sequence[Served], whom: str = "") -> str:
    """For whom a batch was, in words: the names that are still known, else how many guests and their needs; `whom` as it was said at the
    start where nobody is known to have eaten.

    >>> eaten_by([Served(load=0, at=0, name="Ada", pieces=2), Served(load=0, at=0, name=None, needs="egg allergy", pieces=1)])
    'Ada and 1 guest (egg allergy)'
    >>> eaten_by([Served(load=0, at=0, name=None, pieces=2), Served(load=1, at=0, name=None, pieces=1)]), eaten_by([], "walkers")
    ('2 guests', 'walkers')
    """
    names = list(dict.fromkeys(x.name for x in served if x.name))
    forgotten = [x for x in served if not x.name]
    if forgotten:
        needs = Counter(x.needs for x in forgotten if x.needs)
        told = "; ".join(f"{n} × {words}" if n > 1 else words for words, n in sorted(needs.items()))
        names.append(f"{len(forgotten)} guest{'s' if len(forgotten) > 1 else ''}" + (f" ({told})" if told else ""))
    if not names:
        return whom
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
