"""Craft as data: who may stand in for whom, how much of it is sensible, how many of a kind."""

from collections.abc import Mapping, Sequence
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from ..food.ingredients import Ingredient, uncertified

Basis = Literal["flour", "liquid", "batter"]


class Usage(BaseModel):
    """How an ingredient is used as a swap: `least` and `most` are shares of its basis, `replaces` maps a group to how far
    it is from it (0 the same thing, 1 a stranger), `oddness` what it costs to have to buy it."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    ingredient: str
    role: str
    replaces: dict[str, float]
    basis: Basis
    least: float = Field(ge=0, le=1)
    most: float = Field(gt=0, le=1)
    oddness: float = Field(ge=0, le=1)
    technique: str = ""
    why: str = ""


class Notice(BaseModel):
    """A change a cook would notice, as a share of the base (of the batter at `least`) or in meq, and its weight."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    share: float = 0.0
    least: float = 0.0
    meq: float = 0.0
    weight: float


class Family(BaseModel):
    """Things alike in taste or in risk: at most `new` of them at once, and together at most the share `most` of the flours."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    members: tuple[str, ...]
    new: int = 1
    most: float = 1.0

    def holds(self, ingredient: str) -> bool:
        """Whether an ingredient, or what it is the certified twin of, is one of them."""
        return uncertified(ingredient) in self.members


class StandIn(BaseModel):
    """What stands in for things folded in or served with a piece: of `kind`, the first of `by` that fits, gram for gram."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    kind: tuple[str, ...]
    by: tuple[str, ...]


class FlavourMend(BaseModel):
    """How a taste is made good; `needs` any one of these, which the guest must be allowed."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    words: str
    needs: tuple[str, ...] = ()


class Flavour(BaseModel):
    """A taste that goes with its bearers, and the ways to make it good, the best first."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    bearers: tuple[str, ...]
    words: str
    mends: tuple[FlavourMend, ...] = ()


class Craft(BaseModel):
    """All of the craft: usages, members of a role, how far a kept line may move, what is noticed."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    usages: tuple[Usage, ...]
    members: dict[str, int]
    keep: dict[str, tuple[float, float]]
    notice: dict[str, Notice]
    new_thing: float
    keep_weight: float
    far_weight: float
    limits: dict[str, float] = {}
    families: tuple[Family, ...] = ()
    flavours: tuple[Flavour, ...] = ()
    curds: tuple[str, ...] = ()
    swaps: tuple[StandIn, ...] = ()
    twins: dict[str, str] = {}
    equal: dict[str, float] = {}

    def stand_ins(self, ingredient: str) -> tuple[str, ...]:
        """What may stand in for a thing folded in or served with a piece, the nearest first."""
        return next((s.by for s in self.swaps if ingredient in s.kind), ())

    @classmethod
    def from_tables(
        cls,
        rows: Sequence[Mapping[str, str]],
        table: Mapping[str, Mapping[str, object]],
        ingredients: Mapping[str, Ingredient],
    ) -> "Craft":
        """Built from the craft files; ValueError where a row names what is not there."""
        usages: list[Usage] = []
        for row in rows:
            if row["ingredient"] not in ingredients:
                raise ValueError(f"craft for an ingredient that is not there: {row['ingredient']}")
            pairs = (pair.split(":") for pair in row["replaces"].split(";"))
            usages.append(Usage.model_validate({**row, "replaces": {group: float(cost) for group, cost in pairs}}))
        notice = dict(table["notice"])
        return cls.model_validate(
            {
                "usages": usages, "members": table["members"], "keep": table["keep"], "new_thing": notice.pop("new_thing"),
                "keep_weight": notice.pop("keep"), "far_weight": notice.pop("far"), "notice": notice, "limits": table.get("limits", {}),
                "families": list(table.get("family", {}).values()), "flavours": list(table.get("flavour", {}).values()),
                "curds": table.get("kinds", {}).get("curd", ()), "swaps": list(table.get("stand_in", {}).values()), "twins": table.get("twins", {}), "equal": table.get("equal", {}),
            }
        )  # fmt: skip

    def usage(self, ingredient: str) -> Usage | None:
        """The first usage of an ingredient, or of what it is the certified twin of; None where craft does not offer it."""
        plain = uncertified(ingredient)
        return next((u for u in self.usages if u.ingredient in (ingredient, plain)), None)
