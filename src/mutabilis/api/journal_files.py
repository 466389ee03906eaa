"""The log as files: a table of batches, of their faults, of their pours; and whole, as JSON that comes back."""

import csv
import io
import json
import re
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.journal.predicted import Predicted
from mutabilis.core.journal.served import Served
from mutabilis.core.stove.batch import Batch
from mutabilis.store.journal import Said

from .context import PROBLEMS, Context, Here
from .log import LogLine, read_log
from .stove import closing
from .stove_views import guided
from .tables import cell, saved
from .workers import apart

router = APIRouter(prefix="/api/journal", responses=PROBLEMS, tags=["journal"])
Kind = Literal["csv", "faults.csv", "pours.csv", "json"]
LATEST_S = 4e9  # what an event may bear at most [s since 1970]
MOST_LEFT = 50  # of what could not be taken, that many are named


class Whole(BaseModel):
    """A batch with everything that is kept of it, photographs apart: they are in a backup."""

    model_config = ConfigDict(frozen=True, extra="ignore")

    batch: Batch
    notes: tuple[Said, ...] = ()
    frozen: Predicted | None = None
    served: tuple[Served, ...] = ()


class Left(BaseModel):
    """A batch of a file that was not taken, and why."""

    batch: str
    why: str


class Brought(BaseModel):
    """What came in: how many batches, how many were here already, and those that could not be taken."""

    brought: int
    here_already: int
    left: Annotated[tuple[Left, ...], Field(max_length=MOST_LEFT)]
    left_in_all: int


@router.get("/log.{kind}", responses={200: {"content": {"text/csv": {}, "application/json": {}}}})
def log_file(kind: Kind, here: Here) -> Response:
    """The log as tables, or whole with everything that happened."""
    if kind == "json":
        whole = [_whole(x.id, here).model_dump(mode="json") for x in _lines(here)]
        return Response(json.dumps(whole, ensure_ascii=False, indent=1), media_type="application/json", headers=saved("journal.json"))
    rows = {"csv": _batches, "faults.csv": _faults, "pours.csv": _pours}[kind](here)
    out = io.StringIO()
    table = csv.writer(out)
    table.writerows([cell(c) for c in row] for row in rows)
    return Response(
        out.getvalue(), media_type="text/csv; charset=utf-8", headers=saved(f"journal-{kind}" if kind != "csv" else "journal.csv")
    )


@router.post("/log", openapi_extra={"requestBody": {"required": True, "content": {"application/json": {"schema": {}}}}})
async def bring(request: Request, here: Here) -> Brought:
    """Take in a log that was saved as JSON: every batch that can be read and whose version is in this Book; what is here already stays."""
    data = await request.body()

    def take() -> Brought:
        try:
            rows = json.loads(data)
        except (ValueError, RecursionError):
            raise CannotBe("this is no log saved as JSON") from None
        if not isinstance(rows, list):
            raise CannotBe("a log is a list of batches")
        return _brought(rows, here)

    return await apart(take, seconds=120)


def _brought(rows: list[Any], here: Context) -> Brought:
    left: list[Left] = []
    read: list[Whole] = []
    for n, row in enumerate(rows, 1):
        try:
            read.append(Whole.model_validate(row))
        except ValidationError as error:
            left.append(Left(batch=f"batch {n}", why=error.errors()[0]["msg"]))
    brought = known = 0
    for one in sorted(read, key=lambda w: w.batch.finished or 0.0):  # what was learned was learned in this order
        try:
            if _take(one, here):
                brought += 1
            else:
                known += 1
        except NotKnown:
            left.append(Left(batch=_named(one), why="the version it was made of is not in this Book: read that in first"))
        except CannotBe as error:
            left.append(Left(batch=_named(one), why=str(error)))
    return Brought(brought=brought, here_already=known, left=tuple(left[:MOST_LEFT]), left_in_all=len(left))


def _take(one: Whole, here: Context) -> bool:
    if not re.fullmatch(r"[0-9a-f]{16}", one.batch.id):
        raise CannotBe("its id is none")
    if not 0 <= one.batch.started <= LATEST_S:
        raise CannotBe("it began on no day")
    for line in one.batch.plan.lines:
        if line.ingredient is not None and line.ingredient not in here.facts.ingredients:
            raise CannotBe(f"there is no ingredient “{line.ingredient[:60]}” in this kitchen: read in its label first")
    over = closing(guided(one.batch, here), one.frozen)
    if over is None:
        raise CannotBe("it was not finished")
    if not here.stove.bring(one.batch, over):
        return False
    for said in one.notes:
        here.journal.say(one.batch.id, said)
    if one.frozen is not None:
        here.journal.freeze(one.batch.id, one.frozen)
    here.journal.serve(one.batch.id, one.served)
    return True


def _lines(here: Context) -> list[LogLine]:
    return [x.line for x in read_log(here)]


def _named(one: Whole) -> str:
    return f"{one.batch.name}, {one.batch.id}"[:120]


def _whole(batch_id: str, here: Context) -> Whole:
    j = here.journal
    return Whole(batch=here.stove.batch(batch_id), notes=j.notes(batch_id), frozen=j.frozen(batch_id), served=j.served(batch_id))


def _batches(here: Context) -> list[tuple[object, ...]]:
    rows: list[tuple[object, ...]] = [("day", "batter", "version", "for", "cook", "pieces", "planned", "stars", "faults", "note", "batch")]
    rows += [
        (x.day, x.name, x.number, x.whom, x.cook, x.pieces, round(x.planned, 1), x.stars or "", " ".join(x.faults), x.note, x.id)
        for x in _lines(here)
    ]
    return rows


def _faults(here: Context) -> list[tuple[object, ...]]:
    return [("batch", "day", "batter", "fault"), *((x.id, x.day, x.name, f) for x in _lines(here) for f in x.faults)]


def _pours(here: Context) -> list[tuple[object, ...]]:
    rows: list[tuple[object, ...]] = [("batch", "day", "ingredient", "planned_g", "poured_g", "by", "pack")]
    known = here.facts.ingredients
    for x in _lines(here):
        b = here.stove.batch(x.id)
        for e in b.events:
            if e.kind == "poured" and e.line < len(b.plan.lines):
                line = b.plan.lines[e.line]
                name = known[line.ingredient].name if line.ingredient and line.ingredient in known else line.text
                rows.append((b.id, x.day, name, round(line.grams, 2), round(e.grams, 2), e.by, e.pack or ""))
    return rows
