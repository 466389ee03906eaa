"""The Stove: batches, what happens to them, the devices on the counter, what the kitchen cooks on, and what it has learned."""

import asyncio
import hashlib
import json
from collections.abc import AsyncIterator, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Annotated, Literal

from fastapi import APIRouter, HTTPException, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.book import Id
from mutabilis.core.heat import Frame, HeatMap, Range, heat_map, working_range
from mutabilis.core.learning import Kind, Lesson
from mutabilis.core.stove.batch import Batch, NewBatch, plan_of
from mutabilis.core.stove.cooking import drift
from mutabilis.core.stove.events import Event, HeatOn, HeatSet, LoadOn, Poured, Retargeted, SurfaceChosen
from mutabilis.core.stove.fold import fold
from mutabilis.core.stove.guide import Guide
from mutabilis.core.stove.mending import Mender, Offer
from mutabilis.core.stove.surface import Surface
from mutabilis.core.stove.weighing import Pour, elsewhere, weigh
from mutabilis.devices.label_printer import Label
from mutabilis.formats import label_pdf
from mutabilis.formats.card_pdf import Paper
from mutabilis.store.stove import Closing, Logged

from .context import PROBLEMS, Context, Here
from .stove_views import BatchView, Brief, batch_view, brief
from .views import as_answer

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["stove"])
BEAT_S, LOOK_S = 1.0, 0.05
HOUR_S = 3600.0  # what was begun before the batch was opened counts from then, an hour back at the most
GOOD_STARS = 4


class NewEvents(BaseModel):
    """Events to append, in the order in which they happened."""

    model_config = ConfigDict(extra="forbid")

    events: Annotated[tuple[Event, ...], Field(min_length=1, max_length=400)]


@dataclass(frozen=True, slots=True)
class StoveView:
    """The Stove as it stands: this moment [s since 1970], the batches under way, the latest of the log and how many it has, and a word on the
    clock where it was moved."""

    now: float
    clock: str
    batches: tuple[Brief, ...]
    log: tuple[Logged, ...]
    total: int


@dataclass(frozen=True, slots=True)
class PieceView:
    """The piece in cross-section over its time: the frames, the lines at which it has set and is safe [°C], its thickness [mm]."""

    thickness_mm: float
    celsius: float
    set_c: float
    safe_c: float
    boils_c: float
    turn_s: float | None
    done_s: float | None
    golden_from: float
    golden_to: float
    burnt: float
    frames: tuple[Frame, ...]


@dataclass(frozen=True, slots=True)
class ChartView:
    """The map of heat against thickness, where this batter stands on it, and what works for it."""

    map: HeatMap
    thickness_mm: float
    celsius: float
    range: Range


class ScaleAct(BaseModel):
    """A touch on the panel of the simulated scale; `grams` for a pour or a knock."""

    model_config = ConfigDict(extra="forbid")

    act: Literal["pour", "lift", "put_back", "tare", "clear", "unplug", "plug", "freeze", "thaw"]
    grams: Annotated[float, Field(ge=-6000, le=6000, allow_inf_nan=False)] = 0.0


class SurfaceAct(BaseModel):
    """A touch on the panel of the simulated surface: how much it runs too hot [°C], and whether its thermometer is plugged in."""

    model_config = ConfigDict(extra="forbid")

    off_by_c: Annotated[float, Field(ge=-80, le=80, allow_inf_nan=False)] = 0.0
    plugged: bool = True


class Panel(BaseModel):
    """The simulated devices as their panel shows them."""

    on_g: float
    lifted: bool
    plugged: bool
    frozen: bool
    off_by_c: float
    surface_plugged: bool
    labels_left: int
    printed: tuple[tuple[str, ...], ...]


class Learnt(BaseModel):
    """What was learned of one subject: its name, and every lesson that stands, the oldest first."""

    kind: Kind
    subject: str
    name: str
    lessons: tuple[Lesson, ...]


class Forget(BaseModel):
    """What is to be forgotten, or with `back` to stand again."""

    model_config = ConfigDict(extra="forbid")

    kind: Kind
    subject: Annotated[str, Field(max_length=80)]
    back: bool = False


class PutSurface(BaseModel):
    """A surface to be kept, or with `away` put away."""

    model_config = ConfigDict(extra="forbid")

    surface: Surface
    away: bool = False


def _guide(batch: Batch, here: Context) -> Guide:
    return Guide(batch, here.clock.now(), here.facts, here.profile(), here.readings, here.learned)


# ---- batches


@router.get("/stove", response_model=StoveView)
def stove(here: Here, offset: Annotated[int, Query(ge=0, le=1_000_000)] = 0, limit: Annotated[int, Query(ge=1, le=200)] = 30) -> Response:
    """The batches under way, and the log."""
    log, total = here.stove.log(offset, limit)
    batches = tuple(brief(_guide(b, here)) for b in here.stove.under_way())
    return as_answer(StoveView(here.clock.now(), here.clock.words(), batches, log, total))


@router.post("/stove/batches", response_model=BatchView)
def start(new: NewBatch, here: Here) -> Response:
    """Start a batch of a version, in the size asked for; its exact version and plan are pinned."""
    here.check_diets(new.diets)
    version = here.book.version(new.version)
    plan = plan_of(here.check(version.batter), new.size, here.facts, new.order)
    if not any(x.counts and not x.problem and x.grams > 0 for x in plan.lines):
        raise ValueError("there is nothing in this batter that could be weighed out")
    batch = here.stove.start(new.id, version.id, plan, new.diets, new.whom, new.first_at, new.order, here.clock.now())
    return as_answer(batch_view(_guide(batch, here), here))


@router.get("/stove/batches/{batch_id}", response_model=BatchView)
def one(batch_id: str, here: Here) -> Response:
    """A batch with everything that is shown of it."""
    return as_answer(batch_view(_guide(here.stove.batch(batch_id), here), here))


@router.post("/stove/batches/{batch_id}/events", response_model=BatchView)
def append(batch_id: str, new: NewEvents, here: Here) -> Response:
    """Append events; one that was sent before counts once. What happened cannot be later than now."""
    now, started = here.clock.now(), here.stove.batch(batch_id).started
    events = tuple(e.model_copy(update={"at": min(max(e.at, started - HOUR_S), now)}) for e in new.events)
    for e in events:
        for target in e.targets if isinstance(e, Retargeted) else ():
            here.check_ingredient(target.ingredient)

    def reckon(batch: Batch, fresh: Sequence[Event]) -> tuple[Sequence[Event], Closing | None]:
        follow = _follow(batch, fresh, here)
        g = _guide(batch if not follow else batch.model_copy(update={"events": (*batch.events, *follow)}), here)
        return follow, _closing(g)

    batch = here.stove.append(batch_id, events, now, reckon)
    _tell_devices(batch, events, here)
    return as_answer(batch_view(_guide(batch, here), here))


def _follow(batch: Batch, fresh: Sequence[Event], here: Context) -> list[Event]:
    """What follows by itself: eggs weighed as they are, the liquid follows what they weigh."""
    found: list[Event] = []
    for e in fresh:
        if isinstance(e, Poured) and e.done:
            state = fold(batch.plan, [*batch.events, *found])
            if e.line >= len(state.lines):
                continue
            targets = Mender(batch.plan, state, here.facts, here.profile()).follow(e.line)
            if targets:
                id_ = hashlib.sha256(f"follow {e.id}".encode()).hexdigest()[:16]
                found.append(Retargeted(id=id_, at=e.at, targets=targets, why="The liquid follows what the eggs weigh.", because=e.id))
    return found


def _closing(g: Guide) -> Closing | None:
    s = g.state
    if s.finished is None:
        return None
    good = s.stars >= GOOD_STARS if s.stars is not None else not s.faults
    return Closing(s.finished, s.made, g.planned.yields.pieces, s.stars, s.note, good, g.lessons)


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
    kept = any(item.stock_g is not None for item in here.items.values())
    diets = tuple(k for k in batch.diets if k in here.facts.diets)
    larder = tuple({*here.in_stock(), *(x.ingredient for x in state.lines)}) if kept else None
    mender = Mender(batch.plan, state, here.facts, here.profile(), diets, here.readings, larder)
    return mender.over(line) if why == "over" else mender.none_left(line)


@router.get("/stove/batches/{batch_id}/piece", response_model=PieceView)
def piece(batch_id: str, here: Here) -> Response:
    """The piece in cross-section, over its time on the surface that was chosen. 404 before one was."""
    r = _guide(here.stove.batch(batch_id), here).reckoned
    if r is None:
        raise KeyError("surface")
    f = here.facts.heat
    return as_answer(
        PieceView(
            r.thickness_mm,
            r.celsius,
            f.piece.set_c,
            f.piece.safe_c,
            f.piece.boils_c,
            r.turn_s,
            r.done_s,
            f.brown.golden[0],
            f.brown.golden[1],
            f.brown.burnt,
            r.frames(),
        )
    )


@router.get("/stove/batches/{batch_id}/chart", response_model=ChartView)
def chart(batch_id: str, here: Here) -> Response:
    """The map of heat against thickness for this form and grease, and where this batter stands. 404 before a surface was chosen."""
    g = _guide(here.stove.batch(batch_id), here)
    r, c = g.reckoned, g.state.chosen
    if r is None or c is None:
        raise KeyError("surface")
    made = heat_map(here.facts.heat, g.plan.form, c.grease)
    return as_answer(
        ChartView(made, r.thickness_mm, r.celsius, working_range(here.facts.heat, g.plan.form, r.thickness_mm, r.celsius, c.grease))
    )


# ---- labels


def _labels(batch: Batch, here: Context) -> tuple[tuple[str, ...], ...]:
    g = _guide(batch, here)
    rows = {k.key: k for k in here.facts.stove.keep}
    found = []
    for kept in g.state.kept:
        row = rows.get(kept.what)
        if row is None:
            continue
        contains = ", ".join(x.replace("tree_nut:", "").replace("_", " ") for x in g.to_be.plate.contains)
        may = ", ".join(x.replace("tree_nut:", "").replace("_", " ") for x in g.to_be.plate.may_contain)
        unit = "pieces" if row.of == "pieces" else "g"
        found.append(
            (
                batch.name, f"Made {_day(g.state.finished or g.now)} · use by {_day(kept.until)}", f"Contains: {contains or 'none of the listed allergens that is known'}",
                *((f"May contain: {may}",) if may else ()), f"{kept.amount:.0f} {unit}, {row.label}. {row.back}",
                "Known from the recipe and the packs as read; traces from the kitchen are not excluded.", *((f"For {batch.whom}",) if batch.whom else ()),
            )
        )  # fmt: skip
    return tuple(found)


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
        raise ValueError("nothing was kept of this batch yet, so there is nothing to label")
    for lines in labels:
        if wrong := here.hub.printer.put(Label(lines)):
            raise HTTPException(503, wrong)
    return _panel(here)


# ---- devices


def _panel(here: Context) -> Panel:
    s, t, p = here.hub.scale, here.hub.thermometer, here.hub.printer
    return Panel(
        on_g=s.on_g, lifted=s.lifted_g is not None, plugged=s.plugged, frozen=s.frozen, off_by_c=t.off_by_c, surface_plugged=t.plugged, labels_left=p.left,
        printed=tuple(x.lines for x in p.printed),
    )  # fmt: skip


@router.get("/devices")
def devices(here: Here) -> Panel:
    """The simulated devices."""
    return _panel(here)


@router.post("/devices/scale")
def touch_scale(act: ScaleAct, here: Here) -> Panel:
    """Touch the simulated scale."""
    s = here.hub.scale
    match act.act:
        case "pour":
            s.pour(act.grams)
        case "unplug" | "plug":
            s.plugged = act.act == "plug"
        case "freeze" | "thaw":
            s.frozen = act.act == "freeze"
        case _:
            {"lift": s.lift, "put_back": s.put_back, "tare": s.tare, "clear": s.clear}[act.act]()
    here.stove.keep_device("scale", s.saved())
    return _panel(here)


@router.post("/devices/surface")
def touch_surface(act: SurfaceAct, here: Here) -> Panel:
    """Touch the simulated surface."""
    here.hub.thermometer.off_by_c, here.hub.thermometer.plugged = act.off_by_c, act.plugged
    return _panel(here)


@dataclass(frozen=True, slots=True)
class Beat:
    """One message of the stream: this moment, the surface [°C] and how far it is off where it should be hot by now, how many events each batch has, and for the batch that is asked for the line
    on the scale, its slot, what its readings mean, and whether the next may follow by itself."""

    now: float
    clock: str
    surface_c: float | None
    heat_words: str
    counts: dict[str, int]
    line: int | None
    slot: int
    pour: Pour
    inside: bool


class _Watcher:
    """What one screen is told; the guide is asked again only when its batch has moved."""

    def __init__(self, here: Context, batch: str | None) -> None:
        self.here, self.batch = here, batch
        self.count = -1
        self.line: int | None = None
        self.slot, self.zero, self.missing, self.tolerance = 0, 0.0, 0.0, 1.0
        self.known = self.auto = False
        self.hot: tuple[Surface, float, float] | None = None

    def look(self) -> Beat:
        """This moment's message."""
        if self.batch is not None and self.here.stove.counts.get(self.batch, 0) != self.count:
            self._again()
        readings, at = self.here.hub.readings()
        pour = weigh(readings, self.zero if self.known else (readings[-1].grams if readings else 0.0), at, self.here.facts.stove.scale)
        if self.batch is not None and self.here.stove.weighing not in (None, self.batch):
            pour = elsewhere(pour.gross)
        inside = self.known and self.auto and self.line is not None and pour.inside(self.missing, self.tolerance)
        return Beat(
            self.here.clock.now(),
            self.here.clock.words(),
            (celsius := self.here.hub.surface_c()),
            self._drift(celsius),
            dict(self.here.stove.counts),
            self.line,
            self.slot,
            pour,
            inside,
        )

    def _drift(self, celsius: float | None) -> str:
        if self.hot is None or celsius is None or self.here.clock.now() < self.hot[2]:
            return ""
        return drift(self.hot[0], self.hot[1], celsius)

    def _again(self) -> None:
        assert self.batch is not None
        self.count = self.here.stove.counts.get(self.batch, 0)
        try:
            g = _guide(self.here.stove.batch(self.batch), self.here)
        except KeyError:
            self.batch = None
            return
        s = g.state
        if s.chosen is not None and s.heat_on is not None:
            self.hot = s.chosen.surface, s.celsius or s.chosen.celsius, s.heat_on + 60 * s.chosen.surface.heat_up_min
        line = g.current
        self.line = line.at if line and line.by == "scale" else None
        self.known = g.state.zero is not None
        self.zero = g.state.zero or 0.0
        if line:
            self.slot, self.missing, self.tolerance = line.slot, line.missing, line.tolerance
            self.auto = line.auto


@router.get(
    "/stove/stream",
    response_class=StreamingResponse,
    responses={200: {"model": Beat, "description": "One such message after another, as server-sent events."}},
)
async def stream(request: Request, here: Here, batch: Annotated[Id | None, Query()] = None) -> StreamingResponse:
    """The counter, live (server-sent events): a message whenever the scale or a batch has moved, and one each second."""
    watcher = _Watcher(here, batch)

    async def beats() -> AsyncIterator[str]:
        last, sent = "", 0.0
        while not await request.is_disconnected():
            beat = await run_in_threadpool(watcher.look)
            said = asdict(beat)
            moved = json.dumps({k: v for k, v in said.items() if k != "now"})
            if moved != last or beat.now - sent >= BEAT_S:
                last, sent = moved, beat.now
                yield f"data: {json.dumps(said)}\n\n"
            await asyncio.sleep(LOOK_S)

    return StreamingResponse(beats(), media_type="text/event-stream", headers={"cache-control": "no-store"})


# ---- what it is cooked on, and what was learned


@router.get("/surfaces")
def surfaces(here: Here) -> tuple[Surface, ...]:
    """The kitchen's surfaces."""
    return here.facts.stove.surface


@router.put("/surfaces")
def put_surface(put: PutSurface, here: Here) -> tuple[Surface, ...]:
    """Keep a surface, or put it away; the list as it then is."""
    here.stove.put_surface(put.surface, put.away)
    return here.facts.stove.surface


@router.get("/learned")
def learned(here: Here) -> tuple[Learnt, ...]:
    """Everything that was learned and stands."""
    found: dict[tuple[Kind, str], list[Lesson]] = {}
    for x in here.stove.lessons():
        found.setdefault((x.kind, x.subject), []).append(x)
    return tuple(Learnt(kind=k, subject=s, name=_subject(k, s, here), lessons=tuple(x)) for (k, s), x in found.items())


@router.post("/learned/forget")
def forget(what: Forget, here: Here) -> tuple[Learnt, ...]:
    """Forget what was learned of a subject, or let it stand again."""
    here.stove.forget(what.kind, what.subject, what.back)
    return learned(here)


def _subject(kind: Kind, subject: str, here: Context) -> str:
    if kind == "absorption":
        i = here.facts.ingredients.get(subject)
        return i.short if i else subject
    if kind == "pace":
        return next((s.name for s in here.facts.stove.surface if s.id == subject), subject)
    return "test piece"
