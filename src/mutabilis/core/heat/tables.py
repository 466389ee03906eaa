"""What heat goes by, from its data file: the crumb, browning, grease and how each form meets its heat."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..batter.batter import FormKey

GreaseKey = Literal["none", "film", "generous"]
STEP_S = 1.0


class Crumb(BaseModel):
    """What the crumb is made of, in SI units and °C, as in the data file."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    conductivity: float
    density: float
    heat_capacity: float
    latent: float
    boils_c: float
    free_water: float
    set_c: float
    set_z: float
    set_s: float
    safe_c: float


class Brown(BaseModel):
    """Browning by Arrhenius: `reference_s` at `reference_c` count 1."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    activation: float
    gas_constant: float
    reference_c: float
    reference_s: float
    turn: float
    second: float
    golden: tuple[float, float]
    dark: float
    burnt: float


class Air(BaseModel):
    """The air over a piece."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    room_c: float
    contact: float


class FormHeat(BaseModel):
    """How a form meets its heat; `above` None where only air is above, and then it is turned; `steamed` the share of the batter that
    must have gone as steam before it is crisp; `step_s` the step of the reckoning [s], longer where all is slow."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    contact: float
    above: float | None = None
    turn_top_c: float = 0.0
    usual_c: float
    brown: float
    heats_c: tuple[float, float]
    thick_mm: tuple[float, float]
    steamed: float = 0.0
    spots: float = 0.0  # how far the spots that touch are from the face to the surface [-]
    second: float | None = None  # what the second side must reach, where it is not the usual
    step_s: float = STEP_S
    too_long_s: float


class Grease(BaseModel):
    """What grease does to contact and browning [-], and the fat it gives a piece [g per 100 cm² and side]."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    label: str
    contact: float
    brown: float
    fat_g: float


class HeatTables(BaseModel):
    """All that is known of heat, from the data file."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    crumb: Crumb
    brown: Brown
    air: Air
    form: dict[FormKey, FormHeat]
    grease: dict[GreaseKey, Grease]
    smoke: dict[str, float]

    def __hash__(self) -> int:
        return id(self)


class Turning(BaseModel):
    """How wide a piece can be turned by how well it holds [cm], and the heats that are tried for it, from the surface's own [°C]."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    turn_floor_cm: float
    turn_comfort_cm: float
    turn_most_cm: float
    cooler_c: tuple[float, ...]
