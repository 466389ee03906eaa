"""The Bench: read a text, analyse a batter, adapt it, swap a line by hand, its card, and the draft."""

from typing import Annotated, Literal

from fastapi import APIRouter, Response
from pydantic import BaseModel, ConfigDict, Field, JsonValue

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.choices import Choice, choices
from mutabilis.core.adapt.mends import mended
from mutabilis.core.adapt.scaling import Size, scale
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.marks import Telling
from mutabilis.core.balances.warnings import TOLD
from mutabilis.core.batter.batter import Batter, BatterLine, FormKey, Moment, Order, Whites
from mutabilis.core.book.versions import DietKeys, Name, Version
from mutabilis.core.diets.rules import ANIMALS
from mutabilis.core.food.allergen_tokens import ALLERGENS
from mutabilis.core.food.nutrients import NutrientName, nutrient_names
from mutabilis.core.heat.largest_piece import LargestPiece, largest_piece
from mutabilis.core.measures.degrees import HeatScale
from mutabilis.core.measures.profile import CupMl, TbspMl
from mutabilis.core.measures.units import Source
from mutabilis.core.process.parts import Ways
from mutabilis.core.reading.line_questions import Told, answered
from mutabilis.core.reading.reading import read_as, read_lines
from mutabilis.core.recipe.card import Card, card
from mutabilis.demo import opens_with
from mutabilis.formats import card_pdf

from .context import PROBLEMS, Context, Here
from .views import AdaptationView, BatterView, adaptation_view, as_answer, batter_view
from .wording import in_kitchen
from .workers import apart

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["bench"])
BENCH = "bench"


class Text(BaseModel):
    """A recipe's ingredient list as written, and the cup and table spoon of its source [mL] where they are not the kitchen's;
    `as_ingredient` reads it, one line, as that."""

    model_config = ConfigDict(extra="forbid")

    text: Annotated[str, Field(max_length=100_000)]
    as_ingredient: Annotated[str | None, Field(max_length=80)] = None
    cup_ml: CupMl | None = None
    tbsp_ml: TbspMl | None = None


class Looked(BaseModel):
    """A batter, and the diets it is looked at for."""

    model_config = ConfigDict(extra="forbid")

    batter: Batter
    diets: DietKeys = ()


class Asked(BaseModel):
    """A batter and what is wished of it; `larder_only` allows only what is in, beside the batter's own."""

    model_config = ConfigDict(extra="forbid")

    batter: Batter
    wishes: Wishes = Wishes()
    larder_only: bool = False


class AskedSwap(BaseModel):
    """A line of a batter that is to be swapped by hand."""

    model_config = ConfigDict(extra="forbid")

    batter: Batter
    line: Annotated[int, Field(ge=0, le=199)]
    diets: DietKeys = ()


class AskedCard(BaseModel):
    """A batter whose card is wanted."""

    model_config = ConfigDict(extra="forbid")

    batter: Batter
    name: Name
    diets: DietKeys = ()
    note: Annotated[str, Field(max_length=4000)] = ""
    order: Order | None = None
    leavening: Moment | None = None
    whites: Whites | None = None
    paper: Literal["a4", "letter"] = "a4"


class AskedSize(BaseModel):
    """A batter and the size that is wanted of it."""

    model_config = ConfigDict(extra="forbid")

    batter: Batter
    size: Size
    diets: DietKeys = ()


class SizedView(BaseModel):
    """One way to the size: its label, the factor, and the batter with its balances."""

    label: str
    factor: float
    view: BatterView


class DietChoice(BaseModel):
    """A diet that can be asked for."""

    key: str
    label: str
    own: bool


class FormChoice(BaseModel):
    """A form of the family."""

    key: FormKey
    label: str
    portion_ml: float


class Start(BaseModel):
    """What the Bench opens on: the draft where there is one, else a batter of the Book with wishes to show."""

    version: Version | None
    diets: tuple[str, ...]
    draft: JsonValue
    known_diets: tuple[DietChoice, ...]
    forms: tuple[FormChoice, ...]
    faults: tuple[str, ...]
    larder_kept: bool
    decimal: Literal["point", "comma"]
    heat: HeatScale
    tellings: dict[str, Telling]
    shown: Literal["both", "grams", "kitchen"]
    sources: tuple[Source, ...]
    nutrients: tuple[NutrientName, ...]
    allergens: tuple[str, ...]
    animals: tuple[str, ...]


@router.get("/health")
def health() -> dict[str, bool]:
    """Whether the server is there: asked by a page that has lost it."""
    return {"here": True}


@router.get("/start")
def start(here: Here) -> Start:
    """What to open on."""
    facts, profile = here.facts, here.profile()
    draft = here.drafts.get(BENCH)
    version_id = draft.get("versionId") if isinstance(draft, dict) else None
    known = here.book.versions([version_id]) if isinstance(version_id, str) else ()
    version, diets = (known[0] if known else None), tuple[str, ...]()
    if version is None and not isinstance(draft, dict):
        opening = opens_with()
        recent = here.book.newest()
        entries = here.book.entries(recent[:200])
        entry = next((e for e in entries if e.name in opening and e.versions), next((e for e in entries if e.versions), None))
        if entry:
            version, diets = here.book.version(entry.versions[0].id), opening.get(entry.name, ())
    return Start(
        version=version, diets=diets, draft=draft, nutrients=nutrient_names(), allergens=ALLERGENS, animals=ANIMALS,
        known_diets=tuple(DietChoice(key=k, label=r.label, own=here.own_diets.is_own(k)) for k, r in facts.diets.items()),
        forms=tuple(FormChoice(key=k, label=f.label, portion_ml=f.portion_ml) for k, f in facts.forms.items()), faults=facts.faults,
        larder_kept=here.larder_kept() is not None, decimal=profile.decimal, heat=profile.heat, tellings=facts.tellings.balances, shown=profile.shown,
        sources=facts.units.sources,
    )  # fmt: skip


@router.post("/read")
async def read(asked: Text, here: Here) -> tuple[BatterLine, ...]:
    """Read a text line by line; lines that cannot be read come back marked, and what is no ingredient set aside."""
    return await apart(lambda: _read(asked, here))


def _read(asked: Text, here: Context) -> tuple[BatterLine, ...]:
    profile = here.profile().measuring(asked.cup_ml, asked.tbsp_ml)
    if asked.as_ingredient is not None:
        return (read_as(asked.text, here.check_ingredient(asked.as_ingredient), here.facts, profile),)
    return read_lines(asked.text, here.facts, profile, here.words.all())


class Answered(BaseModel):
    """A line, and the answer to one of its questions; the cup and table spoon of its source [mL] where they are not the kitchen's."""

    model_config = ConfigDict(extra="forbid")

    line: BatterLine
    told: Told
    cup_ml: CupMl | None = None
    tbsp_ml: TbspMl | None = None


@router.post("/answer")
def answer(given: Answered, here: Here) -> BatterLine:
    """A line after the answer to one of its questions. What is preparation of this food is remembered for it."""
    here.check(Batter(lines=(given.line,)))
    profile = here.profile().measuring(given.cup_ml, given.tbsp_ml)
    line = answered(given.line, given.told, here.facts, profile)
    if given.told.kind == "word" and given.told.ingredient is None and line.ingredient:
        here.words.put(given.told.about, line.ingredient)
    return line


class KitchenWord(BaseModel):
    """A word that this kitchen said is preparation, and the food of which it said so."""

    word: Annotated[str, Field(max_length=80)]
    ingredient: Annotated[str, Field(max_length=80)]
    name: str = ""


@router.get("/words")
def words(here: Here) -> tuple[KitchenWord, ...]:
    """The words that this kitchen said are preparation."""
    known = here.facts.ingredients
    return tuple(KitchenWord(word=w, ingredient=i, name=known[i].short) for w, i in sorted(here.words.all()) if i in known)


@router.delete("/words", status_code=204)
def forget_word(word: str, ingredient: str, here: Here) -> None:
    """Forget such a word: it is asked about again."""
    here.words.drop(word, ingredient)


@router.post("/analyse", response_model=BatterView)
def analyse_batter(asked: Looked, here: Here) -> Response:
    """The ledgers, warnings, and the verdicts of the diets asked for."""
    here.check_diets(asked.diets)
    facts = here.facts
    rules = {k: facts.diets[k] for k in asked.diets}
    a = analyse(here.check(asked.batter), facts, here.profile(), rules, here.readings)
    return as_answer(batter_view(a, asked.diets, here), here.profile())


@router.post("/adapt", response_model=AdaptationView)
async def adapt_batter(asked: Asked, here: Here) -> Response:
    """Adapt a batter to wishes, at the kitchen's own prices."""
    return await apart(lambda: _adapt(asked, here))


def _adapt(asked: Asked, here: Context) -> Response:
    here.check(asked.batter)
    here.check_diets(asked.wishes.diets)
    wishes = (
        asked.wishes.model_copy(update={"prices": {**here.prices(), **asked.wishes.prices}})
        if asked.wishes.max_cost is not None
        else asked.wishes
    )
    wishes = wishes.model_copy(update={"at_hand": here.larder_kept()})
    if asked.larder_only:
        wishes = wishes.model_copy(update={"larder": here.in_stock()})
    found = adapt(asked.batter, wishes, here.facts, here.profile(), here.readings, here.recent)
    return as_answer(adaptation_view(found, wishes.diets, here), here.profile())


class MendView(BaseModel):
    """The mended batter, what to do in words, and the codes of the faults that go."""

    batter: Batter
    words: str
    codes: tuple[str, ...]


class Mended(BaseModel):
    """The faults of a batter in words, and the mend of what can be mended; whether a lack of lift is one that may be meant."""

    faults: tuple[str, ...]
    mend: MendView | None
    may_be_flat: bool


@router.post("/mend")
async def mend_batter(asked: Looked, here: Here) -> Mended:
    """What is at fault in a batter, and its mend: solved, run again through every ledger, holding every diet that it fits."""
    return await apart(lambda: _mend(asked, here))


def _mend(asked: Looked, here: Context) -> Mended:
    here.check_diets(asked.diets)
    before = analyse(here.check(asked.batter), here.facts, here.profile(), here.facts.diets, here.readings)
    found = mended(before, here.facts, here.profile(), here.readings, asked.diets)
    faults = [w for w in before.warnings if w.code in TOLD]
    return Mended(
        faults=tuple(w.text for w in faults),
        mend=MendView(batter=found.batter, words=found.words, codes=found.codes) if found else None,
        may_be_flat=any(w.code in ("lift_none", "lift_low") for w in faults),
    )


@router.post("/piece")
async def piece_of(asked: Looked, here: Here) -> LargestPiece | None:
    """The largest piece of a batter on the kitchen's usual surface, its heat and its time."""
    found = await apart(lambda: largest_piece(analyse(here.check(asked.batter), here.facts, here.profile(), {}), here.facts))
    return in_kitchen(found, here.profile())


@router.post("/choices")
async def swap_choices(asked: AskedSwap, here: Here) -> tuple[Choice, ...]:
    """What could stand in a line's place, with the effect of each."""
    return await apart(lambda: _choices(asked, here))


def _choices(asked: AskedSwap, here: Context) -> tuple[Choice, ...]:
    here.check(asked.batter)
    here.check_diets(asked.diets)
    facts = here.facts
    return choices(asked.batter, asked.line, {k: facts.diets[k] for k in asked.diets}, facts, here.profile(), here.readings)


@router.post("/scale")
def scale_batter(asked: AskedSize, here: Here) -> tuple[SizedView, ...]:
    """A batter in another size, with the ways to it and their balances."""
    here.check(asked.batter)
    here.check_diets(asked.diets)
    facts = here.facts
    rules = {k: facts.diets[k] for k in asked.diets}
    return tuple(
        SizedView(
            label=s.label,
            factor=s.factor,
            view=batter_view(analyse(s.batter, facts, here.profile(), rules, here.readings), asked.diets, here),
        )
        for s in scale(asked.batter, asked.size, facts)
    )


@router.post("/card")
def card_of(asked: AskedCard, here: Here) -> Card:
    """The recipe card of a batter."""
    return _card(asked, here)


@router.post("/card.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def card_as_pdf(asked: AskedCard, here: Here) -> Response:
    """The recipe card as a PDF."""
    return Response(card_pdf.write(_card(asked, here), here.profile(), asked.paper), media_type="application/pdf")


def _card(asked: AskedCard, here: Here) -> Card:
    here.check_diets(asked.diets)
    facts = here.facts
    a = analyse(here.check(asked.batter), facts, here.profile(), {k: facts.diets[k] for k in asked.diets}, here.readings)
    return card(
        asked.name,
        a,
        asked.diets,
        facts,
        here.profile(),
        Ways(order=asked.order, leavening=asked.leavening, whites=asked.whites),
        asked.note,
    )


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
