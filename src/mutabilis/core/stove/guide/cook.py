"""What lies on the surface, for how long, and what the test piece says."""

import math
from functools import cached_property
from typing import Literal

from ...analysis.analysis import Analysis
from ...food.learning import Normal
from ...heat.cooking import Cooking
from ...heat.largest_piece import LargestPiece, largest_piece
from ...heat.pieces import Piece, piece_on, reckon, surfaces_for
from ...heat.surfaces import Surface
from ...heat.tables import GreaseKey
from ...process.parts import Kind
from ..cooking import HeatAdvice, Run, after_test, heat_left, pace_of, run, smoke
from ..fold import Load
from ..parts import PanStep
from .rest import Resting

ON_SURFACE: frozenset[Kind] = frozenset({"scatter", "lay", "layer", "swirl"})
COOKS: frozenset[Kind] = frozenset({"turn", "close", "bake", "lift_off"})
LEAST_SCOOP_ML = 2.0  # nobody scoops nearer than that


class CookingOn(Resting):
    """What lies on the surface, for how long, and what the test piece says."""

    @cached_property
    def surfaces(self) -> tuple[Surface, ...]:
        """The kitchen's surfaces that this form is made on."""
        return surfaces_for(self.plan.form, self.facts.surfaces, self.plan.tray)

    def _portion(self, surface: Surface, a: Analysis) -> float:
        return self.takes_ml(surface) or a.yields.portion_ml

    @cached_property
    def largest(self) -> LargestPiece | None:
        """The largest piece, its heat and its time, on the surface that was chosen or the usual one."""
        return largest_piece(self.planned, self.facts, self.state.chosen.surface if self.state.chosen else None)

    def piece(self, surface: Surface, portion_ml: float | None = None, grease: GreaseKey = "film") -> Piece:
        """A piece on a surface, in the portion asked for or the usual one [mL]."""
        return piece_on(self.to_be, surface, portion_ml or self._portion(surface, self.to_be), grease, self.facts)

    @cached_property
    def tried(self) -> HeatAdvice | None:
        """What the last judged test piece says."""
        chosen = self.state.chosen
        test = next((x for x in reversed(self.state.loads) if x.colour and x.inside), None)
        if chosen is None or test is None or test.colour is None or test.inside is None:
            return None
        piece = self._chosen_piece
        assert piece is not None
        small = self.piece(chosen.surface, test.portion_ml or chosen.portion_ml, chosen.grease)
        turned = round(test.turned - test.on) if test.turned is not None and test.turned - test.on >= 5 else None
        return after_test(
            self.facts.heat, self.facts.stove, chosen.surface, self.plan.form, round(small.thickness_mm, 1), round(piece.thickness_mm, 1), test.celsius or chosen.celsius,
            chosen.grease, test.colour, test.inside, turned,
        )  # fmt: skip

    @cached_property
    def _chosen_piece(self) -> Piece | None:
        c = self.state.chosen
        return None if c is None else self.piece(c.surface, c.portion_ml, c.grease)

    @cached_property
    def reckoned(self) -> Cooking | None:
        """How a piece cooks at the heat as it is set, with what the test piece has taught; None before a surface is chosen."""
        c, piece = self.state.chosen, self._chosen_piece
        if c is None or piece is None:
            return None
        thick, factor = (self.tried.thickness_mm, round(self.tried.brown_factor, 3)) if self.tried else (piece.thickness_mm, 1.0)
        return reckon(self.facts.heat, self.plan.form, round(thick, 1), self.state.celsius or c.celsius, c.grease, factor)

    def _reckoned_for(self, load: Load) -> Cooking | None:
        """How the pieces of a load cook: a test piece is smaller, and thinner."""
        c = self.state.chosen
        if not load.test or c is None:
            return self.reckoned
        small = self.piece(c.surface, load.portion_ml or c.portion_ml, c.grease)
        return reckon(self.facts.heat, self.plan.form, round(small.thickness_mm, 1), self.state.celsius or c.celsius, c.grease)

    @cached_property
    def pace(self) -> Normal:
        """This surface's pace against the reckoning, as a logarithm."""
        c, t, r = self.state.chosen, self.facts.stove.time, self.reckoned
        prior = self.pace_before(c.surface) if c else Normal(mean=0.0, sd=t.pace_sd)
        return pace_of(self.state, r.turn_s if r else None, r.done_s if r else None, prior, t)

    def pace_before(self, surface: Surface) -> Normal:
        """What is thought of a surface's pace before this batch: what was learned of it; a new one starts from the others of its kind here, as
        doubtful as any."""
        paces = self.learned.get("pace", {})
        if (known := paces.get(surface.id)) is not None:
            return Normal(mean=known.mean, sd=max(known.sd, self.facts.stove.time.pace_least_sd))
        alike = [paces[s.id].mean for s in self.facts.surfaces if s.kind == surface.kind and s.id in paces]
        return Normal(mean=math.fsum(alike) / len(alike) if alike else 0.0, sd=self.facts.stove.time.pace_sd)

    @cached_property
    def run(self) -> Run | None:
        """The cooking as it stands; None before a surface is chosen."""
        c, piece, r = self.state.chosen, self._chosen_piece, self.reckoned
        if c is None or piece is None or r is None:
            return None
        return run(self.state, self.to_be, piece, r, self.pace, c, self.now, self.facts.stove)

    @property
    def cooking_minutes(self) -> float | None:
        """From the first piece on the surface to the last off it [min], as far as it can be told."""
        surface = self.state.chosen.surface if self.state.chosen else self.surfaces[0] if self.surfaces else None
        if surface is None:
            return None
        piece = self.piece(surface)
        loads = max(1.0, self.to_be.yields.pieces / piece.per_load)
        each = self._first_reckoned() + self.facts.stove.time.handling_s + surface.recover_s
        return loads * each / 60

    @cached_property
    def pan_steps(self) -> tuple[PanStep, ...]:
        """What the plan does on the surface at each load: sugar in the iron, fruit on the wet side, a swirl, what is scattered last."""
        ops = self.process.operations
        places = {o.id: n for n, o in enumerate(ops)}
        poured, turned = places["pour"], places.get("turn", places.get("close", len(ops)))
        found: list[PanStep] = []
        for n, o in enumerate(ops):
            if o.vessel == "surface" and o.kind in ON_SURFACE:
                when: Literal["before", "on", "turned"] = "before" if n < poured else "on" if n < turned else "turned"
                found.append(PanStep(key=o.id, title=o.title, text=o.text, when=when))
        return tuple(found)

    # ---- how much an iron takes

    def fill_of(self, surface: Surface) -> Normal:
        """How much a place of an iron takes against what is written of it, as a logarithm: by what was learned, and by this batch's loads."""
        t, belief = self.facts.stove.fill, self.fill_before(surface)
        c = self.state.chosen
        if c is None or c.surface.id != surface.id or not surface.iron_ml:
            return belief
        for load in self.state.loads:
            if load.fill is not None and load.portion_ml:
                seen = load.portion_ml * {"over": t.over, "gaps": t.gaps, "right": t.right}[load.fill]
                belief = belief.told(math.log(seen / surface.iron_ml), t.seen_sd)
        return belief

    def fill_before(self, surface: Surface) -> Normal:
        """What is thought before this batch of how much a place of an iron takes; of a new one, what is written of it."""
        t, known = self.facts.stove.fill, self.learned.get("fill", {}).get(surface.id)
        return Normal(mean=known.mean, sd=max(known.sd, t.least_sd)) if known else Normal(mean=0.0, sd=t.prior_sd)

    def takes_ml(self, surface: Surface) -> float | None:
        """What a place of an iron takes [mL]; None for what is no iron, or where nobody said."""
        return surface.iron_ml * math.exp(self.fill_of(surface).mean) if surface.kind == "iron" and surface.iron_ml else None

    def too_much(self, surface: Surface, portion_ml: float) -> str:
        """Said before it runs over: more than the iron takes; "" where it is not."""
        most = self.takes_ml(surface)
        if most is None or portion_ml <= self.facts.stove.fill.too_much * most:
            return ""
        return f"It would run over: a place of the {surface.name[:1].lower()}{surface.name[1:]} takes about {most:.0f} mL."

    @property
    def next_fill(self) -> float | None:
        """The portion [mL] that the last load asks for, where that is another than the one set; None where it is right as it is."""
        c = self.state.chosen
        last = next((x for x in reversed(self.state.loads) if x.off is not None), None)
        if c is None or last is None or last.fill not in ("over", "gaps") or (last.portion_ml or c.portion_ml) != c.portion_ml:
            return None
        most = self.takes_ml(c.surface)
        return None if most is None or abs(most - c.portion_ml) < LEAST_SCOOP_ML else round(most)

    # ---- how hot it is

    @property
    def share_left(self) -> float:
        """What part of the bowl is not cooked yet [0 to 1]."""
        if self.run is None or not self.state.loads or self.state.bowl_g <= 0:
            return 1.0
        return min(1.0, self.run.left_g / self.state.bowl_g)

    @property
    def heat_left_s(self) -> float | None:
        """Seconds until the surface is hot [s], by the clock or by the last reading; 0 where it is; None before it heats."""
        s = self.state
        if s.chosen is None or s.heat_on is None:
            return None
        return heat_left(s.chosen.surface, s.celsius or s.chosen.celsius, s.heat_on, self.now, s.read_c)

    @property
    def smoke_words(self) -> str:
        """A warning where the grease smokes at this heat."""
        c = self.state.chosen
        return (
            smoke(self.facts.heat, c.fat, max(self.state.celsius or c.celsius, self.state.read_c or 0.0))
            if c and c.grease != "none"
            else ""
        )

    def _first_reckoned(self) -> float:
        """From the first piece on the surface to its being off it [s], as the plan has it."""
        return 60 * sum(o.wait_min for o in self.plan_process.operations if o.vessel in ("surface", "rack") and o.kind in COOKS)
