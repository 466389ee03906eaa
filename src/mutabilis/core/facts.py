"""All that is known and not computed, in one bundle, handed to the core by whoever loaded it."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

from .batter.batter import Form, FormKey
from .food.ingredients import Ingredient
from .food.naming import Names
from .measures.units import Units
from .reading.clauses import Clauses
from .reading.prose import Prose
from .reading.words import Words
from .recipe.leftovers import Leftovers
from .safety import Safety

if TYPE_CHECKING:
    from .adapt.craft import Craft, Usage
    from .diets.verdicts import DietRule
    from .heat.heat import HeatFacts
    from .stove.tables import StoveFacts


@dataclass(frozen=True, slots=True)
class Facts:
    """Ingredients by id, the names for them, the words beside them, how lines are taken apart, units, forms, what keeps from harm, diet rules, craft, heat and what the Stove goes by; the most that is usual of what works in spoons [g per
    100 g flour, by ingredient or `group:…`], and what is left over of tins and eggs."""

    ingredients: Mapping[str, Ingredient]
    names: Names
    words: Words
    clauses: Clauses
    prose: Prose
    units: Units
    forms: Mapping[FormKey, Form]
    safety: Safety
    diets: "Mapping[str, DietRule]"
    craft: "Craft"
    heat: "HeatFacts"
    stove: "StoveFacts"
    usual: Mapping[str, float] = field(default_factory=dict)
    leftovers: Leftovers = field(default_factory=Leftovers)
    faults: tuple[str, ...] = field(default=())

    def with_faults(self, more: Iterable[str]) -> "Facts":
        """The same facts, with more files named that were left out."""
        return replace(self, faults=(*self.faults, *more))

    def with_own(self, own: Iterable[Ingredient], diets: "Iterable[DietRule]" = (), usages: "Iterable[Usage]" = ()) -> "Facts":
        """The same facts with a kitchen's own ingredients and diets beside, or in place of, the shipped ones, and how its own are used
        as swaps."""
        craft = self.craft.model_copy(update={"usages": (*self.craft.usages, *usages)})
        rules = {**self.diets, **{rule.key: rule for rule in diets}}
        own = tuple(own)
        if not own:
            return replace(self, diets=rules, craft=craft)
        ingredients = {**self.ingredients, **{i.id: i for i in own}}
        names = self.names.over(ingredients)
        words = Words(names, self.units)
        return replace(
            self,
            ingredients=ingredients,
            names=names,
            words=words,
            clauses=Clauses(words),
            prose=self.prose.over(words),
            diets=rules,
            craft=craft,
        )

    def with_weights(self, changed: Iterable[Ingredient]) -> "Facts":
        """The same facts with ingredients that weigh or drink otherwise in this kitchen; names stay as they are."""
        return replace(self, ingredients={**self.ingredients, **{i.id: i for i in changed}})
