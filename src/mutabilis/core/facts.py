"""All that is known and not computed, in one bundle, handed to the core by whoever loaded it."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from .batter import Form, FormKey
from .ingredients import Ingredient
from .naming import Names
from .quantities.units import Units

if TYPE_CHECKING:
    from .diets import DietRule
    from .swaps.craft import Craft


@dataclass(frozen=True, slots=True)
class Facts:
    """Ingredients by id, the names for them, units, forms, diet rules and craft."""

    ingredients: Mapping[str, Ingredient]
    names: Names
    units: Units
    forms: Mapping[FormKey, Form]
    diets: "Mapping[str, DietRule]"
    craft: "Craft"
    faults: tuple[str, ...] = field(default=())
