"""Bags of dry mix: what would go into one, the bags on the shelf, and their labels."""

from datetime import date, timedelta
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.book.versions import Id, Version
from mutabilis.core.errors import CannotBe
from mutabilis.core.process.dry_mix import DryMix, dry_mix, label, made_ahead
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
    mix, by, words = _mix(version, here)
    return MixView(mix=mix, times=times, made_g=mix.grams * times, use_by=by.isoformat(), label=words)


@router.post("/dry-mixes")
def make(new: NewMix, here: Here) -> BagView:
    """Keep a bag that was made."""
    version = here.book.version(new.version)
    mix, by, words = _mix(version, here)
    if mix.grams * new.times > MOST_G:
        raise CannotBe("that is more than a kitchen's bag holds")
    bag = Bag(
        name=version.name, batter=version.batter, batch_g=mix.grams, made_g=mix.grams * new.times, label=words, packs=_packs(mix, here)
    )
    return _view(here.dry_mixes.make(new.id, version.id, bag, by), here)


@router.get("/dry-mixes")
def shelf(here: Here, away: bool = False) -> tuple[BagView, ...]:
    """The bags on the shelf, the one to be used first at the top."""
    return tuple(_view(x, here) for x in here.dry_mixes.all(away))


@router.patch("/dry-mixes/{mix_id}")
def change(mix_id: str, changed: ChangedMix, here: Here) -> BagView:
    """Correct what is left of a bag, or put it away."""
    return _view(here.dry_mixes.change(mix_id, changed.left_g, changed.away), here)


@router.get("/dry-mixes/{mix_id}/label.pdf")
def label_sheet(mix_id: str, here: Here, paper: Literal["a4", "letter"] = "a4") -> Response:
    """The label of a bag."""
    return Response(label_pdf.write((here.dry_mixes.one(mix_id).bag.label,), paper), media_type="application/pdf")


def _mix(version: Version, here: Context) -> tuple[DryMix, date, tuple[str, ...]]:
    """The mix of a version, its last day and its label if it is made today."""
    a = analyse(here.check(version.batter), here.facts, here.profile(), {}, here.readings)
    mix = made_ahead(a, here.facts, here.profile())
    today = _today(here)
    by = today + timedelta(days=mix.days)
    return mix, by, label(version.name, mix, a, today.isoformat(), by.isoformat(), here.facts, here.profile())


def _packs(mix: DryMix, here: Context) -> dict[str, str]:
    """The packs in use of what goes into a bag, where the Larder names one."""
    return {x.ingredient: pack for x in mix.inside if (pack := here.pack_of(x.ingredient))}


def _today(here: Context) -> date:
    return date.fromtimestamp(here.clock.now())


def _view(x: KeptBag, here: Context) -> BagView:
    a = analyse(x.bag.batter, here.facts, here.profile(), {}, here.readings)
    mix = dry_mix(a, here.facts, here.profile())
    return BagView(
        kept=x, batches=x.left_g / x.bag.batch_g, past=x.use_by < _today(here).isoformat(), add_words=mix.add_words if mix else ""
    )
