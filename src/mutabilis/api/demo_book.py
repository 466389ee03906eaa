"""A new book filled with the demo's house, through the same doors that a kitchen's own work takes."""

from datetime import date, timedelta

from mutabilis.core.facts import AllFacts
from mutabilis.data import load_service
from mutabilis.demo import fill, guests, second_griddle
from mutabilis.demo.remembered import RECALLED, Seen, remember
from mutabilis.demo.weeks import fill_weeks
from mutabilis.formats.photo import readied

from .context import Context
from .journal import TakenAlong, freeze, one, take
from .log import MOST, read_log
from .stove import closing
from .stove_views import guided

GUESTS_DAYS = 30


def fill_book(here: Context, facts: AllFacts, log: bool) -> None:
    """The demo's batters, larder, guests and second griddle, and with `log` the batches of six weeks with what is remembered of them. What is there
    already is left as it is."""
    fill(here.book, facts, here.larder)
    if log:
        made = fill_weeks(
            here.book, here.stove, facts, here.clock.now(), lambda batch, _: ((), closing(guided(batch, here), here.journal.frozen(batch.id))),
            begun=lambda batch: freeze(batch, here),
        )  # fmt: skip
        if made:
            _remember(here)
    second_griddle(here.stove, facts.surfaces)
    today = date.fromtimestamp(here.clock.now())
    guests(load_service(), today.isoformat(), (today + timedelta(days=GUESTS_DAYS)).isoformat(), here.mornings)


def _remember(here: Context) -> None:
    lines = {x.id: x for x in here.stove.log(0, MOST)[0]}
    seen = [
        Seen(
            line=lines[x.line.id],
            faults=x.line.faults,
            packs=tuple(p.pack for p in x.summary.packs if p.ingredient == RECALLED and p.pack),
        )
        for x in read_log(here)
    ]

    def keep_photo(batch: str, data: bytes) -> None:
        p = readied(data)
        here.photos.put(batch, p.whole, p.small, p.width, p.height)

    def take_along(batch: str, id_: str) -> None:
        found = one(batch, here).diagnosis
        if found is not None and found.causes:
            take(batch, TakenAlong(id=id_, cause=found.causes[0].cause), here)

    remember(seen, here.journal, keep_photo, take_along)
