"""What the front end is shown: analyses and answers in the shapes it draws, nothing computed that the core has not."""

from dataclasses import dataclass

from fastapi import Response
from pydantic import TypeAdapter

from mutabilis.core.analysis import Analysis
from mutabilis.core.batter import Batter, BatterLine
from mutabilis.core.bowl import fill
from mutabilis.core.diets import Judged
from mutabilis.core.facts import Facts
from mutabilis.core.holdback import HoldBack, hold_back
from mutabilis.core.ingredients import Confidence
from mutabilis.core.ledgers.entry import Ledger
from mutabilis.core.ledgers.nutrition import Nutrition
from mutabilis.core.measures import measure
from mutabilis.core.quantities.units import Profile
from mutabilis.core.swaps.adapt import Adaptation
from mutabilis.core.swaps.job import Answer
from mutabilis.core.swaps.reasons import Change
from mutabilis.core.swaps.transfers import Transfer
from mutabilis.core.warnings import Warning


@dataclass(frozen=True, slots=True)
class LineView:
    """One line as shown: its own text, what it was read as, grams and the kitchen's measure."""

    line: BatterLine
    name: str
    full_name: str
    group: str
    measure: str
    source: str
    confidence: Confidence


@dataclass(frozen=True, slots=True)
class BatterView:
    """A batter with all that is known of it."""

    batter: Batter
    lines: tuple[LineView, ...]
    form_label: str
    batter_g: float
    servings: float
    rest_min: float
    hydration_pct: float | None
    hold_back: HoldBack | None
    hold_back_cups: HoldBack | None
    ledgers: tuple[Ledger, ...]
    nutrition: Nutrition
    diets: dict[str, Judged]
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]
    warnings: tuple[Warning, ...]


@dataclass(frozen=True, slots=True)
class AnswerView:
    """One answer as shown."""

    batter: BatterView
    changes: tuple[Change, ...]
    transfers: tuple[Transfer, ...]
    cautions: tuple[str, ...]
    technique: tuple[str, ...]
    worse: tuple[str, ...]
    confidence: Confidence
    score: float


@dataclass(frozen=True, slots=True)
class InfeasibleView:
    """Why not, and the nearest thing that can."""

    reasons: tuple[str, ...]
    nearest: AnswerView | None


@dataclass(frozen=True, slots=True)
class AdaptationView:
    """Base, answers, or why there is none."""

    base: BatterView
    answers: tuple[AnswerView, ...]
    infeasible: InfeasibleView | None
    faults: tuple[str, ...]


def batter_view(a: Analysis, facts: Facts, profile: Profile) -> BatterView:
    """An analysis as shown."""
    form = facts.forms[a.batter.form]
    bowl = fill(a.batter, facts)
    rest = form.rest_min if a.batter.rest_min is None else a.batter.rest_min
    return BatterView(
        a.batter, tuple(line_view(line, facts, profile) for line in a.batter.lines), form.label, a.batter_g, a.servings, rest,
        a.water.hydration_pct, hold_back(bowl, "scale"), hold_back(bowl, "cups"), a.ledgers, a.nutrition, a.diets, a.contains, a.may_contain, a.warnings,
    )  # fmt: skip


def line_view(line: BatterLine, facts: Facts, profile: Profile) -> LineView:
    """A line as shown; one that was not read keeps its own text for a name."""
    i = facts.ingredients.get(line.ingredient or "")
    if i is None:
        return LineView(line, line.text, line.text, "", "", "", "low")
    return LineView(line, i.short, i.name, i.group, measure(i, line.grams, profile), i.source, line.confidence)


def answer_view(x: Answer, facts: Facts, profile: Profile) -> AnswerView:
    """An answer as shown."""
    return AnswerView(
        batter_view(x.analysis, facts, profile),
        x.changes,
        x.transfers,
        x.cautions,
        x.technique,
        x.worse,
        x.confidence,
        x.score,
    )


def adaptation_view(x: Adaptation, facts: Facts, profile: Profile) -> AdaptationView:
    """An adaptation as shown."""
    infeasible = None
    if x.infeasible:
        nearest = answer_view(x.infeasible.nearest, facts, profile) if x.infeasible.nearest else None
        infeasible = InfeasibleView(x.infeasible.reasons, nearest)
    return AdaptationView(
        batter_view(x.base, facts, profile),
        tuple(answer_view(a, facts, profile) for a in x.answers),
        infeasible,
        x.faults,
    )


_BATTER, _ADAPTATION = TypeAdapter(BatterView), TypeAdapter(AdaptationView)


def as_answer(view: BatterView | AdaptationView) -> Response:
    """A view as JSON, written once: the framework would check our own objects a second time, for more than they took."""
    content = _BATTER.dump_json(view) if isinstance(view, BatterView) else _ADAPTATION.dump_json(view)
    return Response(content, media_type="application/json")
