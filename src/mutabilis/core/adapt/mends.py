"""A batter at fault, mended: the fewest grams that put it right are solved for, all its ledgers are run again, and a mend that raises
another warning, or that costs a guest their verdict, is none."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from ..analysis.analysis import Analysis
from ..balances.warnings import MENDABLE, PLAIN_FAULTS
from ..batter.batter import Batter
from ..diets.packs import PackReading
from ..food.ingredients import certified
from ..food.kitchen_measures import measure
from ..measures.profile import Profile
from .course import Course
from .facts import AdaptFacts
from .job import Job
from .reasons import Change
from .wishes import Wishes

FOR_TASTE = ("acid_left", "lift_low", "lift_none")  # may be meant: mended when asked for


@dataclass(frozen=True, slots=True, kw_only=True)
class Mend:
    """The mended batter with its analysis, what to do in words, each change, and the codes of the faults that go."""

    batter: Batter
    analysis: Analysis
    words: str
    changes: tuple[Change, ...]
    codes: tuple[str, ...]


def mended(
    before: Analysis, facts: AdaptFacts, profile: Profile, readings: Mapping[str, PackReading] | None = None, asked: Collection[str] = ()
) -> Mend | None:
    """The mend of all that is at fault in an analysed batter (for all diets); None where nothing is, or where nothing mends it without
    another fault. Every diet that fitted fits after it: no dairy goes into a batter without dairy. A limit a serving is held where its
    diet is `asked` for.
    """
    if any(line.unresolved and line.where == "batter" for line in before.batter.lines):
        return None  # the line is told first: it may be what is missing
    codes = frozenset({w.code for w in before.warnings} & set(MENDABLE))
    plain = codes & set(PLAIN_FAULTS)
    # All at once; else without what may be meant; else what can be.
    for some in dict.fromkeys((codes, codes - set(FOR_TASTE), plain, *(frozenset({c}) for c in PLAIN_FAULTS if c in plain))):
        for spent in (False, True):  # one that has to be cooked at once only where no other is
            if some and (mend := _solved(before, some, facts, profile, readings, asked, spent)) is not None:
                return mend
    return None


def _solved(
    before: Analysis, codes: frozenset[str], facts: AdaptFacts, profile: Profile, readings: Mapping[str, PackReading] | None,
    asked: Collection[str], spent: bool,
) -> Mend | None:  # fmt: skip
    held = tuple(
        k for k, rule in facts.diets.items() if k in before.diets and before.diets[k].verdict == "fits" and (k in asked or not rule.limits)
    )
    base = before.batter.model_copy(update={"servings": before.servings})
    powders = {x.ingredient for x in base.lines if x.ingredient and facts.ingredients[x.ingredient].group == "leavener"}
    twice = tuple(name for p in sorted(powders) for name in (p, certified(p))) if "lift_twice" in codes else ()
    wishes = Wishes(diets=held, bans=twice)  # the flour has its own
    answer, _ = Job(base, before, wishes, facts, profile, readings, Course(mends=codes, mend_alone=True)).run()
    if answer is None:
        return None
    after = answer.analysis
    was = {w.code for w in before.warnings}
    now = {w.code for w in after.warnings} & {*MENDABLE, *(() if spent else ("lift_leaves",))}
    if now & codes or now - was or any(after.diets[k].verdict != "fits" for k in held):
        return None
    words = _words(base, after.batter, facts, profile)
    # The amounts are the mend's; how many it serves stays as the cook has said.
    return Mend(
        batter=after.batter.model_copy(update={"servings": before.batter.servings}),
        analysis=after,
        words=words,
        changes=answer.changes,
        codes=tuple(sorted(codes)),
    )


def _words(base: Batter, after: Batter, facts: AdaptFacts, profile: Profile) -> str:
    """ "Put in 8 g (1 3/4 tsp) baking powder; baking soda 1.5 g (1/4 tsp), not 6 g." The weightiest for the taste first."""
    had = {line.ingredient: line.grams for line in base.lines if line.counts and line.ingredient}
    has = {line.ingredient: line.grams for line in after.lines if line.counts and line.ingredient}
    said: list[str] = []
    for id_ in dict.fromkeys((*had, *has)):
        was, now, i = had.get(id_, 0.0), has.get(id_, 0.0), facts.ingredients[id_]
        spoons = f" ({m})" if now and (m := measure(i, now, profile)) else ""
        if abs(now - was) <= max(0.01 * was, 0.05):
            continue
        if not now:
            said.append(f"leave out the {i.short}")
        elif not was:
            said.append(f"put in {_grams(now)}{spoons} of {i.short}")
        else:
            said.append(f"{i.short} {_grams(now)}{spoons} instead of {_grams(was)}")
    text = "; ".join(said)
    return f"{text[:1].upper()}{text[1:]}."


def _grams(g: float) -> str:
    return f"{g:.0f} g" if g >= 20 else f"{g:.1f}".removesuffix(".0") + " g"
