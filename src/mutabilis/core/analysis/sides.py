"""The dishes beside a batter: the lines of each, its own verdicts and allergens, and what it weighs."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ..balances.nutrition import nutrition, per_serving
from ..batter.batter import Batter, BatterLine
from ..batter.bowl import fill
from ..diets.allergens import allergens
from ..diets.packs import PackReading
from ..diets.rules import DietRule
from ..diets.verdicts import Judged, judge
from ..measures.profile import Profile
from .facts import AnalysisFacts


@dataclass(frozen=True, slots=True, kw_only=True)
class SideDish:
    """A dish beside the batter: the places of its lines in the batter, what they weigh together [g], what it holds, and whom it fits,
    judged alone; limits a serving are taken of this dish alone, the plate's verdict holds for all that a guest eats."""

    name: str
    lines: tuple[int, ...]
    grams: float
    diets: dict[str, Judged]
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]


def dishes(lines: tuple[BatterLine, ...]) -> dict[str, tuple[int, ...]]:
    """The names of the dishes beside a batter, in their order, with the places of their lines, their headings among them where those name a food."""
    found: dict[str, tuple[int, ...]] = {}
    for at, line in enumerate(lines):
        if line.where in ("plate", "aside") and line.side:
            found[line.side] = (*found.get(line.side, ()), at)
    return found


def side_dishes(
    batter: Batter, servings: float, facts: AnalysisFacts, profile: Profile, rules: Mapping[str, DietRule], readings: Mapping[str, PackReading] | None
) -> tuple[SideDish, ...]:  # fmt: skip
    """Every dish beside a batter that so many eat of."""
    found = []
    for name, places in dishes(batter.lines).items():
        lines = tuple(batter.lines[at] for at in places)
        alone = fill(batter.model_copy(update={"lines": lines}), facts, "plate")
        n = nutrition(alone, profile)
        each = per_serving(n, alone.total("sodium"), servings)
        contains, may = allergens(lines, facts)
        found.append(
            SideDish(
                name=name, lines=places, grams=sum(x.grams for x in lines if x.known), contains=contains, may_contain=may,
                diets={key: _placed(judge(lines, rule, facts, profile, each, readings, "plate"), places) for key, rule in rules.items()},
            )
        )  # fmt: skip
    return tuple(found)


def _placed(judged: Judged, places: tuple[int, ...]) -> Judged:
    """The same verdict, its lines told by their places in the batter."""
    at = [replace(r, line=None if r.line is None else places[r.line]) for r in (*judged.reasons, *judged.cautions)]
    return Judged(judged.verdict, tuple(at[: len(judged.reasons)]), tuple(at[len(judged.reasons) :]))
