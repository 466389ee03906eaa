"""What the front end is shown: analyses and answers in the shapes it draws, nothing computed that the core has not."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from fastapi import Response
from pydantic import TypeAdapter

from mutabilis.core.adapt.adapt import Adaptation
from mutabilis.core.adapt.course import Kind
from mutabilis.core.adapt.job import Answer
from mutabilis.core.adapt.reasons import Change
from mutabilis.core.analysis.analysis import Analysis, Plate
from mutabilis.core.analysis.costs import Cost, cost
from mutabilis.core.balances.entry import Band, Ledger
from mutabilis.core.balances.holdback import HoldBack, hold_back
from mutabilis.core.balances.nutrition import Nutrition
from mutabilis.core.balances.warnings import TOLD, Warning
from mutabilis.core.balances.yields import Yield
from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.batter.odd_amounts import queries
from mutabilis.core.diets.pack_questions import questions
from mutabilis.core.diets.rules import DietRule
from mutabilis.core.diets.verdicts import Judged, Verdict, in_short, together, worst
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.ingredients import Confidence
from mutabilis.core.food.kitchen_measures import measure
from mutabilis.core.food.larder import to_buy
from mutabilis.core.measures.profile import Profile
from mutabilis.core.process.sides import side_works
from mutabilis.core.process.sorting import sort_lines
from mutabilis.core.reading.line_questions import Question, Reply, beside_of, questions_of
from mutabilis.core.reading.own_names import called
from mutabilis.core.recipe.card import per_piece

from .context import Context
from .wording import in_kitchen


@dataclass(frozen=True, slots=True)
class Named:
    """An ingredient by id and name."""

    id: str
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LineView:
    """One line as shown: its own text, what it was read as, grams and the kitchen's measure; the worst verdict of the diets asked
    for; a question where its amount is odd; what it could be where its name is two things or was not known; and what its pack would
    have to say for the diets to fit it. `asks`: what it leaves open; `beside`: foods it counts beside its own;
    `called`: the cook's own name for it; `why`: the verdict's reason in a word."""

    line: BatterLine
    name: str
    full_name: str
    group: str
    measure: str
    ranged: bool
    source: str
    confidence: Confidence
    verdict: Verdict
    query: str
    could_be: tuple[Named, ...]
    pack_says: tuple[str, ...]
    asks: tuple[Question, ...]
    beside: tuple[Reply, ...]
    called: str
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class GuestsView:
    """For whom it is: the diets asked for with the worst of their verdicts, of the batter and with what meets it on the pan and the plate, and
    what it contains and may contain."""

    diets: dict[str, Judged]
    verdict: Verdict
    plate_verdict: Verdict
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class PiecesView:
    """What is made of it: the pieces, what one holds by itself and with its share of the plate, what it costs, and what to hold back of the
    liquid, weighing and by cups."""

    yields: Yield
    per_piece: dict[str, float]
    per_piece_plate: dict[str, float]
    cost: Cost | None
    hold_back: HoldBack | None
    hold_back_cups: HoldBack | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SideView:
    """A dish beside the batter: what goes in and what it yields [g], the minutes of hands and of waiting, the days it keeps, how it is made, and the
    verdict of the diets asked for on it alone, with the first reason."""

    name: str
    lines: tuple[int, ...]
    grams: float
    yield_g: float
    hands_min: float
    wait_min: float
    days: float | None
    steps: tuple[str, ...]
    verdict: Verdict
    reason: str
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class BatterView:
    """A batter with all that is known of it: its lines and balances with the ends of their tracks, its guests, its pieces. `at_fault`: something in it can be mended."""

    batter: Batter
    lines: tuple[LineView, ...]
    form_label: str
    batter_g: float
    servings: float
    rest_min: float
    hydration_pct: float | None
    water_g: float
    ledgers: tuple[Ledger, ...]
    scales: dict[str, Band]
    nutrition: Nutrition
    plate: Plate
    warnings: tuple[Warning, ...]
    at_fault: bool
    guests: GuestsView
    pieces: PiecesView
    sides: tuple[SideView, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class TransferView:
    """What passed from one ingredient to another, and how much it weighs beside the others."""

    function: str
    unit: str
    source: str | None
    target: str | None
    amount: float
    weight: float


@dataclass(frozen=True, slots=True, kw_only=True)
class AnswerView:
    """One answer as shown: its kind and one fact about it; `adds` are major allergens that the base did not have; `buy` are the names of what has to be bought: not in the Larder where that is kept, else not in the base."""

    batter: BatterView
    changes: tuple[Change, ...]
    transfers: tuple[TransferView, ...]
    cautions: tuple[str, ...]
    technique: tuple[str, ...]
    worse: tuple[str, ...]
    adds: tuple[str, ...]
    buy: tuple[str, ...]
    confidence: Confidence
    score: float
    kind: Kind = "nearest"
    fact: str = ""
    unchanged: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class SlotView:
    """A kind of answer: where its answer stands among the answers, with one fact; or why it is empty."""

    kind: Kind
    label: str
    answer: int | None
    fact: str
    empty: str


@dataclass(frozen=True, slots=True)
class InfeasibleView:
    """Why not, and the nearest thing that can."""

    reasons: tuple[str, ...]
    nearest: AnswerView | None


@dataclass(frozen=True, slots=True, kw_only=True)
class AdaptationView:
    """Base, answers, or why there is none."""

    base: BatterView
    answers: tuple[AnswerView, ...]
    infeasible: InfeasibleView | None
    faults: tuple[str, ...]
    slots: tuple[SlotView, ...]


def batter_view(a: Analysis, diets: Sequence[str], here: Context) -> BatterView:
    """An analysis as shown, for the diets asked for (all of them analysed)."""
    facts, profile = here.facts, here.profile()
    form = a.bowl.form
    odd = queries(a.batter, facts)
    rules = [facts.diets[k] for k in diets]
    lines = tuple(
        _line(line, _worst_at(at, a, diets), _why_at(at, a, diets, facts), odd.get(at, ""), rules, here, profile)
        for at, line in enumerate(a.batter.lines)
    )
    guests = GuestsView(
        diets={k: a.diets[k] for k in diets}, verdict=worst(a.diets[k].verdict for k in diets), plate_verdict=worst(a.plate.diets[k].verdict for k in diets), contains=a.contains,
        may_contain=a.may_contain,
    )  # fmt: skip
    pieces = PiecesView(
        yields=a.yields, per_piece=per_piece(a), per_piece_plate=per_piece(a, plate=True), cost=cost(a.batter, a.servings, a.yields.pieces, here.prices(), facts),
        hold_back=hold_back(a.bowl, "scale"), hold_back_cups=hold_back(a.bowl, "cups"),
    )  # fmt: skip
    return BatterView(
        batter=a.batter, lines=lines, form_label=form.label, batter_g=a.batter_g, servings=a.servings, rest_min=a.bowl.rest_min, hydration_pct=a.water.hydration_pct, water_g=a.water.total_g,
        ledgers=a.ledgers, scales={x.key: ends for x in a.ledgers if (ends := facts.tellings.ends(x.key, x.band))}, nutrition=a.nutrition, plate=a.plate, warnings=a.warnings, at_fault=any(w.code in TOLD for w in a.warnings), guests=guests, pieces=pieces, sides=side_views(a, diets, here),
    )  # fmt: skip


def side_views(a: Analysis, diets: Sequence[str], here: Context) -> tuple[SideView, ...]:
    """The dishes beside an analysed batter; one that is only laid on has nothing to be made."""
    if not a.sides:
        return ()
    works = {w.name: w for w in side_works(sort_lines(a, here.facts), here.facts)}
    found = []
    for x in a.sides:
        w = works.get(x.name)
        told = together(*(x.diets[k] for k in diets))
        found.append(
            SideView(
                name=x.name, lines=x.lines, grams=x.grams, yield_g=w.yield_g if w else x.grams, hands_min=w.hands_min if w else 0.0, wait_min=w.wait_min if w else 0.0,
                days=w.days if w else None, steps=tuple(o.text for o in w.operations if o.kind != "weigh") if w else (), verdict=told.verdict,
                reason=told.reasons[0].text if told.reasons else "", contains=x.contains, may_contain=x.may_contain,
            )
        )  # fmt: skip
    return tuple(found)


def _worst_at(at: int, a: Analysis, diets: Sequence[str]) -> Verdict:
    return worst(r.verdict for k in diets for r in a.plate.diets[k].reasons if r.line == at)


def _why_at(at: int, a: Analysis, diets: Sequence[str], facts: AllFacts) -> str:
    """Why a line does not simply fit, in a word or two: each thing once, the worst first."""
    i = facts.ingredients.get(a.batter.lines[at].ingredient or "")
    found = [r for k in diets for r in a.plate.diets[k].reasons if r.line == at]
    if i is None or not found:
        return ""
    told = dict.fromkeys(in_short(r.text, i) for r in found if r.verdict == worst(x.verdict for x in found))
    return ", ".join(list(told)[:2])


def _line(line: BatterLine, verdict: Verdict, why: str, query: str, rules: Sequence[DietRule], here: Context, profile: Profile) -> LineView:
    """A line as shown; one that was not read keeps its own text for a name."""
    facts = here.facts
    i = facts.ingredients.get(line.ingredient or "")
    could_be = tuple(Named(id_, facts.ingredients[id_].name) for id_ in facts.names.could_be(line.text, line.note, line.problem))
    asks, beside = questions_of(line, facts), beside_of(line, facts)
    if i is None:
        return LineView(
            line=line,
            name=line.text,
            full_name=line.text,
            group="",
            measure="",
            ranged=False,
            source="",
            confidence="low",
            verdict=verdict,
            query=query,
            could_be=could_be,
            pack_says=(),
            asks=asks,
            beside=beside,
            called=line.text,
            why="not read",
        )
    says = questions(i, rules, profile, here.readings.get(i.id)) if verdict == "cannot_vouch" else ()
    name = f"{i.short}? “{line.text[:40]}”" if line.guessed else i.short
    return LineView(
        line=line, name=name, full_name=i.name, group=i.group, measure=measure(i, line.grams, profile), ranged=line.ranged, source=i.source, confidence=line.confidence, verdict=verdict, query=query, could_be=could_be, pack_says=says, asks=asks, beside=beside,
        called=name if line.guessed else called(line, facts), why=why,
    )  # fmt: skip


def answer_view(x: Answer, base: Batter, diets: Sequence[str], here: Context, kind: Kind = "nearest", fact: str = "") -> AnswerView:
    """An answer as shown."""
    return AnswerView(
        batter=batter_view(x.analysis, diets, here), changes=x.changes, transfers=tuple(TransferView(function=t.function, unit=t.unit, source=t.source, target=t.target, amount=t.amount, weight=t.weight) for t in x.transfers), cautions=x.cautions, technique=x.technique, worse=x.worse, adds=x.adds, buy=_buy(x, base, here), confidence=x.confidence, score=x.score, kind=kind, fact=fact, unchanged=x.unchanged,
    )  # fmt: skip


def _buy(x: Answer, base: Batter, here: Context) -> tuple[str, ...]:
    stock = here.larder_kept()
    at_hand = {*stock} if stock is not None else {"water", *(line.ingredient for line in base.lines)}
    return tuple(here.facts.ingredients[id_].short for id_ in to_buy((line.ingredient for line in x.analysis.batter.lines), at_hand))


def adaptation_view(x: Adaptation, diets: Sequence[str], here: Context) -> AdaptationView:
    """An adaptation as shown."""
    infeasible = None
    base = x.base.batter
    if x.infeasible:
        nearest = answer_view(x.infeasible.nearest, base, diets, here) if x.infeasible.nearest else None
        infeasible = InfeasibleView(x.infeasible.reasons, nearest)
    filled = [s for s in x.slots if s.answer]
    answers = tuple(answer_view(s.answer, base, diets, here, s.kind, s.fact) for s in filled if s.answer)
    slots = tuple(
        SlotView(kind=s.kind, label=s.label, answer=filled.index(s) if s.answer else None, fact=s.fact, empty=s.empty) for s in x.slots
    )
    return AdaptationView(base=batter_view(x.base, diets, here), answers=answers, infeasible=infeasible, faults=x.faults, slots=slots)


_ADAPTERS: dict[type, TypeAdapter[Any]] = {}
_SHIPPED = Profile()


def as_answer(view: object, profile: Profile = _SHIPPED) -> Response:
    """A view as JSON, its sentences in the kitchen's degrees and figures; written once: the framework would check our own objects a second time, for
    more than they took."""
    view = in_kitchen(view, profile)
    adapter = _ADAPTERS.get(type(view))
    if adapter is None:
        adapter = _ADAPTERS[type(view)] = TypeAdapter(type(view))
    return Response(adapter.dump_json(view), media_type="application/json")
