"""What a cook does without a tool: one for one by volume, as kitchen lore has it. Kept to show how far it drifts."""

from collections.abc import Mapping

from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.diets.rules import DietRule
from mutabilis.core.diets.verdicts import judge_ingredient
from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile

# group or ingredient → what takes its place, in the order tried; each by the same volume.
FOR = {
    "wheat_flour": ("gf_flour_blend", "oat_flour_gf", "white_rice_flour", "almond_flour", "sunflower_seed_flour"),
    "gluten_free_flour": ("gf_flour_blend", "white_rice_flour", "almond_flour"),
    "grain_meal": ("rolled_oats_gf", "almond_flour"),
    "nut_seed_flour": ("sunflower_seed_flour",),
    "milk": ("soy_drink", "oat_drink_gf", "almond_drink", "rice_drink"),
    "cultured_dairy": ("soy_yogurt", "coconut_yogurt", "almond_yogurt"),
    "plant_milk": ("oat_drink_gf", "rice_drink"),
    "fat_solid": ("coconut_oil", "rapeseed_oil"),
    "fat_oil": ("apple_sauce",),
    "sugar": ("erythritol", "apple_sauce"),
    "liquid_sweetener": ("maple_syrup", "date_syrup"),
    "leavener": ("baking_powder_gf",),
}
CARB = ("wheat_flour", "gluten_free_flour", "grain_meal")


def one_for_one(base: Batter, diets: tuple[str, ...], facts: AllFacts, profile: Profile) -> Batter:
    """The base with everything a diet denies swapped by volume; an egg for a flax egg; under low-carb, flour for almond meal and
    sugar for erythritol."""
    rules = {d: facts.diets[d] for d in diets}
    lines: list[BatterLine] = []
    for line in base.lines:
        if line.ingredient is None or line.problem:
            continue
        i = facts.ingredients[line.ingredient]
        carb = "low_carb" in diets and (i.group in CARB or i.group in ("sugar", "liquid_sweetener"))
        if fits(line.ingredient, rules, facts, profile) and not carb:
            lines.append(line)
        elif i.group == "egg":
            eggs = line.grams / 50
            lines += [_line("flax_meal", 7 * eggs), _line("water", 45 * eggs)]
        else:
            options = (
                ("almond_flour", "sunflower_seed_flour") if carb and i.group in CARB else ("erythritol",) if carb else FOR.get(i.group, ())
            )
            other = next((o for o in options if fits(o, rules, facts, profile)), None)
            if other:
                lines.append(_line(other, line.grams / i.grams_per_ml()[0] * facts.ingredients[other].grams_per_ml()[0]))
    return base.model_copy(update={"lines": tuple(lines)})


def fits(id_: str, rules: Mapping[str, DietRule], facts: AllFacts, profile: Profile) -> bool:
    return all(judge_ingredient(facts.ingredients[id_], r, profile)[0] == "fits" for r in rules.values())


def _line(id_: str, grams: float) -> BatterLine:
    return BatterLine(text=id_, ingredient=id_, grams=grams, low=grams, high=grams)
