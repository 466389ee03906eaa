"""What a batch is thought to become, reckoned when it begins and kept as it was: what is learned later does not change it."""

from collections.abc import Mapping, Sequence

from pydantic import BaseModel, ConfigDict

from ..analysis.analysis import analyse
from ..analysis.costs import cost
from ..balances.holdback import hold_back
from ..food.learning import Lesson
from ..heat.largest_piece import largest_piece
from ..measures.profile import Profile
from ..stove.batch import Batch
from ..stove.facts import StoveFacts


class Taught(BaseModel):
    """A lesson that was in force."""

    model_config = ConfigDict(frozen=True, extra="ignore", defer_build=True)

    kind: str
    subject: str
    mean: float
    sd: float


class Predicted(BaseModel):
    """What was reckoned at the start: the spread of 60 mL [cm] with its interval, what is poured and held back of the liquid [g], turn and done [s]
    on the usual surface at its heat [°C], pieces, what the batter costs, the lessons in force, the version of this program, and what the
    batch is measured by (None: its own plan)."""

    model_config = ConfigDict(frozen=True, extra="ignore", defer_build=True)

    program: str
    reference: str | None = None
    reference_words: str = ""
    proven: bool = False
    spread_cm: float | None = None
    spread_low_cm: float | None = None
    spread_high_cm: float | None = None
    pour_g: float | None = None
    hold_g: float | None = None
    surface: str | None = None
    celsius: float | None = None
    portion_ml: float | None = None
    turn_s: float | None = None
    done_s: float | None = None
    pieces: float = 0.0
    cost: float | None = None
    lessons: tuple[Taught, ...] = ()


def predicted(
    batch: Batch, facts: StoveFacts, profile: Profile, program: str, lessons: Sequence[Lesson] = (), prices: Mapping[str, float] | None = None,
    reference: tuple[str | None, str, bool] = (None, "", False),
) -> Predicted:  # fmt: skip
    """Reckon a batch by its plan. `prices` a kilogram by ingredient; the cost is left out where one of a line's is not known."""
    a = analyse(batch.plan, facts, profile, {})
    plan, piece = hold_back(a.bowl, "scale"), largest_piece(a, facts)
    money = cost(batch.plan, a.servings, a.yields.pieces, prices or {}, facts)
    return Predicted(
        program=program, reference=reference[0], reference_words=reference[1], proven=reference[2], spread_cm=a.water.spread_cm, spread_low_cm=a.water.spread_low_cm, spread_high_cm=a.water.spread_high_cm,
        pour_g=plan.pour_g if plan else None, hold_g=plan.hold_g if plan else None, surface=piece.surface if piece else None, celsius=piece.celsius if piece else None, portion_ml=piece.portion_ml if piece else None,
        turn_s=piece.turn_s if piece else None, done_s=piece.done_s if piece else None, pieces=a.yields.pieces, cost=money.total if money and not money.unpriced else None,
        lessons=tuple(Taught(kind=x.kind, subject=x.subject, mean=x.after_mean, sd=x.after_sd) for x in _latest(lessons)),
    )  # fmt: skip


def _latest(lessons: Sequence[Lesson]) -> list[Lesson]:
    """The last lesson of each subject."""
    found: dict[tuple[str, str], Lesson] = {}
    for x in lessons:
        found[x.kind, x.subject] = x
    return list(found.values())
