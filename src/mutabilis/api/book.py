"""The Book: batters and their versions."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.book import BatterEntry, Name, NewVersion, Version

from .context import PROBLEMS, Here

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["book"])


class NewBatter(BaseModel):
    """A batter to be put in the Book, with its first version."""

    model_config = ConfigDict(extra="forbid")

    name: Name
    version: Annotated[NewVersion, Field()]


@router.get("/batters")
def batters(here: Here) -> tuple[BatterEntry, ...]:
    """All batters with their versions."""
    return here.book.entries()


@router.get("/versions/{version_id}")
def version(version_id: str, here: Here) -> Version:
    """One version with its lines."""
    return here.book.version(version_id)


@router.post("/batters", status_code=201)
def add(new: NewBatter, here: Here) -> Version:
    """Put a new batter in the Book."""
    here.check(new.version.batter)
    return here.book.add(new.name, new.version)


@router.post("/batters/{batter_id}/versions", status_code=201)
def save(batter_id: str, new: NewVersion, here: Here) -> Version:
    """Save a further version."""
    here.check(new.batter)
    return here.book.save(batter_id, new)
