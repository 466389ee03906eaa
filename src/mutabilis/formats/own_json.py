"""Our own JSON, with everything: batters with all versions and makings, and the kitchen that they were made in. Lossless."""

import json
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from mutabilis.core.book.versions import BatterSheet
from mutabilis.core.diets.packs import WrittenReading
from mutabilis.core.diets.rules import DietRule
from mutabilis.core.food.larder import Item
from mutabilis.core.food.pack_labels import Label
from mutabilis.core.measures.profile import Profile

from .shapes import Unreadable, decoded

NOT_CARRIED: tuple[str, ...] = ()


class Everything(BaseModel):
    """A whole Book, or some batters of it, with the kitchen's own facts beside them. Unknown fields are refused: nothing is
    dropped in silence. `records` hold the rest of the kitchen, table by table; `told` what of a damaged book could not be read."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    mutabilis: Literal[1] = 1
    batters: Annotated[tuple[BatterSheet, ...], Field(max_length=50_000)] = ()
    packs: Annotated[tuple[Label, ...], Field(max_length=5000)] = ()
    items: Annotated[tuple[Item, ...], Field(max_length=5000)] = ()
    readings: Annotated[tuple[WrittenReading, ...], Field(max_length=20_000)] = ()
    diets: Annotated[tuple[DietRule, ...], Field(max_length=500)] = ()
    profile: Profile | None = None
    records: Annotated[dict[str, tuple[dict[str, str | int | float | None], ...]], Field(max_length=40)] = Field(default_factory=dict)
    told: Annotated[tuple[str, ...], Field(max_length=100)] = ()


def is_own(text: str) -> bool:
    """Whether a text looks like our own JSON, however far it is from being it."""
    return text.lstrip()[:1] == "{" and '"mutabilis"' in text[:400]


def read(data: bytes) -> Everything:
    """Everything out of a file; Unreadable with the place of the first fault."""
    text = decoded(data)
    try:
        return Everything.model_validate(json.loads(text))
    except RecursionError as error:
        raise Unreadable("nested deeper than any Book") from error
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"])[:80] or "the top"
        raise Unreadable(f"at {place}: {first['msg'].removeprefix('Value error, ')[:120]}") from error
    except ValueError as error:
        raise Unreadable(f"not JSON: {str(error)[:120]}") from error


def write(everything: Everything) -> bytes:
    """Everything as JSON in plain ASCII: marks that a reader would clean away are escaped, and come back."""
    return json.dumps(everything.model_dump(mode="json"), indent=1).encode()
