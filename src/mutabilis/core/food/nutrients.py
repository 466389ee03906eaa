"""The nutrients that are counted: one list for ceilings, floors, limits, cards and the interface."""

from dataclasses import dataclass
from typing import Literal, get_args

Nutrient = Literal["kcal", "protein_g", "fat_g", "sat_fat_g", "carb_g", "fibre_g", "sugars_g", "polyols_g", "net_carb_g", "sodium_mg"]
NUTRIENTS: tuple[Nutrient, ...] = get_args(Nutrient)

_LABELS: dict[Nutrient, str] = {
    "kcal": "energy", "protein_g": "protein", "fat_g": "fat", "sat_fat_g": "saturated fat", "carb_g": "carbohydrate", "fibre_g": "fibre",
    "sugars_g": "sugars", "polyols_g": "sugar alcohols", "net_carb_g": "net carbohydrate", "sodium_mg": "sodium",
}  # fmt: skip
# What a gram of an ingredient brings of it (`food.coefficients`); net carbohydrate is reckoned, by the kitchen's rule.
PER_GRAM: dict[str, str] = {
    "kcal": "kcal", "protein_g": "protein", "fat_g": "fat", "sat_fat_g": "saturated", "carb_g": "carb", "fibre_g": "fibre", "sugars_g": "sugars",
    "polyols_g": "polyols", "sodium_mg": "sodium",
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class NutrientName:
    """A nutrient by its key, its name and its unit."""

    key: Nutrient
    label: str
    unit: str


def unit_of(nutrient: str) -> str:
    """The unit of a nutrient: kcal, mg or g.

    >>> unit_of("kcal"), unit_of("sodium_mg"), unit_of("fat_g")
    ('kcal', 'mg', 'g')
    """
    return "mg" if nutrient.endswith("_mg") else "kcal" if nutrient == "kcal" else "g"


def nutrient_names() -> tuple[NutrientName, ...]:
    """All of them, named."""
    return tuple(NutrientName(key=n, label=_LABELS[n], unit=unit_of(n)) for n in NUTRIENTS)


def label_of(nutrient: Nutrient) -> str:
    """Its name in a sentence."""
    return _LABELS[nutrient]
