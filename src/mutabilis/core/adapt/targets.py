"""What an answer should keep: the balances of its base, where they are sound, and what its form wants, where they are not."""

import math
from dataclasses import dataclass, field

from ..analysis.analysis import Analysis
from ..balances.lift import EXCESSIVE, FOAM_HALF_MIN, FOAM_ML_PER_G, FOLDED, YEASTS
from ..balances.setting import RUBBERY
from ..batter.batter import Form
from ..batter.bowl import Bowl, Portion, drinking_minutes, scalded
from ..batter.flow import stress_from_spread
from ..food.ingredients import certified
from .candidates import Gathered
from .course import Course
from .facts import AdaptFacts
from .wishes import DRINKS, Wishes

THINNER = {"thinner": 0.75, "same": 1.0, "thicker": 1.33}  # times the yield stress: about 0.7 cm either way
FATS = ("fat_solid", "fat_oil", "nut_butter")
SAFE_FLOOR = 1.03  # a little above the floor of set, so that rounding does not cross it
WEAK_KEPT = 0.97  # of what a weak base has itself: it is not asked to be stronger than it is
ENOUGH = 0.25  # of the way through a band, where there was too little lift, or the yeast went
LEAST_SOLIDS = 0.02  # of what flows: with less, nothing that swells gives the body
WELL_IN = (1.2, 0.9)  # times the least and the most of a band: what is mended comes to lie well within it


@dataclass(frozen=True, slots=True, kw_only=True)
class Targets:
    """Totals of the base [g, mL, mg], and per 100 g where said; how hard they are held is the program's."""

    batter_g: float
    tau: float
    theta: float
    gas_per_100g: float
    sour_per_100g: float
    fat: float
    sweet: float
    salt_taste: float
    protein: float
    flour: float
    liquid: float
    set_per_100g: float
    form: Form
    rest_min: float
    servings: float
    caps: dict[str, float] = field(default_factory=dict)
    floors: dict[str, float] = field(default_factory=dict)
    prices: dict[str, float] = field(default_factory=dict)
    max_cost: float | None = None
    lean: bool = False  # carbohydrate has a ceiling
    body: float = 0.0  # swollen volume of the flours [mL]
    gel: float = 0.0  # grams of liquid times their thickening
    drinks: float = 0.0  # milk and what stands for it [g]
    air: dict[str, float] = field(default_factory=dict)  # kept air [mL/g] of what is whipped
    binders: int = 2
    set_floor: float = 0.0  # egg-equivalents per 100 g that the answer has at least
    rich: float = 0.0  # of its protein, what a protein batter keeps at least
    added: float = 0.0  # fat poured in, and the fat of what had to go [g]
    curd: bool = False
    bare: bool = False  # nothing in it swells: eggs, fruit and curd flow by their own thickness
    cultured: float = 0.0  # yogurt and its kin, curds apart [g]
    dish: bool = False  # one grain or pulse, flat: it is made without a binder as well
    gone_liquid: float = math.inf  # drinks that had to go [g]
    foam: float = 0.0  # kept air of the base [mL]
    scalded: float = 0.0  # share of the flours' starch that boiling liquid turns to paste


def targets(before: Analysis, bowl: Bowl, wishes: Wishes, gathered: Gathered, course: Course, facts: AdaptFacts) -> Targets:
    """The targets of one adaptation."""
    changed = wishes.form not in (None, before.batter.form)
    air, limits, lean = _air(bowl, wishes, gathered), facts.craft.limits, wishes.lean(facts)
    curds = facts.craft.curds
    curd = any(p.ingredient.id in curds for p in bowl.portions)
    form = facts.forms[wishes.form or before.batter.form]

    def own(key: str) -> float:
        """Of the batter itself: what is folded in brings its own fat and sweetness, and takes them along."""
        return float(sum(p.grams * getattr(p.per, key) for p in bowl.portions if p.ingredient.group != "mix_in"))

    def grams(*groups: str) -> float:
        return sum(p.grams for p in bowl.portions if p.ingredient.group in groups and p.ingredient.id not in curds)

    tau_own = before.water.yield_stress_pa
    middle = (form.spread_cm[0] + min(form.spread_cm[1], 17.5)) / 2
    tau = stress_from_spread(middle) if tau_own is None or changed else tau_own
    tau = stress_from_spread(wishes.spread_cm) if wishes.spread_cm else tau * THINNER[wishes.flow]
    powdered = any(p.ingredient.group == "protein_powder" for p in bowl.portions)
    salty = form.salt[1] * before.batter_g / 100
    return Targets(
        batter_g=before.batter_g, tau=max(0.05, tau), theta=before.water.thickening,
        gas_per_100g=_gas(before, bowl, form, wishes, gathered, course, facts), sour_per_100g=before.lift.excess_acid_meq_per_100g,
        fat=own("fat"), sweet=own("sweet"), salt_taste=min(own("salt_taste"), WELL_IN[1] * salty) if "salty" in course.mends else own("salt_taste"),
        protein=own("protein"), flour=bowl.total("flour"), liquid=bowl.total("liquid"),
        set_per_100g=min(before.setting.per_100g, WELL_IN[1] * RUBBERY) if "set_rubbery" in course.mends else before.setting.per_100g,
        form=form, rest_min=drinking_minutes(bowl.rest_min, bowl.pace, before.batter.blender), servings=before.servings,
        caps=wishes.all_caps(facts), floors={str(k): v for k, v in wishes.floors.items()}, prices=dict(wishes.prices), max_cost=wishes.max_cost,
        lean=lean, body=0.0 if changed else sum(p.grams * p.per.flour * p.per.flow_solid for p in bowl.portions), gel=bowl.total("thick"),
        drinks=grams(*DRINKS), air=air, binders=_binders(bowl, gathered),
        set_floor=_floor(before, bowl, form, lean, gathered, course),
        rich=limits["rich"] if powdered else limits["rich_curd"] if curd else 0.0,
        added=sum(p.grams * p.per.fat for p in bowl.portions if p.ingredient.group in FATS)
        + sum(g * i.fat_g / 100 for i, g, _ in gathered.removed if i.group not in FATS and not i.is_flour),
        dish=gathered.flat, gone_liquid=sum(g for i, g, _ in gathered.removed if i.group in DRINKS or i.group == "water_juice"),
        cultured=0.0 if changed else grams("cultured_dairy"), curd=curd, foam=sum(p.grams * air.get(p.ingredient.id, 0.0) for p in bowl.portions),
        scalded=scalded(before.batter.lines, facts), bare=tau == tau_own and before.water.solids_fraction < LEAST_SOLIDS,
    )  # fmt: skip


def _gas(before: Analysis, bowl: Bowl, form: Form, wishes: Wishes, gathered: Gathered, course: Course, facts: AdaptFacts) -> float:
    """The gas and kept air to hold [mL per 100 g]: the base's; what the form wants, where the base is at fault or another form is asked."""
    limits, (low, high) = facts.craft.limits, form.lift
    gas = before.lift.co2_ml_per_100g + bowl.per_100g(before.lift.air_ml)
    if wishes.eggs == "separated" and any(p.foam_g for p in bowl.portions):
        gas = before.lift.co2_ml_per_100g  # the foam is lift of its own, on top
    if wishes.form not in (None, before.batter.form):
        gas = min(max(gas, low * 1.1), high * 0.9)
    if any(i.id in YEASTS for i, _, _ in gathered.removed):
        gas = max(gas, low + ENOUGH * (high - low))
    if wishes.lean(facts):
        gas = min(gas, max(limits["gas_lean_least"] * low, limits["gas_lean"] * gas))
    if course.mends & {"lift_none", "lift_low"}:
        return low + ENOUGH * (high - low)
    if course.mends_lift or gas > EXCESSIVE:  # a fault of the base is not handed on
        gas = min(max(gas, WELL_IN[0] * low), WELL_IN[1] * high)
    return gas


def _air(bowl: Bowl, wishes: Wishes, gathered: Gathered) -> dict[str, float]:
    """Air kept by what is whipped [mL/g]: the base's own foam, and aquafaba where the whites that foamed have to go."""
    if wishes.eggs == "separated":
        return {}
    per = FOAM_ML_PER_G * FOLDED * 2 ** (-bowl.age_min / FOAM_HALF_MIN)
    air = {p.ingredient.id: per * p.foam_g / p.grams for p in bowl.portions if p.foam_g}
    if air and {i.id for i, _, _ in gathered.removed} & set(air):
        air["aquafaba"] = per
    return air


def _binders(bowl: Bowl, gathered: Gathered) -> int:
    """Two binders where gluten and egg go together, or where the flours do not hold at all; one else."""
    gone = [i for i, _, _ in gathered.removed]
    eggs = any(i.group == "egg" for i in gone)
    return 2 if eggs and (any(i.gluten_strength > 0 for i in gone) or _loose(bowl.portions)) else 1


def _loose(portions: tuple[Portion, ...]) -> bool:
    """Flours that weaken what holds: nuts and seeds."""
    return any(p.ingredient.is_flour and p.ingredient.egg_equivalents_per_g < 0 for p in portions)


def _floor(before: Analysis, bowl: Bowl, form: Form, lean: bool, gathered: Gathered, course: Course) -> float:
    """The set to reach [egg-equivalents per 100 g]: the form's floor; less where the base itself holds with less and its flour stays.

    Nut flours that lose the egg which held them hold comfortably by something else, or it cannot be done.
    """
    if _loose(bowl.portions) and any(i.group == "egg" for i, _, _ in gathered.removed):
        return SAFE_FLOOR * form.set_comfort
    weak = before.setting.per_100g < SAFE_FLOOR * form.set_floor and "set_weak" not in course.mends and not _flour_leaves(lean, gathered)
    return WEAK_KEPT * max(before.setting.per_100g, 0.0) if weak else SAFE_FLOOR * form.set_floor


def _flour_leaves(lean: bool, gathered: Gathered) -> bool:
    """Whether flour the base held together by goes for another kind: then its own weakness is no measure any more."""
    new = {c.ingredient.id for c in gathered.candidates if c.new}
    return lean or any(i.is_flour and certified(i.id) not in new for i, _, _ in gathered.removed)
