"""A batch as named figures, each from a ledger, a clock or a word; what was not recorded is left out.

Composition and time are separate: spreads are compared at the plan's own rest. The reference version is the measure where there is one,
not the form's band: what was proven is no fault.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from ..analysis.analysis import Analysis
from ..balances.lift import FOAM_ML_PER_G, FOLDED
from ..balances.water import water
from ..batter.batter import FormKey
from ..batter.bowl import Bowl, fill
from ..batter.main_liquid import thins
from ..food.ingredients import Ingredient
from ..heat.cooking import Cooking
from ..heat.facts import HeatFacts
from ..heat.largest_piece import workable
from ..heat.pieces import piece_on, reckon, surfaces_for
from ..heat.surfaces import Surface
from ..roots import boundary
from ..stove.facts import StoveFacts
from ..stove.resting import lift_left, window
from .record import Record
from .tables import DiagnosisTables

STARCHY = 0.3
WET = 50.0  # g water in 100 g: fruit that can let go of juice
READ_DOUBT_CM = 0.5  # what a ruler on a plate is good to
THICKEST_MM = 40.0
ROOMY = 20.0  # minutes beyond the planned rest in which a bowl is used up as usual


@dataclass(frozen=True, slots=True, kw_only=True)
class Figures:
    """The figures of a batch by name, what its bowl holds (for the causes that need it), how it met the fire, and what was not recorded."""

    values: Mapping[str, float]
    holds: frozenset[str]
    fire: "Fire"
    not_recorded: tuple[str, ...]


def figures(r: Record, now: Analysis, ref: Analysis | None, facts: StoveFacts, tables: DiagnosisTables) -> Figures:
    """The figures of a batch that was analysed as it was poured, beside its reference."""
    net = tables.network
    found: dict[str, float] = {}

    def put(name: str, value: float | None) -> None:
        if value is not None and math.isfinite(value):
            found[name] = value

    def against(name: str, value: float, of: float | None, more: bool = True) -> float:
        """A figure measured from its neutral point where the reference lies beyond it."""
        neutral = net.neutral[name]
        return value if of is None else value - max(0.0, of - neutral) if more else value + max(0.0, neutral - of)

    _flow(now, ref, facts, put)
    band = now.bowl.form.lift
    gas = _gas(now)
    low, high = band if ref is None else (min(band[0], 0.9 * _gas(ref)), max(band[1], 1.1 * _gas(ref)))
    put("lift_of_low", gas / low if low > 0 else None)
    put("lift_of_high", gas / high if high > 0 else None)
    put("alkali_meq", against("alkali_meq", now.lift.residual_alkali_meq_per_100g, ref.lift.residual_alkali_meq_per_100g if ref else None))
    put("acid_meq", against("acid_meq", now.lift.excess_acid_meq_per_100g, ref.lift.excess_acid_meq_per_100g if ref else None))
    floor = now.bowl.form.set_floor if ref is None else min(now.bowl.form.set_floor, 0.9 * ref.setting.per_100g)
    put("set_of_floor", now.setting.per_100g / floor if floor > 0 else None)
    put("set_of_rubbery", now.setting.per_100g / max(net.rubbery, 1.1 * ref.setting.per_100g if ref else 0.0))
    put("egg_share", now.setting.egg_share)
    flour = now.bowl.total("flour")
    if flour > 0:
        for name, of, more in (
            ("gel_saturation", _gel(net.gel_most), True),
            ("sugar_of_flour", _sugar, True),
            ("fat_of_flour", _fat, False),
        ):
            put(name, against(name, of(now.bowl), of(ref.bowl) if ref is not None and ref.bowl.total("flour") > 0 else None, more))
    if ref is not None and now.ledger("browning").per_100g > 0 and ref.ledger("browning").per_100g > 0:
        put("brown_of_base", now.ledger("browning").per_100g / ref.ledger("browning").per_100g)
    put("gluten", _share(now.bowl, lambda p: p.ingredient.contains_gluten == "yes"))
    slow = [
        (p.grams * p.ingredient.absorption_g_per_g, p.ingredient.absorption_minutes) for p in now.bowl.portions if p.ingredient.is_drinker
    ]
    drinks = sum(g for g, _ in slow)
    put("slow_share", sum(g for g, t in slow if t > net.slow_min) / drinks if drinks > 0 else None)
    put("starch_bare", _bare_starch(now.bowl, net.gum_of_starch))
    _times(r, now, facts, put)
    if r.judged:
        _judged(r, now, ref, facts, put)
    put("measured_by_cups", None if r.by is None else float(r.by == "measure"))
    _packs(r, now, tables, put)
    fire = _heat(r, now, facts, put)
    e = r.events
    put("mix_of_usual", e.mix_s / net.mix_s if e.mix_s is not None else None)
    put("grease", {"none": 0.0, "film": 1.0, "generous": 2.0}[e.grease] if e.grease else None)
    put("loads_since_wiped", e.loads_since_wiped)
    put("stacked", float(e.held in ("pile", "covered")) if e.held else None)
    put("fruit_frozen", {"thawed": 1.0, "frozen": 0.3}.get(e.fruit, 0.0) if e.fruit else None)
    put("stirred_between", float(e.stirred) if e.stirred is not None else None)
    put("order_off", float(e.order_off) if e.order_off is not None else None)
    if r.when is not None:
        put("seen_first_only", float(r.when == "first"))
        put("seen_late_only", float(r.when == "later"))
    holds = _holds(now, ref, found, facts, tables)
    return Figures(values=found, holds=holds, not_recorded=_missing(r), fire=fire)


def _flow(now: Analysis, ref: Analysis | None, facts: StoveFacts, put: Callable[[str, float | None], None]) -> None:
    """A change of spread, split by what made it: the ratio of liquid to flour, or the other ingredients at the old ratio."""
    spread, band = now.water.spread_cm, now.bowl.form.spread_cm
    put("missing_g_per_100g", now.bowl.per_100g(now.water.missing_g) if now.water.missing_g > 0 else None)
    if spread is None:
        spread = 4.0  # it does not flow at all
    if ref is None or ref.water.spread_cm is None:
        off = min(0.0, spread - band[0]) + max(0.0, spread - band[1])
        put("spread_vs_band_cm", off)
        put("liquid_shift_cm", off)
        put("flow_off_cm", abs(off))
        return
    put("spread_vs_band_cm", spread - ref.water.spread_cm)
    put("flow_off_cm", abs(spread - ref.water.spread_cm))
    ratio, old = _ratio(now.bowl), _ratio(ref.bowl)
    if ratio is None or old is None or ratio <= 0:
        return
    same = _with_liquid(now, old / ratio, facts)
    put("liquid_shift_cm", spread - (same if same is not None else 4.0))
    if _swapped(now, ref):
        put("swap_shift_cm", abs((same if same is not None else 4.0) - ref.water.spread_cm))


def _ratio(bowl: Bowl) -> float | None:
    flour = bowl.total("flour")
    return sum(p.grams * p.per.water for p in bowl.portions if thins(p.ingredient)) / flour if flour > 0 else None


def _with_liquid(a: Analysis, factor: float, facts: StoveFacts) -> float | None:
    """The spread [cm] of the same bowl with so many times its liquid."""
    lines = [
        line.model_copy(update={"grams": line.grams * factor}) if line.counts and thins(facts.ingredients[line.ingredient or ""]) else line
        for line in a.batter.lines
    ]
    return water(fill(a.batter.model_copy(update={"lines": tuple(lines)}), facts)).spread_cm


def _swapped(now: Analysis, ref: Analysis) -> bool:
    return {p.ingredient.id for p in now.bowl.portions} != {p.ingredient.id for p in ref.bowl.portions}


def _gas(a: Analysis) -> float:
    """Gas and whipped air [mL in 100 g] as they can be."""
    air = FOAM_ML_PER_G * FOLDED * sum(p.foam_g for p in a.bowl.portions)
    return a.lift.co2_ml_per_100g + a.bowl.per_100g(air)


def _gel(most: float) -> Callable[[Bowl], float]:
    return lambda bowl: bowl.total("gel") / (most * bowl.total("flour"))


def _sugar(bowl: Bowl) -> float:
    return bowl.total("sweet") / bowl.total("flour")


def _fat(bowl: Bowl) -> float:
    return bowl.total("fat") / bowl.total("flour")


def _share(bowl: Bowl, of: Callable[..., bool]) -> float | None:
    flour = sum(p.grams for p in bowl.portions if p.ingredient.is_flour)
    return sum(p.grams for p in bowl.portions if p.ingredient.is_flour and of(p)) / flour if flour > 0 else None


def _bare_starch(bowl: Bowl, gum_of_starch: float) -> float | None:
    starch = sum(p.grams for p in bowl.portions if p.ingredient.group == "starch")
    gum = sum(p.grams for p in bowl.portions if p.ingredient.group == "binder")
    share = _share(bowl, lambda p: p.ingredient.group == "starch")
    return share if starch == 0 or gum < gum_of_starch * starch else 0.0


def _times(r: Record, now: Analysis, facts: StoveFacts, put: Callable[[str, float | None], None]) -> None:
    e = r.events
    rest = now.bowl.rest_min
    if e.wet_to_first_min is not None:
        put("rest_of_form", e.wet_to_first_min / rest if rest > 0 else None)
        needs = window(now.bowl, now.batter.blender, facts.stove.time).earliest_min
        put("rest_of_need", e.wet_to_first_min / needs if needs > 0 else None)
    if e.wet_to_last_min is not None and now.bowl.total("soda") > 0:
        meant = lift_left(now.bowl, rest + ROOMY)
        put("lift_left_last", lift_left(now.bowl, e.wet_to_last_min) / meant if meant > 0 else None)
    put("foam_min", e.foam_to_last_min)


def _judged(r: Record, now: Analysis, ref: Analysis | None, facts: StoveFacts, put: Callable[[str, float | None], None]) -> None:
    """The last plate: against what was poured, and against what it should have been, at that minute."""
    seen = next((j for j in reversed(r.judged) if j.way != "eye"), None)
    if seen is None:
        return
    was = _at(now, seen.minutes, facts)
    aim = _at(ref, seen.minutes, facts) if ref is not None else None
    if was is not None:
        spread, low, high = was
        sd = math.hypot((high - low) / 4, READ_DOUBT_CM)
        put("judge_surprise_sd", abs(seen.cm - spread) / sd)
    if aim is not None:
        put("judged_vs_target_cm", seen.cm - aim[0])
    elif ref is None:
        band = now.bowl.form.spread_cm
        put("judged_vs_target_cm", min(0.0, seen.cm - band[0]) + max(0.0, seen.cm - band[1]))


def _at(a: Analysis, minutes: float, facts: StoveFacts) -> tuple[float, float, float] | None:
    """The spread [cm] after so many minutes, with its bounds."""
    w = water(fill(a.batter.model_copy(update={"rest_min": minutes}), facts))
    if w.spread_cm is None or w.spread_low_cm is None or w.spread_high_cm is None:
        return None
    return w.spread_cm, w.spread_low_cm, w.spread_high_cm


def _packs(r: Record, now: Analysis, tables: DiagnosisTables, put: Callable[[str, float | None], None]) -> None:
    used = {p.ingredient.id: p.ingredient for p in now.bowl.portions}
    powder = [a.opened_days for id, a in r.packs.items() if id in used and used[id].group == "leavener" and a.opened_days is not None]
    meal = [a.opened_days for id, a in r.packs.items() if id in used and _is_meal(used[id], tables) and a.opened_days is not None]
    put("powder_age_days", max(powder, default=None))
    put("meal_age_days", max(meal, default=None))


def _is_meal(i: Ingredient, tables: DiagnosisTables) -> bool:
    holds = tables.network.holds
    return i.group in holds["meal_groups"] or i.id in holds["meal"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Fire:
    """How a piece cooks at the heat it had, and at the right one; on which surface, how thick [mm]."""

    cooking: Cooking | None = None
    advised: Cooking | None = None
    surface: Surface | None = None
    thickness_mm: float | None = None


def _heat(r: Record, now: Analysis, facts: HeatFacts, put: Callable[[str, float | None], None]) -> Fire:
    """Heat, turn and thickness against what the heat model has for such a piece."""
    e, form = r.events, now.batter.form
    surface = next(iter(surfaces_for(form, facts.surfaces, now.batter.tray)), None)
    if e.heat_on_min is not None:
        need = e.heat_up_min if e.heat_up_min is not None else surface.heat_up_min if surface else None
        put("warmed_of_need", e.heat_on_min / need if need else None)
    if e.gap_s is not None:
        need = e.recover_s if e.recover_s is not None else surface.recover_s if surface else None
        put("recover_of_need", e.gap_s / need if need else None)
    if surface is None:
        return Fire()
    thick = e.thickness_mm or piece_on(now, surface, now.bowl.portion_ml, "film", facts).thickness_mm
    thick = min(80.0, max(0.3, round(thick, 1)))
    advised = workable(thick, form, surface, facts) or workable(round(_most(form, surface.usual_c, facts), 1), form, surface, facts)
    if advised is not None:
        put("heat_vs_advised_c", e.read_c - advised.celsius if e.read_c is not None else None)
        put("set_vs_advised_c", e.set_c - advised.celsius if e.set_c is not None else None)
    celsius = e.read_c or e.set_c or (advised.celsius if advised else surface.usual_c)
    cooked = reckon(facts.heat, form, thick, min(350.0, max(60.0, float(celsius))), "film")
    best = cooked if cooked.done_s is not None else advised
    if best is not None:
        put("turn_of_predicted", e.turned_s / best.turn_s if e.turned_s is not None and best.turn_s else None)
        put("off_of_predicted", e.off_s / best.done_s if e.off_s is not None and best.done_s else None)
    if e.thickness_mm is not None:
        most = _most(form, float(celsius), facts)
        put("thick_of_most", thick / most if most > 0 else None)
    return Fire(cooking=cooked, advised=advised, surface=surface, thickness_mm=thick)


def _most(form: FormKey, celsius: float, facts: HeatFacts) -> float:
    """The thickest piece [mm] that a heat cooks through before it burns; halved until it is known to a quarter of a millimetre."""
    celsius = min(350.0, max(60.0, celsius))

    def works(mm: float) -> bool:
        return reckon(facts.heat, form, round(mm, 2), celsius, "film").verdict == "works"

    return boundary(works, 1.0, THICKEST_MM, 7)[0]


def _holds(now: Analysis, ref: Analysis | None, found: Mapping[str, float], facts: StoveFacts, tables: DiagnosisTables) -> frozenset[str]:
    """What the bowl holds, of all that a cause can need."""
    ids = {p.ingredient.id for p in now.bowl.portions} | {line.ingredient for line in now.batter.lines if line.known}
    groups = {p.ingredient.group for p in now.bowl.portions} | {facts.ingredients[i].group for i in ids if i}
    holds = tables.network.holds
    told = {
        "flow": now.bowl.total("flour") > 0 and not any(p.foam_g for p in now.bowl.portions),
        "lift": now.bowl.total("soda") > 0,
        "soda": any(p.ingredient.id == "baking_soda" for p in now.bowl.portions) or now.lift.residual_alkali_meq_per_100g > 0.3,
        "gluten": found.get("gluten", 0.0) > 0.1,
        "slow": found.get("slow_share", 0.0) > 0.2,
        "gel": now.bowl.total("gel") > 0,
        "egg": "egg" in groups,
        "foam": any(p.foam_g for p in now.bowl.portions),
        "fruit": any(i and facts.ingredients[i].group in ("mix_in", "fruit_puree") and facts.ingredients[i].water_g > WET for i in ids),
        "swap": ref is not None and _swapped(now, ref),
        "green": bool(ids & set(holds["green"])),
        "meal": any(_is_meal(p.ingredient, tables) for p in now.bowl.portions),
        "starch": found.get("starch_bare", 0.0) > STARCHY,
    }
    return frozenset(k for k, there in told.items() if there)


def _missing(r: Record) -> tuple[str, ...]:
    e = r.events
    return tuple(
        words
        for words, missing in (
            ("when it was wetted and poured", e.wet_to_first_min is None and e.wet_to_last_min is None),
            ("surface never measured", e.read_c is None),
            ("turn and end of a load not tapped", e.turned_s is None and e.off_s is None),
            ("bowl never judged on a plate", not r.judged),
            ("no reference version", r.reference is None),
            ("which pieces showed it", r.when is None),
            ("age of the packs", not r.packs),
        )
        if missing
    )
