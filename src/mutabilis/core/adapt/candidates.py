"""Which ingredients may be in the answer, within which bounds: the base's own lines that may stay, and what craft offers for
those that may not."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

from ..balances.lift import YEASTS
from ..batter.batter import Batter, BatterLine
from ..diets.packs import PackReading
from ..diets.rules import DietRule
from ..diets.verdicts import beside_fits, judge_ingredient
from ..food.coefficients import absorbed_share
from ..food.ingredients import Ingredient, certified
from ..measures.profile import Profile
from .course import STRAIGHT, Course
from .craft import Basis, Usage
from .facts import AdaptFacts
from .wishes import DRINKS, Wishes

MOST_PER_ROLE = {"flour": 7, "starch": 2, "binder": 7, "moist": 2, "liquid": 4, "cultured": 2, "acid": 2, "fat": 3, "sweetener": 4, "protein": 3, "curd": 2, "egg": 1, "flavour": 1, "mixin": 2, "leavener": 3, "salt": 1}  # fmt: skip
MAJOR = frozenset({"milk", "egg", "wheat", "soy", "peanut", "tree_nut", "sesame", "lupin"})
# With a wish on nutrients or cost these may go altogether; else they keep to their share.
YIELDING = ("sugar", "liquid_sweetener", "fat_solid", "fat_oil", "fruit_puree", "vegetable", "mix_in", "salt", "leavener")
SWEET = ("sugar", "liquid_sweetener", "polyol_sweetener", "intense_sweetener", "fruit_puree")
Readings = Mapping[str, PackReading]


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """One variable of the model. `base_g` is what the base has of it [g]; `new` where it would have to be fetched. `low`
    and `high` bound its grams; `least` and `most` are shares of `basis` for what is new. `held`: at an amount that was set by
    hand; `twin`: the base's own thing from a cleaner mill; `whole_g`: it comes in pieces of so many grams."""

    ingredient: Ingredient
    base_g: float
    low: float
    high: float
    new: bool
    role: str
    cost: float
    oddness: float
    basis: Basis = "batter"
    least: float = 0.0
    most: float = 1.0
    technique: str = ""
    strange: float = 0.0
    held: bool = False
    twin: bool = False
    whole_g: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Gathered:
    """All candidates, the base lines that had to go, and wishes that stand against each other. `dish`: the grain without which it
    is another recipe, where carbohydrate has a ceiling; `flat`: one grain, unleavened."""

    candidates: tuple[Candidate, ...]
    removed: tuple[tuple[Ingredient, float, str], ...]
    clashes: tuple[str, ...]
    dish: str = ""
    flat: bool = False


@dataclass(slots=True, kw_only=True)
class Gathering:
    """Candidates for adapting `base`, gathered line by line."""

    base: Batter
    wishes: Wishes
    rules: Mapping[str, DietRule]
    facts: AdaptFacts
    profile: Profile
    readings: Readings | None
    course: Course = STRAIGHT
    grams: dict[str, float] = field(default_factory=dict)
    removed: list[tuple[Ingredient, float, str]] = field(default_factory=list)
    replaced: set[str] = field(default_factory=set)
    clashes: list[str] = field(default_factory=list)

    @property
    def caps(self) -> Mapping[str, float]:
        """Ceilings a serving."""
        return self.wishes.all_caps(self.facts)

    @property
    def carb_cap(self) -> bool:
        """Whether carbohydrate has a ceiling."""
        return self.wishes.lean(self.facts)

    @property
    def tight(self) -> bool:
        """Whether nutrients or cost are wished for, so that more must be free to move."""
        return bool(self.caps or self.wishes.floors or self.wishes.max_cost is not None)

    def gather(self) -> Gathered:
        """All candidates and what had to go."""
        wishes, facts = self.wishes, self.facts
        beside: dict[str, str] = {}
        for line in self.base.lines:
            if line.counts and line.grams > 0:
                assert line.ingredient is not None
                self.grams[line.ingredient] = self.grams.get(line.ingredient, 0.0) + line.grams
                if why := self._beside_denied(line):
                    beside[line.ingredient] = why
        kept: dict[str, Candidate] = {}
        whole = {facts.ingredients[k]: v for k, v in self.grams.items()}
        for id_, amount in self.grams.items():
            ingredient = facts.ingredients[id_]
            why = self._denied(ingredient) or beside.get(id_, "")
            if id_ in wishes.bans:
                why = why or "left out of this batter"
            if self.carb_cap and id_ in YEASTS:
                why = why or "yeast finds little to feed on here, and no gluten to hold its gas"
            if why and id_ in wishes.poured:
                self.clashes.append(f"{ingredient.short} is already in the bowl, and {why}")
            elif why:
                self._gone(ingredient, amount, why, kept)
            else:
                kept[id_] = self._kept(ingredient, amount, whole)
        if self.carb_cap and any(i.contains_gluten != "no" or i.is_flour for i in whole):
            self.replaced.add("egg")
        if "protein_g" in wishes.floors:
            self.replaced.add("protein_powder")
        if any(i.gluten_strength > 0 for i, _, _ in self.removed):  # gluten that went took its set with it
            self.replaced.add("wheat_flour")
        if any(i.id in YEASTS for i, _, _ in self.removed):
            self.replaced.add("leavener")
        if wishes.form not in (None, self.base.form):
            self.replaced |= {"leavener", "water_juice", "fat_oil"}
        if wishes.locked:
            self.replaced.add("water_juice")  # round what was set by hand the flow is closed with water, if with nothing else
        if wishes.thin_with == "water":
            self.replaced.add("water_juice")
        self.replaced |= self.course.offered
        new = self._new({*kept, *(i.id for i, _, _ in self.removed)})
        self._wished(kept, new)
        dish = next((i.short for i, amount in whole.items() if self.carb_cap and _is_the_dish(i, amount, whole)), "")
        flat = any(i.is_flour and _is_the_dish(i, g, whole) for i, g in whole.items())
        return Gathered(
            candidates=(*kept.values(), *new), removed=tuple(self.removed), clashes=tuple(dict.fromkeys(self.clashes)), dish=dish, flat=flat
        )

    def _gone(self, i: Ingredient, amount: float, why: str, kept: dict[str, Candidate]) -> None:
        """A line that cannot stay: what may stand in for it."""
        self.removed.append((i, amount, why))
        if i.group == "mix_in":  # gram for gram, by its kind: it is no part of the batter's balance
            stand_ins = (self.available(x) for x in self.facts.craft.stand_ins(i.id))
            by = next((x for x in stand_ins if x is not None and x.id not in self.grams and x.id not in kept), None)
            if by is not None:
                kept[by.id] = Candidate(
                    ingredient=by,
                    base_g=amount,
                    low=0.0 if self.carb_cap else amount,
                    high=amount,
                    new=False,
                    role="mixin",
                    cost=0.0,
                    oddness=0.0,
                )
            return
        if self.course.mend_alone:
            return  # what was counted twice needs no stand-in
        if self._twin(i) is None or (self.course.free_flours and i.is_flour):
            self.replaced.add(i.group)
        if i.id in self.facts.craft.curds:
            self.replaced.add("curd")
        if i.id in self.wishes.pins or i.id in self.wishes.locked:
            self.clashes.append(f"{i.short} is to be kept, and {why}")

    def _kept(self, i: Ingredient, amount: float, whole: Mapping[Ingredient, float]) -> Candidate:
        """A line that may stay, with how far it may move."""
        wishes = self.wishes
        low, high = self._range(i, amount, whole)
        if (self.tight and (low, high) != (amount, amount) and i.group != "protein_powder") or (self.course.free_flours and i.is_flour):
            self.replaced.add(i.group)
        if i.id in wishes.pins:
            low = max(low, 0.8 * amount)
        if wishes.thin_with == "water" and i.group in DRINKS:
            high = min(high, amount)
        held = i.id in wishes.locked or i.id in wishes.poured
        if i.id in wishes.locked:
            low = high = wishes.locked[i.id]
        if i.id in wishes.poured:
            low, high = wishes.poured[i.id], max(high, wishes.poured[i.id])
        return Candidate(
            ingredient=i,
            base_g=amount,
            low=low,
            high=max(low, high),
            new=False,
            role=self._role(i.id),
            cost=0.0,
            oddness=0.0,
            held=held,
            whole_g=whole_step(i) if i.group == "egg" else 0.0,
        )

    def _range(self, i: Ingredient, amount: float, whole: Mapping[Ingredient, float]) -> tuple[float, float]:
        course, limits = self.course, self.facts.craft.limits
        if course.mend_alone:
            least = 0.3 if i.group == "egg" or i.is_flour else 0.0
            return (least * amount, 4.0 * amount) if i.group in course.movable else (amount, amount)
        if self.carb_cap and i.id == "egg":
            return amount, 3.0 * amount  # eggs carry what the starch carried
        share = self.facts.craft.keep.get(i.group)
        if share is None:
            return amount, amount
        low, high = share
        if i.id in self.facts.craft.curds:
            return 0.9 * amount, min(high, 1.3) * amount
        if _is_the_dish(i, amount, whole) and not course.free_flours:
            return max(low, 0.6) * amount, high * amount
        if (self.tight and (i.is_flour or i.group in YIELDING)) or (course.free_flours and i.is_flour):
            crisp = self.carb_cap and self.form == "waffle"
            low = limits["fat_kept_waffle" if crisp else "fat_kept"] if i.group in ("fat_solid", "fat_oil") and self.carb_cap else 0.0
        elif _comes_whole(i, amount) and not self.wishes.locked:
            return amount, amount  # two bananas stay two bananas
        if self.carb_cap and i.group == "nut_seed_flour":
            high = 2.5
        if self.wishes.locked and not self.tight:
            low, high = limits["eased"] * low, high / limits["eased"]
        if i.group == "salt":
            high = max(high, limits["salt_most"] * sum(whole.values()) / amount)
        return low * amount, high * amount

    @property
    def savoury(self) -> bool:
        """Whether nothing sweet is in the batter: sugar, syrup or fruit."""
        return not any(self.facts.ingredients[k].group in SWEET for k in self.grams)

    @property
    def form(self) -> str:
        """The form of the answer."""
        return self.wishes.form or self.base.form

    def _role(self, id_: str) -> str:
        usage = self.facts.craft.usage(id_)
        return usage.role if usage else self.facts.ingredients[id_].group

    # ---- what is new

    def _new(self, taken: set[str]) -> list[Candidate]:
        gone = {i.id for i, _, _ in self.removed}
        had = {x.partition(":")[0] for k in taken for x in self.facts.ingredients[k].allergens}
        powder = any(k.startswith("baking_powder") for k in taken if k not in gone)
        found: dict[str, Candidate] = {}
        for usage in self.facts.craft.usages:
            groups = [g for g in usage.replaces if g in self.replaced]
            i = self.available(usage.ingredient) if groups and self.course.may_fetch(usage.role) else None
            if usage.role in ("moist", "sweetener") and self.savoury:
                continue  # nothing sweet into a batter that is not
            if i is None or not self._allowed(i, taken) or (powder and i.id.startswith("baking_powder")):
                continue  # one powder is enough
            cost = min(usage.replaces[g] for g in groups)
            if (old := found.get(i.id)) and old.cost <= cost:
                continue
            brings = {x.partition(":")[0] for x in i.allergens if not x.startswith(("may:", "cross:"))} & MAJOR - had
            found[i.id] = self._fetched(i, usage, cost, 0.04 * len(brings))
        # A certified twin is the same thing from a cleaner mill: it comes first, at no cost in taste.
        for gone_, amount, _ in self.removed:
            if (twin := self._twin(gone_)) is not None:
                share = self.facts.craft.keep.get(gone_.group, (0.7, 1.3))
                free = self.carb_cap or self.wishes.max_cost is not None or (self.course.free_flours and gone_.is_flour)
                low = 0.0 if free else share[0] * amount
                found[twin.id] = Candidate(
                    ingredient=twin,
                    base_g=0.0,
                    low=low,
                    high=max(1.0, share[1]) * amount,
                    new=True,
                    role=self._role(twin.id),
                    cost=0.0,
                    oddness=0.0,
                    twin=True,
                )
        by_role: dict[str, list[Candidate]] = {}
        for candidate in found.values():
            by_role.setdefault(candidate.role, []).append(candidate)
        return [c for role, some in by_role.items() for c in sorted(some, key=self._rank)[: MOST_PER_ROLE.get(role, 3)]]

    def _allowed(self, i: Ingredient, taken: set[str]) -> bool:
        wishes = self.wishes
        if i.id in taken or i.id in wishes.bans or (wishes.larder is not None and i.id not in wishes.larder):
            return False
        if i.group == "leavener" and i.potassium_mg > 0 and "sodium_mg" not in self.caps:
            return False  # for low-sodium bowls alone
        if i.id == "egg" and any(self.facts.ingredients[k].group == "egg" for k in taken):
            return False
        if i.contains_gluten == "yes" and not any(self.facts.ingredients[k].contains_gluten == "yes" for k in taken):
            return False  # a batter without gluten may be so for a reason that nobody told
        # Would still be drinking when the first piece is due: half of its water not taken up in the time at hand.
        return wishes.minutes is None or not i.is_drinker or absorbed_share(wishes.minutes, i.absorption_minutes) >= 0.5

    def _fetched(self, i: Ingredient, usage: Usage, cost: float, strange: float) -> Candidate:
        return Candidate(
            ingredient=i, base_g=0.0, low=0.0, high=self._most(i.id), new=True, role=usage.role, cost=cost, oddness=usage.oddness, basis=usage.basis, least=usage.least, most=usage.most, technique=usage.technique,
            strange=strange, whole_g=whole_step(i),
        )  # fmt: skip

    def _rank(self, c: Candidate) -> tuple[float, str]:
        i = c.ingredient
        net = (i.carb_g - i.fibre_g - i.polyol_g - i.allulose_g) / 100
        rank = c.cost + 0.4 * c.oddness + (1.5 * net if self.carb_cap else 0.0)
        rank += i.sodium_mg / 50_000 if "sodium_mg" in self.caps else 0.0
        rank -= 5 if i.id in self.wishes.pins else 0
        rank -= 0.5 if self.course.kind == "least_to_buy" and i.id in self.course.at_hand else 0.0
        return rank, i.id

    def _most(self, id_: str) -> float:
        """The most of a new thing [g], where it is bound to what it stands for: aquafaba by the eggs that went, since more of it is water."""
        eggs = sum(g for i, g, _ in self.removed if i.group == "egg")
        return self.facts.craft.limits["aquafaba_per_egg"] * eggs if id_ == "aquafaba" and eggs > 0 else math.inf

    def _wished(self, kept: Mapping[str, Candidate], new: list[Candidate]) -> None:
        """What was pinned, locked or poured and is no candidate yet."""
        wishes, gone = self.wishes, {i.id for i, _, _ in self.removed}
        by_hand = {*wishes.locked, *wishes.poured}
        for at, c in enumerate(new):
            if c.ingredient.id in by_hand:
                new[at] = self._by_hand(c.ingredient.id)
        there = {*kept, *gone, *(c.ingredient.id for c in new)}
        for pin in dict.fromkeys((*wishes.pins, *wishes.locked, *wishes.poured)):
            if pin in there or pin not in self.facts.ingredients:
                continue
            if why := self._denied(self.facts.ingredients[pin]):
                self.clashes.append(f"{self.facts.ingredients[pin].short} is wished for, and {why}")
            else:
                new.append(self._by_hand(pin))

    def _by_hand(self, id_: str) -> Candidate:
        """Something new that the cook put in: within what craft allows where it was only pinned, at its own amount where that was set."""
        i, usage = self.facts.ingredients[id_], self.facts.craft.usage(id_)
        held = id_ in self.wishes.locked or id_ in self.wishes.poured
        if held:
            low = self.wishes.locked.get(id_, self.wishes.poured.get(id_, 0.0))
            high = low if id_ in self.wishes.locked else math.inf
            return Candidate(
                ingredient=i,
                base_g=0.0,
                low=low,
                high=high,
                new=True,
                role=usage.role if usage else i.group,
                cost=0.0,
                oddness=0.0,
                held=True,
            )
        if usage:
            return self._fetched(i, usage.model_copy(update={"oddness": 0.0}), 0.0, 0.0)
        return Candidate(
            ingredient=i,
            base_g=0.0,
            low=0.0,
            high=math.inf,
            new=True,
            role=i.group,
            cost=0.0,
            oddness=0.0,
            basis="batter",
            least=0.01,
            most=0.3,
        )

    # ---- what the diets allow

    def available(self, id_: str) -> Ingredient | None:
        """See `available`."""
        return available(id_, self.rules, self.facts, self.profile, self.readings)

    def _denied(self, i: Ingredient) -> str:
        return denied(i, self.rules, self.profile, self.readings)

    def _beside_denied(self, line: BatterLine) -> str:
        """Why a line cannot stay for what goes with its food. What is only open is no reason: the line's own food can be taken."""
        bare = line.model_copy(update={"maybe": (), "unread": (), "guessed": ""})
        denying = (r for r in self.rules.values() if not beside_fits(bare, r, self.facts, self.profile, self.readings or {}))
        return next((f"{rule.label.lower()}: what goes with it does not fit" for rule in denying), "")

    def _twin(self, i: Ingredient) -> Ingredient | None:
        """The same thing from a certified mill, or made by hand, where it may be used: then nothing else need stand in for it."""
        twin, wishes = self.facts.ingredients.get(self.facts.craft.twins.get(i.id, certified(i.id))), self.wishes
        if twin is None or self._denied(twin) or twin.id in wishes.bans or (wishes.larder is not None and twin.id not in wishes.larder):
            return None
        return twin


def denied(i: Ingredient, rules: Mapping[str, DietRule], profile: Profile, readings: Readings | None) -> str:
    """Why the diets do not allow an ingredient; "" where they do."""
    for rule in rules.values():
        verdict, reason, _ = judge_ingredient(i, rule, profile, (readings or {}).get(i.id))
        if verdict != "fits":
            return f"{rule.label.lower()}: {reason.removeprefix(f'{i.short}: ')}"
    return ""


def available(
    id_: str, rules: Mapping[str, DietRule], facts: AdaptFacts, profile: Profile, readings: Mapping[str, PackReading] | None
) -> Ingredient | None:
    """The thing itself where the diets allow it, else the same from a certified mill where they allow that: nobody need buy a
    certified flour who was not asked for one."""
    for name in (id_, certified(id_)):
        i = facts.ingredients.get(name)
        if i is not None and not denied(i, rules, profile, readings):
            return i
    return None


def whole_step(i: Ingredient) -> float:
    """Grams of one piece of what is taken whole: an egg, a banana; 0 for what is measured."""
    return i.unit_g if i.unit_g and i.group in ("egg", "fruit_puree") else 0.0


def _comes_whole(i: Ingredient, amount: float) -> bool:
    """Whether an amount is so many whole pieces of a fruit."""
    count = amount / i.unit_g if i.unit_g and i.group == "fruit_puree" else 0.0
    return count > 0.5 and abs(count - round(count)) < 0.02


def _is_the_dish(i: Ingredient, amount: float, whole: Mapping[Ingredient, float]) -> bool:
    """What is the dish: the one grain or pulse of a flat, unleavened batter that is not wheat, unless eggs outweigh it; or vegetables, where
    they are more than all else together."""
    if i.group == "vegetable":
        mass = sum(whole.values())
        return amount > 0.2 * mass and sum(g for x, g in whole.items() if x.group == "vegetable") > 0.5 * mass
    if not i.is_flour or i.gluten_strength > 0 or any(x.group == "leavener" or x.soda_fraction for x in whole):
        return False
    if amount < sum(g for x, g in whole.items() if x.group == "egg"):
        return False
    return amount > 0.8 * sum(g for x, g in whole.items() if x.is_flour)
