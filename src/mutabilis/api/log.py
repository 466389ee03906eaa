"""The log as it is read for lists: every finished batch as a line, from what was kept of it when it was over. No batch is folded for it."""

from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime

from mutabilis.core.journal.served import Served, eaten_by
from mutabilis.core.journal.summary import Summary, summary
from mutabilis.core.journal.trace import Use
from mutabilis.core.stove.events import Kept
from mutabilis.store.database import StoreError
from mutabilis.store.journal import SaidOf

from .context import Context

MOST = 4000  # batches that a list looks back over: ten years of a busy kitchen


@dataclass(frozen=True, slots=True, kw_only=True)
class LogLine:
    """A batch in the log: the day, what it was, for whom, who made it, how it came out."""

    id: str
    version_id: str
    batter_id: str
    name: str
    number: int
    day: str
    at: float
    whom: str
    cook: str
    mark: int
    pieces: int
    planned: float
    stars: int | None
    faults: tuple[str, ...]
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Remembered:
    """A line of the log with what is remembered of its batch: its summary, what was said of it since, who ate of it."""

    line: LogLine
    summary: Summary
    told: SaidOf
    served: tuple[Served, ...]

    @property
    def ate(self) -> str:
        """For whom it was, in words."""
        return eaten_by(self.served, self.line.whom)

    def uses(self, ingredient: str) -> tuple[Use, ...]:
        """The packs of an ingredient that went into it, each as a use of it."""
        mine = [p for p in self.summary.packs if p.ingredient == ingredient]
        if not mine:
            return ()
        kept = ", ".join(f"{k.amount:g} {k.what.replace('_', ' ')}" for k in self.still_kept)
        until = day_of(max(k.until for k in self.still_kept)) if self.still_kept else ""
        x = self.line
        return tuple(
            Use(batch=x.id, name=x.name, day=x.day, ingredient=p.ingredient, pack=p.pack, whom=self.ate, kept=kept, until=until)
            for p in mine
        )

    @property
    def still_kept(self) -> tuple[Kept, ...]:
        """What is kept of it and neither used nor discarded."""
        return tuple(k for k in self.summary.kept if k.id not in self.told.gone)


def read_log(here: Context) -> list[Remembered]:
    """All of the log, the latest first. A batch that is older than its summary gets one now."""
    told, served, nobody = here.journal.told_of_all(), here.journal.served_of_all(), SaidOf()
    found = []
    for x in here.stove.log(0, MOST)[0]:
        known = x.summary or _summed_up(x.id, here)
        of = told.get(x.id, nobody)
        line = LogLine(
            id=x.id, version_id=x.version_id, batter_id=x.batter_id, name=x.name, number=x.number, day=day_of(x.finished), at=x.finished, whom=x.whom, cook=x.cook, mark=x.mark,
            pieces=x.pieces, planned=x.planned, stars=x.stars, faults=of.faults if of.faults is not None else known.faults, note=x.note,
        )  # fmt: skip
        found.append(Remembered(line=line, summary=known, told=of, served=served.get(x.id, ())))
    return found


def sum_up(here: Context, ending: Callable[[], bool]) -> None:
    """Sum up the batches that are older than their summaries, so that no page has to wait for it; until the server is `ending`."""
    with suppress(StoreError):
        for x in here.stove.log(0, MOST)[0]:
            if x.summary is None and not ending():
                _summed_up(x.id, here)


def _summed_up(id_: str, here: Context) -> Summary:
    found = summary(here.stove.batch(id_), here.facts, here.profile(), here.journal.frozen(id_))
    with suppress(StoreError):  # a book that cannot be written to is read all the same
        here.stove.summarise(id_, found)
    return found


def day_of(at: float) -> str:
    """A moment [s since 1970] as a day."""
    return datetime.fromtimestamp(at).strftime("%Y-%m-%d")
