"""What the tool should say before the bowl does: faults by their names, and the cautions it always shows."""

from collections.abc import Callable
from dataclasses import dataclass

from ..batter.batter import Batter
from ..batter.bowl import Bowl
from ..food.coefficients import SODA_G_PER_MOL
from ..food.functions import SOAKED
from .facts import BalanceFacts
from .lift import NOT_RECKONED, STEAM, TOO_ALKALINE, TOO_SOUR, Lift
from .setting import Setting
from .water import Water

# Codes that say the batter itself is at fault. Those of PLAIN_FAULTS nobody means: no answer hands them on. The others may be
# meant (a flat cake, a sour one), and are mended when that is asked for.
PLAIN_FAULTS = ("water_missing", "alkali_left", "lift_excessive", "lift_high", "salty")
FAULTS = (*PLAIN_FAULTS, "lift_none", "lift_twice", "set_weak", "set_rubbery")
MENDABLE = (*FAULTS, "acid_left", "lift_low")
TOLD = (*MENDABLE, "powder_for_soda")  # what is said of a batter at fault, mended or not


TWICE = 0.25  # of the gas of self-raising flour, so much beside it is a second leavening (a judgement)
MEETS_SODA = 1.5  # meq of acid left over in 100 g, which soda would have met (a judgement)


@dataclass(frozen=True, slots=True)
class Warning:
    """A code that scripts can hold on to, and words for the cook."""

    code: str
    text: str


def warn(batter: Batter, bowl: Bowl, w: Water, x: Lift, s: Setting, salt_per_100g: float, facts: BalanceFacts) -> tuple[Warning, ...]:
    """Everything worth saying about this bowl, the most pressing first."""
    found: list[Warning] = []

    def say(code: str, text: str) -> None:
        found.append(Warning(code, text))

    for line in batter.lines:
        if line.unresolved:
            say("line_not_read", f"{line.quoted()} was not read: {line.problem}.")
    if w.missing_g > 0 and x.verdict == NOT_RECKONED:
        say("dough", "A dough: yeast lifts it and it is kneaded, it does not flow. Only batters are balanced here.")
    elif w.missing_g > 0:
        say(
            "water_missing",
            f"The flours here want about {w.missing_g:.0f} g more water than there is.",
        )
    if bowl.batter_g > 0:
        _lift(bowl, x, say)
        if s.verdict == "weak":
            has = f"{s.per_100g:.2f} of {bowl.form.set_floor:g} egg-equivalents per 100 g"
            if _by_starch_alone(bowl):
                say(
                    "set_weak",
                    f"Only its own starch holds this together ({has}), as in flat cakes of grain and pulse: leave it until it is dry on top, "
                    "or it falls apart as it is turned.",
                )
            else:
                say("set_weak", f"Little holds this together ({has}): it may fall apart.")
        if s.verdict == "rubbery":
            say("set_rubbery", "So much sets here that it turns rubbery.")
        if s.egg_dependent:
            say("egg_dependent", "Eggs hold this batter together; no replacer will do. Change the flour instead.")
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
    if ids & SOAKED:
        say("gels_wet", "Psyllium and seed gels are eaten wetted, never dry.")
    if any(p.ingredient.allergens or p.ingredient.contains_gluten != "no" for p in bowl.portions):
        say("allergens", "The pack's own label decides; shared scoops, irons and flour dust carry traces.")
    return tuple(found)


def _lift(bowl: Bowl, x: Lift, say: Callable[[str, str], None]) -> None:
    """Gas, acid and alkali: the fault in words. What puts it right is solved for (`swaps.mends`), since one amount moves them all."""
    low, high = bowl.form.lift
    label, sour, gas = bowl.form.label, x.excess_acid_meq_per_100g, x.co2_ml_per_100g
    if x.residual_alkali_meq_per_100g > TOO_ALKALINE:
        left = x.residual_alkali_meq_per_100g * bowl.batter_g / 100 * SODA_G_PER_MOL / 1000
        say("alkali_left", f"Soda finds no acid: about {left:.1f} g of it is too much, tastes of soap and browns early.")
    if sour > TOO_SOUR:
        meets = sour * bowl.batter_g / 100 * SODA_G_PER_MOL / 1000
        say("acid_left", f"Acid is left over, as much as {meets:.1f} g of soda would meet: it tastes sour and browns late.")
    if x.verdict == NOT_RECKONED:
        say("yeast", "Yeast lifts this batter; how far is not reckoned: give it warmth and a little sugar or starch, and let it double.")
    elif x.verdict == STEAM:
        say("steam", "Steam lifts this one: hot fat in a hot tin, a hot oven, and the door kept shut until it stands.")
    elif x.verdict == "none":
        say("lift_none", "Nothing lifts this batter: no powder, no soda with acid, no foam. Mend it, or say that it is meant to be flat.")
    elif x.verdict == "low":
        say("lift_low", f"Little lift: {gas:.0f} mL per 100 g, where {low:g} is the least for a {label}. It comes out dense.")
    elif x.verdict == "high":
        say("lift_high", f"Much lift: {gas:.0f} mL per 100 g, where {high:g} is the most for a {label}. It rises and falls again.")
    elif x.verdict == "excessive":
        say("lift_excessive", f"Far too much leavening: {gas:.0f} mL per 100 g, where {high:g} is the most. Coarse, bitter and salty.")
    powder = sum(p.grams for p in bowl.portions if p.ingredient.group == "leavener" and p.per.acid > 0)
    if powder and sour > MEETS_SODA and x.verdict in ("none", "low"):
        say("powder_for_soda", "Powder stands where soda would meet the acid: spoon for spoon it gives about a third of the gas of soda.")
    own = sum(p.grams * p.per.soda for p in bowl.portions if p.ingredient.is_flour)
    beside = sum(p.grams * p.per.soda for p in bowl.portions if p.ingredient.group == "leavener")
    if own and beside > TWICE * own:
        say("lift_twice", "Self-raising flour carries its own powder: with more beside it, lift is counted twice.")
    if x.latest_min is not None and x.latest_min < bowl.rest_min:
        say(
            "lift_leaves",
            f"Half-spent after the rest: cook within {x.latest_min:.0f} min of wetting the leavening, or wet it last.",
        )


def _by_starch_alone(bowl: Bowl) -> bool:
    """A thin batter of grain or pulse and water, as many kitchens make on purpose: no egg, no binder, no gluten."""
    holds = any(p.ingredient.group in ("egg", "binder") or p.ingredient.gluten_strength > 0 for p in bowl.portions)
    return bowl.form.key == "crepe" and not holds and any(p.ingredient.is_flour for p in bowl.portions)


def half_swapped(batter: Batter, facts: BalanceFacts) -> str:
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
    return f"The milk was replaced by {plant[0]}, but {' and '.join(dict.fromkeys(dairy))} stayed." if plant and dairy else ""
