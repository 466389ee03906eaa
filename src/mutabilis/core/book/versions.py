"""What the Book keeps: batters, and their versions, which never change once saved; and what came of making them."""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, model_validator

from ..batter.batter import Batter, FormKey

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
Note = Annotated[str, Field(max_length=4000)]
DietKeys = Annotated[tuple[Annotated[str, Field(max_length=60)], ...], Field(max_length=30)]
Id = Annotated[str, Field(pattern=r"^[0-9a-f]{16}$")]
Standing = Literal["untested", "made", "proven"]
PROVEN = 2  # good so often


class NewVersion(BaseModel):
    """A version to be saved: what is in it, where it came from, for whom, and a note. `id` may be chosen by whoever saves, so
    that a save sent twice is saved once."""

    model_config = ConfigDict(frozen=True, extra="forbid")  # a request is checked by it: built at once

    batter: Batter
    id: Id | None = None
    parent: Annotated[str | None, Field(max_length=40)] = None
    diets: DietKeys = ()
    note: Note = ""


class Version(BaseModel):
    """A saved version. `number` counts within its batter; `saved` is UTC, ISO 8601."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    id: Annotated[str, Field(max_length=40)]
    batter_id: Annotated[str, Field(max_length=40)]
    name: str
    number: Annotated[int, Field(ge=1, le=1_000_000)]
    parent: Annotated[str | None, Field(max_length=40)]
    diets: DietKeys
    note: Note
    saved: Annotated[str, Field(max_length=40)]
    batter: Batter


class Made(BaseModel):
    """One time a version was made: when (UTC), whether it came out good, and a word on it."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    id: Annotated[str, Field(max_length=40)]
    version_id: Annotated[str, Field(max_length=40)]
    at: Annotated[str, Field(max_length=40)]
    good: bool
    note: str


class VersionLine(BaseModel):
    """A version in a list, without its lines."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    id: str
    number: int
    parent: str | None
    diets: tuple[str, ...]
    note: str
    saved: str
    standing: Standing = "untested"
    made: int = 0
    last_made: str = ""
    stars: int | None = None


class BatterEntry(BaseModel):
    """A batter in the Book, with its versions from the first to the last; `archived` where it is put away (UTC)."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    id: str
    name: str
    form: str
    archived: str | None = None
    versions: tuple[VersionLine, ...]


class BatterSheet(BaseModel):
    """A batter with everything: its versions with their lines, and every time one was made."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    id: Annotated[str, Field(min_length=1, max_length=40)]
    name: Name
    form: FormKey
    archived: Annotated[str | None, Field(max_length=40)]
    created: Annotated[str, Field(max_length=40)] = ""
    versions: Annotated[tuple[Version, ...], Field(min_length=1, max_length=10_000)]
    made: tuple[Made, ...]

    @model_validator(mode="after")
    def _is_a_family(self) -> "BatterSheet":
        ids = {v.id for v in self.versions}
        if len(ids) < len(self.versions) or len({v.number for v in self.versions}) < len(self.versions):
            raise ValueError("two versions of one number or id")
        for v in self.versions:
            if v.parent is not None and v.parent not in ids:
                raise ValueError("a version out of another family")
        if any(m.version_id not in ids for m in self.made):
            raise ValueError("a making of a version that is not there")
        if len(self.from_the_first()) < len(self.versions):
            raise ValueError("versions that descend from themselves")
        return self

    def from_the_first(self) -> tuple[Version, ...]:
        """Its versions, each after its parent."""
        children: dict[str | None, list[Version]] = {}
        for v in sorted(self.versions, key=lambda v: v.number):
            children.setdefault(v.parent, []).append(v)
        found: list[Version] = []
        open_ = list(reversed(children.get(None, [])))
        while open_:
            v = open_.pop()
            found.append(v)
            open_ += reversed(children.get(v.id, []))
        return tuple(found)


def standing_of(made: Sequence[bool]) -> Standing:
    """untested, made, or proven: good twice and more.

    >>> standing_of([]), standing_of([True, False]), standing_of([True, False, True])
    ('untested', 'made', 'proven')
    """
    if not made:
        return "untested"
    return "proven" if sum(made) >= PROVEN else "made"
