"""What happens to a batch, one event after another. Events are appended with their time and never rewritten; taking one back is an
event too. Whoever taps chooses the id, so that what is sent twice counts once."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from ..batter.batter import Grams, Moment
from ..book.versions import Id
from ..heat.surfaces import Celsius, Surface
from ..heat.tables import GreaseKey
from .tables import Colour

Stage = Literal["ready", "weigh", "mix", "judge", "rest", "last", "cook", "finish"]
STAGES: tuple[Stage, ...] = ("ready", "weigh", "mix", "judge", "rest", "last", "cook", "finish")
By = Literal["scale", "measure", "spoon"]
Way = Literal["spread", "piece", "eye"]
Inside = Literal["raw", "just", "dry"]
Fill = Literal["over", "gaps", "right"]
Care = Literal["wiped", "greased", "reheated"]

Seconds = Annotated[float, Field(ge=0, le=4e9, allow_inf_nan=False)]
Key = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[a-z0-9_:]+$")]
SCOOP_ML = (5.0, 5000.0)  # what a portion can be
LineAt = Annotated[int, Field(ge=0, le=240)]
Slot = Annotated[int, Field(ge=0, le=9999)]
LoadAt = Annotated[int, Field(ge=0, le=999)]
Pieces = Annotated[int, Field(ge=0, le=500)]
Change = Annotated[float, Field(ge=-100_000, le=1_000_000, allow_inf_nan=False)]


class _Event(BaseModel):
    """An event: its id, and when it happened [s since 1970, UTC]; `because` of another, with which it stands and falls."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    id: Id
    at: Seconds
    because: Id | None = None


class Went(_Event):
    """The cook went to a step of the work; every screen on this batch goes there."""

    kind: Literal["went"] = "went"
    stage: Stage


class ScaleUsed(_Event):
    """Weighed on a scale from here on, or measured with cups and spoons."""

    kind: Literal["scale_used"] = "scale_used"
    on: bool


class FirstPiece(_Event):
    """When the first piece is wanted [s since 1970]; None where it no longer matters."""

    kind: Literal["first_piece"] = "first_piece"
    first_at: Seconds | None


class PrepStarted(_Event):
    """Something that needs time was begun."""

    kind: Literal["prep_started"] = "prep_started"
    key: Key


class PrepDone(_Event):
    """Something that needs time is done."""

    kind: Literal["prep_done"] = "prep_done"
    key: Key


class Tared(_Event):
    """A line, or its `part` by the operation that takes it, is begun on the scale, which stood at `gross` [g]: what comes now is counted
    from there."""

    kind: Literal["tared"] = "tared"
    line: LineAt
    part: Key | None = None
    gross: Change


class Poured(_Event):
    """`grams` [g] of a line went into the bowl (below nought: were taken out). `slot` counts the pours of a line as the screen saw them,
    so that two screens that confirm the same pour count it once; `gross` is where the scale then stood; `part` is the operation that takes it,
    which `closes` where that has all of its own; `done` where no more of the line comes now; `held` where the rest of it is kept back in a cup; `pack`
    is the pack that was in use, as the Larder named it."""

    kind: Literal["poured"] = "poured"
    line: LineAt
    part: Key | None = None
    closes: bool = True
    slot: Slot
    grams: Change
    gross: Change | None = None
    by: By = "scale"
    done: bool = True
    held: bool = False
    pack: Annotated[str | None, Field(max_length=120)] = None


class NoneLeft(_Event):
    """There is no more of a line; what of it is in the bowl stays."""

    kind: Literal["none_left"] = "none_left"
    line: LineAt


class Target(BaseModel):
    """What a line is now to weigh in all [g]; a line that was not there is appended under its ingredient."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    line: LineAt
    ingredient: Annotated[str, Field(max_length=80)]
    grams: Grams


class Retargeted(_Event):
    """The plan was solved again around what is in the bowl."""

    kind: Literal["retargeted"] = "retargeted"
    targets: Annotated[tuple[Target, ...], Field(max_length=240)]
    why: Annotated[str, Field(max_length=4000)] = ""


class StepDone(_Event):
    """A step of the mixing, of the hands or of the pan is done; `wets` where it wets the flour, `leavens` where it wets the leavening: there
    the clocks of drinking and of the lift begin."""

    kind: Literal["step_done"] = "step_done"
    key: Key
    wets: bool = False
    leavens: bool = False


class MomentChosen(_Event):
    """When the leavening is wetted: with the dry and rested, once the surface is hot, or as the last thing of all."""

    kind: Literal["moment_chosen"] = "moment_chosen"
    moment: Moment


class BowlJudged(_Event):
    """The bowl was judged: `value` is the spread [cm] of `volume_ml` [mL] on a cold plate, the width [cm] of a test piece, or a step of
    the picture scale (−2 far too thick … +2 far too thin)."""

    kind: Literal["judged"] = "judged"
    way: Way
    value: Annotated[float, Field(ge=-2, le=60, allow_inf_nan=False)]
    volume_ml: Annotated[float, Field(ge=5, le=1000, allow_inf_nan=False)] = 60.0


class RestStarted(_Event):
    """The batter was put aside."""

    kind: Literal["rest_started"] = "rest_started"


class RestEnded(_Event):
    """The rest is over."""

    kind: Literal["rest_ended"] = "rest_ended"


class SurfaceChosen(_Event):
    """What it is cooked on, as that was when it was chosen: its heat [°C], grease with the pack it
    is out of, the portion [mL] and the pieces a load."""

    kind: Literal["surface_chosen"] = "surface_chosen"
    surface: Surface
    celsius: Celsius
    grease: GreaseKey = "film"
    fat: Annotated[str | None, Field(max_length=80)] = None
    pack: Annotated[str | None, Field(max_length=120)] = None
    portion_ml: Annotated[float, Field(ge=SCOOP_ML[0], le=SCOOP_ML[1], allow_inf_nan=False)]
    per_load: Annotated[int, Field(ge=1, le=200)]


class HeatOn(_Event):
    """The surface is heating."""

    kind: Literal["heat_on"] = "heat_on"


class HeatSet(_Event):
    """The heat was moved to `celsius` [°C]."""

    kind: Literal["heat_set"] = "heat_set"
    celsius: Celsius


class HeatRead(_Event):
    """The surface was measured [°C]."""

    kind: Literal["heat_read"] = "heat_read"
    celsius: Annotated[float, Field(ge=-50, le=600, allow_inf_nan=False)]


class LoadOn(_Event):
    """A load went on. Loads are numbered, so that two taps on one load are one."""

    kind: Literal["load_on"] = "load_on"
    load: LoadAt
    pieces: Pieces
    test: bool = False
    portion_ml: Annotated[float | None, Field(ge=2, le=5000, allow_inf_nan=False)] = None


class Turned(_Event):
    """A load was turned."""

    kind: Literal["turned"] = "turned"
    load: LoadAt


class Off(_Event):
    """A load came off, with so many good pieces."""

    kind: Literal["off"] = "off"
    load: LoadAt
    good: Pieces


class TestJudged(_Event):
    """The test piece was looked at and cut."""

    kind: Literal["test_judged"] = "test_judged"
    load: LoadAt
    colour: Colour
    inside: Inside


class Filled(_Event):
    """How a load filled its iron: it ran over, left gaps, or was right."""

    kind: Literal["filled"] = "filled"
    load: LoadAt
    fill: Fill


class Cared(_Event):
    """The surface was wiped, greased again, or left to come back to its heat."""

    kind: Literal["cared"] = "cared"
    care: Care


class FaultsSeen(_Event):
    """What was wrong with the pieces; each time the whole list."""

    kind: Literal["faults_seen"] = "faults_seen"
    faults: Annotated[tuple[Key, ...], Field(max_length=20)]


class Rated(_Event):
    """How good it was, one to five."""

    kind: Literal["rated"] = "rated"
    stars: Annotated[int, Field(ge=1, le=5)]


class Noted(_Event):
    """A note on the batch, in place of the one before."""

    kind: Literal["noted"] = "noted"
    text: Annotated[str, Field(max_length=4000)]


class Kept(_Event):
    """Something was put by: `what` by the keeping table, how much of it, and until when [s since 1970]."""

    kind: Literal["kept"] = "kept"
    what: Key
    amount: Annotated[float, Field(gt=0, le=1_000_000, allow_inf_nan=False)]
    until: Seconds


class Finished(_Event):
    """The batch is over and goes to the log."""

    kind: Literal["finished"] = "finished"


class Undone(_Event):
    """An event is taken back; taking back an `undone` lets what it took back stand again."""

    kind: Literal["undone"] = "undone"
    event: Id


Event = Annotated[
    Went | ScaleUsed | FirstPiece | PrepStarted | PrepDone | Tared | Poured | NoneLeft | Retargeted | StepDone | MomentChosen | BowlJudged | RestStarted | RestEnded
    | SurfaceChosen | HeatOn | HeatSet | HeatRead | LoadOn | Turned | Off | TestJudged | Filled | Cared | FaultsSeen | Rated | Noted | Kept
    | Finished | Undone,
    Field(discriminator="kind"),
]  # fmt: skip
EVENT: TypeAdapter[Event] = TypeAdapter(Event)
