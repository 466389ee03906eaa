"""Files in and out: open formats, and our own with everything."""

import sqlite3
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import replace
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, HTTPException, Query, Request, Response
from pydantic import BaseModel

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Order
from mutabilis.core.book.versions import Version
from mutabilis.core.diets.rules import DietRule
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.measures.profile import CupMl, TbspMl
from mutabilis.core.process.parts import Ways
from mutabilis.core.recipe.card import card
from mutabilis.formats import card_pdf, finding, json_ld, lines_csv, markdown, own_json, plain_text
from mutabilis.formats.own_json import Everything
from mutabilis.formats.shapes import LARGEST_FILE, Found, Unreadable
from mutabilis.store.database import StoreError
from mutabilis.store.records import dump, load

from .context import PROBLEMS, Context, Here
from .workers import apart

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["exchange"])
Format = Literal["json", "jsonld", "txt", "md", "csv", "pdf"]
_MEDIA = {
    "json": "application/json", "jsonld": "application/ld+json", "txt": "text/plain; charset=utf-8", "md": "text/markdown; charset=utf-8",
    "csv": "text/csv; charset=utf-8", "pdf": "application/pdf",
}  # fmt: skip
_NOT_CARRIED: dict[Format, tuple[str, ...]] = {
    "json": own_json.NOT_CARRIED, "jsonld": json_ld.NOT_CARRIED, "txt": plain_text.NOT_CARRIED, "md": markdown.NOT_CARRIED,
    "csv": lines_csv.NOT_CARRIED, "pdf": ("nothing that a program could read again",),
}  # fmt: skip


class FormatSheet(BaseModel):
    """A format and what it cannot carry."""

    key: Format
    not_carried: tuple[str, ...]


class Imported(BaseModel):
    """What a file held: recipes to be looked at before anything is saved, or batters of our own kind that were kept at once."""

    format: str
    recipes: tuple[Found, ...]
    kept: int
    already: int
    told: tuple[str, ...]


@router.get("/formats")
def formats() -> tuple[FormatSheet, ...]:
    """The formats a version can be saved in, and what each cannot carry."""
    return tuple(FormatSheet(key=k, not_carried=v) for k, v in _NOT_CARRIED.items())


@router.post(
    "/import",
    openapi_extra={
        "requestBody": {"content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}}, "required": True}
    },
)
async def import_file(
    request: Request, here: Here, filename: Annotated[str, Query(max_length=300)] = "", cup_ml: CupMl | None = None, tbsp_ml: TbspMl | None = None
) -> Imported:  # fmt: skip
    """Read a file, in the cup and table spoon of its source [mL]. Recipes come back to be reviewed; our own JSON is kept as it is,
    save for what is here already."""
    data = await request.body()
    if len(data) > LARGEST_FILE:
        raise HTTPException(413, f"A file of more than {LARGEST_FILE // 1_000_000} MB is no recipe; nothing was changed.")
    return await apart(lambda: _imported(data, filename, here, cup_ml, tbsp_ml), 60.0)


def _imported(data: bytes, filename: str, here: Context, cup_ml: float | None, tbsp_ml: float | None) -> Imported:
    try:
        if data.strip() and own_json.is_own(data[:4000].decode("utf-8", errors="replace")):
            return _keep(own_json.read(data), here)
        name, found = finding.recipes(data, filename, here.facts, here.profile().measuring(cup_ml, tbsp_ml))
    except Unreadable as error:
        raise HTTPException(422, f"Nothing could be read from this file: {error}. Nothing was changed.") from error
    measured = {"cup_ml": cup_ml, "tbsp_ml": tbsp_ml}
    found = tuple(replace(f, batter=f.batter.model_copy(update=measured)) for f in found)
    return Imported(format=name, recipes=found, kept=0, already=0, told=())


def _keep(everything: Everything, here: Context) -> Imported:
    """Batters that are not here yet, and the kitchen that they were made in where this one has nothing of its own to say: all of it in
    one transaction, or nothing."""
    told: list[str] = []
    diets: list[DietRule] = []
    try:
        with here.database.write() as db:
            more = load(db, everything.records, of_versions=False)
            if not everything.records:
                _keep_facts(everything, here, told)
            # What the file brings is known only once it is in: the facts are put together anew inside the transaction.
            here.larder.revision += 1
            for rule in everything.diets:
                if rule.key not in here.facts.diets:
                    try:
                        here.own_diets.put(rule, here.facts)
                        diets.append(rule)
                        told.append(f"diet “{rule.label}” was added")
                    except CannotBe as error:
                        told.append(f"diet “{rule.label}” was left out: {error}")
            kept, already = _keep_batters(everything, here, told)
            more += load(db, everything.records, of_versions=True)
            if more:
                told.append(f"{more} records of the kitchen were added")
    except (sqlite3.IntegrityError, OverflowError) as error:
        raise _refused(here, diets, CannotBe(f"it cannot be kept: {error}")) from error
    except (CannotBe, NotKnown) as error:
        raise _refused(here, diets, error) from error
    here.anew()
    return Imported(format="Mutabilis", recipes=(), kept=kept, already=already, told=tuple(told[:50]))


def _refused(here: Context, diets: Sequence[DietRule], error: Exception) -> HTTPException:
    """Nothing of the file stays: its diets' files go with what was rolled back."""
    for rule in diets:
        with suppress(NotKnown):
            here.own_diets.remove(rule.key)
    here.anew()
    return HTTPException(422, f"Nothing could be read from this file: {str(error)[:200]}. Nothing was changed.")


def _keep_facts(everything: Everything, here: Context, told: list[str]) -> None:
    """Packs, items and readings of a file without records."""
    mine = {x.id for some in here.packs() for x in some}
    shipped = here.facts.ingredients
    fresh_packs = [label for label in everything.packs if label.id not in mine and label.id not in shipped]
    for label in fresh_packs:
        here.larder.put_pack(label)
        told.append(f"own pack “{label.name}” was added")
    known = {*shipped, *(label.id for label in fresh_packs)}
    fresh = [item for item in everything.items if item.ingredient not in here.items and item.ingredient in known]
    if fresh:
        here.larder.put(fresh)
        told.append(f"{len(fresh)} things in the Larder were added")
    held = {kept.reading for kept in here.larder.readings()}
    for reading in everything.readings:
        if reading not in held and reading.ingredient in known:
            here.larder.add_reading(reading)


def _keep_batters(everything: Everything, here: Context, told: list[str]) -> tuple[int, int]:
    kept = already = 0
    known = here.facts.ingredients
    for sheet in everything.batters:
        held = (x for v in sheet.versions for line in v.batter.lines for x in (line.ingredient, line.alternative, *line.also, *line.maybe))
        missing = {x for x in held if x and x not in known}
        if missing:
            told.append(f"“{sheet.name}” was left out: {', '.join(sorted(missing)[:3])} not known here")
            continue
        try:
            _, new = here.book.keep(sheet)
        except CannotBe as error:  # found before anything of it was written
            told.append(f"“{sheet.name}” was left out: {error}")
            continue
        kept, already = kept + new, already + (not new)
    return kept, already


@router.get("/versions/{version_id}/file", response_class=Response)
def version_file(
    version_id: str, here: Here, format: Format, order: Order | None = None, paper: Literal["a4", "letter"] = "a4"
) -> Response:
    """A version as a file; our own JSON carries its whole family."""
    v = here.book.version(version_id)
    if format == "json":
        data = own_json.write(_with_its_facts(Everything(batters=(here.book.sheet(v.batter_id),)), here))
    elif format == "csv":
        data = lines_csv.write(v.batter, here.facts, here.profile())
    else:
        data = _as_card(v, format, order, paper, here)
    name = f"{v.name} {v.number}.{'jsonld' if format == 'jsonld' else format}"
    return Response(
        data, media_type=_MEDIA[format], headers={"content-disposition": f"attachment; filename*=UTF-8''{quote(name, safe='')}"}
    )


def _as_card(v: Version, format: Format, order: Order | None, paper: Literal["a4", "letter"], here: Context) -> bytes:
    facts, profile = here.facts, here.profile()
    diets = tuple(k for k in v.diets if k in facts.diets)
    a = analyse(v.batter, facts, profile, {k: facts.diets[k] for k in diets}, here.readings)
    made = card(v.name, a, diets, facts, profile, Ways(order=order), v.note)
    if format == "jsonld":
        return json_ld.write(made, v.saved)
    if format == "pdf":
        return card_pdf.write(made, profile, paper)
    return markdown.write(made) if format == "md" else plain_text.write(made)


def _with_its_facts(everything: Everything, here: Context) -> Everything:
    """The own packs that the batters hold go with them: without them they could not be read elsewhere."""
    held = {line.ingredient for sheet in everything.batters for v in sheet.versions for line in v.batter.lines}
    packs = (*here.packs()[0], *here.packs()[1])
    return everything.model_copy(update={"packs": tuple(label for label in packs if label.id in held)})


@router.get("/everything", response_class=Response)
def everything(here: Here) -> Response:
    """The whole Book and the kitchen it was made in, as our own JSON."""
    return whole_book(here)


def whole_book(here: Context) -> Response:
    """All that there is, as our own JSON; of a damaged book all that can be read, and what could not."""
    own = tuple(rule for key, rule in here.facts.diets.items() if here.own_diets.is_own(key))
    records, lost = dump(here.database)
    told = [f"{lost} tables could not be read"] if lost else []
    sheets = []
    for id_ in here.book.ids():
        try:
            sheets.append(here.book.sheet(id_))
        except (StoreError, ValueError, LookupError) as error:
            if not here.database.damage:
                raise
            told.append(f"the batter {id_} could not be read: {str(error)[:80]}")
    whole = Everything(
        batters=tuple(sheets), packs=(*here.packs()[0], *here.packs()[1]), items=tuple(here.items.values()),
        readings=tuple(kept.reading for kept in here.larder.readings()), diets=own, profile=here.profile(), records=records, told=tuple(told[:100]),
    )  # fmt: skip
    return Response(
        own_json.write(whole), media_type="application/json", headers={"content-disposition": 'attachment; filename="mutabilis-book.json"'}
    )
