"""A batter: its lines, its form, its rest. Grams are grams of what goes into the bowl."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..food.ingredients import Confidence
from ..measures.profile import CupMl, TbspMl

Order = Literal["two_bowls", "one_bowl", "blender"]
Moment = Literal["dry", "hot", "last"]
Whites = Literal["soft", "stiff"]
FormKey = Literal["griddle", "waffle", "crepe", "tray"]
Words = Annotated[tuple[Annotated[str, Field(max_length=80)], ...], Field(max_length=20)]
TrayCm = Annotated[float, Field(gt=2, le=300, allow_inf_nan=False)]
Grams = Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)]


ROOM_C = 21.0
TURNING = dict.fromkeys((0x200E, 0x200F, *range(0x202A, 0x202F), *range(0x2066, 0x206A)))  # marks of writing direction
RANGE = "an amount given as a range"  # the note that a line so given carries


class Tray(BaseModel):
    """The tray that a batter is made for, by its sides [cm]."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    width: TrayCm
    length: TrayCm

    @property
    def area_cm2(self) -> float:
        """Its area [cm²]."""
        return self.width * self.length


class Form(BaseModel):
    """One member of the family and the bands in which it works; units as in the data file."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    key: FormKey
    label: str
    spread_cm: tuple[float, float]
    lift: tuple[float, float]
    set_floor: float
    set_comfort: float
    rest_min: float
    portion_ml: float
    serving_g: float
    evaporation: tuple[float, float]
    salt: tuple[float, float]


class BatterLine(BaseModel):
    """One line as the cook wrote it and what it was read as.

    `ingredient` None means unresolved; `problem` then says why. `low` and `high` [g] bound what the line may really
    weigh. `where`: in the batter, on the plate, or set aside as no ingredient (a time, a serving, an instruction). `side`: the dish
    beside the batter that a line of the plate belongs to.

    What else the line says counts in every verdict and weighs nothing: `also`, foods beside its own; `maybe`, foods it could be
    instead, until one is chosen; `heard`, tokens of allergens it names; `unread`, words that nobody knows; `wished`, claims that are
    only wished for ("gluten-free if needed"); `guessed`, the spelling it was read by where that is not its own.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    text: Annotated[str, Field(max_length=2000)] = ""
    ingredient: Annotated[str | None, Field(max_length=80)] = None
    grams: Grams = 0.0
    low: Grams = 0.0
    high: Grams = 0.0
    confidence: Confidence = "high"
    note: Annotated[str, Field(max_length=500)] = ""
    problem: Annotated[str, Field(max_length=500)] = ""
    where: Literal["batter", "plate", "aside"] = "batter"
    side: Annotated[str, Field(max_length=60)] = ""
    optional: bool = False
    alternative: Annotated[str | None, Field(max_length=80)] = None
    alternative_text: Annotated[str | None, Field(max_length=200)] = None
    states: tuple[Annotated[str, Field(max_length=40)], ...] = ()
    also: Words = ()
    maybe: Words = ()
    heard: Words = ()
    unread: Words = ()
    wished: Words = ()
    guessed: Annotated[str, Field(max_length=80)] = ""

    @property
    def ranged(self) -> bool:
        """Given as a range, and still one: its bounds are the cook's own, from `low` to `high`."""
        return self.low < self.high and RANGE in self.note

    def quoted(self, most: int = 80) -> str:
        """Its own words in quotation marks, as far as a sentence has room; without signs that would turn the sentence round."""
        return f"“{self.text.translate(TURNING)[:most]}”"

    @property
    def settled(self) -> bool:
        """Nothing in it is left open: each word is known, one food is meant, spelled as it is."""
        return not (self.maybe or self.unread or self.guessed)

    @property
    def foamed(self) -> bool:
        """Whipped to foam, or separated so that it can be."""
        return "whipped" in self.states or "separated" in self.states

    @property
    def unresolved(self) -> bool:
        """Could not be read, or not weighed; a line that is no ingredient is neither."""
        return self.where != "aside" and (self.ingredient is None or self.problem != "")

    @property
    def counts(self) -> bool:
        """Read, weighed and in the batter: a line with a problem counts nowhere."""
        return self.known and self.where == "batter"

    @property
    def known(self) -> bool:
        """Read and weighed, wherever it goes."""
        return self.ingredient is not None and not self.problem


class Batter(BaseModel):
    """Lines with a form, a rest [min] at a temperature [°C], made in a bowl or a blender, the people it serves, the size of a
    piece [mL of batter], whether it is meant to be flat, and the cup and table spoon of its source [mL], where they were not the kitchen's.

    How its cook makes it, None where nobody chose: the order of the bowls, when its leavening is wetted, how its whites are whipped,
    and its tray."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    lines: Annotated[tuple[BatterLine, ...], Field(max_length=200)]
    form: FormKey = "griddle"
    rest_min: Annotated[float | None, Field(ge=0, le=5000, allow_inf_nan=False)] = None
    rest_c: Annotated[float, Field(ge=0, le=45, allow_inf_nan=False)] = ROOM_C
    blender: bool = False
    servings: Annotated[float | None, Field(gt=0, le=10_000, allow_inf_nan=False)] = None
    portion_ml: Annotated[float | None, Field(gt=1, le=5000, allow_inf_nan=False)] = None
    flat: bool = False
    cup_ml: CupMl | None = None
    tbsp_ml: TbspMl | None = None
    order: Order | None = None
    leavening: Moment | None = None
    whites: Whites | None = None
    tray: Tray | None = None

    def scaled(self, factor: float) -> "Batter":
        """The same batter, `factor` times as much."""
        lines = tuple(
            line.model_copy(update={"grams": line.grams * factor, "low": line.low * factor, "high": line.high * factor})
            for line in self.lines
        )
        return self.model_copy(update={"lines": lines})
