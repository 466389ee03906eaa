"""A batch: the exact version it makes, in which size, for whom; and how the log remembers it."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from ..adapt.scaling import Size, scale
from ..batter.batter import Batter, Order
from ..book.versions import DietKeys, Id
from .events import Event, Seconds
from .facts import StoveFacts

COLOURS = 6  # marks that tell batches apart: a colour and a shape each


class FromMix(BaseModel):
    """The bag of dry mix that a batch is started from, and how much of it goes in [g]."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    id: Id
    grams: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)]
    name: Annotated[str, Field(max_length=120)] = ""


class NewBatch(BaseModel):
    """A batch to be started: the version, its size, for whom it is, who makes it, when the first piece is wanted [s since 1970], and how it is mixed, or the bag of
    dry mix that it is made from. The id may be chosen by whoever starts it, so that a start sent twice is one batch."""

    model_config = ConfigDict(frozen=True, extra="forbid")  # a request is checked by it: built at once

    version: Annotated[str, Field(max_length=40)]
    id: Id | None = None
    size: Size | None = None
    diets: DietKeys = ()
    whom: Annotated[str, Field(max_length=120)] = ""
    cook: Annotated[str, Field(max_length=60)] = ""
    first_at: Seconds | None = None
    order: Order | None = None
    mix: FromMix | None = None


class Batch(BaseModel):
    """A batch under way or over. `plan` is the version in the size that was asked for, and never changes; `mark` tells it from the others."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    id: str
    version_id: str
    batter_id: str
    name: str
    number: int
    plan: Batter
    diets: tuple[str, ...]
    whom: str
    first_at: float | None
    order: Order
    mark: int
    cook: str = ""
    started: float
    finished: float | None = None
    mix: FromMix | None = None
    events: tuple[Event, ...] = ()


def plan_of(batter: Batter, size: Size | None, facts: StoveFacts, order: Order) -> Batter:
    """The batter of a version in the size that was asked for; a blender makes it drink at once. CannotBe where the size cannot be."""
    sized = batter if size is None else scale(batter, size, facts)[0].batter
    return sized.model_copy(update={"blender": sized.blender or order == "blender"})
