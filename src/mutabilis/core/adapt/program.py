"""The adaptation as a mixed-integer linear program (batter-science, section 7): what the rows say of a batter.

Variables are grams of each candidate and, for what is new, whether it is used. Flow is linear once the wanted solids
fraction is fixed; lift needs no binary of its own, since gas = bicarbonate − 0.7·(alkali left) and alkali left is punished
harder than the gas it would hide. Set saturates for gels: tangents of a concave function bound it from above.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from ..balances.lift import ML_PER_MMOL, TOO_ALKALINE, TOO_SOUR
from ..balances.nutrition import net_carb_per_gram
from ..balances.setting import GEL_MOST, RUBBERY
from ..batter.flow import solids_for
from ..food.coefficients import PerGram, per_gram
from ..food.ingredients import LIQUIDS
from ..food.nutrients import PER_GRAM
from ..measures.profile import Profile
from .candidates import Candidate
from .course import STRAIGHT, Course
from .craft import Craft, Notice
from .linear import HARD, Linear
from .targets import FATS, LEAST_SOLIDS, Targets
from .wishes import DRINKS

HIDDEN = 0.7  # 1 − the 0.3 of ledgers.lift: what unmet alkali costs in gas
GEL_TANGENTS = (0.0, 0.004, 0.009, 0.016, 0.028, 0.07)  # egg-equivalents of gel per g flour
PROMISING_LEAN = 8  # where carbohydrate has a ceiling the field is wide and its flours few: more cost time and found nothing
PROMISING = 10  # 8 lost a third of the closeness of some vegan, gluten-free curd cakes; more found no better
SECOND_BINDER = 0.7  # what it costs to reach for another binder
SOFT_CAP = 6.0  # weight of a ceiling or floor a serving when the nearest is sought: it yields before the batter does
EASED = 12.0  # weight of what must hold, where something is shown rather than nothing
TO_BUY = 1.5  # what a thing to buy costs, where the least is to be bought
FEWER = 3.0  # times the cost of a new thing, where the simplest is sought, and what one more step in the making costs
A_STEP = 0.5


class Program(Linear):
    """Rows and columns, built once for a field of candidates, solved several times with a corrected φ."""

    def __init__(
        self, candidates: Sequence[Candidate], targets: Targets, craft: Craft, profile: Profile, course: Course = STRAIGHT
    ) -> None:  # fmt: skip
        self.candidates = candidates
        self.targets = targets
        self.course = course
        self.per: list[PerGram] = [per_gram(c.ingredient, targets.rest_min, 1.0, targets.scalded) for c in candidates]
        self.whole_per = self.per  # what is folded in counts for the ceilings a serving, not for the batter's own balance
        self.per = [
            replace(p, fat=0.0, sweet=0.0, salt_taste=0.0, protein=0.0) if c.ingredient.group == "mix_in" else p
            for c, p in zip(candidates, self.per, strict=True)
        ]  # fmt: skip
        few = PROMISING_LEAN if targets.lean else PROMISING
        most = 3 * targets.batter_g
        super().__init__([c.ingredient.id for c in candidates], [c.low for c in candidates], [min(c.high, most) for c in candidates], few)
        self._flow_row = -1
        self._build(craft, profile)

    def _weight_of(self, name: str) -> float:
        if self.course.soft_caps and name.partition(" ")[0] in ("cap", "floor"):
            return SOFT_CAP
        return EASED if self.course.eased else HARD

    def _build(self, craft: Craft, profile: Profile) -> None:
        t, per, notice = self.targets, self.per, craft.notice
        mass = self._sum([1.0] * self.n)
        flour = self._sum([p.flour for p in per])
        liquid = self._sum([p.liquid for p in per])
        if not self.course.wets:
            self._near(mass, t.batter_g, notice["mass"].share * t.batter_g, notice["mass"].weight)
        lean = t.lean
        self._must(
            "mass",
            mass,
            craft.limits["mass_lean" if lean else "mass_least"] * t.batter_g,
            math.inf if self.course.wets else craft.limits["mass_rich" if t.rich else "mass_most"] * t.batter_g,
            0.05 * t.batter_g,
        )
        self._near(flour, t.flour, notice["flour"].share * t.flour, notice["flour"].weight)
        # The body is the flour's: a thick liquid does not stand in for it.
        # Neither where a mend moves nothing else, nor where the base lacks the water for its own flour: its body is no measure then.
        bodied = not (self.course.mend_alone or self.course.wets)
        if t.body > 0 and bodied:
            body = self._sum([p.flour * p.flow_solid for p in per])
            self._must("body", body, craft.limits["body_lean" if lean else "body"] * t.body, math.inf, 0.03 * t.body)
        gel = self._sum([p.thick - craft.limits["gel_free"] * p.wet for p in per])
        if bodied:
            self._must("gel", gel, -math.inf, craft.limits["gel"] * t.gel, 0.01 * t.batter_g)
        if t.curd or t.bare:  # a curd gives the batter its body, or what is in it does: a thin drink does not stand in for it
            even = self._sum([p.thick - t.theta * p.wet for p in per])
            off = craft.limits["gel_curd"] * t.batter_g
            self._must("gel", even, -off, off, 0.01 * t.batter_g)
        if t.drinks > 0:
            drinks = self._sum([float(c.ingredient.group in DRINKS) for c in self.candidates])
            if lean and t.form.key == "waffle":  # crisp by its egg and its fat, not by its drink
                self._must("drinks", drinks, -math.inf, craft.limits["drinks_lean_waffle"] * t.drinks, 0.02 * t.batter_g)
            else:
                self._near(
                    drinks, craft.limits["drinks"] * t.drinks, notice["drinks"].share * t.drinks, notice["drinks"].weight, under_only=True
                )
        if t.cultured > 0:
            cultured = self._sum([float(c.ingredient.group in ("cultured_dairy", "plant_cultured")) for c in self.candidates])
            self._near(
                cultured,
                craft.limits["cultured"] * t.cultured,
                notice["cultured"].share * t.cultured,
                notice["cultured"].weight,
                under_only=True,
            )
        # Fat has a ceiling: what is poured in stays within the base's whole fat, the whole within a quarter more.
        added = self._sum([p.fat if c.ingredient.group in FATS else 0.0 for c, p in zip(self.candidates, per, strict=True)])
        self._must("fat", added, -math.inf, craft.limits["poured"] * t.added + craft.limits["poured_more"] * t.batter_g, 0.01 * t.batter_g)
        fat = self._sum([p.fat for p in per])
        self._must(
            "fat",
            fat,
            -math.inf,
            craft.limits["fat"] * t.fat + craft.limits["fat_lean" if lean else "fat_curd" if t.curd else "fat_more"] * t.batter_g,
            0.01 * t.batter_g,
        )
        if t.rich:
            protein = self._sum([p.protein for p in per])
            self._must("protein", protein, t.rich * t.protein, math.inf, 0.03 * t.protein)
        if t.foam > 0:
            air = self._sum([t.air.get(c.ingredient.id, 0.0) for c in self.candidates])
            self._near(air, t.foam, notice["foam"].share * t.foam, notice["foam"].weight)
        for family in craft.families:
            row = {i: 1.0 for i, c in enumerate(self.candidates) if c.new and not c.twin and family.holds(c.ingredient.id)}
            if row and family.most < 1:
                self._row(
                    {**{j: -family.most * v for j, v in flour.items()}, **{i: 1.0 - family.most * flour.get(i, 0.0) for i in row}},
                    -math.inf,
                    1e-6,
                )
        close = 0.01 * t.batter_g
        if t.bare:  # it stays one whose body comes of nothing that swells
            self._flow_row = self._must("flow", self._sum([p.flow_solid for p in per]), -math.inf, LEAST_SOLIDS * t.batter_g, close)
        else:  # a mend leaves the liquid alone where nobody would see it on the plate
            unseen = craft.limits["flow_unseen"] * t.batter_g if self.course.leaves_liquid else 0.0
            self._flow_row = self._must("flow", {}, -unseen, unseen, close)
        self._flow_slack = dict(self._rows[self._flow_row])
        self.aim(t.theta)
        # Drinkers must find their water: what is bound stays well under what is brought.
        self._must(
            "water", self._sum([(0.0 if c.ingredient.is_drinker or c.ingredient.group == "mix_in" else craft.limits["water_free"] * p.water) - p.bound for c, p in zip(self.candidates, per, strict=True)]),
            0.0, math.inf, 0.02 * t.batter_g,
        )  # fmt: skip
        self._lift(notice)
        for key, target in (("fat", t.fat), ("sweet", t.sweet), ("salt_taste", t.salt_taste), ("protein", t.protein)):
            self._near(
                self._sum([getattr(p, key) for p in per]),
                target,
                max(notice[key].share * target, notice[key].least * t.batter_g),
                notice[key].weight,
            )
        salt = self._sum([p.salt_taste for p in per])
        self._salted(salt, notice["salted"])
        if "salty" in self.course.mends:
            self._must("salt", salt, -math.inf, 0.98 * t.form.salt[1] * t.batter_g / 100, 0.01 * t.batter_g / 100)
        self._set(craft, flour, mass)
        self._usage(craft, flour, liquid, mass)
        for nutrient, most in t.caps.items():
            row = self._nutrient(nutrient, profile)
            self._must(f"cap {nutrient}", row, -math.inf, self.course.cap_share * most * t.servings, self._noticed(row, most * t.servings))
        for nutrient, least_ in t.floors.items():
            row = self._nutrient(nutrient, profile)
            self._must(f"floor {nutrient}", row, 1.015 * least_ * t.servings, math.inf, self._noticed(row, least_ * t.servings))
        # Potassium that leavening and salt substitutes bring, a serving: what the base has already may stay.
        potassium = self._sum([p.potassium for p in self.whole_per])
        had = sum(c.base_g * p.potassium for c, p in zip(self.candidates, self.whole_per, strict=True))
        if potassium:
            self._must("potassium", potassium, -math.inf, max(craft.limits["potassium_mg"] * t.servings, had), 10.0 * t.servings)
        if t.max_cost is not None:
            prices = self._sum([t.prices.get(c.ingredient.id, 0.0) / 1000 for c in self.candidates])
            self._must("cap cost", prices, -math.inf, t.max_cost * t.servings, max(0.02 * t.max_cost * t.servings, 0.01))

    def _noticed(self, row: Mapping[int, float], wanted: float) -> float:
        """What counts as a difference in a nutrient of the batch: a fiftieth of what is wanted, or where the wish may yield of what the base
        has, so that a wish far out of reach never outweighs the batter itself."""
        had = sum(row.get(i, 0.0) * c.base_g for i, c in enumerate(self.candidates)) if self.course.soft_caps else 0.0
        return max(0.02 * wanted, 0.5, 0.02 * had)

    def _nutrient(self, nutrient: str, profile: Profile) -> dict[int, float]:
        key = PER_GRAM.get(nutrient)
        if key is None:
            return self._sum([net_carb_per_gram(p.carb, p.fibre, p.polyols, p.allulose, profile) for p in self.whole_per])
        return self._sum([getattr(p, key) for p in self.whole_per])

    def _lift(self, notice: Any) -> None:
        t, per = self.targets, self.per
        hundred = t.batter_g / 100
        left = self._column(notice["alkali"].weight / (notice["alkali"].meq * hundred))
        soda = [p.soda for p in per]
        # left ≥ B − A − buffer
        self._row({**self._sum([p.acid + p.buffer - p.soda for p in per]), left: 1.0}, 0.0, math.inf)

        def gas_above(level: float) -> dict[int, float]:
            """Gas less `level` [mL per 100 g] of whatever the batch comes to weigh."""
            row = self._sum(
                [ML_PER_MMOL * s + t.air.get(c.ingredient.id, 0.0) - level / 100 for c, s in zip(self.candidates, soda, strict=True)]
            )
            row[left] = -HIDDEN * ML_PER_MMOL
            return row

        was = t.gas_per_100g
        self._near(gas_above(was), 0.0, max(notice["gas"].share * was, 2.0) * hundred, notice["gas"].weight)
        # Within a tenth of what the base has, or anywhere in the band of the form; a little inside, for the rounding.
        low, high = t.form.lift
        least = min(0.9 * was, low) if was >= low else 0.9 * was
        most = max(1.1 * was, high)
        if least > 0:
            self._must("lift", gas_above(1.02 * least), 0.0, math.inf, 5 * hundred)
        self._must("lift", gas_above(0.98 * most), -math.inf, 0.0, 5 * hundred)
        sour = self._column(notice["sour"].weight / (notice["sour"].meq * hundred))
        self._row({**self._sum([p.acid - p.soda for p in per]), sour: -1.0}, -math.inf, max(1.0, t.sour_per_100g) * hundred)
        if self.course.mends_lift:
            self._must("alkali", {left: 1.0}, -math.inf, 0.9 * TOO_ALKALINE * hundred, 0.5 * hundred)
            self._must(
                "sour",
                self._sum([p.acid - p.soda for p in per]),
                -math.inf,
                0.9 * (TOO_SOUR if "acid_left" in self.course.mends else max(TOO_SOUR, t.sour_per_100g)) * hundred,
                0.5 * hundred,
            )

    def _set(self, craft: Craft, flour: dict[int, float], mass: dict[int, float]) -> None:
        t, per, notice, limits = self.targets, self.per, craft.notice["set"], craft.limits
        gels = self._column(0.0)
        for r in GEL_TANGENTS:  # h(r) = M(1 − exp(−r/M)) lies under each of its tangents
            slope = math.exp(-r / GEL_MOST)
            height = GEL_MOST * (1 - slope) - slope * r
            row = {i: -height * v for i, v in flour.items()}
            for i, p in enumerate(per):
                if p.gel:
                    row[i] = row.get(i, 0.0) - slope * p.gel
            self._row({**row, gels: 1.0}, -math.inf, 0.0)
        setting = {**self._sum([p.setting for p in per]), gels: 1.0}

        def above(level: float) -> dict[int, float]:
            return {**{i: setting.get(i, 0.0) - level / 100 for i in mass}, gels: 1.0}

        self._must("set", above(t.set_floor), 0.0, math.inf, 0.02 * t.batter_g / 100)
        self._must("rubbery", above(max(RUBBERY, t.set_per_100g)), -math.inf, 0.0, 0.02 * t.batter_g / 100)
        if t.dish:
            return
        # As firm as its base, up to where a cook is at ease; more, where starch that held too has gone.
        for share in (limits["set_lean" if t.lean else "set_firm"], limits["set_ease"]):
            wanted = min(t.set_per_100g, share * t.form.set_comfort)
            self._near(above(wanted), 0.0, notice.share * wanted * t.batter_g / 100, notice.weight, under_only=True)

    def _usage(self, craft: Craft, flour: dict[int, float], liquid: dict[int, float], mass: dict[int, float]) -> None:
        t = self.targets
        size = {
            "flour": max(t.flour, craft.limits["size_flour"] * t.batter_g),
            "liquid": max(t.liquid, craft.limits["size_liquid"] * t.batter_g),
            "batter": t.batter_g,
        }
        whole = {"flour": flour, "liquid": liquid, "batter": mass}
        # A protein powder is dry matter as flour is: its share is of both.
        powders = {i: 1.0 for i, c in enumerate(self.candidates) if c.ingredient.group == "protein_powder"}
        powdered = {**flour, **powders}
        members: dict[str, dict[int, float]] = {}
        for i, c in enumerate(self.candidates):
            if not c.new:
                moved = c.high > c.low and c.base_g > 0
                if moved:
                    # What is mended moves before anything new is fetched; the rest stays where it can.
                    eager = self.course.mend_alone and c.ingredient.group not in LIQUIDS
                    self._near({i: 1.0}, c.base_g, c.base_g, craft.keep_weight * (craft.limits["mended"] if eager else 1.0))
                continue
            used = self._column(self._fetching(c, craft), 0.0, 1.0, integer=True)
            self._binary[c.ingredient.id] = used
            # A base that has its body from fruit has little flour of its own; what takes the fruit's place needs room.
            room = (
                3 * t.batter_g
                if self.course.wets and c.basis == "liquid"
                else max(craft.limits["room"] * size[c.basis], craft.limits["room_flour"] * t.batter_g if c.basis == "flour" else 0.0)
            )
            top = min(c.high, c.most * room)
            self._tops[c.ingredient.id] = top
            self._row({i: 1.0, used: -top}, -math.inf, 0.0)
            if c.least > 0:
                least = c.least * size[c.basis]
                self._row(
                    {i: 1.0, used: -(min(least, 0.8 * t.gone_liquid) if c.role == "liquid" and t.gone_liquid > 0 else least)}, 0.0, math.inf
                )
            # x ≤ most · (flours, liquids or batter of the answer)
            row = {j: -c.most * v for j, v in (powdered if c.role == "protein" else whole[c.basis]).items()}
            row[i] = row.get(i, 0.0) + 1.0
            self._row(row, -math.inf, 1e-6)
            self._costs[i] += craft.far_weight * c.cost / size[c.basis]
            if not c.held:  # what the cook set by hand takes nobody's place
                members.setdefault(c.role, {})[used] = 1.0
        # One drink: what was there, or what stands in for it.
        if t.lean:
            for i, c in enumerate(self.candidates):
                if not c.new and c.low == 0 and c.ingredient.group in ("milk", "plant_milk"):
                    for d in self.candidates:
                        if d.new and d.ingredient.group in ("milk", "plant_milk"):
                            self._row({i: 1.0, self._binary[d.ingredient.id]: c.high}, -math.inf, c.high)
        # Sugar or its stand-in, never both.
        for i, c in enumerate(self.candidates):
            if not c.new and c.low == 0 and c.ingredient.group in ("sugar", "liquid_sweetener") and math.isfinite(c.high):
                for d in self.candidates:
                    if d.new and d.role == "sweetener":
                        self._row({i: 1.0, self._binary[d.ingredient.id]: c.high}, -math.inf, c.high)
        for family in craft.families:
            twins = {c.ingredient.id for c in self.candidates if c.twin}
            row = {column: 1.0 for id_, column in self._binary.items() if family.holds(id_) and id_ not in twins}
            if len(row) > family.new:
                self._row(row, 0.0, float(family.new))
        for role, row in members.items():
            most = min(craft.members.get(role, 1), t.binders) if role == "binder" else craft.members.get(role, 1)
            if role == "binder" and most > 1 and len(row) > 1:
                row = {**row, self._column(SECOND_BINDER, 0.0, most - 1.0): -1.0}  # one will do, unless it will not
                self._row(row, -math.inf, 1.0)
            elif len(row) > most:
                self._row(row, 0.0, float(most))

    def _fetching(self, c: Candidate, craft: Craft) -> float:
        """What it costs to reach for something new, by the kind of answer that is sought."""
        if c.ingredient.id == "water":
            return 0.5 * c.cost  # the tap is no shelf
        cost = craft.new_thing * (1 + 2 * c.oddness) + 0.5 * c.cost + c.strange
        if self.course.kind == "least_to_buy":
            return 0.5 * c.cost + (0.1 * craft.new_thing if c.ingredient.id in self.course.at_hand else TO_BUY)
        if self.course.kind == "simplest":
            return FEWER * cost + (A_STEP if c.technique else 0.0)
        return cost

    def _salted(self, salt: Mapping[int, float], notice: Notice) -> None:
        """A base that is salted comes out salted, whatever its size has become."""
        t = self.targets
        own, least = t.salt_taste / t.batter_g, t.form.salt[0] / 100
        if own >= least and "sodium_mg" not in t.caps and not self.course.mend_alone:
            low = min(own, 1.03 * least)
            row = {i: salt.get(i, 0.0) - low for i in range(self.n)}
            self._near(row, 0.0, notice.share * least * t.batter_g, notice.weight, under_only=True)

    # ---- flow

    def aim(self, theta: float) -> bool:
        """Point the flow row at the solids fraction that gives the wanted stress with thickening `theta`; False where no
        solids fraction can (the liquids alone are too thick)."""
        if self.targets.bare:
            return True
        phi = solids_for(self.targets.tau, theta)
        reachable = phi is not None and phi > LEAST_SOLIDS
        phi = max(phi or LEAST_SOLIDS, LEAST_SOLIDS)
        ratio = (1 - phi) / phi
        row = dict(self._flow_slack)
        for i, p in enumerate(self.per):
            row[i] = p.flow_free - ratio * p.flow_solid
        self._rows[self._flow_row] = row
        return reachable

    def theta(self, grams: Sequence[float]) -> float:
        """Thickening of the liquid for these grams."""
        wet = sum(g * p.wet for g, p in zip(grams, self.per, strict=True))
        return sum(g * p.thick for g, p in zip(grams, self.per, strict=True)) / wet if wet > 0 else 0.0
