"""The Bench: read a text, analyse a batter, adapt it, keep the draft."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, ConfigDict, Field, JsonValue

from mutabilis.core.analysis import analyse
from mutabilis.core.batter import Batter, BatterLine, FormKey
from mutabilis.core.book import Version
from mutabilis.core.reading import read_lines
from mutabilis.core.swaps.adapt import adapt
from mutabilis.core.swaps.wishes import Wishes
from mutabilis.demo import demo_batters

from .context import PROBLEMS, Here
from .views import AdaptationView, BatterView, adaptation_view, as_answer, batter_view

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["bench"])
BENCH = "bench"


class Text(BaseModel):
    """A recipe's ingredient list as written."""

    model_config = ConfigDict(extra="forbid")

    text: Annotated[str, Field(max_length=100_000)]


class Asked(BaseModel):
    """A batter and what is wished of it."""

    model_config = ConfigDict(extra="forbid")

    batter: Batter
    wishes: Wishes = Wishes()


class DietChoice(BaseModel):
    """A diet that can be asked for."""

    key: str
    label: str


class FormChoice(BaseModel):
    """A form of the family."""

    key: FormKey
    label: str


class Start(BaseModel):
    """What the Bench opens on: the draft where there is one, else a batter of the Book with wishes to show."""

    version: Version | None
    diets: tuple[str, ...]
    draft: JsonValue
    shipped_diets: tuple[DietChoice, ...]
    forms: tuple[FormChoice, ...]
    faults: tuple[str, ...]


@router.get("/start")
def start(here: Here) -> Start:
    """What to open on."""
    draft = here.drafts.get(BENCH)
    entries = here.book.entries()
    opening = {name: diets for name, _, diets in demo_batters(here.facts) if diets}
    entry = next((e for e in entries if e.name in opening and e.versions), next((e for e in entries if e.versions), None))
    version_id = entry.versions[0].id if entry else None
    if isinstance(draft, dict) and isinstance(draft.get("versionId"), str):
        known = {v.id for e in entries for v in e.versions}
        version_id = draft["versionId"] if draft["versionId"] in known else version_id
    return Start(
        version=here.book.version(version_id) if version_id else None,
        diets=opening.get(entry.name, ()) if entry else (),
        draft=draft,
        shipped_diets=tuple(DietChoice(key=k, label=r.label) for k, r in here.facts.diets.items()),
        forms=tuple(FormChoice(key=k, label=f.label) for k, f in here.facts.forms.items()),
        faults=here.facts.faults,
    )


@router.post("/read")
def read(asked: Text, here: Here) -> tuple[BatterLine, ...]:
    """Read a text line by line; lines that cannot be read come back marked."""
    return read_lines(asked.text, here.facts, here.profile())[:200]


@router.post("/analyse", response_model=BatterView)
def analyse_batter(batter: Batter, here: Here) -> Response:
    """The ledgers, verdicts and warnings of a batter."""
    profile = here.profile()
    return as_answer(batter_view(analyse(here.check(batter), here.facts, profile, readings=here.readings), here.facts, profile))


@router.post("/adapt", response_model=AdaptationView)
def adapt_batter(asked: Asked, here: Here) -> Response:
    """Adapt a batter to wishes."""
    here.check(asked.batter)
    here.check_diets(asked.wishes.diets)
    profile = here.profile()
    return as_answer(adaptation_view(adapt(asked.batter, asked.wishes, here.facts, profile, here.readings), here.facts, profile))


@router.get("/draft")
def draft(here: Here) -> JsonValue:
    """What is on the bench and not saved; null where nothing is."""
    return here.drafts.get(BENCH)  # type: ignore[return-value]


@router.put("/draft", status_code=204)
def keep_draft(body: dict[str, JsonValue], here: Here) -> None:
    """Keep what is on the bench."""
    here.drafts.put(BENCH, body)


@router.delete("/draft", status_code=204)
def drop_draft(here: Here) -> None:
    """Clear the bench."""
    here.drafts.drop(BENCH)
