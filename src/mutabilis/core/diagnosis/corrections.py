"""What would put a batch right: solved on its own ledgers, run back through all of them, and refused where it raises a warning."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from ..adapt.mends import mended
from ..analysis.analysis import Analysis, analyse
from ..batter.batter import Batter, BatterLine
from ..batter.main_liquid import main_liquid
from ..food.ingredients import Ingredient
from ..heat.largest_piece import largest_piece
from ..measures.profile import Profile
from ..roots import boundary
from ..stove.facts import StoveFacts
from ..stove.resting import window
from ..words import sentence
from .features import Figures
from .record import Record
from .tables import Cause, DiagnosisTables

POWDER = "baking_powder"
SUGARS = ("sugar", "liquid_sweetener")
FATS = ("fat_oil", "fat_solid")
BINDERS = ("flax_meal", "chia_meal", "psyllium_husk", "psyllium_powder", "xanthan_gum", "guar_gum")
STEP_G = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class Correction:
    """One change: of what (`liquid`, `leavening`, `heat`, `rest`, …), which ingredient and by how many grams (below 0: less), `also` more
    of the same solving, the lines as they would be, what the ledgers say of it, and the warnings it would raise (none, or it is not
    offered in grams). `heat` in °C, `rest` in minutes, `time` in seconds, `portion` in mL stand in `to`."""

    change: str
    ingredient: str | None = None
    grams: float | None = None
    to: float | None = None
    also: Mapping[str, float] = field(default_factory=dict)
    lines: tuple[str, ...] = ()
    predicts: Mapping[str, float] = field(default_factory=dict)
    warnings_raised: tuple[str, ...] = ()
    words: str = ""


def correction(
    cause: Cause,
    r: Record,
    now: Analysis,
    ref: Analysis | None,
    seen: Figures,
    facts: StoveFacts,
    profile: Profile,
    tables: DiagnosisTables,
) -> Correction:
    """The correction of a cause for this very batch, in grams, degrees, minutes or words."""
    return _Corrector(cause, r, now, ref, seen, facts, profile, tables).found()


class _Corrector:
    def __init__(
        self,
        cause: Cause,
        r: Record,
        now: Analysis,
        ref: Analysis | None,
        seen: Figures,
        facts: StoveFacts,
        profile: Profile,
        tables: DiagnosisTables,
    ) -> None:
        self.cause, self.r, self.now, self.ref, self.seen, self.facts, self.profile, self.tables = (
            cause,
            r,
            now,
            ref,
            seen,
            facts,
            profile,
            tables,
        )
        self.known = facts.ingredients

    def found(self) -> Correction:
        by: dict[str, Callable[[], Correction | None]] = {
            "water_low": self._liquid, "water_high": self._liquid, "swap_unbalanced": self._liquid, "measure_error": self._liquid,
            "lift_low": self._lift, "lift_high": self._lift, "powder_old": self._old_powder,
            "soda_unmet": self._soda, "green_reaction": self._soda, "acid_left": self._acid,
            "set_weak": self._set, "binder_high": self._binder, "set_high": self._eggs,
            "sugar_high": lambda: self._share(SUGARS, "sugar"), "sugar_low": lambda: self._share(SUGARS, "sugar"), "fat_low": lambda: self._share(FATS, "fat"),
            "heat_low": self._heat, "heat_high": self._heat, "cold_surface": self._warm, "oven_cold": self._warm,
            "turned_early": lambda: self._time("turn"), "opened_early": lambda: self._time("off"), "cooked_long": lambda: self._time("off"),
            "piece_thick": self._portion, "under_rested": self._rest, "flour_undrunk": self._drink, "lift_lost": self._within,
        }  # fmt: skip
        made = by[self.cause.cause]() if self.cause.cause in by else None
        return made or Correction(change="words", words=sentence(self.cause.correction))

    # --- grams -----------------------------------------------------------------------------------------------------------------

    def _batter(self, change: Mapping[str, float]) -> Batter:
        """The batter as poured, with so many grams [g] more or less of ingredients; a new one gets a line."""
        left = dict(change)
        lines: list[BatterLine] = []
        for line in self.now.batter.lines:
            more = left.pop(line.ingredient, 0.0) if line.counts and line.ingredient else 0.0
            grams = max(0.0, line.grams + more)
            lines.append(line.model_copy(update={"grams": grams, "low": grams, "high": grams}) if more else line)
        for id, grams in left.items():
            if grams > 0:
                text = f"{grams:g} g {self.known[id].short}"
                lines.append(BatterLine(text=text, ingredient=id, grams=grams, low=grams, high=grams))
        return self.now.batter.model_copy(update={"lines": tuple(lines)})

    def _run(self, change: Mapping[str, float]) -> Analysis:
        return analyse(self._batter(change), self.facts, self.profile, {})

    def _offer(self, change: str, ingredient: str, grams: float, also: Mapping[str, float] | None = None) -> Correction | None:
        """The change with what its ledgers say; where it raises a warning, the same fault mended jointly with what else has to move."""
        grams = round(grams, 1)
        also = {k: round(v, 1) for k, v in (also or {}).items() if abs(v) >= STEP_G / 2}
        if abs(grams) < STEP_G / 2:
            return None
        after = self._run({ingredient: grams, **also})
        was = {w.code for w in self.now.warnings}
        raised = tuple(sorted({w.code for w in after.warnings} - was))
        if raised:
            return self._jointly(change, after)
        return self._told(change, ingredient, grams, also, after)

    def _told(self, change: str, ingredient: str, grams: float, also: Mapping[str, float], after: Analysis) -> Correction:
        words = sum_words({ingredient: grams, **also}, self.known)
        lines = tuple(
            f"{line.grams:.1f}".removesuffix(".0") + f" g {self.known[line.ingredient].short}"
            for line in after.batter.lines
            if line.counts and line.ingredient and line.grams > 0
        )
        return Correction(change=change, ingredient=ingredient, grams=grams, also=also, lines=lines, predicts=predicted(after), words=words)

    def _jointly(self, change: str, after: Analysis) -> Correction | None:
        """What the single change spoils is solved together with it, by the program that mends a batter."""
        mend = mended(analyse(after.batter, self.facts, self.profile), self.facts, self.profile)
        if mend is None:
            return None
        before = self._grams(self.now.batter)
        moved = {id: round(g - before.get(id, 0.0), 2) for id, g in self._grams(mend.batter).items()}
        moved |= {id: -g for id, g in before.items() if id not in moved}
        moved = {id: g for id, g in moved.items() if abs(g) >= STEP_G / 2}
        checked = self._run(moved)
        if not moved or {w.code for w in checked.warnings} - {w.code for w in self.now.warnings}:
            return None
        first = max(moved, key=lambda id: abs(moved[id]))
        return self._told(change, first, moved[first], {k: v for k, v in moved.items() if k != first}, checked)

    def _grams(self, batter: Batter) -> dict[str, float]:
        found: dict[str, float] = {}
        for line in batter.lines:
            if line.counts and line.ingredient:
                found[line.ingredient] = found.get(line.ingredient, 0.0) + line.grams
        return found

    def _of(self, groups: tuple[str, ...]) -> str | None:
        """The most of these groups in the bowl."""
        found = [(p.grams, p.ingredient.id) for p in self.now.bowl.portions if p.ingredient.group in groups]
        return max(found)[1] if found else None

    def _solve(self, id: str, short: Callable[[Analysis], bool], most: float) -> float | None:
        """The grams of an ingredient, more or less, at which `short` turns; None where it does not within the bounds."""
        have = self._grams(self.now.batter).get(id, 0.0)
        if short(self.now):
            if short(self._run({id: most})):
                return None
            return boundary(lambda x: short(self._run({id: x})), 0.0, most, 22)[1]
        if not short(self._run({id: -have})):
            return None
        return -boundary(lambda x: not short(self._run({id: -x})), 0.0, have, 22)[1]

    def _liquid(self) -> Correction | None:
        """Liquid until 60 mL spread as the reference has it, else as the form wants it."""
        at = main_liquid((n, self.known[x.ingredient or ""], x.grams) for n, x in enumerate(self.now.batter.lines) if x.counts)
        if at is None:
            return None
        id = self.now.batter.lines[at].ingredient or ""
        target = self.ref.water.spread_cm if self.ref is not None and self.ref.water.spread_cm else _middle(self.now.bowl.form.spread_cm)
        grams = self._solve(id, lambda a: (a.water.spread_cm or 0.0) < target, 3 * self.now.batter_g)
        return None if grams is None else self._offer("liquid", id, grams)

    def _powder(self) -> str:
        found = [(p.grams, p.ingredient.id) for p in self.now.bowl.portions if p.ingredient.group == "leavener" and p.per.acid > 0]
        return max(found)[1] if found else POWDER

    def _gas_target(self) -> float:
        band = self.now.bowl.form.lift
        if self.ref is not None and band[0] <= self.ref.lift.co2_ml_per_100g <= band[1]:
            return self.ref.lift.co2_ml_per_100g
        return min(_middle(band), 1.6 * band[0])

    def _lift(self) -> Correction | None:
        target = self._gas_target()
        id = self._powder()
        if self.cause.cause == "lift_high":
            raw = [(p.grams * p.per.soda, p.ingredient.id) for p in self.now.bowl.portions if p.per.soda > 0]
            id = max(raw)[1] if raw else id
        grams = self._solve(id, lambda a: a.lift.co2_ml_per_100g < target, 0.1 * self.now.batter_g)
        return None if grams is None else self._offer("leavening", id, grams)

    def _old_powder(self) -> Correction | None:
        return Correction(change="pack", ingredient=self._powder(), words=sentence(self.cause.correction))

    def _soda(self) -> Correction | None:
        """Soda cut to what the acid meets, and powder for the gas that goes with it."""
        soda = next((p.ingredient.id for p in self.now.bowl.portions if p.per.soda > 0 and p.per.acid <= 0), None)
        if soda is None:
            return self._less_alkali()
        have = self._grams(self.now.batter)[soda]

        def cut(powder: float) -> float:
            """Grams of soda out, so that nothing alkaline is left over."""
            alkaline: Callable[[float], bool] = lambda x: self._left({soda: -x, POWDER: powder}) > 0.05  # noqa: E731
            return boundary(alkaline, 0.0, have, 18)[1] if alkaline(0.0) else 0.0

        target = self._gas_target()
        out = cut(0.0)
        if self._run({soda: -out}).lift.co2_ml_per_100g >= min(target, self.now.bowl.form.lift[0] * 1.05):
            return self._offer("leavening", soda, -out)
        want = min(target, max(self.now.bowl.form.lift[0] * 1.2, self.now.lift.co2_ml_per_100g))
        most = 0.06 * self.now.batter_g
        powder = boundary(lambda x: self._run({soda: -cut(x), POWDER: x}).lift.co2_ml_per_100g < want, 0.0, most, 14)[1]
        return self._offer("leavening", soda, -cut(powder), {POWDER: powder})

    def _less_alkali(self) -> Correction | None:
        id = self._powder()
        grams = self._solve(id, lambda a: a.lift.residual_alkali_meq_per_100g < 0.05, 0.1 * self.now.batter_g)
        return None if grams is None or grams > 0 else self._offer("leavening", id, grams)

    def _left(self, change: Mapping[str, float]) -> float:
        return self._run(change).lift.residual_alkali_meq_per_100g

    def _acid(self) -> Correction | None:
        grams = self._solve("baking_soda", lambda a: a.lift.excess_acid_meq_per_100g > 0.5, 0.05 * self.now.batter_g)
        return None if grams is None or grams < 0 else self._offer("leavening", "baking_soda", grams)

    def _set(self) -> Correction | None:
        """More of what sets this batter: its egg, else its binder, else flax; its water made good."""
        eggs = self._of(("egg",))
        have = [(p.grams, p.ingredient.id) for p in self.now.bowl.portions if p.ingredient.id in BINDERS]
        id = eggs or (max(have)[1] if have else BINDERS[0])
        target = max(self.now.bowl.form.set_comfort, min(0.9, self.ref.setting.per_100g) if self.ref is not None else 0.0)
        most = 0.6 * self.now.batter_g if eggs else 0.04 * self.now.batter_g
        grams = self._solve(id, lambda a: a.setting.per_100g < target, most)
        return None if grams is None or grams <= 0 else self._flowing("set", id, grams)

    def _binder(self) -> Correction | None:
        id = next((p.ingredient.id for p in sorted(self.now.bowl.portions, key=lambda p: -p.grams * p.per.gel) if p.per.gel > 0), None)
        if id is None:
            return None
        most = self.tables.network.gel_most
        full: Callable[[Analysis], bool] = lambda a: a.bowl.total("gel") <= 0.55 * most * a.bowl.total("flour")  # noqa: E731
        grams = self._solve(id, full, 1.0)
        return None if grams is None or grams >= 0 else self._flowing("binder", id, grams)

    def _eggs(self) -> Correction | None:
        id = self._of(("egg",))
        if id is None:
            return None
        target = min(0.9 * self.tables.network.rubbery, self.ref.setting.per_100g if self.ref is not None else 9.0)
        grams = self._solve(id, lambda a: a.setting.per_100g < target, 1.0)
        return None if grams is None or grams >= 0 else self._flowing("set", id, grams)

    def _flowing(self, change: str, id: str, grams: float) -> Correction | None:
        """A change of a binder, with the liquid that keeps the batter flowing as it did."""
        flows = (self.ref or self.now).water.spread_cm
        at = main_liquid((n, self.known[x.ingredient or ""], x.grams) for n, x in enumerate(self.now.batter.lines) if x.counts)
        if flows is None or at is None or any(p.foam_g for p in self.now.bowl.portions):
            return self._offer(change, id, grams)
        liquid = self.now.batter.lines[at].ingredient or ""
        have = self._grams(self.now.batter)[liquid]
        thick: Callable[[float], bool] = lambda x: (self._run({id: grams, liquid: x}).water.spread_cm or 0.0) < flows  # noqa: E731
        if not thick(-0.8 * have) or thick(2 * have):
            return self._offer(change, id, grams)
        return self._offer(change, id, grams, {liquid: boundary(thick, -0.8 * have, 2 * have, 22)[1]})

    def _share(self, groups: tuple[str, ...], what: str) -> Correction | None:
        """Sugar or fat back to its part of the flour in the reference, else to a usual one."""
        id = self._of(groups)
        flour = self.now.bowl.total("flour")
        if id is None or flour <= 0:
            return None
        total = "sweet" if what == "sugar" else "fat"
        usual = {"sugar_high": 0.17, "sugar_low": 0.1, "fat_low": 0.14}[self.cause.cause]
        of_ref = (
            self.ref.bowl.total(total) / self.ref.bowl.total("flour") if self.ref is not None and self.ref.bowl.total("flour") > 0 else None
        )
        want = usual if of_ref is None else of_ref
        short: Callable[[Analysis], bool] = lambda a: a.bowl.total(total) < want * a.bowl.total("flour")  # noqa: E731
        grams = self._solve(id, short, self.now.batter_g)
        if grams is None or (grams > 0) != (self.cause.cause != "sugar_high"):
            return None
        return self._offer(what, id, grams)

    # --- degrees, seconds, minutes, millilitres ----------------------------------------------------------------------------------

    def _heat(self) -> Correction | None:
        advised = self.seen.fire.advised
        if advised is None:
            return None
        return Correction(
            change="heat", to=advised.celsius, predicts={"celsius": advised.celsius}, words=f"Cook at {advised.celsius:.0f} °C."
        )

    def _warm(self) -> Correction | None:
        surface = self.seen.fire.surface
        if surface is None:
            return None
        return Correction(
            change="wait",
            to=surface.heat_up_min,
            words=f"Give {surface.name} {surface.heat_up_min:.0f} minutes to heat up, and {surface.recover_s:.0f} seconds between loads.",
        )

    def _time(self, what: str) -> Correction | None:
        fire = self.seen.fire
        cooked = fire.cooking if fire.cooking is not None and fire.cooking.done_s is not None else fire.advised
        seconds = None if cooked is None else cooked.turn_s if what == "turn" else cooked.done_s
        if seconds is None:
            return None
        words = {"turn": "Turn at", "off": "Open or lift off at"}[what]
        return Correction(change="time", to=round(seconds), predicts={f"{what}_s": round(seconds)}, words=f"{words} {_clock(seconds)}.")

    def _portion(self) -> Correction | None:
        piece = largest_piece(self.now, self.facts, self.seen.fire.surface)
        if piece is None:
            return None
        return Correction(
            change="portion",
            to=piece.portion_ml,
            predicts={"thickness_mm": piece.thickness_mm, "celsius": piece.celsius},
            words=f"At most {piece.portion_ml:.0f} mL a piece, at {piece.celsius:.0f} °C.",
        )

    def _rest(self) -> Correction:
        rest = self.now.bowl.rest_min
        return Correction(change="rest", to=rest, words=f"Rest it {rest:.0f} minutes before the first piece.")

    def _drink(self) -> Correction:
        earliest = window(self.now.bowl, self.now.batter.blender, self.facts.stove.time).earliest_min
        return Correction(change="rest", to=round(earliest), words=f"Rest it at least {earliest:.0f} minutes: then the flour has drunk.")

    def _within(self) -> Correction | None:
        latest = window(self.now.bowl, self.now.batter.blender, self.facts.stove.time).latest_min
        return Correction(
            change="rest", to=round(latest), words=f"Cook the last of it within {latest:.0f} minutes, or wet the powder last."
        )


def sum_words(moves: Mapping[str, float], known: Mapping[str, Ingredient]) -> str:
    """So many grams more or less of each ingredient, as a sentence."""
    return ", ".join(f"{_g(abs(g))} g {'more' if g > 0 else 'less'} {known[i].short}" for i, g in moves.items()) + "."


def predicted(a: Analysis) -> dict[str, float]:
    """What the ledgers say of a batter, in the units in which it is checked."""
    found = {
        "spread_cm": a.water.spread_cm,
        "co2_ml_per_100g": a.lift.co2_ml_per_100g,
        "residual_alkali_meq_per_100g": a.lift.residual_alkali_meq_per_100g,
        "excess_acid_meq_per_100g": a.lift.excess_acid_meq_per_100g,
        "set_per_100g": a.setting.per_100g,
    }
    return {k: round(v, 3) for k, v in found.items() if v is not None}


def _middle(band: tuple[float, float]) -> float:
    return (band[0] + band[1]) / 2


def _g(grams: float) -> str:
    return f"{grams:.0f}" if grams >= 20 else f"{grams:.1f}".removesuffix(".0")


def _clock(seconds: float) -> str:
    return f"{round(seconds) // 60}:{round(seconds) % 60:02d}"
