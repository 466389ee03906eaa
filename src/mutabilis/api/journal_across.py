"""The Journal over many batches: comparisons, trends, the shelf of cups, what is kept, faults seen again, and the way of a pack."""

from dataclasses import dataclass
from datetime import date
from itertools import pairwise
from typing import Annotated

from fastapi import APIRouter, Query

from mutabilis.core.book.versions import PROVEN
from mutabilis.core.errors import CannotBe
from mutabilis.core.journal.compare import Beside, Differs, beside, differences, inputs_of, proves
from mutabilis.core.journal.entry import entry
from mutabilis.core.journal.shelf import Cup, LearnNext, cups, learn_next
from mutabilis.core.journal.trace import BagWith, Eaten, Plated, Trace, back, in_bag, trace
from mutabilis.core.journal.trends import FOLLOWED, Drift, Stand, band, changes, drift, words_of
from mutabilis.data import load_diagnosis

from .context import PROBLEMS, Context, Here
from .journal import BatchId
from .log import LogLine, Remembered, day_of, read_log
from .wording import in_kitchen

router = APIRouter(prefix="/api/journal", responses=PROBLEMS, tags=["journal"])
FOLLOWED_BACK = 60  # batches that a trend looks back over: more do not stand on a screen
IngredientId = Annotated[str, Query(max_length=80)]
PackWords = Annotated[str, Query(min_length=1, max_length=120)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """One batch in a trend, and what changed before it."""

    batch: str
    day: str
    value: float
    changed: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Trend:
    """One figure over the batches of a batter, the oldest first, the band in which it was thought to lie (None where nothing was), and its drift
    where it is one."""

    key: str
    name: str
    unit: str
    points: tuple[Point, ...]
    low: float | None
    high: float | None
    drift: Drift
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """Batches beside each other: what differs, what was reckoned and found, and what that proves."""

    batches: tuple[LogLine, ...]
    differs: tuple[Differs, ...]
    beside: tuple[Beside, ...]
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Shelf:
    """The cups of a batter, the oldest first, and what to measure next, what saves most first."""

    cups: tuple[Cup, ...]
    next: tuple[LearnNext, ...]


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Again:
    """A fault that a version showed more than once: how often, and the last batch that did."""

    fault: str
    words: str
    times: int
    batch: str


@router.get("/compare")
def compare(here: Here, batch: Annotated[list[str], Query(min_length=2, max_length=5)]) -> Compared:
    """Two to five batches beside each other."""
    lines = {x.line.id: x.line for x in read_log(here)}
    for id_ in batch:
        if id_ not in lines:
            here.stove.batch(id_)  # 404 where there is none
            raise CannotBe("a batch that is not finished cannot be compared")
    batches = [here.stove.batch(b) for b in dict.fromkeys(batch)]
    if len(batches) < 2:
        raise CannotBe("a batch beside itself tells nothing")
    found = differences([inputs_of(b, here.facts.ingredients) for b in batches], {i: x.short for i, x in here.facts.ingredients.items()})
    entries = [entry(b, here.facts, here.profile(), here.journal.frozen(b.id)) for b in batches]
    view = Compared(batches=tuple(lines[b.id] for b in batches), differs=found, beside=beside(entries), words=proves(found))
    return in_kitchen(view, here.profile())


@router.get("/trends/{batter_id}")
def trends(batter_id: BatchId, here: Here) -> tuple[Trend, ...]:
    """What can be followed over the batches of a batter: its spread, the liquid that it took, its turn, its yield, its stars, its cost."""
    mine = _of(batter_id, here)[-FOLLOWED_BACK:]
    frozen = here.journal.frozen_of_all()
    reckoned = [frozen[x.line.id] for x in mine if x.line.id in frozen]
    names = {i: x.short for i, x in here.facts.ingredients.items()}
    stands = [_stand(x, names) for x in mine]
    changed = [(), *(changes(was, now) for was, now in pairwise(stands))] if mine else []
    found = []
    for key, name, unit in FOLLOWED:
        values = [(x, c, v) for x, c in zip(mine, changed, strict=True) if (v := _figure(x, key)) is not None]
        places = 2 if key == "cost" else 1
        points = tuple(Point(batch=x.line.id, day=x.line.day, value=round(v, places), changed=c) for x, c, v in values)
        d = drift([p.value for p in points])
        if d is not None:
            ends = band(key, reckoned) or (None, None)
            found.append(
                Trend(
                    key=key, name=name, unit=unit, points=points, low=ends[0], high=ends[1], drift=d, words=words_of(d, len(points), unit)
                )
            )
    return tuple(in_kitchen(t, here.profile()) for t in found)


@router.get("/shelf/{batter_id}")
def shelf(batter_id: BatchId, here: Here) -> Shelf:
    """What was held back of the liquid and what was asked for, batch by batch; and which look would let the next hold back less."""
    mine = [(x.line.id, x.summary.figures, x.summary.pack_of(x.summary.flour)) for x in _of(batter_id, here)]
    newest = here.book.sheet(batter_id).versions[-1].batter
    return Shelf(cups=cups(mine), next=learn_next(newest, here.facts, here.profile()))


@router.get("/kept")
def kept(here: Here) -> tuple[KeptFood, ...]:
    """What is kept and neither used nor discarded, the one to be used first at the top."""
    labels = {k.key: k for k in here.facts.stove.keep}
    today = day_of(here.clock.now())
    found = []
    for x in read_log(here):
        for k in x.still_kept:
            of = labels[k.what].of if k.what in labels else "batter"
            label = labels[k.what].label if k.what in labels else k.what.replace("_", " ")
            found.append(
                KeptFood(
                    batch=x.line.id, event=k.id, name=x.line.name, what=label, amount=k.amount, unit="pieces" if of == "pieces" else "g", until=day_of(k.until), past=day_of(k.until) < today
                )
            )  # fmt: skip
    return tuple(sorted(found, key=lambda k: (k.until, k.name, k.event)))


@router.get("/again/{version_id}")
def seen_again(version_id: BatchId, here: Here) -> tuple[Again, ...]:
    """The faults that were seen twice and more in batches of a version, the most frequent first."""
    found: dict[str, list[str]] = {}
    for x in read_log(here):
        if x.line.version_id == version_id:
            for fault in x.line.faults:
                found.setdefault(fault, []).append(x.line.id)
    words = load_diagnosis().network.faults
    often = sorted((f for f in found if len(found[f]) >= PROVEN), key=lambda f: (-len(found[f]), f))
    return tuple(Again(fault=f, words=words.get(f, f), times=len(found[f]), batch=found[f][0]) for f in often)


@router.get("/trace")
def trace_of(here: Here, ingredient: IngredientId, pack: PackWords) -> Trace:
    """Where a pack went: bags of dry mix that hold it, batches, what of them is kept, who ate of them."""
    here.check_ingredient(ingredient)
    if not any(c.isalnum() for c in pack):
        raise CannotBe("say which pack: its product or its lot")
    return trace(ingredient, pack, [u for x in read_log(here) for u in x.uses(ingredient)], _bags(ingredient, pack, here))


@router.get("/trace/back")
def trace_back(here: Here, guest: Annotated[str, Query(max_length=120)] = "", on: date | None = None) -> tuple[Eaten, ...]:
    """From a guest, a day, or both, back to the batches and the packs in them. CannotBe where neither is given."""
    if not any(c.isalnum() for c in guest) and on is None:
        raise CannotBe("say who, or on which day")
    day = on.isoformat() if on else ""
    rows = (
        Plated(
            batch=x.line.id, name=x.line.name, day=x.line.day, whom=x.ate, names=tuple(s.name for s in x.served if s.name), others=any(not s.name for s in x.served),
            packs=tuple(p for p in x.summary.packs if p.pack),
        )
        for x in read_log(here)
        if not day or x.line.day == day
    )  # fmt: skip
    return back(guest, day, rows)


@router.get("/packs")
def packs(here: Here, ingredient: IngredientId) -> tuple[str, ...]:
    """The packs of an ingredient that were named at a pour, or in a bag of dry mix, the latest first."""
    here.check_ingredient(ingredient)
    poured = [p.pack for x in read_log(here) for p in x.summary.packs if p.ingredient == ingredient and p.pack]
    bagged = [pack for x in here.dry_mixes.all() if (pack := x.bag.packs.get(ingredient, ""))]
    return tuple(dict.fromkeys((*poured, *bagged)))


def _of(batter_id: str, here: Context) -> list[Remembered]:
    """The batches of a batter, the oldest first."""
    return [x for x in reversed(read_log(here)) if x.line.batter_id == batter_id]


def _figure(x: Remembered, key: str) -> float | None:
    if key == "stars":
        return None if x.line.stars is None else float(x.line.stars)
    return x.summary.figures.get(key)


def _stand(x: Remembered, names: dict[str, str]) -> Stand:
    packs = {names.get(p.ingredient, p.ingredient): p.pack for p in x.summary.packs if p.pack}
    return Stand(version=x.line.number, surface=x.summary.surface, packs=packs)


def _bags(ingredient: str, pack: str, here: Context) -> list[BagWith]:
    """The bags of dry mix still on the shelf that hold a pack, or may."""
    found = []
    for x in here.dry_mixes.all():
        if x.left_g <= 0:
            continue
        holds = [line.ingredient for line in x.bag.batter.lines if line.counts and line.ingredient]
        is_in = in_bag(ingredient, pack, holds, x.bag.packs)
        if is_in is not False:
            found.append(BagWith(bag=x.id, name=x.bag.name, made=x.made[:10], left_g=x.left_g, certain=is_in is True))
    return sorted(found, key=lambda b: (not b.certain, b.made))
