"""The Larder: ingredients and what they do, own packs, what was read on packs, own diets, and the kitchen's profile."""

import re
from collections.abc import Container
from itertools import chain, count
from typing import Annotated, Literal

from fastapi import APIRouter, HTTPException, Query
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.diets.pack_questions import answered
from mutabilis.core.diets.packs import PackReading
from mutabilis.core.diets.rules import DietRule
from mutabilis.core.diets.verdicts import Verdict
from mutabilis.core.food.functions import Does, does
from mutabilis.core.food.ingredients import GROUPS, Ingredient
from mutabilis.core.food.kitchen_measures import one_of
from mutabilis.core.food.larder import Item
from mutabilis.core.food.learning import Lesson
from mutabilis.core.food.pack_labels import Label, infer
from mutabilis.core.measures.profile import Profile
from mutabilis.store.larder import KeptReading

from .context import PROBLEMS, Context, Here

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["larder"])


class Shelved(BaseModel):
    """An ingredient in the list: what it does, how much is in, and whether it is the kitchen's own."""

    id: str
    name: str
    group: str  # in words
    does: tuple[Does, ...]
    allergens: tuple[str, ...]
    stock_g: float | None
    price_per_kg: float | None
    own: bool
    read: bool


class Pantry(BaseModel):
    """A part of the list, how many there are in all, and the groups to choose from, in words by key."""

    items: tuple[Shelved, ...]
    total: int
    groups: dict[str, str]


class Between(BaseModel):
    """From where to where."""

    low: float
    high: float


class Weighs(BaseModel):
    """What a cup or spoon of this kitchen holds [g]: as it is counted, and as the table or the label has it; whether it was weighed here."""

    measure: Literal["cup", "tbsp", "tsp"]
    counted_g: float
    given_g: float
    weighed: bool


class Known(BaseModel):
    """All that is known of an ingredient, shipped and of this kitchen: the table's own weights and thirst beside the kitchen's."""

    ingredient: Ingredient
    group: str  # in words
    does: tuple[Does, ...]
    item: Item
    weighs: tuple[Weighs, ...]
    table_absorption: float
    learned: Lesson | None
    label: Label | None
    absorption_range: Between | None
    readings: tuple[KeptReading, ...]
    standing: str | None


class Inferred(BaseModel):
    """What a label lets one infer, before it is kept."""

    ingredient: Ingredient
    does: tuple[Does, ...]
    absorption: float
    absorption_range: Between


class LabelEntry(BaseModel):
    """A label as it is typed in; the id follows from the name."""

    model_config = ConfigDict(extra="forbid")

    id: Annotated[str | None, Field(max_length=60)] = None
    name: Annotated[str, Field(min_length=1, max_length=120)]
    kind: Literal["flour", "drink", "spread", "powder"]
    kcal: float
    fat_g: float
    saturates_g: float
    carbohydrate_g: float
    sugars_g: float
    fibre_g: float
    protein_g: float
    salt_g: float
    basis: Literal["carb_without_fibre", "carb_with_fibre"] = "carb_without_fibre"
    contains: tuple[Annotated[str, Field(max_length=40)], ...] = ()
    may_contain: tuple[Annotated[str, Field(max_length=40)], ...] = ()
    vegan: bool | None = None
    certified_gluten_free: bool = False
    added_sugar: bool | None = None
    cup_g: float | None = None
    cup_ml: float | None = None
    absorption: float | None = None

    def label(self, cup_ml: float, taken: Container[str] = ()) -> Label:
        """The label itself, under an id that is not taken, its cup that of the kitchen [mL] where it does not say of which;
        ValueError where the numbers cannot be."""
        slug = f"own_{re.sub(r'[^a-z0-9]+', '_', self.name.lower()).strip('_')[:50] or 'pack'}"
        fresh = next(x for x in chain((slug,), (f"{slug}_{n}" for n in count(2))) if x not in taken)
        size = None if self.cup_g is None else self.cup_ml or cup_ml
        return Label.model_validate({**self.model_dump(), "id": self.id or fresh, "cup_ml": size})


class NewReading(BaseModel):
    """What someone read on a pack."""

    model_config = ConfigDict(extra="forbid")

    reading: PackReading


class DietSheet(BaseModel):
    """A diet with its rules, and whether it is the kitchen's own."""

    rule: DietRule
    own: bool


class DietEntry(BaseModel):
    """A diet as it is put together on screen: allow, deny by ingredient, group, allergen or animal, limits per serving."""

    model_config = ConfigDict(extra="forbid")

    rule: DietRule


class Tried(BaseModel):
    """A diet tried on a batter of the Book: the verdict on its latest version, and the first reason."""

    batter_id: str
    name: str
    verdict: Verdict
    reason: str


def _between(spread: tuple[float, float]) -> Between:
    return Between(low=spread[0], high=spread[1])


@router.get("/larder")
def pantry(
    here: Here,
    q: Annotated[str, Query(max_length=200)] = "",
    group: Annotated[str, Query(max_length=60)] = "",
    which: Literal["all", "in", "own"] = "all",
    offset: Annotated[int, Query(ge=0, le=100_000)] = 0,
    limit: Annotated[int, Query(ge=1, le=200)] = 60,
) -> Pantry:
    """Ingredients by search and filter; what is in comes first where nothing is searched for."""
    facts, items = here.facts, here.items
    own, away = ({label.id for label in some} for some in here.packs())
    if q.strip():
        ids = facts.names.search(q, 5000)
    else:
        ids = sorted(facts.ingredients, key=lambda k: (not (k in items and items[k].is_in), facts.ingredients[k].name.lower()))
    ids = [k for k in ids if k not in away and (not group or facts.ingredients[k].group == group)]
    if which == "in":
        ids = [k for k in ids if k in items and items[k].is_in]
    elif which == "own":
        ids = [k for k in ids if k in own]
    page = tuple(_shelved(facts.ingredients[k], items.get(k), k in own, k in here.readings) for k in ids[offset : offset + limit])
    return Pantry(items=page, total=len(ids), groups=GROUPS)


def _shelved(i: Ingredient, item: Item | None, own: bool, read: bool) -> Shelved:
    return Shelved(
        id=i.id, name=i.name, group=GROUPS[i.group], does=does(i), allergens=i.allergens, stock_g=item.stock_g if item else None,
        price_per_kg=item.price_per_kg if item else None, own=own, read=read,
    )  # fmt: skip


@router.get("/names")
def names(here: Here) -> dict[str, str]:
    """What every ingredient is called, by its key; packs that were put away with them, since what was made of them is still told."""
    return {key: i.name for key, i in here.facts.ingredients.items()}


@router.get("/larder/{id_}")
def known(id_: str, here: Here) -> Known:
    """All that is known of one ingredient."""
    i = here.facts.ingredients[here.check_ingredient(id_)]
    table, item = here.shipped(id_), here.items.get(id_, Item(ingredient=id_))
    label = next((x for some in here.packs() for x in some if x.id == id_), None)
    standing = here.readings.get(id_)
    return Known(
        ingredient=i, group=GROUPS[i.group], does=does(i), item=item, weighs=_weighs(i, table, item, here.profile()), table_absorption=table.absorption_g_per_g,
        learned=next((x for x in reversed(here.stove.lessons()) if x.kind == "absorption" and x.subject == id_), None),
        label=label, absorption_range=_between(infer(label)[1]) if label else None, readings=tuple(r for r in here.larder.readings() if r.reading.ingredient == id_),
        standing=f"{standing.pack}, read by {standing.by} on {standing.on}" if standing else None,
    )  # fmt: skip


def _weighs(i: Ingredient, given: Ingredient, item: Item, profile: Profile) -> tuple[Weighs, ...]:
    if not i.has_measures:
        return ()
    keys: tuple[Literal["cup", "tbsp", "tsp"], ...] = ("cup", "tbsp", "tsp")
    return tuple(
        Weighs(measure=k, counted_g=one_of(i, k, profile), given_g=one_of(given, k, profile), weighed=getattr(item, f"{k}_g") is not None)
        for k in keys
    )


@router.put("/larder/{id_}", status_code=204)
def keep_item(id_: str, item: Item, here: Here) -> None:
    """Keep what this kitchen knows of an ingredient; a weight is of the kitchen's own cup or spoon where it does not say of which."""
    if item.ingredient != here.check_ingredient(id_):
        raise HTTPException(422, "the item is of another ingredient")
    here.larder.put([item.weighed_with(here.profile())])


@router.post("/labels/infer")
def infer_label(entry: LabelEntry, here: Here) -> Inferred:
    """What a label lets one infer, before it is kept."""
    ingredient, spread = infer(_label(entry, here))
    return Inferred(
        ingredient=ingredient, does=does(ingredient), absorption=ingredient.absorption_g_per_g, absorption_range=_between(spread)
    )


@router.put("/labels", status_code=201)
def keep_label(entry: LabelEntry, here: Here) -> Label:
    """Keep an own pack. A shipped ingredient is never replaced by one."""
    label = _label(entry, here)
    packs, away = here.packs()
    if any(x.name.casefold() == label.name.casefold() and x.id != label.id for x in packs):
        raise HTTPException(422, f"There is an own pack called “{label.name}” already: open it to change it.")
    if label.id in here.facts.ingredients and not any(x.id == label.id for x in (*packs, *away)):
        raise HTTPException(422, f"“{label.name}” is a shipped ingredient: give yours another name.")
    here.larder.put_pack(label)
    return label


@router.delete("/labels/{id_}", status_code=204)
def archive_label(id_: str, here: Here, back: bool = False) -> None:
    """Put an own pack away, or take it out again; versions that hold it stay readable."""
    here.larder.archive_pack(id_, not back)


def _label(entry: LabelEntry, here: Context) -> Label:
    try:
        return entry.label(here.profile().cup_ml, here.facts.ingredients)
    except ValueError as error:
        first = error.errors()[0] if hasattr(error, "errors") else {"msg": str(error), "loc": ()}
        place = ".".join(str(p) for p in first["loc"])
        words = str(first["msg"]).removeprefix("Value error, ")
        raise HTTPException(422, f"This label cannot be: {f'{place}: ' if place else ''}{words}. Nothing was changed.") from error


@router.post("/readings", status_code=201)
def read_pack(new: NewReading, here: Here) -> KeptReading:
    """Keep what someone read on a pack; it stands for that pack until another one is in use."""
    here.check_ingredient(new.reading.ingredient)
    id_ = here.larder.add_reading(new.reading)
    item = here.items.get(new.reading.ingredient, Item(ingredient=new.reading.ingredient))
    if item.pack != new.reading.pack:
        here.larder.put([item.model_copy(update={"pack": new.reading.pack})])
    return KeptReading(id=id_, reading=new.reading)


class Answers(BaseModel):
    """What a pack says to the questions asked of it, in one touch: who read it, and when; the pack is the one in use."""

    model_config = ConfigDict(extra="forbid")

    ingredient: Annotated[str, Field(max_length=80)]
    by: Annotated[str, Field(min_length=1, max_length=80)]
    on: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
    says: Annotated[tuple[Annotated[str, Field(max_length=40)], ...], Field(min_length=1, max_length=30)]


@router.post("/readings/answers", status_code=201)
def answer_pack(new: Answers, here: Here) -> KeptReading:
    """Keep the answers of a pack to what was in question, and to nothing else."""
    i = here.facts.ingredients[here.check_ingredient(new.ingredient)]
    item = here.items.get(i.id, Item(ingredient=i.id))
    return read_pack(NewReading(reading=answered(i.id, new.says, item.pack or i.name[:120], new.by, new.on)), here)


@router.delete("/readings/{id_}", status_code=204)
def unread_pack(id_: str, here: Here, back: bool = False) -> None:
    """Take a reading back, or let it stand again."""
    here.larder.withdraw_reading(id_, back)


@router.get("/diets")
def diets(here: Here) -> tuple[DietSheet, ...]:
    """Every diet with its rules."""
    return tuple(DietSheet(rule=rule, own=here.own_diets.is_own(key)) for key, rule in here.facts.diets.items())


@router.post("/diets/try")
def try_diet(entry: DietEntry, here: Here) -> tuple[Tried, ...]:
    """A diet tried on the latest version of every batter of the Book (the first sixty), before it is saved."""
    facts = here.facts
    entries = here.book.entries(here.book.newest()[:60])
    versions = {v.batter_id: v for v in here.book.versions([e.versions[-1].id for e in entries if e.versions])}
    found = []
    for e in entries:
        if e.id in versions:
            a = analyse(versions[e.id].batter, facts, here.profile(), {entry.rule.key: entry.rule}, here.readings)
            judged = a.plate.diets[entry.rule.key]
            found.append(
                Tried(batter_id=e.id, name=e.name, verdict=judged.verdict, reason=judged.reasons[0].text if judged.reasons else "")
            )
    return tuple(found)


@router.put("/diets/{key}", status_code=204)
def keep_diet(key: str, entry: DietEntry, here: Here) -> None:
    """Save an own diet as its rule file."""
    if entry.rule.key != key:
        raise HTTPException(422, "the diet has another key")
    here.own_diets.put(entry.rule, here.facts)


@router.delete("/diets/{key}")
def archive_diet(key: str, here: Here) -> DietRule:
    """Put an own diet away; its file stays under another ending. The rule comes back, so that it can be saved again."""
    return here.own_diets.archive(key, here.facts)


@router.get("/profile")
def profile(here: Here) -> Profile:
    """The kitchen's profile."""
    return here.profile()


@router.put("/profile", status_code=204)
def keep_profile(new: Profile, here: Here) -> None:
    """Keep a profile."""
    here.settings.set_profile(new)
