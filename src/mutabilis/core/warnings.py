"""What the tool should say before the bowl does: faults named with amounts, and the cautions it always shows."""

from collections.abc import Callable
from dataclasses import dataclass

from .batter import Batter
from .bowl import Bowl
from .coefficients import SODA_G_PER_MOL
from .facts import Facts
from .ingredients import Ingredient
from .ledgers.lift import ML_PER_MMOL, NOT_RECKONED, TOO_ALKALINE, TOO_SOUR, Lift, gas_ml, yeasted
from .ledgers.setting import Setting
from .ledgers.water import Water

# Codes that say the batter itself is at fault, with the mend in their words.
FAULTS = (
    "water_missing",
    "alkali_left",
    "lift_none",
    "lift_excessive",
    "lift_high",
    "lift_twice",
    "set_weak",
    "set_rubbery",
    "salty",
)
LEMON_SHARE = 0.08  # of a bowl: with more of it the batter tastes of lemon (a judgement)


@dataclass(frozen=True, slots=True)
class Warning:
    """A code that scripts can hold on to, and words for the cook."""

    code: str
    text: str


def spoons(tsp: float) -> str:
    """Tea spoons in the steps a spoon set has.

    >>> [spoons(x) for x in (0.1, 0.26, 0.9, 1.6)]
    ['a pinch', '1/4 tsp', '1 tsp', '1 1/2 tsp']
    """
    eighths = round(tsp * 4)
    if eighths < 1:
        return "a pinch"
    whole, part = divmod(eighths, 4)
    fraction = {0: "", 1: "1/4", 2: "1/2", 3: "3/4"}[part]
    return " ".join(x for x in (str(whole) if whole else "", fraction, "tsp") if x)


def warn(batter: Batter, bowl: Bowl, w: Water, x: Lift, s: Setting, salt_per_100g: float, facts: Facts) -> tuple[Warning, ...]:
    """Everything worth saying about this bowl, the most pressing first."""
    found: list[Warning] = []

    def say(code: str, text: str) -> None:
        found.append(Warning(code, text))

    for line in batter.lines:
        if line.unresolved:
            say("line_not_read", f"“{line.text[:80]}” was not read: {line.problem}.")
    if w.missing_g > 0:
        say(
            "water_missing",
            f"The flours here want about {w.missing_g:.0f} g more water than there is: add about {w.missing_g:.0f} g of liquid, or take less of the thirstiest.",
        )
    if bowl.batter_g > 0:
        _lift(bowl, x, facts, say)
        if s.verdict == "weak":
            say(
                "set_weak",
                f"Little holds this together ({s.per_100g:.2f} of {bowl.form.set_floor:g} egg-equivalents per 100 g): it may fall apart.",
            )
        if s.verdict == "rubbery":
            say("set_rubbery", "So much sets here that it turns rubbery.")
        if s.egg_dependent:
            say("egg_dependent", "This batter lives from its eggs: no replacer carries it. Change the flour instead.")
        if salt_per_100g > bowl.form.salt[1]:
            say("salty", f"About {salt_per_100g:.1f} g of salt to 100 g batter: more than a breakfast wants.")
    if half := half_swapped(batter, facts):
        say("half_swapped", half)
    say("cook_through", facts.safety.words("cook_through"))
    ids = {p.ingredient.id for p in bowl.portions}
    if "xylitol" in ids:
        say("xylitol", "Xylitol is poison to dogs: no scraps, and tell the guests.")
    if bowl.total("polyols") > 20:
        say("polyols", f"{bowl.total('polyols'):.0f} g of sugar alcohols in the batter: they upset the gut in quantity.")
    if ids & {"psyllium_husk", "psyllium_powder", "flax_meal", "chia_meal", "chia_seeds"}:
        say("gels_wet", "Psyllium and seed gels are eaten wetted, never dry.")
    if any(p.ingredient.allergens or p.ingredient.contains_gluten != "no" for p in bowl.portions):
        say("allergens", "The pack's own label decides; shared scoops, irons and flour dust carry traces.")
    return tuple(found)


def _lift(bowl: Bowl, x: Lift, facts: Facts, say: Callable[[str, str], None]) -> None:
    soda, powder, buttermilk, lemon = (facts.ingredients[k] for k in ("baking_soda", "baking_powder", "buttermilk", "lemon_juice"))

    def soda_for(meq: float) -> str:
        return _in_spoons(meq * SODA_G_PER_MOL / 1000, soda)

    def powder_for(ml_per_100g: float) -> float:
        """Baking powder [g] that gives so much gas [mL per 100 g batter] more or less."""
        return max(0.0, ml_per_100g) * bowl.batter_g / 100 / (ML_PER_MMOL * powder.soda_fraction * 1000 / SODA_G_PER_MOL)

    low, high = bowl.form.lift
    if x.residual_alkali_meq_per_100g > TOO_ALKALINE:
        meq = x.residual_alkali_meq_per_100g * bowl.batter_g / 100
        # The gas of the soda taken out, as far as the spoon takes it, goes with it: powder brings its own acid and makes that good.
        out = min(x.bicarbonate_mmol, _spooned(meq * SODA_G_PER_MOL / 1000, soda) * 1000 / SODA_G_PER_MOL)
        after = bowl.per_100g(gas_ml(x.bicarbonate_mmol - out, x.acid_meq, x.buffer_meq) + x.air_ml)
        grams = powder_for(1.15 * low - after) if after < low and not yeasted(bowl) else 0.0
        instead = f" with about {_in_spoons(grams, powder)} ({grams:.0f} g) of baking powder in its place" if grams >= 0.5 else ""
        say("alkali_left", f"Soda finds no acid: about {soda_for(meq)} less soda{instead}{_acid_for(bowl, meq, buttermilk, lemon)}.")
    if x.excess_acid_meq_per_100g > TOO_SOUR:
        meq = x.excess_acid_meq_per_100g * bowl.batter_g / 100
        say(
            "acid_left",
            f"Acid is left over: sour and pale. About {soda_for(meq)} of soda would meet it.",
        )
    if x.verdict == NOT_RECKONED:
        say("yeast", "Yeast lifts this batter; how far is not reckoned: give it warmth and a little sugar or starch, and let it double.")
    if x.verdict == "none":
        grams = powder_for((low + high) / 2 * 0.8)
        say(
            "lift_none",
            f"Nothing lifts this batter: no powder, no soda with acid, no foam. About {grams:.0f} g ({_in_spoons(grams, powder)}) of baking powder would.",
        )
    elif x.verdict == "low":
        grams = powder_for(1.15 * low - x.co2_ml_per_100g)
        say(
            "lift_low",
            f"Little lift: {x.co2_ml_per_100g:.0f} mL per 100 g, where {low:g} is the least for a {bowl.form.label}: about {_in_spoons(grams, powder)} more baking powder.",
        )
    elif x.verdict in ("high", "excessive"):
        grams = powder_for(x.co2_ml_per_100g - 0.9 * high)
        less = f"about {_in_spoons(grams, powder)} ({grams:.0f} g) less powder, or a third of that of soda"
        if x.verdict == "high":
            say(
                "lift_high",
                f"Much lift: {x.co2_ml_per_100g:.0f} mL per 100 g, where {high:g} is the most for a {bowl.form.label}: {less}.",
            )
        else:
            say(
                "lift_excessive",
                f"Far too much leavening: {x.co2_ml_per_100g:.0f} mL per 100 g. Coarse, bitter and salty: {less}.",
            )
    raising = sum(p.grams for p in bowl.portions if p.per.soda and p.ingredient.is_flour)
    powders = sum(p.grams for p in bowl.portions if p.ingredient.group == "leavener")
    if raising and powders > 0.02 * raising:
        say("lift_twice", "Self-raising flour carries its own powder: with more beside it, lift is counted twice.")
    if x.latest_min is not None and x.latest_min < bowl.rest_min:
        say(
            "lift_leaves",
            f"Half-spent after the rest: cook within {x.latest_min:.0f} min of wetting the leavening, or wet it last.",
        )


def _acid_for(bowl: Bowl, meq: float, buttermilk: Ingredient, lemon: Ingredient) -> str:
    """What sour thing would meet so much alkali [meq]: buttermilk for the milk where there is enough of it to take away; without dairy
    lemon juice, which every diet allows; nothing where it would make another batter."""
    milks = [p for p in bowl.portions if p.ingredient.group == "milk" and p.ingredient.water_g > 80]
    milk_g = sum(p.grams for p in milks)
    own = sum(p.grams * p.per.acid for p in milks)  # meq that goes with the milk
    gain = buttermilk.acid_meq_per_100g / 100 - (own / milk_g if milk_g else 0.0)
    if milk_g and gain > 0 and meq / gain <= milk_g:
        return f", or buttermilk in place of {meq / gain:.0f} g of the milk"
    grams = 100 * meq / lemon.acid_meq_per_100g
    if grams <= LEMON_SHARE * bowl.batter_g and not any("milk" in p.ingredient.allergens for p in bowl.portions):
        return f", or {grams:.0f} g of lemon juice"
    return ""


def _in_spoons(grams: float, i: Ingredient) -> str:
    """Grams of a powder in tea spoons, by the weight of its own."""
    return spoons(grams / (i.tsp_g or 5.0))


def _spooned(grams: float, i: Ingredient) -> float:
    """What the spoons of `_in_spoons` hold [g]."""
    tsp_g = i.tsp_g or 5.0
    return round(grams / tsp_g * 4) / 4 * tsp_g


def half_swapped(batter: Batter, facts: Facts) -> str:
    """A swap done by halves: a plant drink or yogurt beside something dairy, in the batter or on the plate. "" where there is
    none."""
    plant: list[str] = []
    dairy: list[str] = []
    for line in batter.lines:
        if line.unresolved or line.ingredient is None:
            continue
        i = facts.ingredients[line.ingredient]
        if i.group in ("plant_milk", "plant_cultured"):
            plant.append(i.short)
        elif "milk" in i.allergens and i.group != "mix_in":
            dairy.append(f"{i.short}{' (on the plate)' if line.where == 'plate' else ''}")
    return f"Swapped by halves: {plant[0]} stands for the milk, but {' and '.join(dict.fromkeys(dairy))} stayed." if plant and dairy else ""
