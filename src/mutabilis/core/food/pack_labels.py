"""An own ingredient from its pack's label: composition inferred, thirst estimated with a wide uncertainty, and said so."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..measures.profile import US_CUP_ML, CupMl
from .allergen_tokens import FROM_ANIMALS, AllergenToken
from .coefficients import SALT_PER_SODIUM
from .ingredients import OWN_PACK, Ingredient

Kind = Literal["flour", "drink", "spread", "powder"]
Per100 = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
Basis = Literal["carb_without_fibre", "carb_with_fibre"]
# kind: group, water and density assumed where the label cannot tell [g/100 g, g/mL]
_KIND: dict[Kind, tuple[str, float]] = {
    "flour": ("gluten_free_flour", 0.5),
    "drink": ("plant_milk", 1.02),
    "spread": ("fat_solid", 0.96),
    "powder": ("protein_powder", 0.42),
}


class Label(BaseModel):
    """What a pack says per 100 g: energy [kcal], fat, saturates, carbohydrate, sugars, fibre, protein, salt [g], what kind
    of thing it is, its allergen line, and a cup of it [g] of the size that was weighed [mL]. European labels give carbohydrate
    without fibre, American ones with it."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    id: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{1,60}$")]
    name: Annotated[str, Field(min_length=1, max_length=120)]
    kind: Kind
    kcal: Annotated[float, Field(ge=0, le=950, allow_inf_nan=False)]
    fat_g: Per100
    saturates_g: Per100
    carbohydrate_g: Per100
    sugars_g: Per100
    fibre_g: Per100
    protein_g: Per100
    salt_g: Per100
    basis: Basis = "carb_without_fibre"
    contains: tuple[AllergenToken, ...] = ()
    may_contain: tuple[AllergenToken, ...] = ()
    vegan: bool | None = None
    certified_gluten_free: bool = False
    added_sugar: bool | None = None
    cup_g: Annotated[float | None, Field(gt=10, le=500)] = None
    cup_ml: CupMl | None = None
    absorption: Annotated[float | None, Field(ge=0, le=20, allow_inf_nan=False)] = None

    @model_validator(mode="after")
    def _can_be(self) -> "Label":
        carb = self.carb_with_fibre
        if self.vegan and (animal := next((a for a in FROM_ANIMALS if a in self.contains), None)):
            raise ValueError(f"vegan, and yet it contains {animal}")
        if self.saturates_g > self.fat_g + 0.05:
            raise ValueError("more saturates than fat")
        if self.sugars_g + (self.fibre_g if self.basis == "carb_with_fibre" else 0) > self.carbohydrate_g + 0.5:
            raise ValueError("more sugars than carbohydrate")
        if self.fat_g + carb + self.protein_g + self.salt_g > 103:
            raise ValueError("the parts come to more than 100 g")
        energy = 9 * self.fat_g + 4 * self.protein_g + 4 * (carb - self.fibre_g) + 2 * self.fibre_g
        # Polyols and rounding make labels lower; nothing makes them much higher.
        if self.kcal > 1.2 * energy + 15 or self.kcal < 0.55 * energy - 15:
            raise ValueError(f"{self.kcal:g} kcal, where the parts give about {energy:.0f}")
        return self

    @property
    def carb_with_fibre(self) -> float:
        """Carbohydrate including fibre [g/100 g], whichever way the pack counts: fibre is never taken off twice."""
        return self.carbohydrate_g + (self.fibre_g if self.basis == "carb_without_fibre" else 0.0)


def _us_cup(label: Label) -> float | None:
    """Grams in a US cup, from the cup that was weighed."""
    return None if label.cup_g is None else round(label.cup_g / (label.cup_ml or US_CUP_ML) * US_CUP_ML, 1)


def infer(label: Label) -> tuple[Ingredient, tuple[float, float]]:
    """The ingredient a label describes, and the range of its absorption [g/g] (about 19 in 20): a rough estimate.

    a = 0.5·starch + 4.5·fibre + 1.2·protein per gram for flours, with fat keeping water out; fitted by eye to the flours of the
    table, which it meets within about a half. Everything here is low in confidence until measured.
    """
    carb = label.carb_with_fibre
    starch = max(0.0, carb - label.fibre_g - label.sugars_g)
    ash = min(4.0, label.salt_g + (1.5 if label.kind in ("flour", "powder") else 0.4))
    water = max(0.0, 100 - label.fat_g - carb - label.protein_g - ash)
    thirst = 0.0
    if label.kind in ("flour", "powder"):
        thirst = max(0.2, (0.5 * starch + 4.5 * label.fibre_g + 1.2 * label.protein_g) / 100 - 0.2 * label.fat_g / 100)
    rough = thirst
    if label.absorption is not None:  # weighed, or set by the cook: it stands, the range stays what the label can tell
        thirst = label.absorption
    contains = set(label.contains)
    # A label that names no allergen may have none, or nobody wrote down what it names.
    looked = label.vegan is not None and {"contains", "may_contain"} & label.model_fields_set
    unknown = () if label.contains or label.may_contain or looked else ("check:any",)
    tokens = tuple(sorted(contains)) + tuple(f"may:{a}" for a in sorted(label.may_contain)) + unknown
    gluten: Literal["yes", "no", "risk"] = (
        "yes" if contains & {"wheat", "rye", "barley"} else "no" if label.certified_gluten_free else "risk"
    )
    animal = "egg" if "egg" in contains else "dairy" if "milk" in contains else "none" if label.vegan else "check"
    group, density = _KIND[label.kind]
    if label.kind == "flour" and gluten == "yes":
        group = "wheat_flour"
    ingredient = Ingredient.model_validate(
        {
            "id": label.id, "name": label.name, "group": group, "water_g": round(water, 2), "protein_g": label.protein_g, "fat_g": label.fat_g,
            "sat_fat_g": label.saturates_g, "carb_g": round(carb, 2), "fibre_g": label.fibre_g, "sugars_g": label.sugars_g, "starch_g": round(starch, 2),
            "polyol_g": 0, "allulose_g": 0, "alcohol_g": 0, "organic_acid_g": 0, "ash_g": round(ash, 2), "sodium_mg": round(label.salt_g * 1000 / SALT_PER_SODIUM, 1),
            "kcal": label.kcal, "cup_g": _us_cup(label) or round(density * US_CUP_ML, 1), "absorption_g_per_g": round(thirst, 3), "absorption_minutes": 10 if thirst else 0,
            "gluten_strength": 0.4 if group == "wheat_flour" else 0, "contains_gluten": gluten, "acid_meq_per_100g": 0, "sweetness": round(label.sugars_g / 100 * 0.9, 3),
            "browning": 0.2, "thickening": 0.1 if label.kind == "drink" else 0, "egg_equivalents_per_g": 0,
            "added_sugar": "check" if label.added_sugar is None else "yes" if label.added_sugar else "no", "animal": animal,
            "lactose": "" if animal == "dairy" else "check" if animal == "check" else "", "allergens": tokens, "source": OWN_PACK, "confidence": "low", "set_source": "not known",
        }
    )  # fmt: skip
    return ingredient, (round(0.5 * rough, 3), round(1.6 * rough, 3))
