"""What someone read on a pack, and which reading stands."""

from collections.abc import Iterable, Mapping
from typing import Annotated

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from ..food.allergen_tokens import FROM_ANIMALS, AllergenToken


class PackReading(BaseModel):
    """What someone read on a pack. It stands for that pack only and lapses with a new one. Where it `answers` some questions (allergens,
    that the pack does not name), it speaks of those and of what it says outright, and of nothing else; else of the whole label."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    ingredient: str
    pack: Annotated[str, Field(min_length=1, max_length=120)]
    by: Annotated[str, Field(min_length=1, max_length=80)]
    on: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
    contains: tuple[AllergenToken, ...] = ()
    may_contain: tuple[AllergenToken, ...] = ()
    certified_gluten_free: bool = False
    vegan: bool | None = None
    added_sugar: bool | None = None
    part: bool = False
    answers: tuple[Annotated[str, Field(max_length=40)], ...] = ()

    @model_validator(mode="after")
    def _says_one_thing(self) -> "PackReading":
        if self.answers and not self.part:
            raise ValueError("a reading of the whole label answers no single question")
        if self.part and (self.contains or self.may_contain):
            raise ValueError("what a pack names is read off the whole label")
        if self.vegan and (animal := next((a for a in FROM_ANIMALS if a in self.contains), None)):
            raise ValueError(f"vegan, and yet it contains {animal}")
        return self

    def with_part(self, part: "PackReading") -> "PackReading":
        """This reading with what was read of the same pack later; what the whole label named stays named, and so does a no."""
        return self.model_copy(
            update={
                "by": part.by,
                "on": part.on,
                "certified_gluten_free": self.certified_gluten_free or part.certified_gluten_free,
                "vegan": part.vegan if self.vegan is None else self.vegan,
                "added_sugar": part.added_sugar if self.added_sugar is None else self.added_sugar,
                "answers": tuple(dict.fromkeys((*self.answers, *part.answers))) if self.part else (),
            }
        )


def as_written(told: object) -> object:
    """A reading as someone's own file has it: one that is silent about allergens, without even an empty list, is of what it says and not of
    the whole label. What nobody wrote down vouches for nothing."""
    silent = isinstance(told, dict) and not {"contains", "may_contain", "part"} & told.keys()
    return {**told, "part": True} if isinstance(told, dict) and silent else told


WrittenReading = Annotated[PackReading, BeforeValidator(as_written)]


def standing(readings: Iterable[PackReading], packs: Mapping[str, str]) -> dict[str, PackReading]:
    """The readings that stand: the latest of the pack in use of each ingredient, parts of one label together. A new pack lapses what
    was read on the old one; where no pack is named as in use, the latest reading stands."""
    found: dict[str, PackReading] = {}
    for reading in sorted(readings, key=lambda r: r.on):
        if packs.get(reading.ingredient, reading.pack) == reading.pack:
            before = found.get(reading.ingredient)
            goes_on = reading.part and before is not None and before.pack == reading.pack
            found[reading.ingredient] = before.with_part(reading) if before and goes_on else reading
    return found
