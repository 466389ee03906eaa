"""How a portion of a batter lies on a surface, and how such a piece cooks."""

import math
from dataclasses import dataclass
from functools import lru_cache

from ..analysis.analysis import Analysis
from ..balances.yields import LEFT_IN_BOWL
from ..batter.batter import FormKey, Tray
from ..batter.flow import TEST_ML, VOLUME_POWER
from .cooking import Cooking, cook, risen_mm
from .facts import HeatFacts
from .surfaces import Surface, per_load
from .tables import GreaseKey, HeatTables

LEAST_LAYER_MM = 1.2  # a swirled crêpe is no thinner
TRAY_CM = 1.2  # as deep as a tray is poured


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """A piece on its surface: portion [mL, g], width [cm] where it runs free, risen thickness [mm], how many a load, fat taken from the
    grease [g]."""

    portion_ml: float
    portion_g: float
    diameter_cm: float | None
    thickness_mm: float
    per_load: int
    grease_g: float


def piece_on(a: Analysis, surface: Surface, portion_ml: float, grease: GreaseKey, facts: HeatFacts) -> Piece:
    """How a portion [mL] of a batter lies on a surface: free by its spread, in an iron by its web; a tray is poured whole, and cut.

    A free piece of another volume spreads as (V/60)^0.4 (batter-science, section 1).
    """
    y, form = a.yields, a.batter.form
    diameter: float | None = None
    material = facts.heat.crumb
    if surface.kind == "iron":
        thick = surface.cooked_mm
    elif surface.kind == "oven":
        # A tray is poured whole, and cut: as many pieces as its share of the batter makes.
        whole = a.batter_g * (1 - LEFT_IN_BOWL) / y.density_g_per_ml
        if a.batter.tray is None:
            whole = min(whole, surface.area_cm2 * TRAY_CM)
        cut = max(1, int(whole / portion_ml + 1e-6))
        thick = risen_mm(10 * whole / surface.area_cm2, material)
    else:
        diameter = (a.water.spread_cm or 9.0) * (portion_ml / TEST_ML) ** VOLUME_POWER
        if form == "crepe":
            diameter = max(diameter, surface.width) if surface.kind in ("pan", "two_pans") else diameter
        diameter = min(diameter, min(surface.width, surface.length or surface.width) + (1.0 if surface.kind != "griddle" else 0.0))
        poured = 10 * portion_ml / (math.pi * diameter**2 / 4)
        thick = max(LEAST_LAYER_MM, risen_mm(poured, material)) if form != "crepe" else max(LEAST_LAYER_MM, poured)
    if surface.kind != "oven":
        cut = per_load(surface, form, diameter)
    area = math.pi * diameter**2 / 4 if diameter else surface.area_cm2 / (surface.places if surface.kind == "iron" else cut)
    faces = 1 if surface.kind == "oven" else 2
    grease_g = facts.heat.grease[grease].fat_g * area / 100 * faces
    return Piece(
        portion_ml=portion_ml,
        portion_g=portion_ml * y.density_g_per_ml,
        diameter_cm=diameter,
        thickness_mm=thick,
        per_load=cut,
        grease_g=grease_g,
    )


def surfaces_for(form: FormKey, surfaces: tuple[Surface, ...], tray: Tray | None = None) -> tuple[Surface, ...]:
    """The kitchen's surfaces that a form is made on, the usual one first: a crêpe has a pan to itself. In the oven stands the tray that
    the batter is made for, where it is made for one."""
    fit = [s for s in surfaces if form in s.forms]
    if tray is not None:
        fit = [s.model_copy(update={"width": tray.width, "length": tray.length}) if s.kind == "oven" else s for s in fit]
    return tuple(sorted(fit, key=lambda s: form == "crepe" and s.kind == "griddle"))


@lru_cache(maxsize=256)
def reckon(
    facts: HeatTables,
    form: FormKey,
    thickness_mm: float,
    celsius: float,
    grease: GreaseKey,
    brown_factor: float = 1.0,
    turn_at: float | None = None,
) -> Cooking:
    """`heat.cook` for a piece, remembered: a screen asks for the same one many times."""
    return cook(facts, form, thickness_mm, celsius, grease, brown_factor=brown_factor, turn_at=turn_at)
