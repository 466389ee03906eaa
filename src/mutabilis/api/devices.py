"""The panel of the simulated devices: the scale, the surface, the label printer."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from .context import PROBLEMS, Context, Here

router = APIRouter(prefix="/api", responses=PROBLEMS, tags=["stove"])


class ScaleAct(BaseModel):
    """A touch on the panel of the simulated scale; `grams` for a pour or a knock."""

    model_config = ConfigDict(extra="forbid")

    act: Literal["pour", "lift", "put_back", "tare", "clear", "unplug", "plug", "freeze", "thaw"]
    grams: Annotated[float, Field(ge=-6000, le=6000, allow_inf_nan=False)] = 0.0


class SurfaceAct(BaseModel):
    """A touch on the panel of the simulated surface: how much it runs too hot [°C], and whether its thermometer is plugged in."""

    model_config = ConfigDict(extra="forbid")

    off_by_c: Annotated[float, Field(ge=-80, le=80, allow_inf_nan=False)] = 0.0
    plugged: bool = True


class Panel(BaseModel):
    """The simulated devices as their panel shows them."""

    on_g: float
    lifted: bool
    plugged: bool
    frozen: bool
    off_by_c: float
    surface_plugged: bool
    labels_left: int
    printed: tuple[tuple[str, ...], ...]


def panel(here: Context) -> Panel:
    """The simulated devices as they stand."""
    s, t, p = here.hub.scale, here.hub.thermometer, here.hub.printer
    return Panel(
        on_g=s.on_g, lifted=s.lifted_g is not None, plugged=s.plugged, frozen=s.frozen, off_by_c=t.off_by_c, surface_plugged=t.plugged, labels_left=p.left,
        printed=tuple(x.lines for x in p.printed),
    )  # fmt: skip


@router.get("/devices")
def devices(here: Here) -> Panel:
    """The simulated devices."""
    return panel(here)


@router.post("/devices/scale")
def touch_scale(act: ScaleAct, here: Here) -> Panel:
    """Touch the simulated scale."""
    s = here.hub.scale
    match act.act:
        case "pour":
            s.pour(act.grams)
        case "unplug" | "plug":
            s.plugged = act.act == "plug"
        case "freeze" | "thaw":
            s.frozen = act.act == "freeze"
        case _:
            {"lift": s.lift, "put_back": s.put_back, "tare": s.tare, "clear": s.clear}[act.act]()
    here.stove.keep_device("scale", s.saved())
    return panel(here)


@router.post("/devices/surface")
def touch_surface(act: SurfaceAct, here: Here) -> Panel:
    """Touch the simulated surface."""
    here.hub.thermometer.off_by_c, here.hub.thermometer.plugged = act.off_by_c, act.plugged
    return panel(here)
