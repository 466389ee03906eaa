"""The facts of a service, as `data/service.toml` has them."""

import re
from collections.abc import Iterable

from pydantic import BaseModel, ConfigDict

from ..batter.batter import FormKey


class Limits(BaseModel):
    """How much is planned at once, and the seconds that nobody gave."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    guests: int
    stations: int
    batters: int
    late_s: int
    clean_s: int
    freeze_s: int


class ServiceTables(BaseModel):
    """Limits, which form goes on which kind of surface, how long cooked pieces are good, and what allergens are called."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    limits: Limits
    forms: dict[FormKey, tuple[str, ...]]
    hold_s: dict[FormKey, int]
    same: dict[str, str]
    families: dict[str, tuple[str, ...]]
    diets: dict[str, tuple[str, ...]]

    def name(self, word: str) -> str:
        """What an allergen or a diet is called here, however it was written: "Tree nuts" and "tree_nut:almond" both.

        A diet by its own name stays a diet.
        """
        key = re.sub(r"[^a-z0-9]+", "_", word.casefold().rpartition(":")[2]).strip("_")
        return key if key in self.diets else self.same.get(key, key)

    def meets(self, avoided: str, has: Iterable[str]) -> str | None:
        """The first of what something has that a guest who avoids `avoided` may not meet; None where there is none.

        A cereal counts for gluten; gluten without its cereal counts for any of them, for nobody said which it is.
        """
        wanted = self.name(avoided)
        for word in has:
            one = self.name(word)
            if one == wanted or one in self.families.get(wanted, ()) or wanted in self.families.get(one, ()):
                return one
        return None

    def allergens_of(self, what: str) -> tuple[str, ...]:
        """What must not be met for a need: the allergens of a diet, or the allergen itself."""
        key = self.name(what)
        return self.diets.get(key, (key,))

    def stands_on(self, form: FormKey, kind: str) -> bool:
        """Whether a form is made on a kind of surface. A pan takes the crêpes before a griddle does; both can."""
        return kind.casefold().replace(" ", "_") in self.forms[form]
