"""The counter, live: the scale, the surface's thermometer and the label printer, their panel, and the stream of what they say."""

import asyncio
import json
from collections.abc import AsyncIterator
from dataclasses import asdict, dataclass
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.book.versions import Id
from mutabilis.core.errors import NotKnown
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.stove.cooking import drift
from mutabilis.core.stove.weighing import Pour, elsewhere, weigh

from .context import PROBLEMS, Context, Here
from .stove_views import guided

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["stove"])
BEAT_S, LOOK_S = 1.0, 0.05


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


def panel(here: Context) -> Panel:
    """The simulated devices as they stand."""
    s, t, p = here.hub.scale, here.hub.thermometer, here.hub.printer
    return Panel(
        on_g=s.on_g, lifted=s.lifted_g is not None, plugged=s.plugged, frozen=s.frozen, off_by_c=t.off_by_c, surface_plugged=t.plugged, labels_left=p.left,
        printed=tuple(x.lines for x in p.printed),
    )  # fmt: skip


@router.get("/devices")
def devices(here: Here) -> Panel:
    """The simulated devices."""
    return panel(here)


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
    return panel(here)


@router.post("/devices/surface")
def touch_surface(act: SurfaceAct, here: Here) -> Panel:
    """Touch the simulated surface."""
    here.hub.thermometer.off_by_c, here.hub.thermometer.plugged = act.off_by_c, act.plugged
    return panel(here)


@dataclass(frozen=True, slots=True, kw_only=True)
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


class Watcher:
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
            now=self.here.clock.now(),
            clock=self.here.clock.words(),
            surface_c=(celsius := self.here.hub.surface_c()),
            heat_words=self._drift(celsius),
            counts=dict(self.here.stove.counts),
            line=self.line,
            slot=self.slot,
            pour=pour,
            inside=inside,
        )

    def _drift(self, celsius: float | None) -> str:
        if self.hot is None or celsius is None or self.here.clock.now() < self.hot[2]:
            return ""
        return drift(self.hot[0], self.hot[1], celsius)

    def _again(self) -> None:
        assert self.batch is not None
        self.count = self.here.stove.counts.get(self.batch, 0)
        try:
            g = guided(self.here.stove.batch(self.batch), self.here)
        except NotKnown:
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
    watcher = Watcher(here, batch)

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
