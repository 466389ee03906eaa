"""What is usual: amounts above which a line is queried, and what is left over of a tin or an egg."""

from pydantic import BaseModel, ConfigDict, Field


class Pack(BaseModel):
    """The usual pack of a thing [g], what it is called, and a use for its rest."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    pack_g: float = Field(gt=0)
    of: str
    use: str


class OtherHalf(BaseModel):
    """The other half of an egg [g each], and a use for it."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    other: str
    grams: float = Field(gt=0)
    use: str


class Leftovers(BaseModel):
    """Packs and the halves of eggs, by ingredient."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    pack: dict[str, Pack] = {}
    egg: dict[str, OtherHalf] = {}
