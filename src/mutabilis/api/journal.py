"""The Journal: the log, one batch as meant and as it happened, why it came out so, comparisons, trends, and the way of a pack."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Literal, cast

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict, Field

from mutabilis import __version__
from mutabilis.core.batter.batter import Batter
from mutabilis.core.book.versions import PROVEN, NewVersion, Version
from mutabilis.core.diagnosis.diagnose import Diagnosis, diagnose
from mutabilis.core.errors import CannotBe
from mutabilis.core.journal.compare import Differs, differences, inputs_of, proves
from mutabilis.core.journal.entry import Entry, entry, record_of
from mutabilis.core.journal.helped import Helped, helped
from mutabilis.core.journal.predicted import Predicted, predicted
from mutabilis.core.journal.reference import choose, corrected, in_the_size_of, reference_of
from mutabilis.core.journal.served import eaten_by
from mutabilis.core.journal.shelf import Cup, LearnNext, cups, learn_next
from mutabilis.core.journal.trace import Trace, Use, trace, uses_of
from mutabilis.core.journal.trends import FOLLOWED, Drift, drift, value_of, words_of
from mutabilis.core.journal.trials import Better, TrialState, state_of
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.events import Kept as KeptEvent
from mutabilis.core.stove.fold import fold
from mutabilis.core.stove.guide.learn import GOOD_STARS
from mutabilis.data import load_diagnosis
from mutabilis.store.journal import Said, SaidOf
from mutabilis.store.photos import Kept
from mutabilis.store.stove import Logged

from .context import PROBLEMS, Context, Here
from .wording import in_kitchen

router = APIRouter(prefix="/api/journal", responses=PROBLEMS, tags=["journal"])
DAY = r"^(\d{4}-\d{2}-\d{2})?$"
MOST = 200  # batches that a list or a trend looks back over
BatchId = Annotated[str, Field(max_length=40)]


@dataclass(frozen=True, slots=True, kw_only=True)
class LogLine:
    """A batch in the log: the day, what it was, for whom, how it came out."""

    id: str
    version_id: str
    batter_id: str
    name: str
    number: int
    day: str
    at: float
    whom: str
    mark: int
    pieces: int
    planned: float
    stars: int | None
    faults: tuple[str, ...]
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LogView:
    """The log, the latest first, how many there are, and the faults that can be told with their words."""

    batches: tuple[LogLine, ...]
    total: int
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """One batch in a trend."""

    batch: str
    day: str
    value: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Trend:
    """One figure over the batches of a batter, the oldest first, with its drift where it is one."""

    key: str
    name: str
    unit: str
    points: tuple[Point, ...]
    drift: Drift
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """Batches beside each other: what differs, and what that proves."""

    batches: tuple[LogLine, ...]
    differs: tuple[Differs, ...]
    words: str


class TakenAlong(BaseModel):
    """The cause whose correction is to be carried to the Bench as a new version; the id so that it is done once."""

    model_config = ConfigDict(extra="forbid")

    id: Annotated[str, Field(pattern=r"^[0-9a-f]{16}$")]
    cause: Annotated[str, Field(max_length=60)]


@router.get("")
def log(
    here: Here, q: Annotated[str, Query(max_length=80)] = "", fault: Annotated[str, Query(max_length=60)] = "",
    stars: Annotated[Literal["", "good", "not_good", "none"], Query()] = "", since: Annotated[str, Query(pattern=DAY)] = "", until: Annotated[str, Query(pattern=DAY)] = "",
) -> LogView:  # fmt: skip
    """Finished batches: those whose name, guests, note, day or packs hold the words, that show the fault, that were rated so (four stars and
    more are good), and that were made from one day to another."""
    words = q.casefold().split()
    shown = [
        x for x in _log(here)
        if (not fault or fault in x.faults) and _rated(x.stars, stars) and (not since or x.day >= since) and (not until or x.day <= until)
        and (not words or all(w in _sought(x, here) for w in words))
    ]  # fmt: skip
    return LogView(batches=tuple(shown), total=here.stove.log(0, 1)[1], faults=load_diagnosis().network.faults)


def _rated(stars: int | None, wanted: str) -> bool:
    """Whether a batch was rated so: `good` from four stars, `not_good` below, `none` not at all, anything where nothing is asked."""
    if wanted == "none":
        return stars is None
    return not wanted or (stars is not None and (stars >= GOOD_STARS) == (wanted == "good"))


def _sought(x: LogLine, here: Context) -> str:
    over = _over(x.id, here)
    packs = " ".join(dict.fromkeys(u.pack for u in over.uses if u.pack))
    return f"{x.name} {x.whom} {over.uses[0].whom if over.uses else ''} {x.note} {x.day} {packs}".casefold()


@router.get("/batches/{batch_id}")
def one(batch_id: BatchId, here: Here) -> EntryView:
    """A batch as it is read afterwards."""
    return in_kitchen(_entry(batch_id, here), here.profile())


@router.post("/batches/{batch_id}/said")
def say(batch_id: BatchId, said: Said, here: Here) -> EntryView:
    """Say something of a batch: its faults, an answer, a remark; or take the last of it back."""
    _need_faults(said.faults)
    here.journal.say(batch_id, said)
    return in_kitchen(_entry(batch_id, here), here.profile())


class AskedWhy(BaseModel):
    """The faults that are seen while a batch is still made, and the answers to what was asked so far."""

    model_config = ConfigDict(extra="forbid")

    faults: Annotated[tuple[Annotated[str, Field(max_length=60)], ...], Field(min_length=1, max_length=24)]
    answers: Annotated[dict[str, Annotated[str, Field(max_length=120)]], Field(max_length=40)] = {}


@router.post("/batches/{batch_id}/why")
def why_now(batch_id: BatchId, asked: AskedWhy, here: Here) -> Diagnosis:
    """Why a batch comes out so, while its bowl can still be saved: from what happened to it so far. Nothing is kept."""
    _need_faults(asked.faults)
    batch = here.stove.batch(batch_id)
    reference, _, proven = _reference(batch, here, here.journal.frozen(batch_id))
    record = record_of(batch, reference, proven, here.facts, _open_days(batch, here), asked.faults, None, asked.answers)
    if record is None:
        raise CannotBe("no fault was named")
    return in_kitchen(diagnose(record, here.facts, here.profile(), load_diagnosis(), _priors(here)), here.profile())


def _need_faults(faults: Sequence[str]) -> None:
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


@router.get("/compare")
def compare(here: Here, batch: Annotated[list[str], Query(min_length=2, max_length=5)]) -> Compared:
    """Two to five batches beside each other."""
    batches = [here.stove.batch(b) for b in batch]
    found = differences([inputs_of(b, here.facts.ingredients) for b in batches], {i: x.short for i, x in here.facts.ingredients.items()})
    lines = {x.id: x for x in _log(here)}
    view = Compared(batches=tuple(lines[b.id] for b in batches if b.id in lines), differs=found, words=proves(found))
    return in_kitchen(view, here.profile())


@router.get("/trends/{batter_id}")
def trends(batter_id: BatchId, here: Here) -> tuple[Trend, ...]:
    """What can be followed over the batches of a batter: the liquid that it took, its turn, its yield, its stars."""
    batches = [here.stove.batch(x.id) for x in reversed(here.stove.log(0, MOST)[0]) if x.batter_id == batter_id]
    entries = [(b, entry(b, here.facts, here.profile(), here.journal.frozen(b.id))) for b in batches]
    known = here.facts.ingredients
    found = []
    for key, name, unit in FOLLOWED:
        values = [(b, v) for b, e in entries if (v := value_of(key, b, e, known)) is not None]
        points = tuple(Point(batch=b.id, day=_day(b.finished or b.started), value=round(v, 1)) for b, v in values)
        d = drift([p.value for p in points])
        if d is not None:
            found.append(Trend(key=key, name=name, unit=unit, points=points, drift=d, words=words_of(d, len(points), unit)))
    return tuple(in_kitchen(t, here.profile()) for t in found)


@dataclass(frozen=True, slots=True, kw_only=True)
class Shelf:
    """The cups of a batter, the oldest first, and what to measure next, what saves most first."""

    cups: tuple[Cup, ...]
    next: tuple[LearnNext, ...]


@router.get("/shelf/{batter_id}")
def shelf(batter_id: BatchId, here: Here) -> Shelf:
    """What was held back of the liquid and what was asked for, batch by batch; and which look would let the next hold back less."""
    batches = [here.stove.batch(x.id) for x in reversed(here.stove.log(0, MOST)[0]) if x.batter_id == batter_id]
    frozen = {b.id: p for b in batches if (p := here.journal.frozen(b.id)) is not None}
    newest = here.book.sheet(batter_id).versions[-1].batter
    return Shelf(cups=cups(batches, frozen, here.facts.ingredients), next=learn_next(newest, here.facts, here.profile()))


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptFood:
    """Something that is kept: of which batch, what and how much, until which day, and whether that is past."""

    batch: str
    event: str
    name: str
    what: str
    amount: float
    unit: str
    until: str
    past: bool


@router.get("/kept")
def kept(here: Here) -> tuple[KeptFood, ...]:
    """What is kept and neither used nor discarded, the one to be used first at the top."""
    labels = {k.key: k for k in here.facts.stove.keep}
    today = _day(here.clock.now())
    found = []
    for x in here.stove.log(0, MOST)[0]:
        gone = here.journal.told(x.id).gone
        for k in _over(x.id, here).kept:
            if k.id not in gone:
                of = labels[k.what].of if k.what in labels else "batter"
                label = labels[k.what].label if k.what in labels else k.what.replace("_", " ")
                found.append(
                    KeptFood(batch=x.id, event=k.id, name=x.name, what=label, amount=k.amount, unit="pieces" if of == "pieces" else "g", until=_day(k.until), past=_day(k.until) < today)
                )  # fmt: skip
    return tuple(sorted(found, key=lambda k: (k.until, k.name, k.event)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Again:
    """A fault that a version showed more than once: how often, and the last batch that did."""

    fault: str
    words: str
    times: int
    batch: str


@router.get("/again/{version_id}")
def seen_again(version_id: BatchId, here: Here) -> tuple[Again, ...]:
    """The faults that were seen twice and more in batches of a version, the most frequent first."""
    found: dict[str, list[str]] = {}
    for x in here.stove.log(0, MOST)[0]:
        if x.version_id == version_id:
            for fault in _line(x, here).faults:
                found.setdefault(fault, []).append(x.id)
    words = load_diagnosis().network.faults
    often = sorted((f for f in found if len(found[f]) >= PROVEN), key=lambda f: (-len(found[f]), f))
    return tuple(Again(fault=f, words=words.get(f, f), times=len(found[f]), batch=found[f][0]) for f in often)


@router.get("/trace")
def trace_of(
    here: Here, ingredient: Annotated[str, Query(max_length=80)], pack: Annotated[str, Query(min_length=1, max_length=120)]
) -> Trace:
    """Where a pack went."""
    here.check_ingredient(ingredient)
    return trace(ingredient, pack, [u for x in here.stove.log(0, 1000)[0] for u in _over(x.id, here).uses])


@router.get("/packs")
def packs(here: Here, ingredient: Annotated[str, Query(max_length=80)]) -> tuple[str, ...]:
    """The packs of an ingredient that were named at a pour, the latest first."""
    here.check_ingredient(ingredient)
    named = [u.pack for x in here.stove.log(0, 1000)[0] for u in _over(x.id, here).uses if u.ingredient == ingredient and u.pack]
    return tuple(dict.fromkeys(named))


def _day(at: float) -> str:
    return datetime.fromtimestamp(at).strftime("%Y-%m-%d")


def _log(here: Context) -> list[LogLine]:
    """The latest batches as lines, with the faults that were told last."""
    return [_line(x, here) for x in here.stove.log(0, MOST)[0]]


def _line(x: Logged, here: Context) -> LogLine:
    told = here.journal.told(x.id)
    faults = told.faults if told.faults is not None else _over(x.id, here).faults
    return LogLine(
        id=x.id, version_id=x.version_id, batter_id=x.batter_id, name=x.name, number=x.number, day=_day(x.finished), at=x.finished, whom=x.whom, mark=x.mark, pieces=x.pieces, planned=x.planned,
        stars=x.stars, faults=tuple(faults), note=x.note,
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Over:
    """What the events of a finished batch come to: they are folded once."""

    faults: tuple[str, ...]
    uses: tuple[Use, ...]
    kept: tuple[KeptEvent, ...]


def _over(batch_id: str, here: Context) -> Over:
    key = f"{batch_id} {here.stove.counts.get(batch_id)}"  # undo opens a finished batch again, and it may end otherwise
    found = here.finished.get(key)
    if not isinstance(found, Over):
        batch = here.stove.batch(batch_id)
        s = fold(batch.plan, batch.events)
        whom = eaten_by(here.journal.served(batch_id), batch.whom)
        found = here.finished[key] = Over(faults=s.faults, uses=uses_of(batch, _day, whom), kept=s.kept)
    return found


def _entry(batch_id: str, here: Context) -> EntryView:
    lines = _log(here)
    at = next((n for n, x in enumerate(lines) if x.id == batch_id), None)
    batch = here.stove.batch(batch_id)
    if at is None:
        raise CannotBe("this batch is not finished")
    told = here.journal.told(batch_id)
    frozen = here.journal.frozen(batch_id)
    reference, words, proven = _reference(batch, here, frozen)
    record = record_of(batch, reference, proven, here.facts, _open_days(batch, here), told.faults, told.when, told.answers)
    found = diagnose(record, here.facts, here.profile(), load_diagnosis(), _priors(here)) if record is not None else None
    return EntryView(
        line=lines[at], entry=entry(batch, here.facts, here.profile(), frozen), frozen=frozen, photos=here.photos.of(batch_id), ate=eaten_by(here.journal.served(batch_id)), told=told, helped=_helped(lines[at], told, lines), trial=_trial(told), diagnosis=found, reference=words, before=lines[at + 1].id if at + 1 < len(lines) else None,
        after=lines[at - 1].id if at > 0 else None,
    )  # fmt: skip


def _open_days(batch: Batch, here: Context) -> dict[str, float]:
    """How long the pack of each ingredient that was poured had been open, where its pack and that day are known."""
    on = datetime.fromtimestamp(batch.started).date()
    found: dict[str, float] = {}
    for use in uses_of(batch, _day):
        pack = here.larder.pack_called(use.ingredient, use.pack) if use.pack else None
        if pack is not None and pack.opened and (days := (on - date.fromisoformat(pack.opened)).days) >= 0:
            found[use.ingredient] = float(days)
    return found


def _helped(line: LogLine, told: SaidOf, lines: Sequence[LogLine]) -> Helped | None:
    """Whether what was taken along from a batch helped: its fault in the batches of its version until then, and in those of the version that was
    made of it."""
    if told.taken is None or not line.faults:
        return None
    fault = line.faults[0]
    before = [x for x in lines if x.version_id == line.version_id and x.at <= line.at]
    since = [x for x in lines if x.version_id == told.taken.version and x.at > line.at]
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


def _reference(batch: Batch, here: Context, frozen: Predicted | None) -> tuple[Batter, str, bool]:
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


def _priors(here: Context) -> dict[str, float]:
    """This kitchen's own priors, from the corrections that were taken along."""
    return load_diagnosis().priors([t.cause for x in here.stove.log(0, MOST)[0] if (t := here.journal.told(x.id).taken) is not None])
