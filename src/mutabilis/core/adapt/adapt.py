"""Adapting a batter: choose ingredients and amounts so that every balance stays where it was, or say why that cannot be."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..analysis.analysis import Analysis, analyse
from ..balances.lift import lift
from ..balances.nutrition import per_serving
from ..balances.setting import NO_FLOUR
from ..balances.warnings import FAULTS, PLAIN_FAULTS
from ..balances.water import water
from ..balances.yields import yields
from ..batter.batter import Batter, BatterLine
from ..batter.bowl import fill, rest_of
from ..batter.told_rest import told_rest
from ..diets.packs import PackReading
from ..diets.rules import DietRule
from ..measures.profile import Profile
from ..recent import Recent
from .course import Course
from .facts import AdaptFacts
from .job import Answer, Job
from .mends import mended
from .reasons import Change, unchanged
from .saying import cautions_for, clash_reasons, sureness
from .slots import Slot, slots_of
from .wishes import Wishes
from .writing import in_whole_grams

NEAR = 0.45  # closeness below which nothing is near: better none than an absurd one
NEAR_ENOUGH = 0.55  # closeness at which no other way is tried
PIECES_OVER = 0.2  # of a piece: so much may be left over where a number of pieces is wished, and none may be short
PIECES_TRIES = 3


@dataclass(frozen=True, slots=True)
class Infeasible:
    """Why it cannot be done, and the nearest thing that can (None where there is none)."""

    reasons: tuple[str, ...]
    nearest: Answer | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Adaptation:
    """The base, the answers that differ in kind (the nearest first), or why there is none; and what is at fault in the base itself.
    `slots` are the kinds of answer, each with its answer and one fact, or with why it is empty."""

    base: Analysis
    answers: tuple[Answer, ...]
    infeasible: Infeasible | None
    faults: tuple[str, ...] = ()
    slots: tuple[Slot, ...] = ()


def adapt(
    base: Batter, wishes: Wishes, facts: AdaptFacts, profile: Profile, readings: Mapping[str, PackReading] | None = None,
    recent: Recent | None = None,
) -> Adaptation:  # fmt: skip
    """Adapt `base` to `wishes`, with what was worked out of it a moment ago. NotKnown for a diet that is not known; everything else is an answer or a reason."""
    found = _adapted(base, wishes, facts, profile, readings, recent)
    if wishes.pieces is None:
        return found
    # Another form, or another foam, pours other pieces out of the same grams: it is solved at the size that gives the pieces wished.
    size = wishes.pieces
    for _ in range(PIECES_TRIES):
        now = found.answers[0].analysis.yields.pieces if found.answers else 0.0
        if now <= 0 or wishes.pieces <= now <= wishes.pieces + PIECES_OVER:
            break
        size *= (wishes.pieces + PIECES_OVER / 2) / now
        again = _adapted(base, wishes.model_copy(update={"pieces": size}), facts, profile, readings, recent)
        if not again.answers:
            break
        found = replace(again, base=found.base)
    return found


def _adapted(
    base: Batter, wishes: Wishes, facts: AdaptFacts, profile: Profile, readings: Mapping[str, PackReading] | None, recent: Recent | None
) -> Adaptation:
    rules = wishes.rules(facts)
    base = _prepared(base, wishes, facts)
    before = analyse(base, facts, profile, {**facts.diets, **rules}, readings)
    codes = {w.code for w in before.warnings}
    faults = tuple(w.text for w in before.warnings if w.code in FAULTS)
    course = Course(mends=frozenset(codes & set(PLAIN_FAULTS)) | ({"water_missing"} if before.is_dough else frozenset()))

    def told(slots: Sequence[Slot], infeasible: Infeasible | None = None) -> Adaptation:
        return Adaptation(
            base=before, answers=tuple(s.answer for s in slots if s.answer), infeasible=infeasible, faults=faults, slots=tuple(slots)
        )

    def cannot(*reasons: str, nearest: Answer | None = None) -> Adaptation:
        return told((), Infeasible(reasons, nearest))

    if before.batter_g <= 0:
        return cannot("There is nothing in the bowl that could be read.")
    fits = _fits_already(before, wishes, rules)
    if fits and (before.is_dough or not course.mends):
        after = before
        if wishes.pieces is not None:
            after = analyse(in_whole_grams(base, facts), facts, profile, {**facts.diets, **rules}, readings)
        return told([Slot(kind="nearest", answer=_as_it_is(after, rules), fact="it is what you have")])
    if fits and (mend := mended(before, facts, profile, readings, wishes.diets)) is not None:
        return told([Slot(kind="nearest", answer=_as_it_is(mend.analysis, rules, mend.changes), fact="what you have, mended")])
    if not any(p.ingredient.is_flour or p.ingredient.is_drinker or p.ingredient.group == "egg" for p in before.bowl.portions):
        return cannot("There is no flour and no egg in this batter to build on.")
    job = Job(base, before, wishes, facts, profile, readings, course)
    if (unread := _not_read(base)) and not fits and not wishes.poured:  # a bowl under way is helped as it stands
        # The batter is not rebuilt around a hole: the line is mended first, and what stands without it is only shown.
        return cannot(*unread, nearest=job.run()[0])
    if before.is_dough:
        dough = next(w.text for w in before.warnings if w.code == "dough")
        return cannot(dough, "Look for a recipe that was made as a dough for these guests.", nearest=job.run()[0])
    if before.setting.egg_dependent and any(i.group == "egg" for i, _, _ in job.gathered.removed):
        return cannot(*_lives_from_eggs(before), nearest=_nearest(job))
    if job.gathered.clashes:
        plain = wishes.model_copy(update={"pins": (), "locked": {}, "poured": {}})
        return cannot(*job.gathered.clashes, nearest=job.again(plain).best())
    # Whoever asks for the other kinds a moment later has the first of them already.
    key = "answer", base, wishes.model_dump_json(exclude={"alternatives"}), profile
    first, broken = recent.once(key, (facts, readings), job.run) if recent else job.run()
    if first is not None:
        return told(slots_of(job, first))
    if job.gathered.dish and (any(k.startswith("cap") for k in broken) or wishes.all_caps(facts)):
        return cannot(*_the_dish(job), nearest=_nearest(job))
    return cannot(*clash_reasons(broken, rules), *_standing_against(job), nearest=_nearest(job))


def _lives_from_eggs(a: Analysis) -> tuple[str, str]:
    theirs, rich = f"{a.setting.egg_share:.0%} of its set is theirs", a.setting.eggs_per_40g_flour
    flour = rich < NO_FLOUR
    return (
        f"Eggs hold this batter together: {theirs}, {f'{rich:.1f} eggs to 40 g flour' if flour else 'with no flour beside them'}. No replacer will do.",
        f"{'Change the flour instead, to one' if flour else 'Build it on a flour'} that holds by itself, or keep the eggs.",
    )


def _not_read(base: Batter) -> tuple[str, ...]:
    """What has to be told first: the lines of the batter that are not understood."""
    lines = [line for line in base.lines if line.unresolved and line.where == "batter"]
    if not lines:
        return ()
    texts = [line.quoted(60) for line in lines]
    which = f"{' and '.join(texts[:3])}{f' and {len(texts) - 3} more' if len(texts) > 3 else ''}"
    if all(line.ingredient for line in lines):
        return (f"Of {which} it is not known how much.", "Say how much, or remove the line: it is not known what the batter holds.")
    first = f"{which} {'is' if len(texts) == 1 else 'are'} not understood."
    return (first, "Say what it is, or remove the line: it is not known what the batter holds.")


def _nearest(job: Job) -> Answer | None:
    """Closest match be made: the ceilings yield first, then the flours go; round amounts set by hand, whatever comes closest."""
    if job.gathered.dish:
        return _without_ceilings(job)
    first = job.again(soft_caps=True).best()
    if first is not None and first.score > NEAR_ENOUGH:
        return first
    second = job.again(free_flours=True, soft_caps=True).best()
    near = max((a for a in (first, second) if a is not None), key=lambda a: a.score, default=None)
    if near is not None and (near.score > NEAR or job.wishes.all_caps(job.facts)):
        return near
    return job.again(eased=True).best() if job.wishes.locked else None


def _the_dish(job: Job) -> tuple[str, ...]:
    """Why a flat batter of one grain cannot be made low in carbohydrate, and what a serving may weigh."""
    said = [f"{job.gathered.dish[:1].upper()}{job.gathered.dish[1:]} is the dish here: without it, it is another recipe."]
    each = per_serving(job.before.nutrition, job.before.sodium_mg, job.before.servings)
    grams = job.before.batter_g / job.before.servings
    for key, most in job.wishes.all_caps(job.facts).items():
        if each.get(key, 0.0) > most:
            said.append(
                f"A serving of {grams:.0f} g batter has {each[key]:.0f} g; {grams * most / each[key]:.0f} g of it would have {most:g} g."
            )
    return tuple(said)


def _without_ceilings(job: Job) -> Answer | None:
    """What the wishes without their ceilings a serving come to: the dish as it is."""
    plain = job.wishes.model_copy(update={"caps": {}, "diets": tuple(k for k in job.wishes.diets if not job.rules[k].limits)})
    if _fits_already(job.before, plain, plain.rules(job.facts)):
        return _as_it_is(job.before, plain.rules(job.facts))
    return job.again(plain).run()[0]


def _as_it_is(after: Analysis, rules: Mapping[str, DietRule], changes: tuple[Change, ...] = ()) -> Answer:
    """The base as its own answer, or what its mend made of it."""
    said = tuple(cautions_for(after, rules))
    return Answer(
        analysis=after,
        changes=changes,
        transfers=(),
        cautions=said,
        technique=(),
        worse=(),
        confidence=sureness(after),
        score=1.0,
        unchanged="" if changes else unchanged(rules),
    )


def _prepared(base: Batter, wishes: Wishes, facts: AdaptFacts) -> Batter:
    """The base at the size, the rest, the servings and the eggs that were wished."""
    update: dict[str, object] = {}
    if wishes.pieces is not None:
        bowl = fill(base, facts)
        now = yields(bowl, water(bowl), lift(bowl)).pieces
        if now > 0:
            base = base.scaled(wishes.pieces / now)
            update["servings"] = None if base.servings is None else base.servings * wishes.pieces / now
    if wishes.minutes is not None:
        update["rest_min"] = min(rest_of(base, facts.forms[base.form]), wishes.minutes)
    elif base.rest_min is None and (told := told_rest(base.lines)) is not None:
        update["rest_min"] = told  # what the recipe's words ask stays so where those words do not
    if wishes.eggs != "as_is":
        update["lines"] = tuple(_egg_line(line, wishes, facts) for line in base.lines)
    base = base.model_copy(update=update)
    return base.model_copy(
        update={"servings": wishes.servings or base.servings or max(fill(base, facts).batter_g / facts.forms[base.form].serving_g, 1e-6)}
    )


def _egg_line(line: BatterLine, wishes: Wishes, facts: AdaptFacts) -> BatterLine:
    """Eggs brought to whole ones, or separated with their whites whipped."""
    i = facts.ingredients.get(line.ingredient or "")
    if i is None or i.group != "egg" or line.problem or not i.unit_g:
        return line
    if wishes.eggs == "separated":
        return line.model_copy(update={"states": tuple(sorted({*line.states, "whipped"}))}) if i.id in ("egg", "egg_white") else line
    grams = max(1, round(line.grams / i.unit_g)) * i.unit_g
    return line if abs(grams - line.grams) < 1e-9 else line.model_copy(update={"grams": grams, "low": 0.9 * grams, "high": 1.1 * grams})


def _fits_already(before: Analysis, wishes: Wishes, rules: Mapping[str, DietRule]) -> bool:
    """Whether the base is its own answer: nothing asked for is missing in it."""
    if (
        any(before.diets[k].verdict != "fits" or before.plate.diets[k].verdict != "fits" for k in rules)
        or wishes.max_cost is not None
        or (before.water.missing_g > 0 and not before.is_dough)
    ):
        return False
    each = per_serving(before.nutrition, before.sodium_mg, before.servings)
    if any(each[k] > v for k, v in wishes.caps.items()) or any(each[k] < v for k, v in wishes.floors.items()):
        return False
    ids = {line.ingredient for line in before.batter.lines}
    if wishes.larder is not None and not ids <= {*wishes.larder, None}:
        return False
    plain = not wishes.moves_flow and wishes.form in (None, before.batter.form) and wishes.steps == "scale"
    return plain and not wishes.locked and not wishes.poured and not ids & set(wishes.bans) and set(wishes.pins) <= ids


GROUPS = {
    "caps": "the ceiling a serving", "floors": "the floor a serving", "bans": "what was left out", "pins": "what is to be kept",
    "locked": "the locked amounts", "poured": "what is in the bowl already",
}  # fmt: skip


def _standing_against(job: Job) -> tuple[str, ...]:
    """Which wishes stand in each other's way: those without which it can be done, each let go of alone."""
    wishes = job.wishes
    trials: list[tuple[str, Wishes]] = []
    for key in wishes.diets:
        trials.append(
            (
                job.rules[key].label.lower(),
                wishes.model_copy(update={"diets": tuple(d for d in wishes.diets if d != key)}),
            )
        )
    for name, words in GROUPS.items():
        if getattr(wishes, name):
            trials.append((words, wishes.model_copy(update={name: type(getattr(wishes, name))()})))
    if wishes.larder is not None:
        trials.append(("only what is in the larder", wishes.model_copy(update={"larder": None})))
    if wishes.minutes is not None:
        trials.append(("the time at hand", wishes.model_copy(update={"minutes": None})))
    if wishes.max_cost is not None:
        trials.append(("the ceiling on cost", wishes.model_copy(update={"max_cost": None})))
    guilty = [words for words, fewer in trials[:7] if job.again(fewer).can_be_done()]
    if not guilty:
        return ("More than one of these wishes stands in the way.",) if len(trials) > 1 else ()
    if len(guilty) == 1:
        return (f"Without {guilty[0]} it can be done.",)
    return (f"{', '.join(guilty[:-1])} and {guilty[-1]} stand in each other's way: give up one of them, and it can be done.",)
