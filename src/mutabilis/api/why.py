"""Why a batch comes out so while its bowl can still be saved, and what of the correction is done to it now."""

import hashlib
from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.book.versions import Id
from mutabilis.core.diagnosis.diagnose import Diagnosis, diagnose
from mutabilis.core.diagnosis.rescue import Rescue, rescue
from mutabilis.core.errors import CannotBe
from mutabilis.core.journal.entry import record_of
from mutabilis.core.stove.events import Event, HeatSet, Retargeted, SurfaceChosen, Went
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.data import load_diagnosis

from .context import PROBLEMS, Context, Here
from .journal import BatchId, measured_by, need_faults, open_days, priors
from .log import read_log
from .stove import happened
from .stove_views import BatchView, batch_view, guided
from .views import as_answer
from .wording import in_kitchen

router = APIRouter(prefix="/api/journal", responses=PROBLEMS, tags=["journal"])


class AskedWhy(BaseModel):
    """The faults that are seen while a batch is still made, and the answers to what was asked so far."""

    model_config = ConfigDict(extra="forbid")

    faults: Annotated[tuple[Annotated[str, Field(max_length=60)], ...], Field(min_length=1, max_length=24)]
    answers: Annotated[dict[str, Annotated[str, Field(max_length=120)]], Field(max_length=40)] = {}


class DoNow(AskedWhy):
    """The cause whose correction is done to the bowl now; the id so that it is done once."""

    id: Id
    cause: Annotated[str, Field(max_length=60)]


@dataclass(frozen=True, slots=True, kw_only=True)
class WhyNow:
    """The diagnosis of a batch under way, and for each of its causes what can be done about it now."""

    diagnosis: Diagnosis
    rescues: tuple[Rescue, ...]


@router.post("/batches/{batch_id}/why")
def why_now(batch_id: BatchId, asked: AskedWhy, here: Here) -> WhyNow:
    """Why a batch comes out so, from what happened to it so far, and what can be done now. Nothing is kept."""
    return in_kitchen(_why(guided(here.stove.batch(batch_id), here), asked, here), here.profile())


@router.post("/batches/{batch_id}/do", response_model=BatchView)
def do_now(batch_id: BatchId, done: DoNow, here: Here) -> Response:
    """Do to the bowl in hand what its diagnosis says: more of a line, another heat, a smaller scoop. Undone like any other step."""
    g = guided(here.stove.batch(batch_id), here)
    if any(e.id == done.id for e in g.batch.events):  # sent twice, done once
        return as_answer(batch_view(g, here), here.profile())
    if g.state.finished is not None:
        raise CannotBe("this batch is finished: take the change along to the next one")
    found = _why(g, done, here)
    at = next((n for n, s in enumerate(found.diagnosis.causes) if s.cause == done.cause), None)
    if at is None:
        raise CannotBe("this is no longer among the causes")
    batch = happened(batch_id, _events(done, found, at, g), here)
    return as_answer(batch_view(guided(batch, here), here), here.profile())


def _events(done: DoNow, found: WhyNow, at: int, g: Guide) -> list[Event]:
    mend, cause, now = found.rescues[at], found.diagnosis.causes[at], g.now
    if mend.does == "add":
        follows = hashlib.sha256(f"weigh {done.id}".encode()).hexdigest()[:16]
        why = f"{cause.name}: {mend.words}"
        return [
            Retargeted(id=done.id, at=now, targets=mend.targets, why=why[:4000]),
            Went(id=follows, at=now, stage="weigh", because=done.id),
        ]
    chosen = g.state.chosen
    if mend.does == "heat" and mend.celsius is not None:
        return [HeatSet(id=done.id, at=now, celsius=mend.celsius)]
    if mend.does == "portion" and mend.portion_ml is not None and chosen is not None:
        lies = g.piece(chosen.surface, mend.portion_ml, chosen.grease)
        return [
            SurfaceChosen(
                id=done.id, at=now, surface=chosen.surface, celsius=chosen.celsius, grease=chosen.grease, fat=chosen.fat, portion_ml=mend.portion_ml, per_load=max(1, lies.per_load)
            )
        ]  # fmt: skip
    raise CannotBe(mend.words.rstrip("."))


def _why(g: Guide, asked: AskedWhy, here: Context) -> WhyNow:
    need_faults(asked.faults)
    batch = g.batch
    reference, _, proven = measured_by(batch, here, here.journal.frozen(batch.id))
    record = record_of(batch, reference, proven, here.facts, open_days(batch, here), asked.faults, None, asked.answers, under_way=True)
    if record is None:
        raise CannotBe("no fault was named")
    found = diagnose(record, here.facts, here.profile(), load_diagnosis(), priors(read_log(here)))
    return WhyNow(diagnosis=found, rescues=tuple(rescue(s.correction, g) for s in found.causes))
