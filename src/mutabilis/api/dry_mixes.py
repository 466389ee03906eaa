"""Bags of dry mix: what would go into one, the bags on the shelf, and their labels."""

from datetime import date
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.analysis.analysis import Analysis, analyse
from mutabilis.core.book.versions import Id, Version
from mutabilis.core.diets.allergens import in_words
from mutabilis.core.errors import CannotBe
from mutabilis.core.food.kitchen_measures import measure
from mutabilis.core.process.dry_mix import DryMix, dry_mix
from mutabilis.core.process.sorting import sort_lines
from mutabilis.formats import label_pdf
from mutabilis.store.dry_mixes import Bag, KeptBag

from .context import PROBLEMS, Context, Here

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["larder"])
MOST_G = 200_000.0


class MixView(BaseModel):
    """What would go into a bag for so many batches: the mix itself, for one batch, its label, and until which day it keeps."""

    mix: DryMix
    times: float
    made_g: float
    use_by: str
    label: tuple[str, ...]


class NewMix(BaseModel):
    """A bag that was made, of a version, for so many batches. The id may be chosen by whoever made it, so that it counts once."""

    model_config = ConfigDict(extra="forbid")

    version: Annotated[str, Field(max_length=40)]
    times: Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)] = 1.0
    id: Id | None = None


class ChangedMix(BaseModel):
    """What is left of a bag [g], or that it is put away or taken out again."""

    model_config = ConfigDict(extra="forbid")

    left_g: Annotated[float | None, Field(ge=0, le=1_000_000, allow_inf_nan=False)] = None
    away: bool | None = None


class BagView(BaseModel):
    """A bag on the shelf: how many batches are left in it, whether its day has passed, and what is added to the mix for one batch."""

    kept: KeptBag
    batches: float
    past: bool
    add_words: str


@router.get("/versions/{version_id}/dry-mix")
def preview(version_id: str, here: Here, times: Annotated[float, Query(gt=0, le=500)] = 1.0) -> MixView:
    """What would go into a bag of a version, for so many batches. CannotBe where nothing in it can be mixed ahead."""
    version = here.book.version(version_id)
    mix, a = _mix(version, here)
    by = _use_by(mix.days, here)
    return MixView(mix=mix, times=times, made_g=mix.grams * times, use_by=by.isoformat(), label=_label(version.name, mix, a, by, here))


@router.post("/dry-mixes")
def make(new: NewMix, here: Here) -> BagView:
    """Keep a bag that was made."""
    version = here.book.version(new.version)
    mix, a = _mix(version, here)
    if mix.grams * new.times > MOST_G:
        raise CannotBe("that is more than a kitchen's bag holds")
    today = _today(here)
    bag = Bag(
        name=version.name, batter=version.batter, batch_g=mix.grams, made_g=mix.grams * new.times, label=_label(version.name, mix, a, _use_by(mix.days, here), here)
    )  # fmt: skip
    return _view(here.dry_mixes.make(new.id, version.id, bag, mix.days, today), here)


@router.get("/dry-mixes")
def shelf(here: Here, away: bool = False) -> tuple[BagView, ...]:
    """The bags on the shelf, the one to be used first at the top."""
    return tuple(_view(x, here) for x in here.dry_mixes.all(away))


@router.patch("/dry-mixes/{mix_id}")
def change(mix_id: str, changed: ChangedMix, here: Here) -> BagView:
    """Correct what is left of a bag, or put it away."""
    return _view(here.dry_mixes.change(mix_id, changed.left_g, changed.away), here)


@router.get("/dry-mixes/{mix_id}/label.pdf")
def label(mix_id: str, here: Here, paper: Literal["a4", "letter"] = "a4") -> Response:
    """The label of a bag."""
    return Response(label_pdf.write((here.dry_mixes.one(mix_id).bag.label,), paper), media_type="application/pdf")


def _mix(version: Version, here: Context) -> tuple[DryMix, Analysis]:
    a = analyse(here.check(version.batter), here.facts, here.profile(), {}, here.readings)
    mix = dry_mix(a, here.facts, here.profile())
    if mix is None:
        raise CannotBe("nothing in this batter can be mixed ahead: it has less than two dry things")
    return mix, a


def _label(name: str, mix: DryMix, a: Analysis, by: date, here: Context) -> tuple[str, ...]:
    """What stands on the bag. Its allergens are those of the whole batter: whoever eats of it eats all of it."""
    contains, may = (", ".join(map(in_words, x)) for x in (a.contains, a.may_contain))
    bag = {x.line for x in mix.inside}
    inside = [
        f"{measure(x.i, x.grams, here.profile()) or f'{x.grams:.0f} g'} {x.i.short}" for x in sort_lines(a, here.facts) if x.at in bag
    ]
    return (
        f"{name}: dry mix", f"Made {_today(here).isoformat()} · use by {by.isoformat()}", f"For one batch: {mix.grams:.0f} g. {mix.add_words}",
        f"In {mix.grams:.0f} g: {', '.join(inside)}", f"Contains, made up: {contains or 'none of the listed allergens that is known'}",
        *((f"May contain: {may}",) if may else ()), mix.store_words,
    )  # fmt: skip


def _today(here: Context) -> date:
    return date.fromtimestamp(here.clock.now())


def _use_by(days: int, here: Context) -> date:
    return date.fromordinal(_today(here).toordinal() + days)


def _view(x: KeptBag, here: Context) -> BagView:
    a = analyse(x.bag.batter, here.facts, here.profile(), {}, here.readings)
    mix = dry_mix(a, here.facts, here.profile())
    return BagView(
        kept=x, batches=x.left_g / x.bag.batch_g, past=x.use_by < _today(here).isoformat(), add_words=mix.add_words if mix else ""
    )
