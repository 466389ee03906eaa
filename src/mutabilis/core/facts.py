"""All that is known and not computed, in one bundle: whoever loaded it hands it out, and each layer of the core takes its own part."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from .adapt.craft import Usage
from .diets.rules import DietRule
from .errors import Known
from .food.ingredients import Ingredient
from .reading.clauses import Clauses
from .reading.words import Words
from .stove.facts import StoveFacts


@dataclass(frozen=True, kw_only=True, eq=False)
class AllFacts(StoveFacts):
    """The facts of every layer, and the files that were left out because of a mistake."""

    faults: tuple[str, ...] = ()

    def with_faults(self, more: Iterable[str]) -> "AllFacts":
        """The same facts, with more files named that were left out."""
        return replace(self, faults=(*self.faults, *more))

    def with_own(self, own: Iterable[Ingredient], diets: Iterable[DietRule] = (), usages: Iterable[Usage] = ()) -> "AllFacts":
        """The same facts with a kitchen's own ingredients and diets beside, or in place of, the shipped ones, and how its own are used
        as swaps."""
        craft = self.craft.model_copy(update={"usages": (*self.craft.usages, *usages)})
        rules = Known({**self.diets, **{rule.key: rule for rule in diets}})
        own = tuple(own)
        if not own:
            return replace(self, diets=rules, craft=craft)
        ingredients = Known({**self.ingredients, **{i.id: i for i in own}})
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

    def with_weights(self, changed: Iterable[Ingredient]) -> "AllFacts":
        """The same facts with ingredients that weigh or drink otherwise in this kitchen; names stay as they are."""
        return replace(self, ingredients=Known({**self.ingredients, **{i.id: i for i in changed}}))
