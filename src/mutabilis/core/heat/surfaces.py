"""What a kitchen cooks on: its size, its heat, and how many pieces lie on it at once."""

import math
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from ..batter.batter import FormKey

Celsius = Annotated[float, Field(ge=60, le=350, allow_inf_nan=False)]
Length = Annotated[float, Field(gt=2, le=300, allow_inf_nan=False)]
SurfaceKind = Literal["griddle", "pan", "two_pans", "iron", "oven"]
FORMS: dict[SurfaceKind, tuple[FormKey, ...]] = {
    "griddle": ("griddle", "crepe"),
    "pan": ("griddle", "crepe"),
    "two_pans": ("griddle", "crepe"),
    "iron": ("waffle",),
    "oven": ("tray",),
}
# The radius of the smallest circle that holds so many unit circles (Graham, Lubachevsky, Nurmela and Östergård 1998, and earlier).
ROUND = (0.0, 1.0, 2.0, 2.1547, 2.4142, 2.7013, 3.0, 3.0, 3.3048, 3.6131, 3.8130, 3.9238, 4.0296)
IRON_MM = 14.0  # how far the plates of an iron stand apart where nobody said
WEB_MM = 13.0  # a deeper iron has taller pegs, not a thicker web (a judgement)
WEDGE_CM = 0.5  # what a piece may lie over the rim of a pan's flat bottom


class Surface(BaseModel):
    """One surface of a kitchen. `width` and `length` [cm] (a pan has its bottom's width alone); `iron_ml` what a place of an iron takes and
    `places` how many it has; `depth_mm` how far its plates stand apart, `web_mm` how thick a waffle is between its pockets; minutes to heat up, seconds to recover after a load;
    `knob_c` the degrees of one step of its knob; `lamp` what its lamp means here."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    id: Annotated[str, Field(pattern=r"^[a-z0-9_]{1,40}$")]
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
    kind: SurfaceKind
    width: Length
    length: Length | None = None
    iron_ml: Annotated[float | None, Field(gt=5, le=2000, allow_inf_nan=False)] = None
    places: Annotated[int, Field(ge=1, le=12)] = 1
    depth_mm: Annotated[float | None, Field(gt=2, le=60, allow_inf_nan=False)] = None
    web_mm: Annotated[float | None, Field(gt=2, le=60, allow_inf_nan=False)] = None
    gap_cm: Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)] = 1.5
    usual_c: Celsius
    heat_up_min: Annotated[float, Field(ge=0, le=120, allow_inf_nan=False)]
    recover_s: Annotated[float, Field(ge=0, le=1200, allow_inf_nan=False)]
    knob_c: Annotated[float | None, Field(gt=0, le=100, allow_inf_nan=False)] = None
    lamp: Annotated[str, Field(max_length=200)] = ""

    @property
    def forms(self) -> tuple[FormKey, ...]:
        """What can be made on it."""
        return FORMS[self.kind]

    @property
    def cooked_mm(self) -> float:
        """How thick a waffle is where it is done last [mm]: its web, since the ribs take heat from their sides too."""
        return self.web_mm or min(self.depth_mm or IRON_MM, WEB_MM)

    @property
    def area_cm2(self) -> float:
        """Its area [cm²]."""
        return self.width * (self.length or self.width) if self.kind in ("griddle", "oven") else math.pi * self.width**2 / 4


def per_load(surface: Surface, form: FormKey, diameter_cm: float | None) -> int:
    """How many pieces of a diameter [cm] lie on a surface with its gap between them; at least one.

    On a plate the better of square and offset rows; on a round pan by the known densest packings of equal circles. A crêpe has the
    pan for itself. An iron has its places; a tray is cut after.
    """
    if surface.kind == "iron":
        return surface.places
    if surface.kind == "oven" or diameter_cm is None:
        return 1
    if surface.kind in ("pan", "two_pans"):
        pans = 2 if surface.kind == "two_pans" else 1
        if form == "crepe":
            return pans
        radius = (surface.width + 2 * WEDGE_CM + surface.gap_cm) / (diameter_cm + surface.gap_cm)
        return pans * max(1, max((n for n, r in enumerate(ROUND) if r <= radius + 1e-9), default=1))
    return max(1, on_plate(surface.width, surface.length or surface.width, diameter_cm, surface.gap_cm))


def on_plate(width: float, length: float, diameter: float, gap: float) -> int:
    """Circles of a diameter with a gap on a plate [cm]: the better of square rows and offset rows, either way round.

    >>> on_plate(60, 30, 10, 1), on_plate(55, 25, 10, 1)
    (15, 10)
    """
    cell = diameter + gap

    def rows(along: float, across: float) -> int:
        n = int((along + gap + 1e-9) // cell)
        square = n * int((across + gap + 1e-9) // cell)
        if across < diameter or n < 1:
            return 0
        lines = 1 + int((across - diameter + 1e-9) // (cell * math.sqrt(3) / 2))
        shifted = n if along >= (n + 0.5) * cell - gap - 1e-9 else n - 1
        return max(square, (lines + 1) // 2 * n + lines // 2 * shifted)

    return max(rows(width, length), rows(length, width))


def heat_words(surface: Surface, by_c: float) -> str:
    """A move of the heat [°C] as this kitchen can make it: in steps of the knob where it has any, else in degrees; "" for none.

    Knobs are told in halves of a step.
    """
    if surface.knob_c:
        halves = round(2 * by_c / surface.knob_c)
        if halves == 0:
            return ""
        whole, half = divmod(abs(halves), 2)
        steps = {0: "half a step", 1: "one step" if not half else "one and a half steps"}.get(whole, f"{whole}{'½' if half else ''} steps")
        return f"{steps} {'up' if halves > 0 else 'down'} on the knob"
    degrees = 5 * round(by_c / 5)
    return "" if degrees == 0 else f"about {abs(degrees)} °C {'hotter' if degrees > 0 else 'cooler'}"
