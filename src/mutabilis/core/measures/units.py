"""Units of the kitchen, and the kitchen's own cups and spoons."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

US_CUP_ML = 236.588  # the cup in which the weights of the ingredient table are given
US_TBSP_ML = 14.787
US_TSP_ML = 4.929


CupMl = Annotated[float, Field(gt=100, lt=400)]
TbspMl = Annotated[float, Field(gt=5, lt=30)]
TspMl = Annotated[float, Field(gt=2, lt=10)]


class Profile(BaseModel):
    """How this kitchen measures, and the schools it follows where cooks disagree."""

    model_config = ConfigDict(frozen=True, extra="forbid")

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
    decimal: Literal["point", "comma"] = "point"

    def measuring(self, cup_ml: float | None, tbsp_ml: float | None) -> "Profile":
        """This profile with another cup and table spoon [mL], those of the source a batter was written in; None keeps the kitchen's."""
        sizes = {"cup_ml": cup_ml, "tbsp_ml": tbsp_ml}
        return self.model_copy(update={k: v for k, v in sizes.items() if v is not None})

    @property
    def schools(self) -> tuple[object, ...]:
        """The settings that a diet verdict may depend on."""
        return (self.oats, self.honey, self.refined_sugar, self.coconut_is_nut, self.uncertified_flour, self.traces)


class Unit(BaseModel):
    """One unit: `ml` [mL] or `g` [g] of one, or `of` a size of the profile times `times`."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    key: str
    kind: Literal["mass", "volume", "profile", "piece"]
    g: float | None = None
    ml: float | None = None
    of: str | None = None
    times: float = 1.0
    spread: float = 0.0
    guess: bool = False

    def millilitres(self, profile: Profile) -> float | None:
        """Volume of one [mL], None where it is not a volume."""
        return self.times * float(getattr(profile, self.of)) if self.of else self.ml


class Heap(BaseModel):
    """How full a spoon is: `times` a level one, with relative uncertainty `spread`."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    key: str
    times: float
    spread: float


class Source(BaseModel):
    """The cup and table spoon [mL] that recipes of some origin are written in; `cup` names the cup where a kitchen may take it for its own."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    words: str
    cup: str
    cup_ml: CupMl
    tbsp_ml: TbspMl


class Units(BaseModel):
    """All units by the names cooks give them, and the sizes of eggs and fruit."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    by_name: dict[str, Unit]
    heaps: dict[str, Heap]
    egg_size: dict[str, dict[str, float]]
    fruit_size: dict[str, float]
    of_fruit: dict[str, tuple[str, float]]
    sources: tuple[Source, ...]

    @classmethod
    def from_table(cls, table: dict[str, dict[str, dict[str, object]]]) -> "Units":
        """Built from the parsed unit file; ValueError where a name stands for two units."""
        by_name: dict[str, Unit] = {}
        for kind in ("mass", "volume", "profile", "piece"):
            for key, row in table[kind].items():
                row = dict(row)
                names = row.pop("names")
                assert isinstance(names, list)
                unit = Unit.model_validate({"key": key, "kind": kind, **row})
                for name in names:
                    if name in by_name:
                        raise ValueError(f"unit name {name!r} stands twice")
                    by_name[name] = unit
        heaps: dict[str, Heap] = {}
        for key, row in table["heap"].items():
            row = dict(row)
            names = row.pop("names")
            assert isinstance(names, list)
            for name in names:
                heaps[name] = Heap.model_validate({"key": key, **row})
        return cls.model_validate(
            {
                "by_name": by_name,
                "heaps": heaps,
                "egg_size": table["egg_size"],
                "fruit_size": table["fruit_size"],
                "sources": table["source"],
                "of_fruit": {k: (v["ingredient"], v["g"]) for k, v in table["of_fruit"].items()},
            }
        )

    def find(self, word: str) -> Unit | None:
        """The unit a word names. `T` is a table spoon and `t` a tea spoon; otherwise case and dots do not matter."""
        bare = word.rstrip(".")
        if bare in ("T", "Tb"):
            return self.by_name["tbsp"]
        if bare == "t":
            return self.by_name["tsp"]
        return self.by_name.get(bare.lower())
