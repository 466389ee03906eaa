"""Units of the kitchen, and the kitchen's own cups and spoons."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from .profile import CupMl, Profile, TbspMl


class Unit(BaseModel):
    """One unit: `ml` [mL] or `g` [g] of one, or `of` a size of the profile times `times`."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

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

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    key: str
    times: float
    spread: float


class Source(BaseModel):
    """The cup and table spoon [mL] that recipes of some origin are written in; `cup` names the cup where a kitchen may take it for its own."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    words: str
    cup: str
    cup_ml: CupMl
    tbsp_ml: TbspMl


class Units(BaseModel):
    """All units by the names cooks give them, and the sizes of eggs and fruit."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    by_name: dict[str, Unit]
    heaps: dict[str, Heap]
    egg_size: dict[str, dict[str, float]]
    fruit_size: dict[str, float]
    of_fruit: dict[str, tuple[str, float]]
    drained: dict[str, tuple[str, float]]
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
                "drained": {k: (v["raw"], v["stays"]) for k, v in table["drained"].items()},
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
