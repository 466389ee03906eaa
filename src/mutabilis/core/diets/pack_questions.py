"""What someone must read on a pack before it can be vouched for: no more than is in question, each question by its name."""

from collections.abc import Iterable

from ..food.ingredients import Ingredient
from ..measures.profile import Profile
from .packs import PackReading
from .rules import DietRule
from .verdicts import judge_ingredient

GLUTEN, VEGAN, SUGAR = "certified_gluten_free", "vegan", "no_added_sugar"


def questions(i: Ingredient, rules: Iterable[DietRule], profile: Profile, reading: PackReading | None = None) -> tuple[str, ...]:
    """What the pack would have to say for an ingredient to fit rules that cannot vouch for it: GLUTEN, VEGAN, SUGAR, or the name of an
    allergen that it must not name. Empty where nothing is in question, where a rule is broken whatever the pack says, or where only
    the whole label can tell.
    """

    def fits(rule: DietRule, answers: tuple[str, ...]) -> bool:
        return judge_ingredient(i, rule, profile, _after(i, answers, reading))[0] == "fits"

    every, rules = _open(i), tuple(rules)
    if not all(fits(rule, every) for rule in rules):
        return ()
    return tuple(one for one in every if not all(fits(rule, tuple(q for q in every if q != one)) for rule in rules))


def answered(ingredient: str, asked: Iterable[str], pack: str, by: str, on: str) -> PackReading:
    """The reading of a pack that answers these questions and no others. ValueError where it cannot be."""
    asked = tuple(asked)
    return PackReading(
        ingredient=ingredient, pack=pack, by=by, on=on, part=True, certified_gluten_free=GLUTEN in asked, vegan=True if VEGAN in asked else None,
        added_sugar=False if SUGAR in asked else None, answers=tuple(q for q in asked if q not in (GLUTEN, VEGAN, SUGAR)),
    )  # fmt: skip


def _open(i: Ingredient) -> tuple[str, ...]:
    said = [
        *([GLUTEN] if i.contains_gluten == "risk" else []),
        *([VEGAN] if i.animal == "check" else []),
        *([SUGAR] if i.added_sugar == "check" else []),
        *(t.partition(":")[2] for t in i.allergens if t.startswith(("check:", "may:")) and t != "check:any"),
    ]
    return tuple(dict.fromkeys(said))


def _after(i: Ingredient, asked: tuple[str, ...], before: PackReading | None) -> PackReading | None:
    if not asked:
        return before
    part = answered(i.id, asked, before.pack if before else "pack", "x", "2000-01-01")
    return before.with_part(part) if before else part
