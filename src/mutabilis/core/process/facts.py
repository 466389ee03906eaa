"""What a plan of making goes by."""

from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..batter.batter import FormKey
from ..heat.facts import HeatFacts
from .parts import VesselKey


class _Table(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)


class Minutes(_Table):
    """How long hands and waits take [min]; `weigh` a line, `judge` since the wetting."""

    weigh: float
    room: float
    drain: float
    sour: float
    cool: float
    soak: float
    proof: float
    judge: float
    heat: dict[FormKey, float]


class Soak(_Table):
    """Grams of liquid to a gram of seed meal and of psyllium; the most of the liquid that may go there, as a share."""

    times: float
    psyllium: float
    most: float


class WhitesTable(_Table):
    """Sugar whipped into whites, as a share of their weight; the peaks in words."""

    sugar: float
    soft: str
    stiff: str


class Yeast(_Table):
    """Minutes to double at `at_c` [°C] with `share` of the flour's weight in dried yeast; bounds [min]."""

    minutes: float
    at_c: float
    share: float
    fresh: float
    least: float
    most: float
    warmth: str
    why: str


class FormWords(_Table):
    """What a form is cooked on, how that is told to be hot, how it is cooked and told to be done."""

    surface: str
    hot: str
    pour: str
    done: str
    cook: str


class Steam(_Table):
    """What is otherwise where steam alone lifts a batter; how long it takes [min], which nobody reckons."""

    hot: str
    pour: str
    cook: str
    outside: str
    minutes: float


class Lid(_Table):
    """What tells of a lid in a recipe, and what is then said."""

    words: tuple[str, ...]
    text: str
    outside: str


class Late(_Table):
    """How what is laid on later goes on."""

    kind: Literal["lay", "scatter", "layer"]
    text: str


class Crust(_Table):
    """Sugars that make a crust in a hot iron, and how."""

    sugars: tuple[str, ...]
    text: str
    why: str
    again: str
    done: str
    minutes: float
    caution: str


class SideKind(_Table):
    """How a kind of dish beside the batter is made: the words of a heading that name it, minutes of hands and of waiting, the share of
    its weight that remains, the days it keeps cold."""

    key: str
    heading: tuple[str, ...]
    vessel: VesselKey
    does: Literal["simmer", "roast", "mix"]
    text: str
    done: str
    hands: float
    wait: float
    leaves: float
    days: float
    caution: str


class Thicken(_Table):
    """How a dish is thickened; which kind fruit is where no heading names one, from which shares of its weight,
    and which headings keep it raw."""

    starch: str
    seed: str
    soft: tuple[str, ...]
    raw: tuple[str, ...]
    sweet: float
    fruit: float


class Into(_Table):
    """Words of a heading by which a dish goes into the iron, or through the poured batter."""

    iron: tuple[str, ...]
    swirl: tuple[str, ...]


class SideTables(_Table):
    """The file of dishes beside a batter."""

    kinds: tuple[SideKind, ...]
    thicken: Thicken
    into: Into


class Bag(_Table):
    """What goes into a bag: bounds of water and fat [g in 100 g], groups and things that stay out; how it is stored."""

    water_g: float
    fat_g: float
    not_groups: tuple[str, ...]
    not_things: tuple[str, ...]
    label: str


class BagDays(_Table):
    """How many days things keep in a bag, by kind."""

    default: int
    leavener: int
    whole_grain: int
    nut_seed_flour: int
    dairy_or_egg_powder: int


class WholeGrain(_Table):
    """From how much fat or fibre [g in 100 g] a flour keeps like a whole one."""

    fat: float
    fibre: float


class DryMixTable(_Table):
    """The file of dry mixes."""

    bag: Bag
    days: BagDays
    whole_grain: WholeGrain


class ProcessTables(_Table):
    """The whole of the file."""

    vessels: dict[VesselKey, str]
    minutes: Minutes
    soak: Soak
    whites: WhitesTable
    yeast: Yeast
    forms: dict[FormKey, FormWords]
    late: dict[FormKey, Late]
    crust: Crust
    steam: Steam
    lid: Lid
    sides: SideTables
    dry_mix: DryMixTable


@dataclass(frozen=True, kw_only=True, eq=False)
class ProcessFacts(HeatFacts):
    """What things stand in, how long they take, and how a form is cooked."""

    process: ProcessTables
