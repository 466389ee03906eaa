"""The Stove: batches, what happens to them, their labels, and what the kitchen cooks on."""

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal

from fastapi import APIRouter, HTTPException, Query, Response
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.adapt.scaling import Size
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.heat.chart import HeatMap, Range, heat_map, working_range
from mutabilis.core.heat.cooking import Frame
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.heat.tables import GreaseKey
from mutabilis.core.journal.predicted import Predicted
from mutabilis.core.journal.summary import summary
from mutabilis.core.process.parts import Ways
from mutabilis.core.process.ways import resolved
from mutabilis.core.stove.batch import Batch, NewBatch, plan_of
from mutabilis.core.stove.events import (
    Event,
    HeatOn,
    HeatSet,
    LoadOn,
    Poured,
    PrepDone,
    PrepStarted,
    Retargeted,
    StepDone,
    SurfaceChosen,
)
from mutabilis.core.stove.fold import fold
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.core.stove.guide.prepare import follows
from mutabilis.core.stove.guide.weigh import BAG
from mutabilis.core.stove.labels import labels
from mutabilis.core.stove.mending import Mender, Offer
from mutabilis.devices.label_printer import Label
from mutabilis.formats import label_pdf
from mutabilis.formats.card_pdf import Paper
from mutabilis.store.stove import Closing, Logged

from .context import PROBLEMS, Context, Here
from .devices import Panel, panel
from .journal import freeze
from .stove_views import BatchView, Brief, Option, batch_view, brief, guided, option
from .views import as_answer

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["stove"])
HOUR_S = 3600.0  # what was begun before the batch was opened counts from then, an hour back at the most


class NewEvents(BaseModel):
    """Events to append, in the order in which they happened."""

    model_config = ConfigDict(extra="forbid")

    events: Annotated[tuple[Event, ...], Field(min_length=1, max_length=400)]


@dataclass(frozen=True, slots=True, kw_only=True)
class StoveView:
    """The Stove as it stands: this moment [s since 1970], the batches under way, the latest of the log and how many it has, and a word on the
    clock where it was moved."""

    now: float
    clock: str
    batches: tuple[Brief, ...]
    log: tuple[Logged, ...]
    total: int


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceView:
    """The piece in cross-section over its time: the frames, the lines at which it has set and is safe [°C], its thickness [mm]."""

    thickness_mm: float
    celsius: float
    set_c: float
    turn_s: float | None
    done_s: float | None
    golden_from: float
    golden_to: float
    burnt: float
    frames: tuple[Frame, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ChartView:
    """The map of heat against thickness, where this batter stands on it, and what works for it."""

    map: HeatMap
    thickness_mm: float
    celsius: float
    range: Range


class PutSurface(BaseModel):
    """A surface to be kept, or with `away` put away."""

    model_config = ConfigDict(extra="forbid")

    surface: Surface
    away: bool = False


# ---- batches


@router.get("/stove", response_model=StoveView)
def stove(here: Here, offset: Annotated[int, Query(ge=0, le=1_000_000)] = 0, limit: Annotated[int, Query(ge=1, le=200)] = 30) -> Response:
    """The batches under way, and the log."""
    log, total = here.stove.log(offset, limit)
    batches = tuple(brief(guided(b, here)) for b in here.stove.under_way())
    return as_answer(StoveView(now=here.clock.now(), clock=here.clock.words(), batches=batches, log=log, total=total), here.profile())


@router.post("/stove/batches", response_model=BatchView)
def start(new: NewBatch, here: Here) -> Response:
    """Start a batch of a version, in the size asked for; its exact version and plan are pinned."""
    here.check_diets(new.diets)
    version = here.book.version(new.version)
    batter, size = here.check(version.batter), new.size
    if new.mix is not None:
        kept = here.dry_mixes.one(new.mix.id)
        if kept.version_id != version.id:
            raise CannotBe("this bag was made of another version")
        batter, size = here.check(kept.bag.batter), Size(by="factor", amount=new.mix.grams / kept.bag.batch_g)
    order = resolved(Ways(order=new.order), version.batter).order or "two_bowls"
    plan = plan_of(batter, size, here.facts, order)
    if not any(x.counts and x.grams > 0 for x in plan.lines):
        raise CannotBe("there is nothing in this batter that could be weighed out")
    batch = here.stove.start(new.id, version.id, plan, new.diets, new.whom, new.first_at, order, here.clock.now(), new.mix, new.cook)
    freeze(batch, here)
    return as_answer(batch_view(guided(batch, here), here), here.profile())


@router.get("/stove/batches/{batch_id}", response_model=BatchView)
def one(batch_id: str, here: Here) -> Response:
    """A batch with everything that is shown of it."""
    return as_answer(batch_view(guided(here.stove.batch(batch_id), here), here), here.profile())


@router.post("/stove/batches/{batch_id}/events", response_model=BatchView)
def append(batch_id: str, new: NewEvents, here: Here) -> Response:
    """Append events; one that was sent before counts once. What happened cannot be later than now."""
    for e in new.events:
        for target in e.targets if isinstance(e, Retargeted) else ():
            here.check_ingredient(target.ingredient)
    return as_answer(batch_view(guided(happened(batch_id, new.events, here), here), here), here.profile())


def happened(batch_id: str, events: Sequence[Event], here: Context) -> Batch:
    """Write down what happened to a batch and what follows from it by itself; the batch as it then is."""
    now, was = here.clock.now(), here.stove.batch(batch_id)
    moved = tuple(_named(e.model_copy(update={"at": min(max(e.at, was.started - HOUR_S), now)}), was, here) for e in events)

    frozen = here.journal.frozen(batch_id)

    def reckon(batch: Batch, fresh: Sequence[Event]) -> tuple[Sequence[Event], Closing | None]:
        follow = _follow(batch, fresh, here)
        g = guided(batch if not follow else batch.model_copy(update={"events": (*batch.events, *follow)}), here)
        return follow, closing(g, frozen)

    batch = here.stove.append(batch_id, moved, now, reckon)
    _tell_devices(batch, moved, here)
    if batch.finished is not None:
        from .morning import serve  # the morning tells the Stove as well

        serve(batch, here)
    return batch


def _named(e: Event, batch: Batch, here: Context) -> Event:
    """A pour, and the grease of a surface, with the pack that the Larder has in use, so that it can be traced; whatever a screen says of it. What
    comes out of a bag of dry mix has the pack that was in use as the bag was made."""
    if isinstance(e, SurfaceChosen):
        return e.model_copy(update={"pack": here.pack_of(e.fat)})
    if not isinstance(e, Poured):
        return e
    lines = batch.plan.lines
    if e.line < len(lines):
        ingredient = lines[e.line].ingredient or ""
    else:
        ingredient = next((x.ingredient for x in fold(batch.plan, batch.events).lines if x.at == e.line), "")
    if e.part == BAG and batch.mix is not None:
        return e.model_copy(update={"pack": here.dry_mixes.one(batch.mix.id).bag.packs.get(ingredient)})
    return e.model_copy(update={"pack": here.pack_of(ingredient)})


def _follow(batch: Batch, fresh: Sequence[Event], here: Context) -> list[Event]:
    """What follows by itself: eggs weighed as they are, the liquid follows what they weigh; what was prepared is in, and what is in is begun."""
    found: list[Event] = []
    for e in fresh:
        if isinstance(e, PrepStarted | PrepDone | StepDone) or (isinstance(e, Poured) and e.part is not None):
            moved = batch.model_copy(update={"events": (*batch.events, *found)})
            found += [_named(x, batch, here) for x in follows(e, guided(moved, here))]
        if isinstance(e, Poured) and e.done:
            state = fold(batch.plan, [*batch.events, *found])
            if e.line >= len(state.lines):
                continue
            targets = Mender(batch.plan, state, here.facts, here.profile()).follow(e.line)
            if targets:
                id_ = hashlib.sha256(f"follow {e.id}".encode()).hexdigest()[:16]
                found.append(Retargeted(id=id_, at=e.at, targets=targets, why="The liquid follows what the eggs weigh.", because=e.id))
    return found


def closing(g: Guide, frozen: Predicted | None = None) -> Closing | None:
    """What a finished batch comes to, beside what was reckoned of it at its start; None for one under way."""
    s = g.state
    if s.finished is None:
        return None
    return Closing(
        finished=s.finished,
        pieces=s.made,
        planned=g.planned.yields.pieces,
        stars=s.stars,
        note=s.note,
        good=g.good,
        lessons=g.lessons,
        summary=summary(g.batch.model_copy(update={"finished": s.finished}), g.facts, g.profile, frozen),
    )


def _tell_devices(batch: Batch, events: Sequence[Event], here: Context) -> None:
    for e in events:
        if isinstance(e, LoadOn):
            here.hub.thermometer.load()
        elif isinstance(e, SurfaceChosen | HeatOn | HeatSet):
            celsius = fold(batch.plan, batch.events).celsius
            if celsius is not None:
                here.hub.thermometer.aim(celsius)


@router.get("/stove/batches/{batch_id}/offers")
def offers(
    batch_id: str, here: Here, line: Annotated[int, Query(ge=0, le=240)], why: Literal["over", "none_left"] = "over"
) -> tuple[Offer, ...]:
    """What can be done where too much of a line was poured, or there is none left of it."""
    batch = here.stove.batch(batch_id)
    state = fold(batch.plan, batch.events)
    if line >= len(state.lines):
        raise HTTPException(422, "This batch has no such line. Nothing was changed.")
    kept = here.larder_kept() is not None
    diets = tuple(k for k in batch.diets if k in here.facts.diets)
    larder = tuple({*here.in_stock(), *(x.ingredient for x in state.lines)}) if kept else None
    mender = Mender(batch.plan, state, here.facts, here.profile(), diets, here.readings, larder)
    return mender.over(line) if why == "over" else mender.none_left(line)


@router.get("/stove/batches/{batch_id}/lies", response_model=Option)
def lies(
    batch_id: str,
    here: Here,
    surface: Annotated[str, Query(max_length=40)],
    portion_ml: Annotated[float, Query(ge=5, le=5000)],
    grease: GreaseKey = "film",
) -> Response:
    """How a piece of a scoop [mL] lies on a surface of this kitchen, how many a load, and the heat that works for it. 404 where there is no such surface."""
    g = guided(here.stove.batch(batch_id), here)
    found = next((s for s in g.surfaces if s.id == surface), None)
    if found is None:
        raise NotKnown(surface)
    return as_answer(option(found, g, portion_ml, grease), here.profile())


@router.get("/stove/batches/{batch_id}/piece", response_model=PieceView)
def piece(batch_id: str, here: Here) -> Response:
    """The piece in cross-section, over its time on the surface that was chosen. 404 before one was."""
    r = guided(here.stove.batch(batch_id), here).reckoned
    if r is None:
        raise NotKnown("surface")
    f = here.facts.heat
    return as_answer(
        PieceView(
            thickness_mm=r.thickness_mm,
            celsius=r.celsius,
            set_c=f.crumb.set_c,
            turn_s=r.turn_s,
            done_s=r.done_s,
            golden_from=f.brown.golden[0],
            golden_to=f.brown.golden[1],
            burnt=f.brown.burnt,
            frames=r.frames(),
        )
    )


@router.get("/stove/batches/{batch_id}/chart", response_model=ChartView)
def chart(batch_id: str, here: Here) -> Response:
    """The map of heat against thickness for this form and grease, and where this batter stands. 404 before a surface was chosen."""
    g = guided(here.stove.batch(batch_id), here)
    r, c = g.reckoned, g.state.chosen
    if r is None or c is None:
        raise NotKnown("surface")
    made = heat_map(here.facts.heat, g.plan.form, c.grease)
    return as_answer(
        ChartView(
            map=made,
            thickness_mm=r.thickness_mm,
            celsius=r.celsius,
            range=working_range(here.facts.heat, g.plan.form, r.thickness_mm, r.celsius, c.grease),
        )
    )


# ---- labels


def _labels(batch: Batch, here: Context) -> tuple[tuple[str, ...], ...]:
    return labels(guided(batch, here), _day)


def _day(seconds: float) -> str:
    return datetime.fromtimestamp(seconds).strftime("%a %d %b %Y, %H:%M")


@router.get("/stove/batches/{batch_id}/labels.pdf")
def label_sheet(batch_id: str, here: Here, paper: Paper = "a4") -> Response:
    """A sheet of labels for what was kept of a batch."""
    return Response(label_pdf.write(_labels(here.stove.batch(batch_id), here), paper), media_type="application/pdf")


@router.post("/stove/batches/{batch_id}/labels")
def print_labels(batch_id: str, here: Here) -> Panel:
    """Print the labels on the label printer; 503 where it cannot."""
    labels = _labels(here.stove.batch(batch_id), here)
    if not labels:
        raise CannotBe("nothing was kept of this batch yet, so there is nothing to label")
    for lines in labels:
        if wrong := here.hub.printer.put(Label(lines)):
            raise HTTPException(503, wrong)
    return panel(here)


# ---- what it is cooked on


@router.get("/surfaces")
def surfaces(here: Here) -> tuple[Surface, ...]:
    """The kitchen's surfaces."""
    return here.facts.surfaces


@router.put("/surfaces")
def put_surface(put: PutSurface, here: Here) -> tuple[Surface, ...]:
    """Keep a surface, or put it away; the list as it then is."""
    here.stove.put_surface(put.surface, put.away)
    return here.facts.surfaces
