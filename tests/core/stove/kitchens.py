"""Simulated kitchens: true thirst, egg sizes and hands drawn at random, and a cook who follows the tool."""

import random
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from mutabilis.core.balances.holdback import Way, hold_back
from mutabilis.core.balances.water import absorption_doubt, water
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.bowl import Portion, drinking_minutes, fill
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.ingredients import Ingredient
from mutabilis.core.measures.profile import Profile
from mutabilis.core.stove.events import BowlJudged, Poured, Retargeted
from mutabilis.core.stove.fold import fold, in_bowl
from mutabilis.core.stove.judging import Belief, Seen, advise, offset_prior
from mutabilis.core.stove.mending import Mender
from mutabilis.core.stove.resting import window

EGG_SD = 0.05  # ±10 % as two deviations
RULER_CM = 0.35
EYE_CM = 0.5  # how far a cook's eye is off
Look = Literal["spread", "eye"]
CUP_SD = {"flour": 0.05, "liquid": 0.015}


@dataclass(frozen=True)
class Came:
    """What came of one batch: the spread after the rest by the tool's way, and by pouring the whole amount [cm]; the target; tests made."""

    followed: float
    poured_all: float
    target: float
    tests: int
    added_g: float
    wrong: bool = False
    gave: tuple[tuple[float, bool], ...] = ()  # how far the bowl ran beyond a right one at each addition [cm], and whether flour was added


def _slip(portions: "Sequence[Portion]", dice: random.Random) -> dict[int, float]:
    """What went wrong: a line left out, one doubled, or the flour another that drinks a third more or less (as if there were more or less of it)."""
    n = dice.choice([p for p in portions if p.grams > 20])
    kind = dice.choice(["out", "twice", "other"])
    if kind == "other":
        n = max((p for p in portions if p.ingredient.is_flour), key=lambda p: p.grams)
    return {n.line: {"out": 0.0, "twice": 2.0, "other": dice.choice([0.7, 1.3])}[kind]}


def one_batch(
    plan: Batter, facts: AllFacts, seed: int, way: Way = "scale", tests: int = 3, look: Look = "spread", wrong: float = 0.0
) -> Came:
    """One batch of `plan` in a kitchen of its own, judged by plate or by eye; in a share `wrong` of them a line was left out, doubled, or is another flour."""
    dice = random.Random(seed)
    known = facts.ingredients
    bowl = fill(plan, facts)
    thirst = {p.ingredient.id: max(0.3, dice.gauss(1, absorption_doubt(p.ingredient))) for p in bowl.portions if p.ingredient.is_drinker}
    egg = dice.gauss(1, EGG_SD)
    slip = _slip(bowl.portions, dice) if dice.random() < wrong else {}
    held = hold_back(bowl, way)
    target = water(bowl).spread_cm
    assert target is not None
    events: list[object] = []
    real: dict[int, float] = {}
    whole: dict[int, float] = {}

    def shown(grams: float, i: Ingredient) -> tuple[float, float]:
        """What goes in, and what the tool is told: a scale is read to a gram, a cup is taken at its word."""
        if way == "scale":
            hand = grams + dice.gauss(0, 1.0)
            return hand, float(round(hand))
        return grams * dice.gauss(1, CUP_SD["flour" if i.is_flour else "liquid"]), grams

    order = sorted(bowl.portions, key=lambda p: held is not None and p.ingredient.id == held.ingredient)
    for n, p in enumerate(order):
        state = fold(plan, events)  # type: ignore[arg-type]
        wanted = state.lines[p.line].target
        is_egg = p.ingredient.group == "egg"
        main = held is not None and p.ingredient.id == held.ingredient
        if main:
            now = hold_back(fill(plan, facts), way)
            assert held and now
            wanted = max(0.0, wanted - now.hold_g)
        put, told = shown(wanted * egg if is_egg else wanted, p.ingredient)
        if is_egg and way == "cups":
            put, told = wanted * egg, wanted
        real[p.line] = put * slip.get(p.line, 1.0)
        at_once = p.grams * (egg if is_egg else 1.0) if way == "scale" or not p.ingredient.is_flour else put
        whole[p.line] = at_once * slip.get(p.line, 1.0)
        by = "scale" if way == "scale" else "measure"
        events.append(Poured(id=f"{n:016x}", at=n, line=p.line, slot=0, grams=told, by=by, held=main))
        if is_egg and way == "scale":
            targets = Mender(plan, fold(plan, events), facts, Profile()).follow(p.line)  # type: ignore[arg-type]
            if targets:
                events.append(Retargeted(id=f"{n + 500:016x}", at=n, targets=targets, because=f"{n:016x}"))
    at = {p.line: k for k, p in enumerate(bowl.portions)}

    def truth(amounts: dict[int, float], minutes: float) -> float:
        drunk = tuple(thirst.get(p.ingredient.id, 1.0) for p in bowl.portions)
        belief = Belief(portions=bowl.portions, amounts=tuple(amounts[p.line] for p in bowl.portions), thirst=drunk, offset=0.0)
        return belief.spread(drinking_minutes(minutes, bowl.pace, plan.blender))

    wait = max(1.0, 0.5 * window(bowl, plan.blender, facts.stove.time).earliest_min)
    judged: list[tuple[BowlJudged, float, dict[int, float]]] = []
    added: dict[int, float] = {}
    gave: list[tuple[float, bool]] = []
    for k in range(tests):
        minutes = wait + 2.0 * k
        # Nobody taps to the second.
        now = truth(real, max(0.5, minutes + dice.gauss(0, 0.5)))
        right = water(fill(plan.model_copy(update={"rest_min": minutes}), facts)).spread_cm or target
        if look == "eye":
            value = float(max(-2, min(2, round((now - right + dice.gauss(0, EYE_CM)) / facts.stove.judge.eye_step_cm))))
        else:
            value = max(4.0, now + dice.gauss(0, RULER_CM))
        judged.append((BowlJudged(id=f"{900 + k:016x}", at=0, way=look, value=value), minutes, dict(added)))
        since = [Seen(judged=j, minutes=t, since={x: added[x] - then.get(x, 0.0) for x in added}) for j, t, then in judged]
        advice = advise(in_bowl(plan, fold(plan, events), known), plan, facts, since, bowl.rest_min, offset_prior(facts, {}))  # type: ignore[arg-type]
        if advice is None or advice.ingredient is None:
            break
        gave.append((now - right, advice.thicker))
        line = next(p.line for p in bowl.portions if p.ingredient.id == advice.ingredient)
        put, told = shown(advice.add_g, known[advice.ingredient])
        real[line] += put
        added[line] = added.get(line, 0.0) + told
        slot = fold(plan, events).lines[line].slot  # type: ignore[arg-type]
        events.append(
            Poured(id=f"{700 + k:016x}", at=100 + k, line=line, slot=slot, grams=told, by="scale" if way == "scale" else "measure")
        )
    assert set(at) == set(real)
    return Came(truth(real, bowl.rest_min), truth(whole, bowl.rest_min), target, len(judged), sum(added.values()), bool(slip), tuple(gave))
