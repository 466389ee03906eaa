"""The kitchen's own cups and spoons, and the rules it follows where cooks disagree."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from .degrees import Decimal, HeatScale, in_figures, told

US_CUP_ML = 236.588  # the cup in which the weights of the ingredient table are given
US_TBSP_ML = 14.787
US_TSP_ML = 4.929
CupMl = Annotated[float, Field(gt=100, lt=400)]
TbspMl = Annotated[float, Field(gt=5, lt=30)]
TspMl = Annotated[float, Field(gt=2, lt=10)]


class Profile(BaseModel):
    """How this kitchen measures, and the schools it follows where cooks disagree. `ladle_ml`: what its ladle holds [mL], weighed once;
    `names_days`: so many days after a batch the names of who ate of it are forgotten, `photo_days` its
    photographs (None: they are kept)."""

    model_config = ConfigDict(frozen=True, extra="forbid")  # a request is checked by it: built at once

    cup_ml: CupMl = US_CUP_ML
    tbsp_ml: TbspMl = US_TBSP_ML
    tsp_ml: TspMl = US_TSP_ML
    flour: Literal["spooned", "scooped", "unknown"] = "spooned"
    eggs: Literal["us", "eu"] = "us"
    net_carb: Literal["minus_fibre_polyols", "minus_fibre", "total"] = "minus_fibre_polyols"
    oats: Literal["certified", "any", "none"] = "certified"
    honey: Literal["strict", "lenient"] = "strict"
    refined_sugar: Literal["strict", "lenient"] = "lenient"
    coconut_is_nut: bool = False
    uncertified_flour: Literal["cannot_vouch", "read_the_pack"] = "cannot_vouch"
    traces: Literal["as_diet", "cannot_vouch", "caution"] = "as_diet"
    shown: Literal["both", "grams", "kitchen"] = "both"
    decimal: Decimal = "point"
    heat: HeatScale = "celsius"
    names_days: Annotated[int, Field(ge=1, le=3650)] = 90
    photo_days: Annotated[int | None, Field(ge=1, le=3650)] = None
    ladle_ml: Annotated[float | None, Field(gt=5, lt=2000)] = None

    def measuring(self, cup_ml: float | None, tbsp_ml: float | None) -> "Profile":
        """This profile with another cup and table spoon [mL], those of the source a batter was written in; None keeps the kitchen's."""
        sizes = {"cup_ml": cup_ml, "tbsp_ml": tbsp_ml}
        return self.model_copy(update={k: v for k, v in sizes.items() if v is not None})

    def told(self, text: str) -> str:
        """A sentence with its degrees and figures as this kitchen reads them."""
        return in_figures(told(text, self.heat), self.decimal)

    @property
    def schools(self) -> tuple[object, ...]:
        """The settings that a diet verdict may depend on."""
        return (self.oats, self.honey, self.refined_sugar, self.coconut_is_nut, self.uncertified_flour, self.traces)
