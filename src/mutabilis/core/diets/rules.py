"""A diet as a file of rules: what it denies, allows and limits (see `data/diets`), read and checked."""

import re
import tomllib
from collections.abc import Iterable, Mapping
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator

from ..food.allergen_tokens import ALLERGENS
from ..food.ingredients import Ingredient
from ..food.nutrients import Nutrient
from ..measures.profile import Profile

ANIMALS = ("dairy", "egg", "honey", "meat", "fish", "insect", "other")
# Told of a row in the same column, minded by a diet, and no allergen.
NO_ALLERGENS = {"rennet"}


class Clause(BaseModel):
    """One thing a diet denies. Each field lists values; a clause bites where any of them matches. `only` makes it depend
    on a setting of the kitchen; `verdict` may soften it to "cannot vouch"."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    animal: tuple[str, ...] = ()
    allergen: tuple[str, ...] = ()
    gluten: tuple[Literal["yes"], ...] = ()
    group: tuple[str, ...] = ()
    ingredient: tuple[str, ...] = ()
    added_sugar: tuple[Literal["yes"], ...] = ()
    refined: tuple[Literal["yes"], ...] = ()
    lactose: bool = False
    only: dict[str, str | bool] = Field(default_factory=dict)
    verdict: Literal["conflicts", "cannot_vouch"] = "conflicts"
    reason: Annotated[str, Field(min_length=3, max_length=200)]

    @field_validator("only")
    @classmethod
    def _of_known_settings(cls, only: dict[str, str | bool]) -> dict[str, str | bool]:
        unknown = only.keys() - Profile.model_fields.keys()
        if unknown:
            raise ValueError(f"no setting of the kitchen is called {', '.join(sorted(unknown))}")
        return only


class Limit(BaseModel):
    """At most `most` of a nutrient in one serving."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    nutrient: Nutrient
    most: Annotated[float, Field(ge=0, le=10_000, allow_inf_nan=False)]
    reason: Annotated[str, Field(max_length=200)] = ""


class DietRule(BaseModel):
    """A diet as a file of rules. `allow`, where not empty, makes it an allow-list: nothing else may be used."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    key: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{1,40}$")]
    label: Annotated[str, Field(min_length=2, max_length=60)]
    order: int = 100
    traces: Literal["caution", "cannot_vouch"] = "cannot_vouch"
    caution: Annotated[str, Field(max_length=300)] = ""
    deny: tuple[Clause, ...] = ()
    allow: tuple[str, ...] = ()
    limits: tuple[Limit, ...] = ()

    @property
    def about_animals(self) -> bool:
        """Whether the diet leaves out animals as such, and not a food that somebody reacts to."""
        return any("meat" in clause.animal for clause in self.deny)


def read_rule(text: str, name: str) -> DietRule:
    """A rule from its file; ValueError naming file, line and fault."""
    try:
        return DietRule.model_validate(tomllib.loads(text))
    except (tomllib.TOMLDecodeError, RecursionError) as error:
        raise ValueError(f"{name}: {error if isinstance(error, ValueError) else 'nested too deeply'}") from error
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"])
        raise ValueError(f"{name}, line {line_of(text, first['loc'])}: {place}: {first['msg']}") from error


def line_of(text: str, place: tuple[int | str, ...]) -> int:
    """The line of a rule file that a place like ("deny", 1, "reason") stands on; its table's line where the key is missing.

    >>> line_of('key = "a"\\n[[deny]]\\n[[deny]]\\ngroup = 3', ("deny", 1, "group"))
    4
    """
    lines = text.splitlines()
    start = 0
    if len(place) > 1 and isinstance(place[1], int):
        heads = [n for n, line in enumerate(lines) if line.strip().startswith(f"[[{place[0]}]]")]
        start = heads[place[1]] if place[1] < len(heads) else 0
        place = place[2:]
    if place:
        for n in range(start, len(lines)):
            if n > start and lines[n].lstrip().startswith("["):
                break
            if re.match(rf"\s*{re.escape(str(place[0]))}\s*=", lines[n]):
                return n + 1
    return start + 1


def check_rule(rule: DietRule, text: str, name: str, ingredients: Mapping[str, Ingredient]) -> None:
    """ValueError, with the line, where a rule names an ingredient, a group, an animal or an allergen that is not there: a misspelt name
    would deny nothing, and a diet would be falsely safe."""
    known = {
        "ingredient": set(ingredients),
        "group": {i.group for i in ingredients.values()},
        "animal": set(ANIMALS),
        "allergen": {*ALLERGENS, *NO_ALLERGENS},
    }

    def look(words: Iterable[str], kind: str, place: tuple[int | str, ...]) -> None:
        for word in words:
            if word.partition(":")[0] not in known[kind] and word not in known[kind]:
                raise ValueError(f"{name}, line {line_of(text, place)}: no {kind} “{word}”")

    look(rule.allow, "ingredient", ("allow",))
    for at, clause in enumerate(rule.deny):
        for kind in known:
            look(getattr(clause, kind), kind, ("deny", at, kind))
