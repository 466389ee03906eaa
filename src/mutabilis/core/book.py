"""What the Book keeps: batters, and their versions, which never change once saved."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from .batter import Batter

Name = Annotated[str, Field(min_length=1, max_length=120)]
Note = Annotated[str, Field(max_length=4000)]
DietKeys = Annotated[tuple[Annotated[str, Field(max_length=60)], ...], Field(max_length=30)]


class NewVersion(BaseModel):
    """A version to be saved: what is in it, where it came from, for whom, and a note."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    batter: Batter
    parent: Annotated[str | None, Field(max_length=40)] = None
    diets: DietKeys = ()
    note: Note = ""


class Version(BaseModel):
    """A saved version. `number` counts within its batter; `saved` is UTC, ISO 8601."""

    model_config = ConfigDict(frozen=True)

    id: str
    batter_id: str
    name: str
    number: int
    parent: str | None
    diets: tuple[str, ...]
    note: str
    saved: str
    batter: Batter


class VersionLine(BaseModel):
    """A version in a list, without its lines."""

    model_config = ConfigDict(frozen=True)

    id: str
    number: int
    parent: str | None
    diets: tuple[str, ...]
    note: str
    saved: str


class BatterEntry(BaseModel):
    """A batter in the Book, with its versions from the first to the last."""

    model_config = ConfigDict(frozen=True)

    id: str
    name: str
    form: str
    versions: tuple[VersionLine, ...]
