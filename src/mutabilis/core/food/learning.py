"""What a kitchen learns: normal beliefs, each with what it was before, what told, and what it is after. Nothing learned is hidden."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from .ingredients import Ingredient

Kind = Literal["absorption", "piece_offset", "pace", "fill"]
Finite = Annotated[float, Field(allow_inf_nan=False)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Normal:
    """A belief: its mean and its standard deviation, in the unit of what is believed."""

    mean: float
    sd: float

    def told(self, seen: float, sd: float) -> "Normal":
        """The belief after something was seen with a standard deviation: precisions add, means are weighed by them (Gauss).

        >>> x = Normal(mean=0.0, sd=1.0).told(1.0, 1.0)
        >>> x.mean, round(x.sd, 4)
        (0.5, 0.7071)
        """
        if self.sd <= 0:
            return self
        a, b = 1 / self.sd**2, 1 / sd**2
        return Normal(mean=(a * self.mean + b * seen) / (a + b), sd=math.sqrt(1 / (a + b)))


class Lesson(BaseModel):
    """One thing learned from one batch: the belief before and after. `absorption`: the thirst of an ingredient, as a factor of the table;
    `piece_offset` [cm]; `pace`: the logarithm of a surface's time over the reckoned one; `fill`: the logarithm of what a place of an iron
    takes over what is written of it. `pack` is the bag it was learned from, where one was named."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    kind: Kind
    subject: Annotated[str, Field(max_length=80)]
    batch: Annotated[str, Field(max_length=40)] = ""
    before_mean: Finite
    before_sd: Annotated[float, Field(ge=0, allow_inf_nan=False)]
    after_mean: Finite
    after_sd: Annotated[float, Field(ge=0, allow_inf_nan=False)]
    at: str = ""
    pack: Annotated[str, Field(max_length=120)] = ""

    @property
    def after(self) -> Normal:
        """What is believed since."""
        return Normal(mean=self.after_mean, sd=self.after_sd)


def known(lessons: Iterable[Lesson], kind: Kind) -> dict[str, Normal]:
    """What is believed of each subject of a kind: the last lesson that stands (the oldest are given first)."""
    return {x.subject: x.after for x in lessons if x.kind == kind}


@dataclass(frozen=True, slots=True, kw_only=True)
class BagDoubt:
    """How far the thirst of one bag is from that of another of the same flour, as a relative standard deviation: of refined flours, and of those that
    drink `thirsty_from` [g/g] and more."""

    refined: float
    thirsty: float
    thirsty_from: float


def with_new_bags(
    learned: Mapping[str, Normal],
    lessons: Iterable[Lesson],
    in_use: Mapping[str, str],
    ingredients: Mapping[str, Ingredient],
    bag: BagDoubt,
) -> dict[str, Normal]:
    """What is believed of each thirst, less sure where the bag in use is another than the last that told anything: a new bag starts from what is
    known of the old one, and variances add. Where either bag has no name, nobody can tell."""
    told = {x.subject: x.pack for x in lessons if x.kind == "absorption"}
    found = {}
    for id_, n in learned.items():
        was, now, i = _plain(told.get(id_, "")), _plain(in_use.get(id_, "")), ingredients.get(id_)
        if was and now and was != now and i is not None:
            more = (bag.thirsty if i.absorption_g_per_g >= bag.thirsty_from else bag.refined) * n.mean
            n = Normal(mean=n.mean, sd=math.sqrt(n.sd**2 + more**2))
        found[id_] = n
    return found


def _plain(text: str) -> str:
    return " ".join(text.casefold().split())


LEAST_SD = 0.02  # flours differ from sack to sack: a thirst is never known better than this


def with_thirst(ingredients: Mapping[str, Ingredient], learned: Mapping[str, Normal], by_hand: Iterable[str] = ()) -> list[Ingredient]:
    """The ingredients that drink otherwise here than in the table, with how sure that is; what was set by hand stays as it was set."""
    hand = set(by_hand)
    return [
        i.model_copy(update={"absorption_g_per_g": i.absorption_g_per_g * max(0.05, n.mean), "absorption_doubt": max(LEAST_SD, n.sd / max(0.05, n.mean))})
        for id_, n in learned.items()
        if id_ not in hand and (i := ingredients.get(id_)) is not None and i.is_drinker
    ]  # fmt: skip
