"""From the bowl to the plate: heating, the pouring of a piece, what is laid on it, turning and serving."""

import re
from functools import partial

from ..analysis.analysis import Analysis
from ..balances.lift import STEAM
from ..balances.yields import LEFT_IN_BOWL
from ..heat.cooking import Cooking
from ..heat.largest_piece import time_words, workable
from ..heat.pieces import TRAY_CM, piece_on, surfaces_for
from ..heat.surfaces import Surface
from ..words import listed
from .facts import ProcessFacts
from .parts import Operation, SideWork, operation
from .shelf import Shelf
from .sorting import Item
from .words import named, names, portion_names, small

_op = partial(operation, hands=0.3)  # a moment at the stove


class OnTheHeat:
    """The cooking of one batter on the kitchen's usual surface for it, or the one that is named."""

    def __init__(self, a: Analysis, items: list[Item], shelf: Shelf, facts: ProcessFacts, surface: Surface | None, sides: tuple[SideWork, ...] = ()) -> None:  # fmt: skip
        self.sides = sides
        self.a, self.items, self.shelf, self.facts = a, items, shelf, facts
        self.form = a.batter.form
        self.surface = surface or next(iter(surfaces_for(self.form, facts.surfaces, a.batter.tray)), None)
        self.steams = a.lift.verdict == STEAM
        self.cooked = None if self.steams else self._cooked()
        self.plate = [x for x in items if not x.inside]
        beside = {at for side in sides for at in side.lines}
        self.plate = [x for x in self.plate if x.at not in beside]
        self.crust = [x for x in self.plate if self.form == "waffle" and x.i.id in facts.process.crust.sugars]
        self.grease = [x for x in self.plate if x.i.group in ("fat_oil", "fat_solid") and not x.line.side]

    def heat(self) -> Operation:
        """Heating the surface: begun so that it is hot when the rest ends."""
        words = self.facts.process.forms[self.form]
        what = f"the {self.surface.name[:1].lower()}{self.surface.name[1:]}" if self.surface else words.surface
        hot = self.facts.process.steam.hot if self.steams else words.hot
        to = f" to about {self.cooked.celsius:.0f} °C" if self.cooked else ""
        wait = self.surface.heat_up_min if self.surface else self.facts.process.minutes.heat[self.form]
        return _op(
            "heat",
            "heat",
            "surface",
            "Heat",
            f"Heat {what}{to}, until {hot}.",
            "Start it so that it is hot when the batter is ready.",
            wait=wait,
            done=words.hot,
            cautions=("Hot surfaces burn.",),
            hands=0.5,
        )

    def operations(self, after: str) -> list[Operation]:
        """From the first grease to the plate; `after` is what the batter waits for."""
        words, late = self.facts.process.forms[self.form], self.facts.process.late[self.form]
        found: list[Operation] = []
        if self.grease:
            fats = self.shelf.take_all(self.grease)
            found.append(
                _op(
                    "grease",
                    "grease",
                    "surface",
                    "Grease",
                    f"Grease it with {portion_names(fats, self.facts.ingredients)}.",
                    "It lifts cleanly, and is counted on the plate.",
                    portions=fats,
                    after=("heat",),
                )
            )
        lid, outside = self._lid()
        found.append(
            _op("pour", "pour", "surface", "Pour", f"{self._portion()}{lid}", outside, after=(after, "heat", *(o.id for o in found)))
        )
        y = self.a.yields
        mixed = [x for x in self.items if x.use == "late"]
        on = (
            ()
            if not mixed
            else (
                _op(
                    "late",
                    late.kind,
                    "surface",
                    "In the pan" if self.form != "tray" else "Layer",
                    late.text.format(names=names(x.i for x in mixed)),
                    "Stirred into the bowl they bleed and sink.",
                    takes=("weigh_late",),
                    after=("pour",),
                    lines=tuple(x.at for x in mixed),
                ),
            )
        )
        on = (*on, *self._swirled())
        done = self.cooked.done_s if self.cooked else None
        turn = self.cooked.turn_s if self.cooked else None
        if self.form in ("griddle", "crepe"):
            before = f"After about {time_words(turn)}: " if turn else ""
            turned = _op(
                "turn",
                "turn",
                "surface",
                "Turn",
                before + (words.cook if not before else words.cook[:1].lower() + words.cook[1:]),
                "",
                after=("pour",),
                wait=(turn or 90.0) / 60,
                done=words.done.split(";")[0],
            )
            found += [turned, *on] if self.form == "crepe" else [*on, turned]
        elif self.form == "waffle":
            found += [
                *on,
                _op("close", "close", "surface", "Close", words.cook, "", after=("pour",), wait=(done or 240.0) / 60, done=words.done),
                *self._crusted(),
            ]
        else:
            found += [
                *on,
                _op(
                    "bake",
                    "bake",
                    "surface",
                    "Bake",
                    self.facts.process.steam.cook if self.steams else self._baked(words.cook, done),
                    self._why_no_time(done),
                    after=("pour",),
                    wait=self.facts.process.steam.minutes if self.steams else (done or 900.0) / 60,
                    done=words.done,
                ),
            ]
        whole = f" after about {time_words(done)} in all" if done else ""
        off = "Take it off" if self.form != "tray" else "Take it out"
        cut = f" and cut {y.whole} pieces" if self.form == "tray" else " and lay it on a rack, not in a pile"
        found.append(
            _op(
                "lift_off", "lift_off", "rack", "Off", f"{off}{whole}{cut}.", self.facts.safety.words("cooked" if any(x.i.group == "egg" and x.inside for x in self.items) else "cooked_flour"), after=tuple(o.id for o in found[-2:]), wait=max(0.0, ((done or 0.0) - (turn or done or 0.0)) / 60),
                done=words.done.split(";")[-1].removeprefix(" then ").strip(),
            )
        )  # fmt: skip
        rest = self.shelf.take_all(x for x in self.plate)
        served = [side for side in self.sides if not side.swirled]
        if rest or served:
            names_ = [*(f"the {small(s.name)}" for s in served), *named(rest, self.facts.ingredients)]
            found.append(
                _op(
                    "serve",
                    "sprinkle",
                    "plate",
                    "Serve",
                    f"With {listed(names_)}.",
                    "",
                    portions=rest,
                    takes=tuple(s.made for s in served),
                    after=("lift_off",),
                )
            )
        return found

    def _into_tray(self, words: str) -> str:
        """How deep it stands in its tray: all of it where the tray is the batter's own, else as deep as a tray is poured."""
        own = self.a.batter.tray
        ml = self.a.batter_g * (1 - LEFT_IN_BOWL) / self.a.yields.density_g_per_ml
        area = own.area_cm2 if own else self.surface.area_cm2 if self.surface else ml / TRAY_CM
        sides = f" of {own.width:.3g} × {own.length:.3g} cm" if own else ""
        return words.format(deep=min(TRAY_CM, ml / area) if own is None else ml / area, sides=sides)

    def _why_no_time(self, done_s: float | None) -> str:
        if self.steams:
            return self.facts.process.steam.outside
        return "" if done_s else "So deep a layer is outside what the heat model covers: the stick and the centre decide."

    def _lid(self) -> tuple[str, str]:
        """That it is cooked under a lid, where a line set aside tells of one, and that this is outside the model."""
        lid = self.facts.process.lid
        told = " ".join(line.text.lower() for line in self.a.batter.lines if line.where == "aside")
        said = self.form in ("griddle", "crepe") and any(re.search(rf"\b{re.escape(w)}\b", told) for w in lid.words)
        return (f" {lid.text}", lid.outside) if said else ("", "")

    def _baked(self, words: str, done_s: float | None) -> str:
        return f"About {done_s / 60:.0f} minutes: {small(words)}" if done_s else words

    def _crusted(self) -> tuple[Operation, ...]:
        """Sugar that is closed into the hot iron once the piece is all but done, and glazes."""
        if not self.crust:
            return ()
        sugar = self.shelf.take_all(self.crust)
        c = self.facts.process.crust
        return (
            _op(
                "crust", "scatter", "surface", "Sugar crust", c.text.format(names=portion_names(sugar, self.facts.ingredients)), c.why, portions=sugar, after=("close",),
                cautions=(c.caution,),
            ),
            _op("close_again", "close", "surface", "Close again", c.again, "", after=("crust",), wait=c.minutes, done=c.done),
        )  # fmt: skip

    def _swirled(self) -> tuple[Operation, ...]:
        """Dishes that are drawn through the poured batter."""
        return tuple(
            _op(
                f"swirl_{n}", "swirl", "surface", "Swirl", f"Draw the {small(s.name)} through the poured batter.", "Stirred into the bowl it would thin it.",
                takes=(s.made,), after=("pour",), lines=s.lines,
            )
            for n, s in enumerate(self.sides, 1)
            if s.swirled
        )  # fmt: skip

    def _cooked(self) -> Cooking | None:
        a, s = self.a, self.surface
        if s is None or a.yields.whole < 1 or a.water.missing_g > 0 or self.form not in s.forms:
            return None
        portion = s.iron_ml if s.kind == "iron" and s.iron_ml else a.yields.portion_ml
        return workable(piece_on(a, s, portion, "film", self.facts).thickness_mm, self.form, s, self.facts)

    def _portion(self) -> str:
        y = self.a.yields
        words = self.facts.process.forms[self.form].pour
        if self.form == "tray":
            return self.facts.process.steam.pour if self.steams else self._into_tray(words)
        s = self.surface
        if s is None or self.form not in s.forms:
            return f"{y.portion_ml:.0f} mL a piece: about {y.whole} pieces. {words}".strip()
        piece = piece_on(self.a, s, s.iron_ml if s.kind == "iron" and s.iron_ml else y.portion_ml, "film", self.facts)
        size = f", about {piece.diameter_cm:.0f} cm across" if piece.diameter_cm else ""
        count = int(y.pieces * y.portion_ml / piece.portion_ml + 1e-6)
        if count < 1:
            return f"It is less than a piece of {piece.portion_ml:.0f} mL: pour all of it. {words}".strip()
        return f"{piece.portion_ml:.0f} mL a piece{size}: about {count} piece{'s' if count != 1 else ''}. {words}".strip()
