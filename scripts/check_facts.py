"""Check every row of the ingredient table: parts that add up, energy that agrees, densities that can be, no duplicates."""

import sys
from itertools import combinations

from mutabilis.core.food.coefficients import energy_kcal
from mutabilis.core.food.ingredients import Ingredient
from mutabilis.data import load_facts


def faults(i: Ingredient) -> list[str]:
    """What is wrong with one row."""
    found = []
    whole = i.water_g + i.protein_g + i.fat_g + i.carb_g + i.ash_g + i.alcohol_g + i.organic_acid_g
    if not 97 <= whole <= 103:
        found.append(f"parts add up to {whole:.1f} g")
    parts = i.fibre_g + i.sugars_g + i.starch_g + i.polyol_g + i.allulose_g
    if parts > i.carb_g + 2.5:
        found.append(f"parts of the carbohydrate ({parts:.1f} g) are more than all of it ({i.carb_g} g)")
    if i.sat_fat_g > i.fat_g:
        found.append("more saturated fat than fat")
    if abs(energy_kcal(i) - i.kcal) > max(12, 0.06 * i.kcal):
        found.append(f"energy {i.kcal} kcal, where its parts give {energy_kcal(i):.0f}")
    densities = [g / ml for g, ml in ((i.cup_g, 236.588), (i.tbsp_g, 14.787), (i.tsp_g, 4.929)) if g]
    if any(not 0.03 <= d <= 1.6 for d in densities):
        found.append(f"density out of reach: {densities}")
    if any(max(a, b) > 1.5 * min(a, b) for a, b in combinations(densities, 2)):
        found.append(f"cup, tablespoon and teaspoon disagree: {[round(d, 2) for d in densities]} g/mL")
    if not densities and not i.unit_g:
        found.append("no weight of a cup, spoon or piece")
    if i.is_drinker and i.absorption_minutes <= 0:
        found.append("drinks, and takes no time over it")
    if i.source[:2] not in ("S:", "I:", "L:"):
        found.append("no source")
    if i.egg_equivalents_per_g and not i.set_source:
        found.append("set without a basis")
    return found


def main() -> int:
    """Print what is wrong; 1 where anything is."""
    facts = load_facts()
    wrong = [f"{i.id}: {fault}" for i in facts.ingredients.values() for fault in faults(i)]
    names = [i.name for i in facts.ingredients.values()]
    wrong += [f"two ingredients called {n!r}" for n in sorted({n for n in names if names.count(n) > 1})]
    wrong += list(facts.faults)
    print("\n".join(wrong) or f"{len(names)} ingredients, {len(facts.diets)} diets: nothing wrong")
    return int(bool(wrong))


if __name__ == "__main__":
    sys.exit(main())
