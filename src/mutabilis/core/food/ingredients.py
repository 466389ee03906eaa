"""What an ingredient is and does: composition, weights, thirst, acid, sweetness, set, allergens. Loaded, never typed here."""

import re
from collections.abc import Iterable
from typing import Annotated, Literal, Self

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from ..measures.profile import US_CUP_ML, US_TBSP_ML, US_TSP_ML

Confidence = Literal["high", "medium", "low"]
CONFIDENCES: tuple[Confidence, ...] = ("high", "medium", "low")


def least(*given: Confidence) -> Confidence:
    """The least sure of several confidences.

    >>> least("high", "low", "medium")
    'low'
    """
    return CONFIDENCES[max(CONFIDENCES.index(c) for c in given)]


def _empty_is_none(value: object) -> object:
    return None if value == "" else value


def _empty_is_nought(value: object) -> object:
    return 0.0 if value == "" else value


Share = Annotated[float, BeforeValidator(_empty_is_nought), Field(ge=0, le=100)]
Nought = Annotated[float, BeforeValidator(_empty_is_nought)]
Maybe = Annotated[float | None, BeforeValidator(_empty_is_none)]

FLOURS = ("wheat_flour", "gluten_free_flour", "nut_seed_flour", "grain_meal", "starch")
LIQUIDS = ("milk", "plant_milk", "cultured_dairy", "plant_cultured", "water_juice")

# What kind of work a group is there for.
KINDS = {
    "wheat_flour": "flour", "gluten_free_flour": "flour", "nut_seed_flour": "flour", "grain_meal": "flour", "starch": "flour",
    "milk": "liquid", "plant_milk": "liquid", "cultured_dairy": "liquid", "plant_cultured": "liquid", "water_juice": "liquid",
    "sugar": "sweetener", "liquid_sweetener": "sweetener", "polyol_sweetener": "sweetener", "intense_sweetener": "sweetener",
    "fat_solid": "fat", "fat_oil": "fat", "nut_butter": "fat", "egg": "set", "egg_replacer": "set", "binder": "set",
    "leavener": "leavener", "acid": "acid", "salt": "salt", "protein_powder": "protein",
}  # fmt: skip

# What a group is called. It vouches for nothing: among the flours without gluten of their own stand those that travel with wheat.
GROUPS = {
    "wheat_flour": "flour with gluten", "gluten_free_flour": "other flour", "nut_seed_flour": "nut or seed flour",
    "grain_meal": "grain, flakes or crumbs", "starch": "starch", "milk": "milk or cream", "plant_milk": "plant drink",
    "cultured_dairy": "yogurt, curd or buttermilk", "plant_cultured": "plant yogurt or curd", "water_juice": "water, juice or other drink",
    "sugar": "sugar", "liquid_sweetener": "syrup", "polyol_sweetener": "sugar alcohol", "intense_sweetener": "intense sweetener",
    "fat_solid": "solid fat", "fat_oil": "oil", "nut_butter": "nut or seed butter, or spread", "egg": "egg", "egg_replacer": "in place of egg",
    "binder": "binder", "leavener": "leavening", "acid": "acid", "salt": "salt", "protein_powder": "protein powder",
    "flavour": "flavouring", "fruit_puree": "fruit or mash", "vegetable": "vegetable", "mix_in": "stirred in or put on top",
}  # fmt: skip


def certified(id_: str) -> str:
    """The id of the same thing from a certified gluten-free mill."""
    return f"{id_}_gf"


def uncertified(id_: str) -> str:
    """The id of the same thing without a certificate; its own where it has none."""
    return id_.removesuffix("_gf")


OWN_PACK = "L:own pack"


class Ingredient(BaseModel):
    """One row of the ingredient table. Composition in g per 100 g, weights in g, absorption in g water per g.

    `source`: S: and five digits, the US standard reference food composition number; I: Indian tables 2017; L: literature
    or label values. `egg_equivalents_per_g` is the set it brings, with its own basis in `set_source`.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    id: str
    name: str
    group: str
    water_g: Share
    protein_g: Share
    fat_g: Share
    sat_fat_g: Share
    carb_g: Share
    fibre_g: Share
    sugars_g: Share
    starch_g: Share
    polyol_g: Share
    allulose_g: Share
    alcohol_g: Share
    organic_acid_g: Share
    ash_g: Share
    sodium_mg: Nought
    potassium_mg: Nought = 0.0  # of leavenings and salt substitutes; of foods it is not kept
    kcal: Nought
    cup_g: Maybe = None
    tbsp_g: Maybe = None
    tsp_g: Maybe = None
    unit_g: Maybe = None
    unit_name: str = ""
    absorption_g_per_g: Nought
    absorption_minutes: Nought
    gluten_strength: Nought
    contains_gluten: Literal["yes", "no", "risk"]
    acid_meq_per_100g: Nought
    sweetness: Nought
    browning: Nought
    thickening: Nought
    egg_equivalents_per_g: Nought
    gel: Literal["", "yes"] = ""
    added_sugar: Literal["yes", "no", "check"]
    refined: str = ""
    animal: Literal["none", "dairy", "egg", "honey", "meat", "fish", "insect", "other", "check"]
    lactose: Literal["", "no", "trace", "check"] = ""
    allergens: tuple[str, ...]
    source: str
    confidence: Confidence
    set_source: str = ""
    soda_fraction: float = 0.0
    early_fraction: float = 0.0
    half_life_min: float = 0.0
    absorption_doubt: float | None = None  # relative standard deviation, where a kitchen has learned it

    @model_validator(mode="after")
    def _allergens_agree(self) -> Self:
        """Verdicts read the allergen column, so it must never say less than the others do."""
        wanted = {"egg": "egg", "dairy": "milk"}.get(self.animal)
        if wanted and wanted not in self.allergens:
            raise ValueError(f"{self.id}: {self.animal} without the allergen {wanted}")
        if self.contains_gluten == "yes" and not {"wheat", "rye", "barley"} & set(self.allergens):
            raise ValueError(f"{self.id}: gluten without its cereal")
        return self

    @property
    def short(self) -> str:
        """The name without its particulars, for a sentence or a narrow column."""
        plain = re.sub(r"\s*\([^)]*\)", "", self.name).split(",")[0].strip()
        return f"{plain} (certified)" if self.is_certified else plain

    @property
    def is_certified(self) -> bool:
        """From a certified gluten-free mill."""
        return self.id != uncertified(self.id)

    @property
    def is_flour(self) -> bool:
        """Counted as flour in a baker's percentage."""
        return self.group in FLOURS

    @property
    def toughens(self) -> bool:
        """Forms gluten when it is wetted and worked."""
        return self.gluten_strength > 0 and self.contains_gluten == "yes"

    @property
    def is_drinker(self) -> bool:
        """Swells: takes up water and counts its own moisture as bound."""
        return self.absorption_g_per_g > 0

    @property
    def is_gel(self) -> bool:
        """Flax, chia, psyllium and gums: their set saturates together."""
        return self.gel == "yes"

    @property
    def has_measures(self) -> bool:
        """Whether its weight in a cup or a spoon is known."""
        return bool(self.cup_g or self.tbsp_g or self.tsp_g)

    @property
    def is_own_pack(self) -> bool:
        """Made from the whole label of a pack: what that does not name is not in it."""
        return self.source == OWN_PACK

    @property
    def pack_decides(self) -> bool:
        """Vague or compound: nothing is known of it until its pack is read."""
        return "check:any" in self.allergens

    def grams_per_ml(self, measure: Literal["cup", "tbsp", "tsp"] = "cup") -> tuple[float, Confidence]:
        """Density as spooned [g/mL], with how sure it is: by its own weight in that measure, else by the next larger known, since a spoon
        packs otherwise than a cup."""
        if measure == "tsp" and self.tsp_g:
            return self.tsp_g / US_TSP_ML, self.confidence
        if measure in ("tsp", "tbsp") and self.tbsp_g:
            return self.tbsp_g / US_TBSP_ML, self.confidence
        if self.cup_g:
            return self.cup_g / US_CUP_ML, self.confidence
        if self.tbsp_g:
            return self.tbsp_g / US_TBSP_ML, self.confidence
        if self.tsp_g:
            return self.tsp_g / US_TSP_ML, self.confidence
        return (0.95, "low") if self.water_g > 40 or self.fat_g > 60 else (0.55, "low")


def risks(i: Ingredient) -> dict[str, int]:
    """All that any diet could mind in an ingredient, by name: 2 where it is certain, 1 where only the pack can tell."""
    found = {"gluten": {"no": 0, "risk": 1, "yes": 2}[i.contains_gluten], "sugar": {"no": 0, "check": 1, "yes": 2}[i.added_sugar]}
    found["refined"] = 2 if i.refined == "yes" else 0
    found["fat"] = 2 if i.group in ("fat_oil", "fat_solid") else 0
    found["lactose"] = {"": 2, "no": 0}.get(i.lactose, 1) if "milk" in i.allergens else 0
    if i.animal != "none":
        found["animal" if i.animal == "check" else f"animal:{i.animal}"] = 1 if i.animal == "check" else 2
    for token in i.allergens:
        kind, _, rest = token.partition(":")
        if kind in ("check", "may"):
            found[rest] = max(found.get(rest, 0), 1)
        elif kind != "cross":
            found[token] = 2
    return found


def milder(one: Iterable[Ingredient], other: Iterable[Ingredient]) -> bool:
    """Whether some diet could judge `one` more leniently than `other`, each taken as all of its ingredients together."""

    def together(rows: Iterable[Ingredient]) -> dict[str, int]:
        found: dict[str, int] = {}
        for row in rows:
            for risk, level in risks(row).items():
                found[risk] = max(found.get(risk, 0), level)
        return found

    have = together(one)
    return any(level > have.get(risk, 0) for risk, level in together(other).items())
