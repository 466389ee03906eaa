"""What a kitchen knows of its ingredients besides the shipped facts."""

from collections.abc import Collection, Iterable, Mapping
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from ..measures.profile import US_CUP_ML, US_TBSP_ML, US_TSP_ML, CupMl, Profile, TbspMl, TspMl
from .ingredients import Ingredient

Mass = Annotated[float, Field(gt=0, le=1_000_000, allow_inf_nan=False)]


def _a_day(text: str) -> str:
    year, month, day = map(int, text.split("-"))
    leap = year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
    if not (year and 1 <= month <= 12 and 1 <= day <= (31, 28 + leap, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)[month - 1]):
        raise ValueError("this is no day")
    return text


Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$"), AfterValidator(_a_day)]


class Pack(BaseModel):
    """One pack that is or was in use: of what, its product and lot ("" where nobody said), and its days."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    ingredient: str
    product: str
    lot: str
    best_before: str | None = None
    opened: str | None = None
    emptied: str | None = None

    @property
    def words(self) -> str:
        """As it stands at a pour and in a trace.

        >>> Pack(ingredient="egg", product="Hill eggs", lot="7").words, Pack(ingredient="egg", product="", lot="7").words
        ('Hill eggs, lot 7', 'lot 7')
        """
        return ", ".join(x for x in (self.product, f"lot {self.lot}" if self.lot else "") if x)


class Item(BaseModel):
    """One ingredient of this kitchen: what is in [g] (None where nobody keeps count), the pack in use with its lot, its best-before day and the
    day it was opened, its weight [g] and price in the kitchen's own money; the weight of a cup and spoons of it [g], and the size of those that were weighed [mL] (the US
    measures where it is not said); what it drinks [g/g]."""

    model_config = ConfigDict(frozen=True, extra="forbid")  # a request is checked by it: built at once

    ingredient: Annotated[str, Field(max_length=80)]
    stock_g: Annotated[float | None, Field(ge=0, le=1_000_000, allow_inf_nan=False)] = None
    pack: Annotated[str | None, Field(max_length=120)] = None
    lot: Annotated[str | None, Field(max_length=60)] = None
    best_before: Day | None = None
    opened: Day | None = None
    pack_g: Mass | None = None
    price: Annotated[float | None, Field(ge=0, le=100_000, allow_inf_nan=False)] = None
    cup_g: Annotated[float | None, Field(gt=5, le=600, allow_inf_nan=False)] = None
    tbsp_g: Annotated[float | None, Field(gt=0.3, le=60, allow_inf_nan=False)] = None
    tsp_g: Annotated[float | None, Field(gt=0.05, le=20, allow_inf_nan=False)] = None
    cup_ml: CupMl | None = None
    tbsp_ml: TbspMl | None = None
    tsp_ml: TspMl | None = None
    absorption: Annotated[float | None, Field(ge=0, le=20, allow_inf_nan=False)] = None

    def weighed_with(self, profile: Profile) -> "Item":
        """The same, each weight kept with the size of this kitchen's cup or spoon where it has none yet."""
        sizes = {"cup": profile.cup_ml, "tbsp": profile.tbsp_ml, "tsp": profile.tsp_ml}
        update = {f"{k}_ml": None if getattr(self, f"{k}_g") is None else getattr(self, f"{k}_ml") or ml for k, ml in sizes.items()}
        return self.model_copy(update=update)

    @property
    def in_use(self) -> Pack | None:
        """The pack in use; None where nothing is known of it."""
        if not (self.pack or self.lot or self.best_before or self.opened):
            return None
        return Pack(
            ingredient=self.ingredient, product=self.pack or "", lot=self.lot or "", best_before=self.best_before, opened=self.opened
        )

    @property
    def price_per_kg(self) -> float | None:
        """Price of a kilogram; None where price or pack is not known."""
        return None if self.price is None or not self.pack_g else 1000 * self.price / self.pack_g

    @property
    def is_in(self) -> bool:
        """Some of it is in."""
        return self.stock_g is not None and self.stock_g > 0


def with_items(ingredients: Mapping[str, Ingredient], items: Iterable[Item]) -> list[Ingredient]:
    """The ingredients that weigh or drink otherwise in this kitchen than in the table; their confidence in that is its own.

    A cup weighed here sets the spoons in proportion, so that no two measures of one thing contradict each other; a spoon that was
    weighed too counts for the spoon. Weights are turned to those of the US measures by the size that was weighed.
    """
    changed: list[Ingredient] = []
    for item in items:
        i = ingredients.get(item.ingredient)
        if i is None or (item.cup_g is item.tbsp_g is item.tsp_g is item.absorption is None):
            continue
        update: dict[str, object] = {}
        if item.cup_g is not None:
            density = item.cup_g / (item.cup_ml or US_CUP_ML)
            update |= {
                "cup_g": density * US_CUP_ML,
                "tbsp_g": density * US_TBSP_ML,
                "tsp_g": density * US_TSP_ML,
            }
        if item.tbsp_g is not None:
            density = item.tbsp_g / (item.tbsp_ml or US_TBSP_ML)
            update |= {"tbsp_g": density * US_TBSP_ML, "tsp_g": density * US_TSP_ML}
        if item.tsp_g is not None:
            update |= {"tsp_g": item.tsp_g / (item.tsp_ml or US_TSP_ML) * US_TSP_ML}
        if item.absorption is not None:
            update |= {"absorption_g_per_g": item.absorption, "absorption_minutes": i.absorption_minutes or 10.0}
        changed.append(i.model_copy(update=update))
    return changed


def prices(items: Iterable[Item]) -> dict[str, float]:
    """Price per kilogram by ingredient, where it is known."""
    return {item.ingredient: item.price_per_kg for item in items if item.price_per_kg is not None}


def to_buy(wanted: Iterable[str | None], at_hand: Collection[str | None]) -> tuple[str, ...]:
    """The ingredients wanted that are not at hand, each once, in their order."""
    return tuple(dict.fromkeys(id_ for id_ in wanted if id_ and id_ not in at_hand))
