"""The Journal: the log, and one batch as meant and as it happened: why it came out so, what is said of it since, what is taken along."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Literal, cast

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict, Field

from mutabilis import __version__
from mutabilis.core.batter.batter import Batter
from mutabilis.core.book.versions import NewVersion, Version
from mutabilis.core.diagnosis.diagnose import Diagnosis, diagnose
from mutabilis.core.errors import CannotBe
from mutabilis.core.journal.entry import Entry, entry, record_of
from mutabilis.core.journal.helped import Helped, helped
from mutabilis.core.journal.predicted import Predicted, predicted
from mutabilis.core.journal.reference import choose, corrected, in_the_size_of, reference_of
from mutabilis.core.journal.served import eaten_by
from mutabilis.core.journal.summary import packs_of
from mutabilis.core.journal.trials import Better, TrialState, state_of
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.guide.learn import GOOD_STARS
from mutabilis.data import load_diagnosis
from mutabilis.store.journal import Said, SaidOf
from mutabilis.store.photos import Kept

from .context import PROBLEMS, Context, Here
from .log import MOST, LogLine, Remembered, read_log
from .wording import in_kitchen

router = APIRouter(prefix="/api/journal", responses=PROBLEMS, tags=["journal"])
DAY = r"^(\d{4}-\d{2}-\d{2})?$"
SHOWN = 120  # lines of the log that are sent at first
BatchId = Annotated[str, Field(max_length=40)]


@dataclass(frozen=True, slots=True, kw_only=True)
class LogView:
    """The log, the latest first and at most so many; how many answer to what was asked, how many there are in all, who cooked, and the faults that
    can be told with their words."""

    batches: tuple[LogLine, ...]
    found: int
    total: int
    cooks: tuple[str, ...]
    faults: dict[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class EntryView:
    """One batch: its line in the log, meant and happened, what was said of it since, its diagnosis (None where it came out well), and what
    its reference is."""

    line: LogLine
    entry: Entry
    frozen: Predicted | None
    photos: tuple[Kept, ...]
    ate: str
    told: SaidOf
    helped: Helped | None
    trial: TrialState | None
    diagnosis: Diagnosis | None
    reference: str
    before: str | None
    after: str | None


class TakenAlong(BaseModel):
    """The cause whose correction is to be carried to the Bench as a new version; the id so that it is done once."""

    model_config = ConfigDict(extra="forbid")

    id: Annotated[str, Field(pattern=r"^[0-9a-f]{16}$")]
    cause: Annotated[str, Field(max_length=60)]


@router.get("")
def log(
    here: Here, q: Annotated[str, Query(max_length=80)] = "", fault: Annotated[str, Query(max_length=60)] = "",
    stars: Annotated[Literal["", "good", "not_good", "none"], Query()] = "", since: Annotated[str, Query(pattern=DAY)] = "", until: Annotated[str, Query(pattern=DAY)] = "",
    cook: Annotated[str, Query(max_length=60)] = "", limit: Annotated[int, Query(ge=1, le=MOST)] = SHOWN,
) -> LogView:  # fmt: skip
    """Finished batches: those whose name, guests, note, day or packs hold the words, that show the fault, that were rated so (four stars and
    more are good), that somebody made, and that were made from one day to another."""
    words, whole = q.casefold().split(), read_log(here)
    shown = [
        x.line for x in whole
        if (not fault or fault in x.line.faults) and _rated(x.line.stars, stars) and (not since or x.line.day >= since)
        and (not until or x.line.day <= until) and (not cook or x.line.cook == cook) and (not words or all(w in _sought(x) for w in words))
    ]  # fmt: skip
    cooks = tuple(sorted({x.line.cook for x in whole if x.line.cook}))
    return LogView(batches=tuple(shown[:limit]), found=len(shown), total=len(whole), cooks=cooks, faults=load_diagnosis().network.faults)


def _rated(stars: int | None, wanted: str) -> bool:
    """Whether a batch was rated so: `good` from four stars, `not_good` below, `none` not at all, anything where nothing is asked."""
    if wanted == "none":
        return stars is None
    return not wanted or (stars is not None and (stars >= GOOD_STARS) == (wanted == "good"))


def _sought(x: Remembered) -> str:
    packs = " ".join(dict.fromkeys(p.pack for p in x.summary.packs if p.pack))
    return f"{x.line.name} {x.line.whom} {x.ate} {x.line.cook} {x.line.note} {x.line.day} {packs}".casefold()


@router.get("/batches/{batch_id}")
def one(batch_id: BatchId, here: Here) -> EntryView:
    """A batch as it is read afterwards."""
    return in_kitchen(_entry(batch_id, here), here.profile())


@router.post("/batches/{batch_id}/said")
def say(batch_id: BatchId, said: Said, here: Here) -> EntryView:
    """Say something of a batch: its faults, an answer, a remark; or take the last of it back."""
    need_faults(said.faults)
    here.journal.say(batch_id, said)
    return in_kitchen(_entry(batch_id, here), here.profile())


def need_faults(faults: Sequence[str]) -> None:
    """CannotBe where one of the faults is none."""
    for fault in faults:
        if fault not in load_diagnosis().network.faults:
            raise CannotBe(f"there is no fault “{fault}”")


@router.post("/batches/{batch_id}/take")
def take(batch_id: BatchId, taken: TakenAlong, here: Here) -> Version:
    """Carry one correction to the Bench: a new version with that one change, and a note that says why."""
    view = _entry(batch_id, here)
    suspect = next((s for s in view.diagnosis.causes if s.cause == taken.cause), None) if view.diagnosis else None
    if suspect is None:
        raise CannotBe("this is no longer among the causes")
    batch = here.stove.batch(batch_id)
    version = here.book.version(batch.version_id)
    batter = corrected(version.batter, batch, suspect.correction, here.facts.ingredients)
    note = f"Next time: {suspect.correction.words} ({view.line.day}: {suspect.name}.)"
    made = here.book.save(version.batter_id, NewVersion(batter=batter, id=taken.id, parent=version.id, diets=version.diets, note=note))
    here.journal.say(batch_id, Said(id=f"taken-{taken.id}", kind="taken", cause=taken.cause, version=made.id))
    return made


def _entry(batch_id: str, here: Context) -> EntryView:
    whole = read_log(here)
    at = next((n for n, x in enumerate(whole) if x.line.id == batch_id), None)
    batch = here.stove.batch(batch_id)
    if at is None:
        raise CannotBe("this batch is not finished")
    mine = whole[at]
    frozen = here.journal.frozen(batch_id)
    reference, words, proven = measured_by(batch, here, frozen)
    record = record_of(batch, reference, proven, here.facts, open_days(batch, here), mine.told.faults, mine.told.when, mine.told.answers)
    found = diagnose(record, here.facts, here.profile(), load_diagnosis(), priors(whole)) if record is not None else None
    return EntryView(
        line=mine.line, entry=entry(batch, here.facts, here.profile(), frozen), frozen=frozen, photos=here.photos.of(batch_id), ate=eaten_by(mine.served), told=mine.told, helped=_helped(mine, whole), trial=_trial(mine.told),
        diagnosis=found, reference=words, before=whole[at + 1].line.id if at + 1 < len(whole) else None, after=whole[at - 1].line.id if at > 0 else None,
    )  # fmt: skip


def open_days(batch: Batch, here: Context) -> dict[str, float]:
    """How long the pack of each ingredient that went into a batch had been open, where its pack and that day are known."""
    on = datetime.fromtimestamp(batch.started).date()
    found: dict[str, float] = {}
    for used in packs_of(batch):
        pack = here.larder.pack_called(used.ingredient, used.pack) if used.pack else None
        if pack is not None and pack.opened and (days := (on - date.fromisoformat(pack.opened)).days) >= 0:
            found[used.ingredient] = float(days)
    return found


def _helped(mine: Remembered, whole: Sequence[Remembered]) -> Helped | None:
    """Whether what was taken along from a batch helped: its fault in the batches of its version until then, and in those of the version that was
    made of it."""
    line, told = mine.line, mine.told
    if told.taken is None or not line.faults:
        return None
    fault = line.faults[0]
    before = [x.line for x in whole if x.line.version_id == line.version_id and x.line.at <= line.at]
    since = [x.line for x in whole if x.line.version_id == told.taken.version and x.line.at > line.at]
    return helped(sum(fault in x.faults for x in before), len(before), sum(fault in x.faults for x in since), len(since))


def _trial(told: SaidOf) -> TrialState | None:
    if told.trial is None:
        return None
    one, other = told.trial.arms
    return state_of(told.trial.id, told.trial.text, (one, other), told.trial.pairs, [cast(Better, t.answer) for t in told.tried])


def freeze(batch: Batch, here: Context) -> None:
    """Keep what is reckoned of a batch as it begins, and what it will be measured by."""
    version, words, proven = choose(batch.version_id, here.book.sheet(batch.batter_id).versions, _good_before(batch, here))
    reckoned = predicted(
        batch,
        here.facts,
        here.profile(),
        __version__,
        here.stove.lessons(),
        here.prices(),
        (version.id if version else None, words, proven),
    )
    here.journal.freeze(batch.id, reckoned)


def measured_by(batch: Batch, here: Context, frozen: Predicted | None) -> tuple[Batter, str, bool]:
    """What a batch is measured by: as it was pinned at its start, else from the log before it."""
    if frozen is not None and frozen.reference_words:
        pinned = here.book.version(frozen.reference).batter if frozen.reference else None
        return in_the_size_of(batch, pinned), frozen.reference_words, frozen.proven
    return reference_of(batch, here.book.sheet(batch.batter_id).versions, _good_before(batch, here))


def _good_before(batch: Batch, here: Context) -> Counter[str]:
    """How often each version of a batter had come out good before a batch of it was begun."""
    before = [
        x
        for x in here.stove.log(0, MOST)[0]
        if x.batter_id == batch.batter_id and x.finished < batch.started and (x.stars or 0) >= GOOD_STARS
    ]
    return Counter(x.version_id for x in before)


def priors(whole: Sequence[Remembered]) -> dict[str, float]:
    """This kitchen's own priors, from what came of the corrections that were taken along."""
    taken = [(x.told.taken.cause, _helped(x, whole)) for x in whole if x.told.taken is not None]
    return load_diagnosis().priors([(cause, came.p) for cause, came in taken if came is not None])
