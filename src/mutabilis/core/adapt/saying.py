"""What to mind in an answer, what to do otherwise in its making, what is worse, and which wishes clash."""

import math
from collections.abc import Iterable, Mapping, Sequence

from ..analysis.analysis import Analysis
from ..balances.lift import STEAM
from ..diets.rules import DietRule
from ..food.allergen_tokens import ALLERGENS
from ..food.ingredients import Confidence, Ingredient, least, uncertified
from ..words import sentence
from .candidates import Candidate
from .craft import Flavour
from .facts import AdaptFacts
from .writing import Writer

# Warnings of what a swap would meet: nothing that the cook of a finished answer need mind.
_OF_THE_BASE = ("egg_dependent", "half_swapped")


def cautions_for(after: Analysis, rules: Mapping[str, DietRule]) -> Iterable[str]:
    """What to mind in making and serving it: the batter's own warnings, then the diets' cautions."""
    said = dict.fromkeys(w.text for w in after.warnings if w.code not in _OF_THE_BASE)
    for key in rules:
        if after.diets[key].verdict == "fits":
            said |= dict.fromkeys(sentence(r.text) for r in after.diets[key].cautions)
    return said


def technique_for(used: Sequence[Candidate], before: Analysis, after: Analysis, facts: AdaptFacts) -> tuple[str, ...]:
    """What changes in the making: rest, mixing, size of the piece, heat, foam."""
    said = [c.technique for c in used if c.technique]
    had, has = (any(i.toughens for i in _in(a, facts)) for a in (before, after))
    form, rest = after.batter.form, after.batter.rest_min
    slow = [c.ingredient for c in used if c.ingredient.is_drinker and c.ingredient.absorption_minutes >= 12]
    if slow and (rest is None or rest < 15):
        said.append(f"Rest it 15 to 20 minutes: {slow[0].short} is slow to drink.")
    if had and not has:
        said.append("No gluten to toughen: whisk it smooth; lumps would stay dry.")
    elif has and form != "crepe":
        said.append("Stir briefly and leave the lumps: gluten toughens.")
    if after.setting.per_100g < facts.forms[form].set_comfort and form in ("griddle", "crepe"):
        said.append("It holds with little to spare: smaller pieces, and turn them late.")
    said += _heat(before.ledger("browning").mark or 0.0, after.ledger("browning").mark or 0.0)
    if before.lift.air_ml > 0 and after.lift.air_ml <= 0:
        said.append("No whites to whip: the foam's lift now comes from the leavening.")
    if after.lift.air_ml > 0:
        foam = [p.ingredient for p in after.bowl.portions if p.foam_g > 0]
        said = [s for s in said if s not in {c.technique for c in used if c.ingredient in foam}]
        what = "the whites" if any(i.group == "egg" for i in foam) else f"the {foam[0].short}"
        said.append(f"Whip {what} apart and fold the foam in last; cook within 20 minutes.")
    if after.lift.latest_min is not None and after.lift.latest_min < 20:
        said.append(f"Wet the leavening last: it has its lift for about {after.lift.latest_min:.0f} minutes.")
    return tuple(dict.fromkeys(said))


def _heat(was: float, now: float) -> list[str]:
    """How much the surface should change [°C]: browning by Arrhenius with 110 kJ/mol nearly doubles in 10 °C around 180 °C."""
    if was <= 0 or now <= 0:
        return []
    shift = max(-25, min(25, round(10 * math.log(now / was) / math.log(1.9))))
    if abs(shift) < 4:
        return []
    earlier = shift > 0
    return [
        f"It browns {'earlier' if earlier else 'later'}: about {abs(shift)} °C {'lower' if earlier else 'higher'}, or a little {'less' if earlier else 'more'} time."
    ]


def sureness(a: Analysis) -> Confidence:
    """How sure an answer is: as its least sure line of three per cent of the batter and more."""
    heavy = [line.confidence for line in a.batter.lines if line.counts and line.grams >= 0.03 * a.batter_g]
    return least(*heavy) if heavy else "low"


def _in(after: Analysis, facts: AdaptFacts) -> list[Ingredient]:
    lines = after.batter.lines
    return [facts.ingredients[id_] for line in lines for id_ in (line.ingredient, *line.also) if id_]


MAJOR = set(ALLERGENS) - {"coconut"}


def _major(a: Analysis) -> set[str]:
    return {x.partition(":")[0] for x in a.plate.contains} & MAJOR


def new_allergens(before: Analysis, after: Analysis) -> tuple[str, ...]:
    """Major allergens that the answer has and the base had not."""
    return tuple(sorted(_major(after) - _major(before)))


def allergen_words(adds: Sequence[str], after: Analysis, facts: AdaptFacts) -> tuple[str, ...]:
    """ "Adds soy (soy drink), which the batter did not have." """
    said = []
    for allergen in adds:
        who = next(i.short for i in _in(after, facts) if any(t.partition(":")[0] == allergen for t in i.allergens))
        said.append(f"Adds {allergen.replace('_', ' ')} ({who}), which the batter did not have: ask before you serve it.")
    return tuple(said)


def potassium_words(after: Analysis) -> tuple[str, ...]:
    """A caution where leavening or a salt substitute brings potassium."""
    if after.potassium_mg <= 0:
        return ()
    each = after.potassium_mg / after.servings
    return (
        f"{each:.0f} mg of added potassium a serving: not for guests with kidney disease or on some blood-pressure medicines without their clinician's word.",
    )


def flavours_gone(before: Analysis, after: Analysis, facts: AdaptFacts) -> list[Flavour]:
    """Tastes that went with their bearers."""
    had, has = ({uncertified(i.id) for i in _in(a, facts)} for a in (before, after))
    return [f for f in facts.craft.flavours if had & set(f.bearers) and not has & set(f.bearers)]


def mend_of(flavour: Flavour, writer: Writer) -> str:
    """How to make a taste good with what the guest can have; "" where it is lost."""
    return next((m.words for m in flavour.mends if not m.needs or any(writer.allows(x) for x in m.needs)), "")


def flavour_lost(before: Analysis, after: Analysis, writer: Writer) -> tuple[str, ...]:
    """Tastes that went with their bearers, each with the way to make it good, or said to be lost."""
    gone = flavours_gone(before, after, writer.facts)
    return tuple(f"{f.words}: {mend_of(f, writer) or 'nothing allowed brings it back'}" for f in gone)


def lost_against(before: Analysis, after: Analysis, facts: AdaptFacts) -> tuple[str, ...]:
    """What is worse in the answer than in the base, in words: the figures stand on the balances."""
    worse: list[str] = []
    if before.lift.verdict == STEAM:
        worse += _less_climb(before, after, facts)
    if after.setting.per_100g < 0.8 * before.setting.per_100g:
        worse.append(
            "it holds together less: turn it later, in smaller pieces"
            if after.batter.form != "tray"
            else "it holds together less: let it stand before it is cut"
        )
    fat = (before.ledger("fat").total, after.ledger("fat").total)
    if abs(fat[1] - fat[0]) > max(0.25 * fat[0], 5):
        worse.append("richer" if fat[1] > fat[0] else "leaner")
    sweet = (before.ledger("sweetness").total, after.ledger("sweetness").total)
    if abs(sweet[1] - sweet[0]) > max(0.15 * sweet[0], 2):
        worse.append("sweeter" if sweet[1] > sweet[0] else "less sweet")
    if after.nutrition.protein_g < 0.7 * before.nutrition.protein_g:
        worse.append("less protein")
    brown = (before.ledger("browning").mark or 0, after.ledger("browning").mark or 0)
    if brown[0] and brown[1] < 0.7 * brown[0]:
        worse.append("browns later: a little more heat or time")
    elif brown[0] and brown[1] > 1.4 * brown[0]:
        worse.append("browns earlier: a little less heat")
    return tuple(worse)


def _less_climb(before: Analysis, after: Analysis, facts: AdaptFacts) -> list[str]:
    """What a batter that steam lifts loses: gluten stretches round the steam, and egg sets round it."""
    if after.lift.verdict != STEAM:
        return ["it will not climb: the eggs that set round the steam are gone; it bakes flat, as a custard cake does"]
    had, has = (any(i.toughens for i in _in(a, facts)) for a in (before, after))
    return ["it will hardly climb: without gluten nothing stretches round the steam"] if had and not has else []


_BROKEN = {
    "flow": "the flow of the base cannot be met with what is allowed",
    "body": "too little flour is allowed to carry it",
    "gel": "only thickened liquids would give it its body",
    "fat": "only far more fat would fill it",
    "protein": "the protein of the base cannot be kept with what is allowed",
    "potassium": "the leavening allowed would bring more potassium than a serving should",
    "mass": "the size of the batch cannot be kept",
    "water": "the flours allowed drink more than the liquids bring",
    "set": "nothing allowed holds it together: the set stays under the floor of the form",
    "rubbery": "what is allowed sets so hard that it turns rubbery",
    "drinks": "too little may be drunk for it to turn crisp",
    "alkali": "nothing allowed meets the soda",
    "sour": "nothing allowed meets the acid",
    "salt": "the salt cannot be brought down",
    "lift": "the lift of the base cannot be met with the leavening allowed",
}


def clash_reasons(broken: Mapping[str, float], rules: Mapping[str, DietRule]) -> tuple[str, ...]:
    """What the solver could not hold, in words."""
    asked = ", ".join(r.label.lower() for r in rules.values()) or "these wishes"
    if not broken:
        return (f"With {asked} nothing is left to build the batter from.",)
    reasons: list[str] = []
    for name in broken:
        kind, _, nutrient = name.partition(" ")
        what = nutrient.removesuffix("_g").removesuffix("_mg").replace("_", " ")
        if kind == "cap":
            reasons.append(f"With {asked}, the ceiling on {what} a serving cannot be held: raise it, or serve more from the batch.")
        elif kind == "floor":
            reasons.append(f"With {asked}, the floor of {what} a serving cannot be reached: lower it.")
        else:
            reasons.append(f"With {asked}: {_BROKEN[name]}.")
    return tuple(reasons)
