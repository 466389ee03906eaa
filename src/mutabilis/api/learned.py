"""What this kitchen has learned at the stove: read, forgotten, and remembered again."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.food.learning import Kind
from mutabilis.core.journal.learned import Belief, learned

from .context import PROBLEMS, Context, Here
from .wording import in_kitchen

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["journal"])


class Forget(BaseModel):
    """What is to be forgotten, or with `back` to stand again."""

    model_config = ConfigDict(extra="forbid")

    kind: Kind
    subject: Annotated[str, Field(max_length=80)]
    back: bool = False


@router.get("/learned")
def all_learned(here: Here) -> tuple[Belief, ...]:
    """Everything that was learned and stands, with what each batch told."""
    return tuple(in_kitchen(x, here.profile()) for x in _learned(here))


@router.post("/learned/forget")
def forget(what: Forget, here: Here) -> tuple[Belief, ...]:
    """Forget what was learned of a subject, or let it stand again."""
    here.stove.forget(what.kind, what.subject, what.back)
    return all_learned(here)


def _learned(here: Context) -> tuple[Belief, ...]:
    lessons = here.stove.lessons()
    names = {i: x.short for i, x in here.facts.ingredients.items()} | {s.id: s.name for s in here.facts.surfaces}
    shipped = {x.subject: here.shipped(x.subject) for x in lessons if x.subject in here.facts.ingredients}
    return learned(lessons, here.learned, names, shipped)
