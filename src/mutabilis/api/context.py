"""What every router needs: the facts as this kitchen knows them, the store, and the kitchen's profile; and errors in plain words."""

import threading
from collections.abc import Mapping
from dataclasses import replace
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

from fastapi import Depends, HTTPException, Request
from pydantic import BaseModel, ConfigDict

from mutabilis.core.adapt.own_packs import usages_for
from mutabilis.core.batter.batter import Batter
from mutabilis.core.diets.packs import PackReading, standing
from mutabilis.core.errors import NotKnown
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.ingredients import Ingredient
from mutabilis.core.food.larder import Item, prices, with_items
from mutabilis.core.food.learning import BagDoubt, Normal, known, with_new_bags, with_thirst
from mutabilis.core.food.pack_labels import Label, infer
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.measures.profile import Profile
from mutabilis.core.recent import Recent
from mutabilis.store.book import Book
from mutabilis.store.database import Database
from mutabilis.store.diet_files import OwnDiets
from mutabilis.store.drafts import Drafts, Settings
from mutabilis.store.dry_mixes import DryMixes
from mutabilis.store.journal import Journal
from mutabilis.store.larder import Larder
from mutabilis.store.mornings import Mornings
from mutabilis.store.photos import Photos
from mutabilis.store.stove import Stove
from mutabilis.store.words import KitchenWords

from .clock import Clock
from .hub import Hub
from .planner import Planner

if TYPE_CHECKING:
    from .morning_offers import Kitchen

Learned = dict[str, dict[str, Normal]]
Made = tuple[tuple[int, int, int], AllFacts, dict[str, Item], dict[str, PackReading], Learned]


class Context:
    """One application's facts and store. The shipped facts, the kitchen's files, its own packs, cups, thirst and diets come
    together here, and are put together anew only when one of them was written."""

    def __init__(
        self, facts: AllFacts, database: Database, readings: Mapping[str, PackReading] | None = None, profile: Profile | None = None
    ) -> None:
        self.database = database
        self.book = Book(database)
        self.drafts = Drafts(database)
        self.settings = Settings(database, profile or Profile())
        self.larder = Larder(database)
        self.stove = Stove(database)
        self.words = KitchenWords(database)
        self.dry_mixes = DryMixes(database)
        self.mornings = Mornings(database)
        self.journal = Journal(database)
        self.photos = Photos(database)
        self.planner = Planner()
        self.clock = Clock(self.stove.latest())
        self.recent = Recent()
        self.hub = Hub(facts.stove.scale, self.stove.device("scale"))
        self.own_diets = OwnDiets(Path(database.path).parent / "diets")
        self._shipped, self._file_readings = facts, dict(readings or {})
        self._lock = threading.RLock()
        self._packed: tuple[tuple[tuple[Label, ...], tuple[Label, ...]], AllFacts] | None = None
        self._made: Made | None = None

    @cached_property
    def morning_kitchen(self) -> "Kitchen":
        """What this kitchen can make of a morning."""
        from .morning_offers import Kitchen

        return Kitchen(self)

    def anew(self) -> None:
        """Everything put together anew: the database was written by other hands."""
        self.larder.revision += 1
        self.stove.revision += 1

    def _now(self) -> Made:
        revision = (self.larder.revision, self.own_diets.revision, self.stove.revision)
        made = self._made
        if made is None or made[0] != revision:
            with self._lock:
                made = self._made = self._put_together(revision)
        return made

    def _put_together(self, revision: tuple[int, int, int]) -> Made:
        items = self.larder.items()
        packs = (tuple(self.larder.packs()), tuple(self.larder.packs(archived=True)))
        if self._packed is None or self._packed[0] != packs:
            self._packed = packs, self._with_packs(*packs)
        facts = self._packed[1]
        lessons = self.stove.lessons()
        learned: Learned = {kind: known(lessons, kind) for kind in ("absorption", "piece_offset", "pace", "fill")}
        bag = BagDoubt(**facts.stove.bag.model_dump())
        in_use = {i: pack.words for i, item in items.items() if (pack := item.in_use) is not None}
        learned["absorption"] = with_new_bags(learned["absorption"], lessons, in_use, facts.ingredients, bag)
        by_hand = (item.ingredient for item in items.values() if item.absorption is not None)
        facts = facts.with_weights(with_thirst(facts.ingredients, learned["absorption"], by_hand))
        facts = self.own_diets.over(facts.with_weights(with_items(facts.ingredients, items.values())))
        facts = replace(facts, surfaces=self._surfaces())
        products = {item.ingredient: item.pack for item in items.values() if item.pack}
        readings = {**self._file_readings, **standing((kept.reading for kept in self.larder.readings()), products)}
        return revision, facts, items, readings, learned

    def _surfaces(self) -> tuple[Surface, ...]:
        """The kitchen's surfaces: its own, and the shipped ones that it has neither changed nor put away."""
        own, away = self.stove.surfaces()
        mine = {s.id for s in own} | away
        return (*own, *(s for s in self._shipped.surfaces if s.id not in mine))

    def packs(self) -> tuple[tuple[Label, ...], tuple[Label, ...]]:
        """The kitchen's own packs: those in use, and those put away."""
        self._now()
        assert self._packed is not None
        return self._packed[0]

    def _with_packs(self, packs: tuple[Label, ...], away: tuple[Label, ...]) -> AllFacts:
        if not packs and not away:
            return self._shipped
        # A pack that was put away is no longer offered, but a version that holds it can still be read.
        usages = [u for label in packs for u in usages_for(label, self._shipped.craft)]
        return self._shipped.with_own((infer(label)[0] for label in (*packs, *away)), (), usages)

    @property
    def facts(self) -> AllFacts:
        """The facts as this kitchen knows them."""
        return self._now()[1]

    @property
    def items(self) -> dict[str, Item]:
        """What the Larder knows, by ingredient."""
        return self._now()[2]

    @property
    def readings(self) -> dict[str, PackReading]:
        """The pack readings that stand."""
        return self._now()[3]

    @property
    def learned(self) -> "Learned":
        """What this kitchen has learned, by kind and subject."""
        return self._now()[4]

    def shipped(self, id_: str) -> Ingredient:
        """An ingredient as the table (or its label) has it, before this kitchen's own weights."""
        return self._shipped.ingredients.get(id_) or self.facts.ingredients[id_]

    def prices(self) -> dict[str, float]:
        """Prices per kilogram, by ingredient."""
        return prices(self.items.values())

    def pack_of(self, ingredient: str | None) -> str | None:
        """The pack of an ingredient that is in use, in words; None where the Larder names none."""
        item = self.items.get(ingredient or "")
        pack = item.in_use if item else None
        return (pack.words[:120] or None) if pack else None

    def in_stock(self) -> tuple[str, ...]:
        """What is in; water always is."""
        return (*sorted(k for k, item in self.items.items() if item.is_in), "water")

    def larder_kept(self) -> tuple[str, ...] | None:
        """What is in, where the Larder is kept; None where nobody has said of anything that it is."""
        return self.in_stock() if any(item.stock_g is not None for item in self.items.values()) else None

    def profile(self) -> Profile:
        """The kitchen's profile as it stands."""
        return self.settings.profile()

    def check(self, batter: Batter) -> Batter:
        """The batter, if every ingredient in it is known; else 422 naming the line."""
        known = self.facts.ingredients
        for at, line in enumerate(batter.lines):
            for id_ in (line.ingredient, line.alternative, *line.also, *line.maybe, *_named_in(line.heard)):
                if id_ is not None and id_ not in known:
                    raise HTTPException(422, f"line {at + 1}: no ingredient “{id_[:60]}”")
        return batter

    def check_diets(self, keys: tuple[str, ...]) -> None:
        """422 where a diet is not known."""
        for key in keys:
            if key not in self.facts.diets:
                raise HTTPException(422, f"no diet “{key[:60]}”")

    def check_ingredient(self, id_: str) -> str:
        """404 where an ingredient is not known."""
        if id_ not in self.facts.ingredients:
            raise NotKnown(id_)
        return id_


def _named_in(heard: tuple[str, ...]) -> tuple[str, ...]:
    """Foods that a line names only as traces."""
    return tuple(token.partition(":")[2] for token in heard if token.startswith("traces-of:"))


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
