"""The method: the steps of a batter in the order in which they are done, each derived from what is in it, with the reason."""

from dataclasses import dataclass
from typing import Literal

from ..analysis.analysis import Analysis
from ..balances.holdback import hold_back
from ..batter.batter import BatterLine
from ..batter.bowl import drinking_minutes
from ..batter.flow import DENSITY
from ..batter.main_liquid import main_liquid, pours
from ..food.functions import SOAKED
from ..food.ingredients import Ingredient
from .facts import RecipeFacts

Order = Literal["two_bowls", "one_bowl", "blender"]
Use = Literal["soak", "dry", "wet", "late", "foam", "plate"]
ROOM_MIN, DRAIN_MIN, SOUR_MIN, COOL_MIN = 30.0, 30.0, 5.0, 10.0
SOAK_TIMES, SOAK_PSYLLIUM = 4.0, 12.0  # grams of liquid that a gram of seed meal, or of psyllium, is stirred into
HEAT_MIN = {"griddle": 8.0, "waffle": 10.0, "crepe": 5.0, "tray": 15.0}
# Surface heat [°C] at which the form is usually cooked, and how its end is told. Kitchen practice; the cook's own surface decides.
HEAT = {
    "griddle": ("a griddle or pan at about 180 to 190 °C, a drop of water dances", "Turn when the edge is set and bubbles stay open, after two to three minutes; a look beneath tells the heat."),
    "waffle": ("the iron, until its lamp means hot and a drop hisses", "Close it and wait three to five minutes, until hardly any steam comes and the piece lifts firm, not floppy."),
    "crepe": ("a wide pan at about 200 °C, with a film of fat", "Swirl it thin at once; turn when the edge lifts cleanly, after about a minute."),
    "tray": ("the oven at 220 °C, the tray lined", "Twelve to twenty minutes, until the middle springs back and a stick comes out clean."),
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One step: what to do, why, and the minutes it takes where it takes any. `lines` are the places of its lines in the batter."""

    key: str
    title: str
    text: str
    why: str
    minutes: float | None
    lines: tuple[int, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Method:
    """The use of every line in order, the steps, the bowl [L] it wants, and what is left over with a use for it."""

    uses: tuple[tuple[Use, tuple[int, ...]], ...]
    steps: tuple[Step, ...]
    bowl_l: float
    leftovers: tuple[str, ...]


def method(a: Analysis, facts: RecipeFacts, order: Order = "two_bowls") -> Method:
    """The method of an analysed batter. Every counted line stands in one use; what needs time comes first, the longest before."""
    lines = [(at, line, facts.ingredients[line.ingredient or ""]) for at, line in enumerate(a.batter.lines) if line.known]
    uses: dict[Use, list[int]] = {"soak": [], "dry": [], "wet": [], "late": [], "foam": [], "plate": []}
    for at, line, i in lines:
        if line.grams > 0:
            uses[_use(line, i, _pouring(lines) is not None)].append(at)
    maker = _Maker(a, facts, lines, uses, order)
    return Method(
        uses=tuple((k, tuple(v)) for k, v in uses.items() if v),
        steps=tuple(maker.steps()),
        bowl_l=_bowl_l(a),
        leftovers=_left_over(lines, facts),
    )


def _pouring(lines: list[tuple[int, BatterLine, Ingredient]]) -> tuple[int, BatterLine, Ingredient] | None:
    """The main liquid of the bowl, where it pours."""
    at = main_liquid((n, i, line.grams) for n, (_, line, i) in enumerate(lines) if line.where == "batter" and pours(i))
    return None if at is None else lines[at]


def _use(line: BatterLine, i: Ingredient, liquid: bool) -> Use:
    if line.where == "plate":
        return "plate"
    if i.group == "mix_in":
        return "late"
    if "whipped" in line.states:
        return "foam"
    if i.id in SOAKED and liquid:
        return "soak"
    wet = i.water_g >= 25 or (
        i.group in ("fat_solid", "fat_oil", "nut_butter", "liquid_sweetener", "egg", "milk", "cultured_dairy")
        and not i.id.endswith("_powder")
    )
    return "wet" if wet else "dry"


class _Maker:
    """The steps of one batter."""

    def __init__(
        self,
        a: Analysis,
        facts: RecipeFacts,
        lines: list[tuple[int, BatterLine, Ingredient]],
        uses: dict[Use, list[int]],
        order: Order,
    ) -> None:
        self.a, self.bowl, self.facts, self.lines, self.uses, self.order = a, a.bowl, facts, lines, uses, order
        self.form = a.batter.form
        self.inside = [x for x in lines if x[1].where == "batter" and x[1].grams > 0]
        self.gluten = any(i.gluten_strength > 0 and i.contains_gluten == "yes" for _, _, i in self.inside)
        self.late_leaven = a.lift.latest_min is not None and a.lift.latest_min < a.bowl.rest_min

    def steps(self) -> list[Step]:
        before = sorted(self._before(), key=lambda s: -(s.minutes or 0))
        return [*before, *self._mix(), *self._after()]

    # ---- what needs time

    def _before(self) -> list[Step]:
        found: list[Step] = []
        cold = [x for x in self.inside if (x[2].group in ("egg", "cultured_dairy")) and x[2].water_g > 40]
        if cold:
            found.append(
                self._step(
                    "warm_up",
                    "Take out of the fridge",
                    f"{_cap(_names(cold))}: let stand at room temperature.",
                    "Cold egg or culture stiffens melted fat and slows the mixing.",
                    ROOM_MIN,
                    cold,
                )
            )
        if grated := [x for x in self.inside if x[2].group == "vegetable" and x[2].water_g > 85]:
            squeezed = all("squeezed" in x[2].id for x in grated)
            found.append(
                self._step(
                    "drain",
                    "Grate and drain",
                    f"{_cap(_names(grated))}: grate, salt lightly, let stand, and squeeze well.",
                    "Its water would thin the batter."
                    if squeezed
                    else "What runs off is counted as in the batter: squeeze little, or hold back more liquid.",
                    DRAIN_MIN,
                    grated,
                )
            )
        if soak := [x for x in self.inside if x[0] in self.uses["soak"]]:
            main = _pouring(self.lines)
            assert main is not None  # nothing is soaked where nothing pours
            times = sum(x[1].grams * (SOAK_PSYLLIUM if x[2].id.startswith("psyllium") else SOAK_TIMES) for x in soak)
            want = min(times, 0.8 * main[1].grams)
            minutes = max(5.0, max(x[2].absorption_minutes for x in soak))
            found.append(
                self._step(
                    "soak",
                    "Soak",
                    f"Stir {_names(soak)} into {want:.0f} g of the {main[2].short}.",
                    "It sets only once it has drunk; never eaten dry.",
                    minutes,
                    soak,
                )
            )
        acids = [x for x in self.inside if x[2].group == "acid" and x[2].water_g > 50]
        milks = [x for x in self.inside if x[2].group in ("milk", "plant_milk") and x[2].water_g > 60]
        if acids and milks:
            milk = max(milks, key=lambda x: x[1].grams)
            found.append(
                self._step(
                    "sour",
                    "Sour the milk",
                    f"Stir {_names(acids)} into the {milk[2].short}.",
                    "The acid follows the dose at once; the wait only thickens it.",
                    SOUR_MIN,
                    acids,
                )
            )
        if fats := [x for x in self.inside if x[2].group == "fat_solid" or x[2].id == "coconut_oil"]:
            found.append(
                self._step(
                    "melt",
                    "Melt and cool",
                    f"Melt {_names(fats)}, and let it cool until it no longer feels hot.",
                    "Hot fat cooks the egg."
                    if any(x[2].group == "egg" for x in self.inside)
                    else "Hot fat sets starch in streaks and makes the powder work too soon.",
                    COOL_MIN,
                    fats,
                )
            )
        if foam := [x for x in self.inside if x[0] in self.uses["foam"]]:
            text = (
                f"{_cap(_names(foam))}: no yolk in the whites, no fat in the bowl."
                if any(x[2].group == "egg" for x in foam)
                else f"Chill {_names(foam)}; no fat in the bowl."
            )
            found.append(
                self._step(
                    "separate",
                    "Separate" if any(x[2].id == "egg" for x in foam) else "Keep apart",
                    text,
                    "Fat keeps whites from foaming.",
                    5.0,
                    foam,
                )
            )
        if ground := [x for x in self.inside if "ground" in x[1].note]:
            found.append(
                self._step("grind", "Grind", f"Grind {_names(ground)} as fine as flour.", "Coarse meal drinks late and weeps.", 5.0, ground)
            )
        return found

    # ---- the mixing

    def _mix(self) -> list[Step]:
        dry = [x for x in self.inside if x[0] in self.uses["dry"]]
        wet = [x for x in self.inside if x[0] in self.uses["wet"]]
        powders = [x for x in dry if x[2].group == "leavener"]
        if self.late_leaven and powders:
            dry = [x for x in dry if x not in powders]
        plan = hold_back(self.bowl, "scale")
        held = f" Hold back {plan.hold_g:.0f} g of the {plan.name}." if plan and plan.hold_g >= 1 else ""
        steps: list[Step] = []
        if self.order == "blender":
            steps.append(
                self._step(
                    "blend",
                    "Blend",
                    f"Wet into the blender first, then the dry on top: half a minute, scrape down, ten seconds more.{held}",
                    "It drinks in the blender what it would drink in ten minutes of rest."
                    + (" Wheat toughens: stop as soon as it is smooth." if self.gluten else ""),
                    1.0,
                    [*wet, *dry],
                )
            )
        elif self.order == "one_bowl":
            steps.append(
                self._step(
                    "wet",
                    "Wet first",
                    f"Whisk {_names(wet)} in the bowl.{held}",
                    "One bowl: what is wet goes in first, so that no dry corner is left.",
                    None,
                    wet,
                )
            )
            steps.append(
                self._step(
                    "dry",
                    "Dry on top",
                    f"Scatter {_names(dry)} over it, powder and salt spread well; stir from the rim.",
                    self._mixing_why(),
                    None,
                    dry,
                )
            )
        else:
            if dry:
                steps.append(
                    self._step(
                        "dry",
                        "Dry",
                        f"Whisk {_names(dry)} in the large bowl.",
                        "Powder and salt must be everywhere before anything is wet.",
                        None,
                        dry,
                    )
                )
            if wet:
                steps.append(
                    self._step(
                        "wet",
                        "Wet",
                        f"Whisk {_names(wet)} in a jug.{held}" if wet else held,
                        "Flours and eggs differ: what is held back is added when the bowl asks for it." if held else "",
                        None,
                        wet,
                    )
                )
            if dry and wet:
                steps.append(self._step("together", "Together", self._mixing(), self._mixing_why(), None, []))
        if foam := [x for x in self.inside if x[0] in self.uses["foam"]]:
            sugar = "with a spoon of the sugar to soft peaks" if any(x[2].group == "sugar" for x in self.inside) else "to soft peaks"
            steps.append(
                self._step(
                    "foam",
                    "Whip and fold",
                    f"Whip {_names(foam)} {sugar}; fold in a third, then the rest.",
                    f"Stirred, the air is lost; folded, it lasts about {20} minutes.",
                    None,
                    foam,
                )
            )
        return steps

    def _mixing(self) -> str:
        if self.form == "crepe":
            return "Half of the wet into the dry, whisk smooth; then the rest, and strain if lumps stay."
        if self.gluten:
            return "Wet into dry, a dozen strokes; stop while lumps are left."
        return "Wet into dry, and whisk it smooth."

    def _mixing_why(self) -> str:
        if self.form == "crepe":
            return (
                "A thin batter shows every lump; the rest relaxes what the whisk has toughened."
                if self.gluten
                else "A thin batter shows every lump."
            )
        return "Wheat toughens with every stroke; lumps cook out." if self.gluten else "No gluten to toughen; lumps would stay dry."

    # ---- rest, judge, cook

    def _after(self) -> list[Step]:
        a, steps = self.a, list[Step]()
        rest = self.bowl.rest_min
        slow = [x for x in self.inside if x[2].is_drinker and x[2].absorption_minutes >= 10]
        if rest > 0:
            drunk = drinking_minutes(rest, self.bowl.pace, self.order == "blender" or a.batter.blender)
            why = f"{_cap(slow[0][2].short)} is slow to drink." if slow else "The flour drinks and the bubbles settle."
            if a.lift.latest_min is not None and not self.late_leaven:
                why += f" The leavening keeps 85 % of its lift for about {a.lift.latest_min:.0f} minutes."
            steps.append(
                self._step(
                    "rest",
                    "Rest",
                    f"Let it stand {rest:.0f} minutes" + (", covered and cold." if a.batter.rest_c < 10 else "."),
                    why,
                    max(rest, min(rest, drunk)),
                    slow,
                )
            )
        steps.append(self._heat())
        if late := [x for x in self.inside if x[0] in self.uses["late"]]:
            steps.append(
                self._step(
                    "late",
                    "Last, fold in",
                    f"{_cap(_names(late))}: fold in, or lay on the wet side in the pan.",
                    "Stirred long they bleed and sink.",
                    None,
                    late,
                )
            )
        powders = [x for x in self.inside if x[2].group == "leavener"]
        if self.late_leaven and powders:
            steps.append(
                self._step(
                    "leaven",
                    "Leaven last",
                    f"Stir in {_names(powders)}, loosened with a spoon of water, when the surface is hot.",
                    f"Wetted before the rest it would be half spent: 85 % lasts about {a.lift.latest_min:.0f} minutes.",
                    None,
                    powders,
                )
            )
        if a.water.spread_cm is not None and 8 <= a.water.spread_cm <= 18:
            foamy = bool(self.uses["foam"] or self.uses["late"])
            text = (
                "By eye: foam and pieces do not let it spread true."
                if foamy
                else f"60 mL on a cold plate spreads to about {a.water.spread_cm:.1f} cm in half a minute; add what was held back a little at a time until it does."
            )
            steps.append(self._step("judge", "Judge the bowl", text, "Eggs, flours and cups differ from day to day.", None, []))
        steps.append(self._cook())
        return steps

    def _heat(self) -> Step:
        surface, _ = HEAT[self.form]
        return self._step("heat", "Heat", f"Heat {surface}.", "Start it so that it is hot when the rest ends.", HEAT_MIN[self.form], [])

    def _cook(self) -> Step:
        y = self.a.yields
        size = f", about {y.diameter_cm:.0f} cm across" if y.diameter_cm else ""
        portion = (
            f"{y.portion_ml:.0f} mL a piece{size}: about {y.whole} pieces"
            if self.form != "tray"
            else f"Pour it about 1 cm deep; cut about {y.whole} pieces"
        )
        return self._step(
            "cook",
            "Cook",
            f"{portion}. {HEAT[self.form][1]}",
            self.facts.safety.words("cooked"),
            None,
            [],
        )

    def _step(
        self, key: str, title: str, text: str, why: str, minutes: float | None, lines: list[tuple[int, BatterLine, Ingredient]]
    ) -> Step:
        return Step(key=key, title=title, text=text, why=why, minutes=minutes, lines=tuple(at for at, _, _ in lines))


def _names(lines: list[tuple[int, BatterLine, Ingredient]]) -> str:
    names = list(dict.fromkeys(i.short for _, _, i in lines))
    return names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1] if names else "nothing"


def _bowl_l(a: Analysis) -> float:
    """A bowl that holds the batter with its gas and leaves room to stir [L], in half litres: a little over twice the batter."""
    litres = (a.batter_g / DENSITY + (a.lift.air_ml + 0.3 * a.lift.co2_ml) / 1000) * 2.2
    return max(0.5, round(litres * 2 + 0.49) / 2)


def _left_over(lines: list[tuple[int, BatterLine, Ingredient]], facts: RecipeFacts) -> tuple[str, ...]:
    grams: dict[str, float] = {}
    for _, line, i in lines:
        grams[i.id] = grams.get(i.id, 0.0) + line.grams
    said: list[str] = []
    for id_, half in facts.leftovers.egg.items():
        i = facts.ingredients[id_]
        count = round(grams.get(id_, 0.0) / (i.unit_g or 30.0))
        other = round(grams.get("egg_yolk" if id_ == "egg_white" else "egg_white", 0.0) / half.grams)
        if count > other:
            n = count - other
            said.append(f"{n} {half.other}{'s' if n > 1 else ''} left over: {half.use}.")
    for id_, pack in facts.leftovers.pack.items():
        used = grams.get(id_, 0.0)
        rest = -used % pack.pack_g
        if used > 0 and rest >= 0.05 * pack.pack_g:
            said.append(f"About {rest:.0f} g of the {pack.of} left over: {pack.use}.")
    return tuple(said)


def _cap(text: str) -> str:
    return text[:1].upper() + text[1:]
