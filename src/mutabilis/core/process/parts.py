"""What a plan of making is made of: vessels, portions, operations, moments, and the cook's own ways."""

from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..batter.batter import Moment, Order, Whites

VesselKey = Literal[
    "bowl", "jug", "blender", "soaking_cup", "pan", "sieve", "plate", "whites_bowl", "small_cup", "saucer", "dish", "held_cup", "tray", "surface", "rack", "counter", "saucepan", "oven_dish", "side_bowl", "mix_bowl"
]  # fmt: skip
Kind = Literal[
    "weigh", "soak", "sour", "warm", "melt", "brown", "drain", "mash", "grind", "scald", "separate", "proof", "sift", "whisk", "whip", "fold", "blend",
    "stir", "judge", "rest", "heat", "grease", "pour", "scatter", "lay", "layer", "turn", "close", "bake", "lift_off", "sprinkle", "simmer", "roast", "mix", "swirl", "bag",
]  # fmt: skip
STIRS: frozenset[Kind] = frozenset({"whisk", "stir", "blend"})
PREPARES: frozenset[Kind] = frozenset({"warm", "drain", "soak", "sour", "melt", "brown", "grind", "mash", "scald", "separate", "proof"})
Skill = Literal["weigh", "mix", "pour", "turn", "off"]
_SKILLS: dict[Skill, tuple[Kind, ...]] = {
    "weigh": ("weigh", "bag", *sorted(PREPARES)),
    "mix": ("sift", "whisk", "whip", "fold", "blend", "stir", "judge", "rest", "mix", "swirl", "mash", "simmer", "roast"),
    "pour": ("heat", "grease", "pour", "scatter", "lay", "layer"),
    "turn": ("turn", "close"),
    "off": ("bake", "lift_off", "sprinkle"),
}  # fmt: skip
SKILL_OF: dict[Kind, Skill] = {kind: skill for skill, kinds in reversed(_SKILLS.items()) for kind in kinds}
BESIDE: frozenset[Kind] = frozenset({"simmer", "roast", "mix"})  # how a dish beside the batter is made


class Ways(BaseModel):
    """The cook's choices on the day: how it is mixed, when the leavening is wetted, how the whites are whipped; None where the batter's own
    ways stand. `bag`: what can be mixed dry comes out of a bag that was made ahead."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    order: Order | None = None
    leavening: Moment | None = None
    whites: Whites | None = None
    bag: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Vessel:
    """Something that things go into or onto, under the one name that is used for it everywhere."""

    id: VesselKey
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Portion:
    """What of a line goes in at one time: grams [g] and their share of the line. `ingredient` is the line's own, or the part of it (a yolk
    of an egg)."""

    line: int
    ingredient: str
    grams: float
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Operation:
    """One thing that is done: in which vessel, with which portions off the shelf and with what other operations made (`takes`), why, the
    minutes of hands and of waiting, which operations must be over before, how its end is told, and cautions. `side`: the dish beside the batter that it belongs to."""

    id: str
    kind: Kind
    vessel: VesselKey
    title: str
    text: str
    why: str = ""
    portions: tuple[Portion, ...] = ()
    takes: tuple[str, ...] = ()
    lines: tuple[int, ...] = ()
    hands_min: float = 0.5
    wait_min: float = 0.0
    after: tuple[str, ...] = ()
    done_when: str = ""
    cautions: tuple[str, ...] = ()
    side: str = ""

    @property
    def minutes(self) -> float:
        """From its beginning to its end [min]."""
        return self.hands_min + self.wait_min

    @property
    def skill(self) -> Skill:
        """What a pair of hands must be able to do for it; its tool is its vessel."""
        return SKILL_OF[self.kind]


def operation(
    id_: str, kind: Kind, vessel: VesselKey, title: str, text: str, why: str = "", *, portions: tuple[Portion, ...] = (), takes: tuple[str, ...] = (),
    after: tuple[str, ...] = (), lines: tuple[int, ...] = (), hands: float = 1.0, wait: float = 0.0, done: str = "", cautions: tuple[str, ...] = (), side: str = "",
) -> Operation:  # fmt: skip
    """An operation that waits for all that it takes, and names the lines of its portions where it is not told others."""
    return Operation(
        id=id_, kind=kind, vessel=vessel, title=title, text=text, why=why, portions=portions, takes=tuple(dict.fromkeys(takes)),
        lines=lines or tuple(dict.fromkeys(p.line for p in portions)), hands_min=hands, wait_min=wait, after=tuple(dict.fromkeys((*takes, *after))), done_when=done, cautions=cautions, side=side,
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class LeaveningMoment:
    """When the leavening is wetted, into which vessel it is weighed, and until how many minutes after the wetting 85 % of the lift lasts
    (None: it keeps)."""

    at: Moment
    vessel: VesselKey
    lasts_min: float | None
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FoamMoment:
    """What is whipped is folded in after the bowl was judged; its air halves in so many minutes."""

    vessel: VesselKey
    half_min: float


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldBack:
    """What of the liquid stays in its cup until the bowl was judged [g], and the line that it is of."""

    line: int
    ingredient: str
    name: str
    grams: float
    vessel: VesselKey = "held_cup"


@dataclass(frozen=True, slots=True, kw_only=True)
class Judged:
    """What the bowl should show: by a plate or by eye; how far 60 mL run [cm] so many minutes after the wetting, what is held back still
    out (None by eye), and how far once it is rested with all of it in."""

    by_plate: bool
    why: str
    minute: float
    now_cm: float | None
    aim_cm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Moments:
    """The moments of a plan, each known before anything is weighed, since they decide into which vessel a line goes; None where there is
    none."""

    leavening: LeaveningMoment | None
    foam: FoamMoment | None
    held_back: HeldBack | None
    judged: Judged


@dataclass(frozen=True, slots=True, kw_only=True)
class SideWork:
    """The making of one dish beside the batter: its name and kind, the places of its lines, its yield [g], the minutes of hands and of
    waiting, the days it keeps cold, and its operations. `swirled` where it is drawn through the poured batter."""

    name: str
    kind: str
    lines: tuple[int, ...]
    yield_g: float
    hands_min: float
    wait_min: float
    days: float
    operations: tuple[Operation, ...]
    swirled: bool

    @property
    def made(self) -> str:
        """The operation that ends it."""
        return self.operations[-1].id


@dataclass(frozen=True, slots=True, kw_only=True)
class Process:
    """The plan of one batter: what it needs to stand in, what is done in an order that can be worked through, its moments, the minutes of
    the longest chain, the rest [min] and its heat [°C], and the dishes beside it."""

    vessels: tuple[Vessel, ...]
    operations: tuple[Operation, ...]
    moments: Moments
    critical_path_min: float
    rest_min: float
    rest_c: float
    sides: tuple[SideWork, ...] = ()

    def op(self, id_: str) -> Operation | None:
        """An operation by its id."""
        return next((o for o in self.operations if o.id == id_), None)

    def vessel_name(self, key: VesselKey) -> str:
        """The name of a vessel."""
        return next(v.name for v in self.vessels if v.id == key)
