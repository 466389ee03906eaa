"""What lies on the surface, for how long, and what the test piece says."""

from functools import cached_property

from ...analysis.analysis import Analysis
from ...food.learning import Normal
from ...heat.cooking import Cooking
from ...heat.largest_piece import LargestPiece, largest_piece
from ...heat.pieces import Piece, piece_on, reckon, surfaces_for
from ...heat.surfaces import Surface
from ...heat.tables import GreaseKey
from ..cooking import HeatAdvice, Run, after_test, pace_of, run, smoke
from ..fold import Load
from ..parts import PanStep
from .rest import Resting


class CookingOn(Resting):
    """What lies on the surface, for how long, and what the test piece says."""

    @cached_property
    def surfaces(self) -> tuple[Surface, ...]:
        """The kitchen's surfaces that this form is made on."""
        return surfaces_for(self.plan.form, self.facts.surfaces, self.plan.tray)

    def _portion(self, surface: Surface, a: Analysis) -> float:
        if surface.kind == "iron" and surface.iron_ml:
            return surface.iron_ml
        return a.yields.portion_ml

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
        c = self.state.chosen
        t = self.facts.stove.time
        known = self.learned.get("pace", {}).get(c.surface.id) if c else None
        prior = Normal(mean=known.mean, sd=max(known.sd, t.pace_least_sd)) if known else Normal(mean=0.0, sd=t.pace_sd)
        r = self.reckoned
        return pace_of(self.state, r.turn_s if r else None, r.done_s if r else None, prior, t)

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
        each = (self._first_reckoned() or 180.0) + self.facts.stove.time.handling_s + surface.recover_s
        return loads * each / 60

    @cached_property
    def pan_steps(self) -> tuple[PanStep, ...]:
        """What is done in the pan itself: pieces of fruit on the wet side or in layers, sugar closed into the iron, something stirred in once
        half of them are made."""
        found = []
        late = [p.ingredient for p in self.bowl.portions if p.ingredient.group == "mix_in"]
        names = ", ".join(dict.fromkeys(i.short for i in late))
        if late:
            text = {
                "griddle": f"Lay {names} on the wet side, before the turn.", "crepe": f"Scatter {names} over it once it is turned.",
                "waffle": f"Scatter {names} over the batter before it is closed.", "tray": f"Half of the batter, then {names}, then the rest; swirl once.",
            }[self.plan.form]  # fmt: skip
            found.append(
                PanStep(key="pan_late", title="In the pan", text=text, half_way=False, due=True, done=self.state.steps.get("pan_late"))
            )
            if self.plan.form in ("griddle", "waffle"):
                found.append(
                    PanStep(
                        key="stir_half",
                        title="Half-way",
                        text=f"Stir up the batter: {names} sink, and the last pieces would have them all.",
                        half_way=True,
                        due=self.run is not None and self.run.laid >= self.run.planned / 2,
                        done=self.state.steps.get("stir_half"),
                    )
                )
        plate = [self.facts.ingredients.get(x.ingredient or "") for x in self.plan.lines if x.where == "plate"]
        plate_sugar = [i.short for i in plate if i is not None and i.group == "sugar"]
        if plate_sugar and self.plan.form == "waffle":
            text = f"Scatter the {plate_sugar[0]} on the iron before the batter: it is closed in and glazes. Wipe the plates after; burnt sugar is hot and sticks."
            found.append(
                PanStep(
                    key="pan_sugar", title="Sugar in the iron", text=text, half_way=False, due=True, done=self.state.steps.get("pan_sugar")
                )
            )
        return tuple(found)

    @property
    def smoke_words(self) -> str:
        """A warning where the grease smokes at this heat."""
        c = self.state.chosen
        return (
            smoke(self.facts.heat, c.fat, max(self.state.celsius or c.celsius, self.state.read_c or 0.0))
            if c and c.grease != "none"
            else ""
        )

    def _first_reckoned(self) -> float | None:
        surface = self.surfaces[0] if self.surfaces else None
        if surface is None:
            return None
        piece = piece_on(self.planned, surface, self._portion(surface, self.planned), "film", self.facts)
        return reckon(self.facts.heat, self.plan.form, round(piece.thickness_mm, 1), surface.usual_c, "film").done_s
