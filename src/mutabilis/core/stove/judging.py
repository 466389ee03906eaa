"""Judging the bowl: from what was seen to what the flour drank, and from there to what is still to be added."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from ..balances.water import absorption_doubt, water
from ..batter.batter import Batter, FormKey
from ..batter.bowl import Bowl, Portion, drinking_minutes, fill
from ..batter.flow import TEST_ML, VOLUME_POWER, flow_of, spread_from_stress, stress_from_spread
from ..batter.main_liquid import main_flour, main_liquid
from ..food.coefficients import per_gram
from ..food.functions import WHOLE_EGGS
from ..food.ingredients import Ingredient
from ..food.learning import Normal
from ..process.parts import Judged
from ..roots import boundary
from .events import BowlJudged, Way
from .facts import StoveFacts
from .tables import JudgeTable

LEAST_STRESS_PA = 0.02  # thinner than this, the relation of spread and stress no longer holds
HEAP_CM = 4.0  # what nothing free to flow stands as
OFFSET = "piece_offset"

# What is said where nothing is to be added.
RIGHT = "It is as it should be: nothing to add."
THICKENS = "Nothing to add yet: it is thin now, and thickens as it rests. Look again then."
NO_FLOUR = "It is thinner than it should be, and there is no flour in it to add more of."
NOTHING_POURS = "It is thicker than it should be, and nothing in it pours: stir in water, a spoon at a time, and look again."


@dataclass(frozen=True, slots=True, kw_only=True)
class Learned:
    """What one judgement says of a flour's thirst (times the table), or of the offset of a test piece [cm]: before and after, each
    with its standard deviation."""

    subject: str
    name: str
    before: Normal
    after: Normal


@dataclass(frozen=True, slots=True, kw_only=True)
class Advice:
    """What to do after a judgement. Spreads are of 60 mL [cm]: what was to be expected, what was seen, what it now is most likely with its
    doubt (19 in 20), where it should be at this minute to be right after the rest, and what it will be with the addition, now and after the rest.
    `add_g` of `ingredient` [g], 0 where nothing is to be added; `drank` is the flour's thirst against the table, as a factor;
    `surprise` where what was seen is further from what was to be expected than all the doubts together explain."""

    expected_cm: float
    seen_cm: float
    likely_cm: float
    doubt_cm: float
    target_cm: float
    then_cm: float
    after_rest_cm: float
    ingredient: str | None
    name: str
    add_g: float
    thicker: bool
    drank: float
    surprise: bool
    words: str
    learned: tuple[Learned, ...]


def ways(form: FormKey, judged: Judged) -> tuple[tuple[Way, ...], str]:
    """How this batter can be judged, and why not otherwise, by its plan."""
    if not judged.by_plate:
        return ("eye",), judged.why
    return (("spread", "piece", "eye") if form in ("griddle", "crepe") else ("spread", "eye")), ""


def right_spread(plan: Batter, facts: StoveFacts, minutes: float, rest_min: float) -> float | None:
    """The spread of a right bowl of `plan` so many minutes after its flour was wetted [cm]; once it has rested `rest_min` [min], that at
    which it is poured. None where nothing in it is free to flow."""
    return water(fill(plan if minutes >= rest_min else plan.model_copy(update={"rest_min": minutes}), facts)).spread_cm


def in_pot(batter: Batter, known: Mapping[str, Ingredient]) -> Batter:
    """What of a batter is in the bowl while it is judged: the foam is folded in later, and what is laid on never enters it."""
    lines = []
    for line in batter.lines:
        i = known.get(line.ingredient or "")
        if line.counts and i is not None and (line.foamed or i.group == "mix_in"):
            yolk = known["egg_yolk"] if i.id in WHOLE_EGGS and line.foamed else None
            share = (yolk.unit_g or 0.0) / (known["egg"].unit_g or 1.0) if yolk else 0.0
            update = {k: getattr(line, k) * share for k in ("grams", "low", "high")}
            line = line.model_copy(update={**update, "ingredient": yolk.id if yolk else line.ingredient, "states": ()})
        lines.append(line)
    return batter.model_copy(update={"lines": tuple(lines)})


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """A judgement, the minutes since the flour was wetted at which it was made, and what has gone into the bowl since, by line [g]."""

    judged: BowlJudged
    minutes: float
    since: Mapping[int, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Belief:
    """What is thought of a bowl: amounts [g], thirst as factors of the table, the offset of a test piece [cm]."""

    portions: tuple[Portion, ...]
    amounts: tuple[float, ...]
    thirst: tuple[float, ...]
    offset: float

    def spread(self, minutes: float, more: float = 0.0, at: int = 0) -> float:
        """Spread of 60 mL [cm] after so many drinking minutes, with `more` grams of portion `at`."""
        stress = flow_of(
            (max(0.0, self.amounts[n] + (more if n == at else 0.0)), per_gram(p.ingredient, minutes, self.thirst[n]))
            for n, p in enumerate(self.portions)
        ).stress_pa
        return HEAP_CM if stress is None else spread_from_stress(max(LEAST_STRESS_PA, stress))


def believe(
    batter: Batter, facts: StoveFacts, judged: Sequence[Seen], offset: Normal, right: Callable[[float], float]
) -> tuple[Belief, Belief, tuple[Learned, ...], float, bool]:
    """Before and after the judgements: a Gauss-Newton step of Bayes' rule at a
    time, linear and Gaussian, over the thirst of every drinker, the doubtful amounts and the offset of a test piece. Also what was learned of
    each, the standard deviation of the spread that is left [cm], and whether the last was further off than all the doubts together explain.
    `right` is the spread [cm] that a right bowl has at a minute. About one bowl in ten holds something else than was told (a line left out, doubled,
    of another kind): where that explains what was seen better, what was seen is believed, and nothing is learned of the flour.

    The posterior of linear-Gaussian estimation: K = P·hᵀ/(h·P·hᵀ + r), x += K·(seen − expected), P −= K·h·P (Kalman 1960).
    """  # fmt: skip
    bowl = fill(batter, facts)
    n = len(bowl.portions)
    mean = np.concatenate([np.ones(n), np.array([p.grams for p in bowl.portions]), [offset.mean]])
    sd = np.concatenate([
        [absorption_doubt(p.ingredient) if p.ingredient.is_drinker else 0.0 for p in bowl.portions], [p.sd for p in bowl.portions], [offset.sd],
    ])  # fmt: skip
    cover = np.diag(sd**2)

    def belief(x: "np.ndarray[tuple[int], np.dtype[np.float64]]") -> Belief:
        return Belief(
            portions=bowl.portions, amounts=tuple(np.maximum(0.0, x[n : 2 * n])), thirst=tuple(np.maximum(0.05, x[:n])), offset=float(x[-1])
        )

    def seen_as(x: "np.ndarray[tuple[int], np.dtype[np.float64]]", one: Seen) -> float:
        j, then = one.judged, x.copy()
        for k, p in enumerate(bowl.portions):
            then[n + k] -= one.since.get(p.line, 0.0)
        spread = belief(then).spread(drinking_minutes(one.minutes, bowl.pace, batter.blender))
        return spread * (j.volume_ml / TEST_ML) ** VOLUME_POWER + x[-1] if j.way == "piece" else spread

    start = mean.copy()
    slope = np.zeros_like(mean)
    surprise = wrong = False
    f = facts.stove.judge
    for one in judged:
        seen, r = _seen(one.judged, f, right(one.minutes))
        slope = np.zeros_like(mean)
        base = seen_as(mean, one)
        for at in np.nonzero(sd)[0]:
            step = 0.02 * sd[at]
            nudged = mean.copy()
            nudged[at] += step
            slope[at] = (seen_as(nudged, one) - base) / step
        # Nobody taps to the second, and no flour drinks by the clock: a minute more or less is a doubt too.
        later = replace(one, minutes=one.minutes + facts.stove.judge.clock_min)
        s = float(slope @ cover @ slope) + r**2 + (seen_as(mean, later) - base) ** 2
        surprise = _likelier_wrong(seen - base, s, f)
        if surprise:
            wrong = True
            own = float(slope @ cover @ slope)
            cover = cover * ((own + f.wrong_sd_cm**2) / max(own, 1e-9))
            s += f.wrong_sd_cm**2
        gain = cover @ slope / s
        mean = mean + gain * (seen - base)
        cover = cover - np.outer(gain, slope @ cover)
    left = float(np.sqrt(max(0.0, slope @ cover @ slope)))
    learned = [
        Learned(
            subject=p.ingredient.id,
            name=p.ingredient.short,
            before=Normal(mean=1.0, sd=float(sd[k])),
            after=Normal(mean=float(mean[k]), sd=float(np.sqrt(max(0.0, cover[k, k])))),
        )
        for k, p in enumerate(bowl.portions)
        if p.ingredient.is_drinker and sd[k] > 0 and not wrong and any(x.judged.way != "eye" for x in judged)
    ]
    if not wrong and any(x.judged.way == "piece" for x in judged):
        learned.append(
            Learned(
                subject=OFFSET,
                name="test piece",
                before=offset,
                after=Normal(mean=float(mean[-1]), sd=float(np.sqrt(max(0.0, cover[-1, -1])))),
            )
        )
    return belief(start), belief(mean), tuple(learned), left, surprise


def advise(
    batter: Batter, plan: Batter, facts: StoveFacts, judged: Sequence[Seen], rest_min: float, offset: Normal,
) -> Advice | None:  # fmt: skip
    """What the judgements say of the bowl of `batter`, and what to add so that it flows as `plan` once it has rested `rest_min` [min].

    None where nothing was judged. A plan that does not flow is to stand as it does.
    """
    if not judged:
        return None
    target = water(fill(plan, facts)).spread_cm or HEAP_CM
    bowl = fill(batter, facts)
    last = judged[-1].judged
    minutes = drinking_minutes(judged[-1].minutes, bowl.pace, batter.blender)
    rested = drinking_minutes(max(rest_min, judged[-1].minutes), bowl.pace, batter.blender)
    f = facts.stove.judge

    def right(at: float) -> float:
        return right_spread(plan, facts, at, rest_min) or target

    now, after, learned, left, surprise = believe(batter, facts, judged, offset, right)
    wanted = right(judged[-1].minutes)
    seen, _ = _seen(last, f, wanted)
    if last.way == "piece":
        seen = (last.value - after.offset) / (last.volume_ml / TEST_ML) ** VOLUME_POWER
    likely, will = after.spread(minutes), after.spread(rested)
    at, thicker = _what(bowl, will > target)
    add = 0.0
    if at is not None and abs(will - target) > f.near_cm:
        step = f.flour_step_g if thicker else f.liquid_step_g
        raw = _solve(after, rested, at, target)
        add = step * round(raw / step) if raw >= step else round(raw)
    # The cook is believed: what looks right gets nothing, what is too thin never gets liquid, and what is too thick always does.
    off, fresh = seen - wanted, not any(judged[-1].since.values())
    nothing = RIGHT
    if last.way == "eye" and last.value == 0 and fresh:
        add = 0.0
    elif (not thicker and likely > wanted + f.near_cm) or (off > f.clear_cm and fresh and (not thicker or add <= 0)):
        at, thicker = _what(bowl, True)
        add = f.flour_step_g if at is not None and off > f.clear_cm else 0.0
        nothing = NO_FLOUR if off > f.clear_cm else THICKENS
    elif off < -f.clear_cm and fresh and (thicker or add <= 0):
        at, thicker = _what(bowl, False)
        add = 0.0 if at is None else f.liquid_step_g
        nothing = NOTHING_POURS
    elif at is None and abs(will - target) > f.near_cm:
        nothing = NO_FLOUR if thicker else NOTHING_POURS
    dared = f.dare * bowl.batter_g
    more = add > dared
    add = f.liquid_step_g * max(1, round(dared / f.liquid_step_g)) if more else add
    then, rest = after.spread(minutes, add, at or 0), after.spread(rested, add, at or 0)
    i = bowl.portions[at].ingredient if at is not None else None
    drank = _mean_thirst(after)
    words = _words(add, i.short, thicker, 1.0 if surprise else drank, last.way) if i and add > 0 else nothing
    words += " Then look again." if more else ""
    if surprise:
        words = f"That is far from what was reckoned: is everything in? {words}"
    return Advice(
        expected_cm=now.spread(minutes), seen_cm=seen, likely_cm=likely, doubt_cm=2 * left, target_cm=likely + (target - will), then_cm=then, after_rest_cm=rest, ingredient=i.id if i and add > 0 else None,
        name=i.short if i else "", add_g=add, thicker=thicker, drank=drank, surprise=surprise, words=words, learned=learned,
    )  # fmt: skip


def _seen(j: BowlJudged, f: JudgeTable, target_cm: float) -> tuple[float, float]:
    """What a judgement says [cm], in its own measure, and its standard deviation [cm]."""
    if j.way == "eye":
        ends = abs(j.value) >= 2  # the last picture on either side stands for all that is further off
        return target_cm + f.eye_step_cm * j.value * (f.eye_end if ends else 1.0), f.eye_sd_cm * (f.eye_end if ends else 1.0)
    if j.way == "piece":
        return j.value, f.piece_sd_cm
    # A spread of another volume is brought to 60 mL through its stress.
    return spread_from_stress(max(LEAST_STRESS_PA, stress_from_spread(max(j.value, 2.0), j.volume_ml))), f.spread_sd_cm


def _likelier_wrong(off: float, variance: float, f: JudgeTable) -> bool:
    """Whether something wrong in the bowl explains a spread `off` by so much [cm] better than the doubts do (two normal components)."""
    broad = variance + f.wrong_sd_cm**2

    def weight(share: float, var: float) -> float:
        return share * math.exp(-(off**2) / (2 * var)) / math.sqrt(var)

    return weight(f.wrong_share, broad) > weight(1 - f.wrong_share, variance)


def _what(bowl: Bowl, thin: bool) -> tuple[int | None, bool]:
    """What the bowl is corrected with: the main liquid that pours where it is thick, the main flour where it is thin."""
    held = [(n, p.ingredient, p.grams) for n, p in enumerate(bowl.portions)]
    return (main_flour(held), True) if thin else (main_liquid(held), False)


def _solve(belief: Belief, minutes: float, at: int, target: float) -> float:
    """Grams more of portion `at` at which the spread is `target` [cm]: bisection."""
    most = 0.6 * sum(belief.amounts)
    up = belief.spread(minutes, most, at) > belief.spread(minutes)
    return boundary(lambda more: (belief.spread(minutes, more, at) > target) != up, 0.0, most)[0]


def _mean_thirst(belief: Belief) -> float:
    """The thirst of the bowl against the table, weighed by what each drinker holds."""
    held = [
        (p.grams * p.ingredient.absorption_g_per_g, t)
        for p, t in zip(belief.portions, belief.thirst, strict=True)
        if p.ingredient.is_drinker
    ]
    whole = sum(w for w, _ in held)
    return sum(w * t for w, t in held) / whole if whole > 0 else 1.0


def _words(add: float, name: str, thicker: bool, drank: float, way: Way) -> str:
    share = round(100 * abs(drank - 1))
    why = f"The flour drank about {share}\u00a0% {'more' if drank > 1 else 'less'} than reckoned. " if share >= 2 and way != "eye" else ""
    return f"{why}Stir in {add:.0f} g of the {name}{', a spoon at a time' if thicker else ''}."


def offset_prior(facts: StoveFacts, known: Mapping[str, Normal]) -> Normal:
    """The offset of a test piece [cm] as this kitchen knows it, else as shipped."""
    f = facts.stove.judge
    return known.get(OFFSET, Normal(mean=f.piece_offset_cm, sd=f.piece_offset_sd_cm))
