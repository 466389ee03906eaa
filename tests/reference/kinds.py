"""Recipes of our own, a kind of batter each, adapted for the usual guests; and the screens that no baker needs to look at."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from mutabilis.core.adapt.adapt import NEAR, Adaptation, adapt
from mutabilis.core.adapt.job import Answer
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import Analysis
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.bowl import fill
from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines

TEXT = Path(__file__).with_name("kinds.txt")
GUESTS = {
    "vegan": Wishes(diets=("vegan",)),
    "gluten-free": Wishes(diets=("gluten_free",)),
    "egg-free": Wishes(diets=("egg_free",)),
    "dairy-free": Wishes(diets=("dairy_free",)),
    "vegan, gluten-free": Wishes(diets=("vegan", "gluten_free")),
    "vegan, gluten-free, nut-free": Wishes(diets=("vegan", "gluten_free", "nut_free")),
    "low-carb": Wishes(diets=("low_carb",), caps={"net_carb_g": 8.0}),
}
LEGUMES = {"chickpea_flour", "soy_flour_defatted", "lupin_flour"}
SUGARS = ("sugar", "liquid_sweetener")
DRINKS = ("milk", "plant_milk")


@dataclass(frozen=True)
class Kind:
    """A recipe as a cook writes it."""

    name: str
    batter: Batter


@dataclass(frozen=True)
class Judged:
    """One kind for one guest."""

    kind: str
    guest: str
    found: Adaptation

    @property
    def shown(self) -> Answer | None:
        """The first answer, or the nearest where there is none."""
        return self.found.answers[0] if self.found.answers else self.found.infeasible.nearest if self.found.infeasible else None


def kinds(facts: AllFacts, profile: Profile) -> Iterator[Kind]:
    """All recipes of the file."""
    for block in TEXT.read_text(encoding="utf-8").split("\n## ")[1:]:
        head, _, lines = block.partition("\n")
        name, form, serves = (x.strip() for x in head.split("|"))
        yield Kind(name, Batter(lines=read_lines(lines, facts, profile), form=form, servings=float(serves)))


@cache
def judged() -> list[Judged]:
    """Every kind for every guest, solved once in a run."""
    from mutabilis.data import load_facts

    facts, profile = load_facts(), Profile()
    return [
        Judged(k.name, guest, adapt(k.batter, wishes, facts, profile)) for k in kinds(facts, profile) for guest, wishes in GUESTS.items()
    ]


def screened(base: Analysis, found: Adaptation, diets: tuple[str, ...], lean: bool, facts: AllFacts) -> list[str]:
    """What a baker would send back at a glance; nothing for a sound answer."""
    flags: list[str] = []
    for answer in found.answers:
        flags += _answer(base, answer, diets, lean, facts)
    near = found.infeasible.nearest if found.infeasible else None
    if near is not None and near.score <= NEAR and not lean:
        flags.append("nearest: too far to be shown")
    if not found.answers and not (found.infeasible and all(len(r) > 20 for r in found.infeasible.reasons)):
        flags.append("silent")
    return flags


def _answer(base: Analysis, answer: Answer, diets: tuple[str, ...], lean: bool, facts: AllFacts) -> Iterator[str]:
    after, limits = answer.analysis, facts.craft.limits
    was, now = fill(base.batter, facts), fill(after.batter, facts)
    had = {p.ingredient.id: p.grams for p in was.portions}
    new = [p for p in now.portions if p.ingredient.id not in had and p.ingredient.id.removesuffix("_gf") not in had]

    def of(bowl, *groups):  # type: ignore[no-untyped-def]
        return sum(p.grams for p in bowl.portions if p.ingredient.group in groups)

    body = [sum(p.grams * p.per.flour * p.per.flow_solid for p in bowl.portions) for bowl in (was, now)]
    if body[1] < (limits["body_lean"] if lean else limits["body"]) * body[0] * 0.97:
        yield f"body: {body[1] / body[0]:.0%} of the flour's"
    fat = [a.ledger("fat").total for a in (base, after)]
    room = {True: limits["fat_lean"]}.get(lean, max(limits["fat_more"], limits["fat_curd"]))
    if fat[1] > 1.03 * (limits["fat"] * fat[0] + room * base.batter_g) + sum(
        p.grams * p.per.fat for p in now.portions if p.ingredient.group == "mix_in"
    ):
        yield f"fat: {fat[0]:.0f} → {fat[1]:.0f} g"
    legumes = [p.grams for p in new if p.ingredient.id.removesuffix("_gf") in LEGUMES]
    if len(legumes) > 1 or sum(legumes) > 0.31 * now.total("flour"):
        yield "legumes: stacked"
    if base.lift.air_ml > 0:
        lift = [a.lift.co2_ml_per_100g + 100 * a.lift.air_ml / a.batter_g for a in (base, after)]
        if lift[1] > max(1.12 * lift[0], facts.forms[after.batter.form].lift[1]):
            yield "foam: gas on top of kept foam"
    for p in now.portions:
        kept = had.get(p.ingredient.id)
        least = 0.15 if lean and p.ingredient.gluten_strength > 0 else 0.24  # a spoon of wheat holds a lean batter together
        if kept and p.ingredient.group not in ("salt", "leavener") and p.grams < least * kept:
            yield f"residue: {p.ingredient.short} {p.grams:g} of {kept:g} g"
    if any(p.grams < 0.3 and p.ingredient.group not in ("leavener", "salt", "binder", "intense_sweetener", "flavour") for p in new):
        yield "residue: a trace of something new"
    if sum(p.ingredient.group in DRINKS for p in new) > 1:
        yield "doubles: two new drinks"
    if any(p.ingredient.group in ("polyol_sweetener", "intense_sweetener") for p in new) and any(
        0 < of(now, g) < 0.5 * of(was, g) for g in SUGARS
    ):
        yield "doubles: sugar beside its stand-in"
    rich = any(p.ingredient.group == "protein_powder" or p.ingredient.id in facts.craft.curds for p in was.portions)
    if rich and not lean and after.nutrition.protein_g < 0.57 * base.nutrition.protein_g:
        yield f"protein: {base.nutrition.protein_g:.0f} → {after.nutrition.protein_g:.0f} g"
    egg = facts.ingredients["egg"].unit_g or 50.0
    moved = [p.grams for p in now.portions if p.ingredient.id == "egg" and abs(p.grams - had.get("egg", 0.0)) > 0.5]
    if any(abs(g / egg - round(g / egg)) > 0.01 for g in moved):
        yield "eggs: not whole"
    foamed = sum(p.grams for p in now.portions if p.ingredient.id == "aquafaba" and p.ingredient.id not in had)
    if foamed > 1.02 * limits["aquafaba_per_egg"] * of(was, "egg") + 1:
        yield f"aquafaba: {foamed:.0f} g"
    if after.batter_g > 1.15 * base.batter_g or after.batter_g < 0.74 * base.batter_g:
        yield f"mass: {base.batter_g:.0f} → {after.batter_g:.0f} g"
    for diet in diets:
        if after.plate.diets[diet].verdict != "fits":
            yield f"plate: does not fit {diet}"
    if (
        any(c in had for c in ("dried_yeast", "fresh_yeast"))
        and lean
        and any(p.ingredient.id in ("dried_yeast", "fresh_yeast") for p in now.portions)
    ):
        yield "yeast: nothing to feed on"
