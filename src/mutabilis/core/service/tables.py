"""The facts of a service, as `data/service.toml` has them."""

import re
from collections.abc import Iterable
from difflib import get_close_matches
from functools import cache, cached_property

from pydantic import BaseModel, ConfigDict

from ..batter.batter import FormKey
from ..food.allergen_tokens import ALLERGENS, token_of
from .wishes import Offer


@cache
def _written(key: str) -> str:
    """What an allergen is called whose key is written in another way ("egg_whites"); the key where it is none."""
    try:
        return token_of(key).rpartition(":")[2]
    except ValueError:
        return key


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
    # What the batters of a service name besides: a kitchen may keep more apart than the law asks, and cook for more diets than are shipped.
    listed: frozenset[str] = frozenset()
    claimed: frozenset[str] = frozenset()

    def name(self, word: str) -> str:
        """What an allergen or a diet is called here, however it was written: "Tree nuts" and "tree_nut:almond" both. What stands in brackets
        after it ("soy (check the pack)") says how it is known and not what it is.

        A diet by its own name stays a diet.
        """
        key = re.sub(r"[^a-z0-9]+", "_", word.casefold().partition(" (")[0].rpartition(":")[2]).strip("_")
        if key in self.diets:
            return key
        for one in (key, key.removesuffix("s"), f"{key}s"):
            if one in self.same or one in self._names:
                return self.same.get(one, one)
        return _written(key)

    @cached_property
    def _names(self) -> frozenset[str]:
        return frozenset({*ALLERGENS, *self.families, *(x for members in self.families.values() for x in members)})

    def checked_for(self, what: str) -> bool:
        """Whether the batters of a service are checked for a need. What none of them is checked for, none of them can be free of."""
        key = self.name(what)
        return self.is_diet(key) or key in self._names or key in self.listed

    def is_diet(self, key: str) -> bool:
        """Whether a need, by the name that it has here, is a diet: a batter must say that it fits it."""
        return key in self.diets or (key in self.claimed and key not in self._names)

    def near(self, word: str) -> str | None:
        """The allergen that a word is likely to be a slip of; None where it is near to none."""
        found = get_close_matches(self.name(word), sorted(self._names | {*self.same}), 1, 0.8)
        return self.name(found[0]).replace("_", " ") if found else None

    def of(self, offers: Iterable[Offer]) -> "ServiceTables":
        """The same tables, with what these batters name."""
        offers = tuple(offers)
        listed = frozenset(self.name(x) for o in offers for x in (*o.contains, *o.may_contain))
        return self.model_copy(update={"listed": listed, "claimed": frozenset(self.name(x) for o in offers for x in o.fits)})

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
