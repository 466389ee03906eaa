"""What holding back has cost and what a look would save: the cups of a batter, batch by batch, and what to measure next."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..analysis.analysis import analyse
from ..balances.holdback import hold_back
from ..balances.water import absorption_doubt, water
from ..batter.batter import Batter
from ..batter.bowl import Bowl, fill
from ..batter.main_liquid import main_flour, main_liquid
from ..errors import Known
from ..food.ingredients import Ingredient
from ..measures.profile import Profile
from ..stove.batch import Batch
from ..stove.facts import StoveFacts
from ..stove.fold import fold
from .predicted import Predicted

NUDGE = 0.02  # of the thirst, for the slope of the spread
WORTH_G = 1.0  # a saving below this is none


@dataclass(frozen=True, slots=True, kw_only=True)
class Cup:
    """What was held back of the liquid in one batch [g], what of it the bowl asked for [g], and whether a bag of flour was new in it."""

    batch: str
    held_g: float
    asked_g: float
    new_bag: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnNext:
    """One look that would save most: which ingredient, the hold-back [g] as it stands, and after one spread of 60 mL and after three."""

    ingredient: str
    name: str
    now_g: float
    after_one_g: float
    after_three_g: float


def held_and_asked(batch: Batch, frozen: Predicted | None, known: Mapping[str, Ingredient]) -> tuple[float, float] | None:
    """What was held back of a batch's liquid as it was reckoned at the start, and what of it the bowl asked for [g]; None where that was not
    reckoned, or no liquid was poured."""
    at = main_liquid(_weighed(batch, known))
    if frozen is None or frozen.pour_g is None or not frozen.hold_g or at is None:
        return None
    poured = next((x.poured for x in fold(batch.plan, batch.events).lines if x.at == at), 0.0)
    return None if poured <= 0 else (frozen.hold_g, min(max(0.0, poured - frozen.pour_g), frozen.hold_g))


def flour_of(batch: Batch, known: Mapping[str, Ingredient]) -> str:
    """The flour that there is most of in a batch's plan; "" where there is none."""
    at = main_flour(_weighed(batch, known))
    return "" if at is None else batch.plan.lines[at].ingredient or ""


def _weighed(batch: Batch, known: Mapping[str, Ingredient]) -> list[tuple[int, Ingredient, float]]:
    return [(n, known[x.ingredient or ""], x.grams) for n, x in enumerate(batch.plan.lines) if x.counts and x.ingredient in known]


def cups(batches: Sequence[tuple[str, Mapping[str, float], str]]) -> tuple[Cup, ...]:
    """The cups of batches of one batter, the oldest first: each by its id, its figures, and the pack of its flour ("" where none was named). Those
    without a hold-back stand on no shelf."""
    found: list[Cup] = []
    bag = ""
    for id_, figures, pack in batches:
        if "held_g" not in figures:
            continue
        new = bool(pack and bag) and pack != bag
        bag = pack or bag
        found.append(Cup(batch=id_, held_g=round(figures["held_g"], 1), asked_g=round(figures["asked_g"], 1), new_bag=new))
    return tuple(found)


def learn_next(batter: Batter, facts: StoveFacts, profile: Profile) -> tuple[LearnNext, ...]:
    """What ten seconds with a cold plate would save, ingredient by ingredient, the most first; what saves less than a gram is left out.

    A spread read with a standard deviation s tells a thirst with s over the slope of the spread by it; beliefs and readings are normal, so
    precisions add. The doubt that is left goes through the same hold-back as any other.
    """
    a = analyse(batter, facts, profile, {})
    now = hold_back(a.bowl, "scale")
    if now is None or a.water.spread_cm is None:
        return ()
    found = []
    for i in {p.ingredient.id: p.ingredient for p in a.bowl.portions if p.ingredient.is_drinker}.values():
        slope = (_spread(_with(batter, facts, i, thirst=1 + NUDGE)) - _spread(_with(batter, facts, i, thirst=1 - NUDGE))) / (2 * NUDGE)
        if slope == 0:
            continue
        seen = facts.stove.judge.spread_sd_cm / abs(slope)
        doubt = absorption_doubt(i)
        after = [hold_back(_with(batter, facts, i, doubt=_told(doubt, seen, times)), "scale") for times in (1, 3)]
        if after[0] is not None and after[1] is not None and now.hold_g - after[0].hold_g >= WORTH_G:
            found.append(
                LearnNext(
                    ingredient=i.id, name=i.short, now_g=round(now.hold_g, 1), after_one_g=round(after[0].hold_g, 1), after_three_g=round(after[1].hold_g, 1)
                )
            )  # fmt: skip
    return tuple(sorted(found, key=lambda x: (x.after_one_g, x.ingredient)))


def _told(doubt: float, seen: float, times: int) -> float:
    """The standard deviation that is left of a doubt after so many looks.

    >>> round(_told(0.1, 0.1, 1), 4)
    0.0707
    """
    return math.sqrt(1 / (1 / max(doubt, 1e-9) ** 2 + times / seen**2))


def _with(batter: Batter, facts: StoveFacts, i: Ingredient, thirst: float = 1.0, doubt: float | None = None) -> Bowl:
    update: dict[str, float] = {"absorption_g_per_g": i.absorption_g_per_g * thirst}
    if doubt is not None:
        update["absorption_doubt"] = doubt
    return fill(batter, replace(facts, ingredients=Known({**facts.ingredients, i.id: i.model_copy(update=update)})))


def _spread(bowl: Bowl) -> float:
    return water(bowl).spread_cm or 0.0
