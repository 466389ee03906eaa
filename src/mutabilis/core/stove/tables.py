"""What the Stove goes by, from its data file."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..batter.batter import FormKey
from ..food.ingredients import LIQUIDS, Ingredient

Colour = Literal["pale", "golden", "dark", "burnt"]
WHOLE_EGG = 0.55


class _Table(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)


class ScaleTable(_Table):
    """When a scale has settled, frozen, jumped; what it can show [g, s]."""

    resolution_g: float
    settled_s: float
    settled_g: float
    frozen_s: float
    jump_g: float
    jump_s: float
    lifted_share: float
    spoon_below: float
    apart_s: float


class JudgeTable(_Table):
    """How well each way of judging tells [cm], and the steps in which a bowl is corrected [g]."""

    spread_ml: float
    scoops_ml: tuple[float, ...]
    spread_sd_cm: float
    piece_sd_cm: float
    piece_offset_cm: float
    piece_offset_sd_cm: float
    eye_step_cm: float
    eye_sd_cm: float
    eye_end: float
    clock_min: float
    near_cm: float
    clear_cm: float
    wrong_share: float
    wrong_sd_cm: float
    dare: float
    liquid_step_g: float
    flour_step_g: float


class EyeStep(_Table):
    """One picture of the scale by eye."""

    value: int
    label: str


class TimeTable(_Table):
    """How long the hands take, and what a load tells of a surface's pace."""

    weigh_s: float
    mix_min: float
    handling_s: float
    room_most_min: float
    wipe_every: int
    test_share: float
    tap_sd: float
    pace_sd: float
    pace_least_sd: float


class FillTable(_Table):
    """What a load tells of how much its iron takes: shares of the portion poured; spreads as logarithms; from which share of what the
    iron takes a portion is too much."""

    over: float
    gaps: float
    right: float
    seen_sd: float
    prior_sd: float
    least_sd: float
    too_much: float


class BagTable(_Table):
    """How far the thirst of a new bag is from the one before, as relative standard deviations; from which thirst [g/g] a flour is a thirsty one."""

    refined: float
    thirsty: float
    thirsty_from: float


class KeepRow(_Table):
    """What can be kept, how long at the most [h], and how it comes back, by form or for all."""

    key: str
    label: str
    hours: float
    of: Literal["batter", "pieces"]
    back: dict[FormKey | Literal["all"], str]


class SideKeep(_Table):
    """How a dish beside the batter is kept, and comes back."""

    label: str
    back: str


class StoveTables(_Table):
    """All of it."""

    scale: ScaleTable
    tolerance: dict[str, tuple[float, float]]
    judge: JudgeTable
    eye: tuple[EyeStep, ...]
    time: TimeTable
    fill: FillTable
    bag: BagTable
    colour: dict[Colour, float]
    faults: dict[str, str]
    keep: tuple[KeepRow, ...]
    side_keep: SideKeep

    def __hash__(self) -> int:
        return id(self)

    def tolerance_g(self, i: Ingredient, target: float) -> float:
        """How near a pour of `target` [g] must come [g], and never nearer than half a step of the scale."""
        kind = "flour" if i.is_flour else "liquid" if i.group in LIQUIDS else i.group
        share, least = self.tolerance.get(kind, self.tolerance["other"])
        if kind == "egg" and i.unit_g:
            least = max(least, WHOLE_EGG * i.unit_g)  # eggs are whole: the next number of them is near enough, for the liquid follows
        return max(share * target, least, self.scale.resolution_g / 2)

    def by_spoon(self, target: float) -> bool:
        """Whether an amount [g] is too small for the scale, and is given in level spoons."""
        return 0 < target < self.scale.spoon_below * self.scale.resolution_g
