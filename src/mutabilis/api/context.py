"""What every router needs: facts, the store, and the kitchen's profile; and the errors in plain words."""

from collections.abc import Mapping
from typing import Annotated

from fastapi import Depends, HTTPException, Request
from pydantic import BaseModel, ConfigDict

from mutabilis.core.batter import Batter
from mutabilis.core.diets import PackReading
from mutabilis.core.facts import Facts
from mutabilis.core.quantities.units import Profile
from mutabilis.store.book import Book
from mutabilis.store.database import Database
from mutabilis.store.drafts import Drafts, Settings


class Context:
    """One application's facts and store."""

    def __init__(self, facts: Facts, database: Database, readings: Mapping[str, PackReading] | None = None) -> None:
        self.readings = dict(readings or {})
        self.facts = facts
        self.database = database
        self.book = Book(database)
        self.drafts = Drafts(database)
        self.settings = Settings(database)

    def profile(self) -> Profile:
        """The kitchen's profile as it stands."""
        return self.settings.profile()

    def check(self, batter: Batter) -> Batter:
        """The batter, if every ingredient in it is known; else 422 naming the line."""
        for at, line in enumerate(batter.lines):
            for id_ in (line.ingredient, line.alternative):
                if id_ is not None and id_ not in self.facts.ingredients:
                    raise HTTPException(422, f"line {at + 1}: no ingredient “{id_[:60]}”")
        return batter

    def check_diets(self, keys: tuple[str, ...]) -> None:
        """422 where a diet is not known."""
        for key in keys:
            if key not in self.facts.diets:
                raise HTTPException(422, f"no diet “{key[:60]}”")


def _context(request: Request) -> Context:
    context: Context = request.app.state.context
    return context


Here = Annotated[Context, Depends(_context)]


class Problem(BaseModel):
    """An error as the front end gets it: what happened, in plain words, and where."""

    model_config = ConfigDict(frozen=True)

    error: str
    field: str | None = None


PROBLEMS: dict[int | str, dict[str, object]] = {
    400: {"model": Problem, "description": "The request could not be read."},
    404: {"model": Problem, "description": "There is no such thing."},
    413: {"model": Problem, "description": "Larger than a batter can be."},
    422: {"model": Problem, "description": "An amount or a name cannot be used; nothing was changed."},
    503: {"model": Problem, "description": "The book cannot be used just now; nothing was changed."},
}
