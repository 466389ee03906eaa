"""What is asked of an adaptation besides the batter itself."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..batter.batter import FormKey, Grams
from ..diets.rules import DietRule
from ..food.nutrients import Nutrient
from .facts import AdaptFacts

Amount = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
Key = Annotated[str, Field(max_length=80)]
DRINKS = ("milk", "plant_milk", "cultured_dairy", "plant_cultured")
CARB_CAPS = ("net_carb_g", "carb_g", "sugars_g")


class Wishes(BaseModel):
    """Diets and everything else asked for. Caps and floors are per serving; `locked` and `poured` are grams in the bowl:
    what is locked stays at its amount, what is poured can only grow. `larder` is all that may be used; `at_hand` what need not be
    bought, for the answers that look there. `minutes` is the time at hand before the first piece;
    `prices` are per kilogram, `max_cost` per serving in the same money; `steps` says what amounts are rounded to. `spread_cm`: how far 60 mL are to run [cm],
    in place of `flow`; `thin_with`: no more milk or drink than there is, what is wanted beyond it is water."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    diets: Annotated[tuple[Key, ...], Field(max_length=30)] = ()
    servings: Annotated[float | None, Field(gt=0, le=10_000, allow_inf_nan=False)] = None
    caps: dict[Nutrient, Amount] = Field(default_factory=dict)
    floors: dict[Nutrient, Amount] = Field(default_factory=dict)
    pins: Annotated[tuple[Key, ...], Field(max_length=80)] = ()
    bans: Annotated[tuple[Key, ...], Field(max_length=400)] = ()
    larder: Annotated[tuple[Key, ...] | None, Field(max_length=5000)] = None
    at_hand: Annotated[tuple[Key, ...] | None, Field(max_length=5000)] = None
    locked: dict[Key, Grams] = Field(default_factory=dict)
    poured: dict[Key, Grams] = Field(default_factory=dict)
    flow: Literal["thinner", "same", "thicker"] = "same"
    spread_cm: Annotated[float | None, Field(ge=7.5, le=18, allow_inf_nan=False)] = None
    thin_with: Literal["drink", "water"] = "drink"
    minutes: Annotated[float | None, Field(ge=0, le=5000, allow_inf_nan=False)] = None
    pieces: Annotated[float | None, Field(gt=0, le=10_000, allow_inf_nan=False)] = None
    eggs: Literal["as_is", "whole", "separated"] = "as_is"
    steps: Literal["scale", "kitchen"] = "scale"
    prices: dict[Key, Amount] = Field(default_factory=dict)
    max_cost: Annotated[float | None, Field(ge=0, le=10_000, allow_inf_nan=False)] = None
    form: FormKey | None = None
    alternatives: Annotated[int, Field(ge=1, le=5)] = 1

    def rules(self, facts: AdaptFacts) -> dict[str, DietRule]:
        """The rules of the diets asked for, with a cap of the wishes in place of a rule's own limit. NotKnown where a diet
        is not known."""
        rules: dict[str, DietRule] = {}
        for key in self.diets:
            rule = facts.diets[key]
            limits = tuple(limit.model_copy(update={"most": self.caps.get(limit.nutrient, limit.most)}) for limit in rule.limits)
            rules[key] = rule.model_copy(update={"limits": limits}) if limits != rule.limits else rule
        return rules

    @property
    def moves_flow(self) -> bool:
        """Whether it is to flow otherwise than it does."""
        return self.flow != "same" or self.spread_cm is not None

    def lean(self, facts: AdaptFacts) -> bool:
        """Whether carbohydrate has a ceiling."""
        return any(c in CARB_CAPS for c in self.all_caps(facts))

    def all_caps(self, facts: AdaptFacts) -> dict[str, float]:
        """Every cap per serving, of the wishes and of the diets."""
        caps: dict[str, float] = dict(self.caps.items())
        for rule in self.rules(facts).values():
            for limit in rule.limits:
                caps[limit.nutrient] = min(limit.most, caps.get(limit.nutrient, limit.most))
        return caps
