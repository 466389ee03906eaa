"""The counter, live: the scale, the surface's thermometer and the label printer, their panel, and the stream of what they say."""

import asyncio
import hashlib
import json
from collections.abc import AsyncIterator
from dataclasses import asdict, dataclass
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse

from mutabilis.core.book.versions import Id
from mutabilis.core.errors import NotKnown
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.stove.cooking import drift, heat_left
from mutabilis.core.stove.events import Poured
from mutabilis.core.stove.weighing import Pour, elsewhere, weigh

from .context import PROBLEMS, Context, Here
from .stove import happened
from .stove_views import guided

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["stove"])
BEAT_S, LOOK_S = 1.0, 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Beat:
    """One message of the stream: this moment, the surface [°C] and how far it is off where it should be hot by now, in how many seconds it is hot, how many events each batch has, and for the batch that is asked for the line
    on the scale, its slot, what its readings mean, and whether the next may follow by itself."""

    now: float
    clock: str
    surface_c: float | None
    heat_words: str
    heat_left_s: float | None
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
        self.known = self.auto = self.weighs = self.held = False
        self.part, self.last = "", True
        self.hot: tuple[Surface, float, float] | None = None  # what heats, to which heat [°C], and since when

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
            heat_words=self.here.profile().told(self._drift(celsius)),
            heat_left_s=self._heat_left(celsius),
            counts=dict(self.here.stove.counts),
            line=self.line,
            slot=self.slot,
            pour=pour,
            inside=inside,
        )

    def _drift(self, celsius: float | None) -> str:
        if self.hot is None or celsius is None or self.here.clock.now() < self.hot[2] + 60 * self.hot[0].heat_up_min:
            return ""
        return drift(self.hot[0], self.hot[1], celsius)

    def _heat_left(self, celsius: float | None) -> float | None:
        return None if self.hot is None else heat_left(*self.hot, self.here.clock.now(), celsius)

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
            self.hot = s.chosen.surface, s.celsius or s.chosen.celsius, s.heat_on
        line = g.current
        self.line = line.at if line and line.by == "scale" and g.before_pour is None else None
        self.known = g.zero is not None
        self.zero = g.zero or 0.0
        self.weighs = s.stage == "weigh" and s.finished is None
        if line:
            self.slot, self.missing, self.tolerance = line.slot, line.missing, line.tolerance
            self.auto, self.held = line.auto, line.holds
            self.part, self.last = line.part, line.last


class ScaleHand:
    """Takes what stands within its tolerance on the scale, whether or not a screen is looking: the pour is written down, and the next line
    follows. A screen that confirms the same pour names the same slot, so it counts once."""

    def __init__(self, here: Context) -> None:
        self.here = here
        self.watcher: Watcher | None = None

    def look(self) -> bool:
        """Take what there is to take; whether anything was."""
        batch = self.here.stove.weighing
        if batch is None:
            self.watcher = None
            return False
        if self.watcher is None or self.watcher.batch != batch:
            self.watcher = Watcher(self.here, batch)
        beat = self.watcher.look()
        if not beat.inside or not self.watcher.weighs or beat.line is None or beat.pour.poured is None:
            return False
        told = f"{batch} {beat.line} {beat.slot}"
        pour = Poured(
            id=hashlib.sha256(told.encode()).hexdigest()[:16], at=self.here.clock.now(), line=beat.line, slot=beat.slot, grams=beat.pour.poured,
            gross=beat.pour.gross, part=self.watcher.part, done=self.watcher.last, held=self.watcher.held and self.watcher.last,
        )  # fmt: skip
        happened(batch, (pour,), self.here)
        return True


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
        while not here.hub.ending and not await request.is_disconnected():
            beat = await run_in_threadpool(watcher.look)
            said = asdict(beat)
            moved = json.dumps({k: v for k, v in said.items() if k != "now"})
            if moved != last or beat.now - sent >= BEAT_S:
                last, sent = moved, beat.now
                yield f"data: {json.dumps(said)}\n\n"
            await asyncio.sleep(LOOK_S)

    return StreamingResponse(beats(), media_type="text/event-stream", headers={"cache-control": "no-store"})
