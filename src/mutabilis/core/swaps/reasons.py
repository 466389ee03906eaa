"""Why each change was made, in plain words from the ledgers; what to mind; what is worse; which wishes clash."""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from ..analysis import Analysis
from ..batter import Batter, BatterLine
from ..diets import ALLERGENS, DietRule
from ..facts import Facts
from ..ingredients import Confidence, Ingredient, least
from .candidates import Candidate, Gathered
from .transfers import Transfer, say


@dataclass(frozen=True, slots=True)
class Change:
    """One change: `source` what it was (None for something added), `target` what takes its place (None for something
    dropped), and the reason."""

    source: str | None
    target: str | None
    reason: str
    source_id: str | None = None
    target_id: str | None = None


def changes_for(
    gathered: Gathered, rounded: Sequence[tuple[Candidate, float]], moved: Sequence[Transfer], facts: Facts
) -> tuple[Change, ...]:
    """Every change between base and answer with its reason, replaced things first."""
    now = {c.ingredient.id: g for c, g in rounded}
    new = {c.ingredient.id for c, g in rounded if c.new}
    changes: list[Change] = []
    explained: set[str] = set()
    for gone, grams, why in gathered.removed:
        parts = [t for t in moved if t.source == gone.id]
        takers = _takers(parts, gone.id)
        named = [t for t in takers if t in new] or takers
        target = named[0] if named else None
        words = _parts_in_words([t for t in parts if t.target != gone.id], facts)
        reason = f"{_cap(why)}. {_amount(grams)} out" + (f": {words}." if words else "; its work was too small to need another.")
        changes.append(Change(gone.short, facts.ingredients[target].short if target else None, reason, gone.id, target))
        if target:
            explained.add(target)
    for c, grams in rounded:
        id_ = c.ingredient.id
        if c.new and id_ not in explained:
            taken = [t for t in moved if t.target == id_ and t.source != id_]
            words = "; ".join(_brought(t, facts) for t in sorted(taken, key=_weight, reverse=True)[:3])
            changes.append(Change(None, c.ingredient.short, f"{_amount(grams)} added" + (f": {words}." if words else "."), None, id_))
        elif not c.new and abs(grams - c.base_g) > max(0.02 * c.base_g, 0.05):
            more = grams > c.base_g
            parts = [t for t in moved if (t.target if more else t.source) == id_ and t.source != t.target]
            words = "; ".join((_brought(t, facts) if more else _left(t, facts)) for t in sorted(parts, key=_weight, reverse=True)[:2])
            way = "up" if more else "down"
            changes.append(
                Change(
                    c.ingredient.short,
                    c.ingredient.short,
                    f"{way} from {_amount(c.base_g)} to {_amount(grams)}" + (f": {words}." if words else ", so that the balances close."),
                    id_,
                    id_,
                )
            )
    for c in gathered.candidates:
        if not c.new and c.ingredient.id not in now and c.base_g > 0:
            parts = [t for t in moved if t.source == c.ingredient.id]
            words = _parts_in_words(parts, facts)
            changes.append(
                Change(
                    c.ingredient.short,
                    None,
                    f"{_amount(c.base_g)} no longer needed" + (f": {words}." if words else "."),
                    c.ingredient.id,
                    None,
                )
            )
    return tuple(changes)


def _weight(t: Transfer) -> float:
    scale = {"flour": 20.0, "water": 40.0, "set": 0.4, "fat": 5.0, "lift": 10.0, "acid": 8.0, "sweet": 8.0, "salt": 0.6}
    return t.amount / scale[t.function]


def _takers(parts: Iterable[Transfer], own: str) -> list[str]:
    by: dict[str, float] = {}
    for t in parts:
        if t.target and t.target != own:
            by[t.target] = by.get(t.target, 0.0) + _weight(t)
    return sorted(by, key=lambda k: (-by[k], k))


def _parts_in_words(parts: Sequence[Transfer], facts: Facts) -> str:
    """ "76 g of water now from soy drink; 0.7 egg of set from ground flaxseed"; one clause a function."""
    clauses: list[str] = []
    by_function: dict[str, list[Transfer]] = {}
    for t in parts:
        by_function.setdefault(t.function, []).append(t)
    for function, group in sorted(by_function.items(), key=lambda kv: -sum(map(_weight, kv[1]))):
        takers = [t for t in group if t.target]
        lost = [t for t in group if t.target is None]
        if takers:
            names = [facts.ingredients[t.target or ""].short for t in sorted(takers, key=lambda t: -t.amount)[:2]]
            clauses.append(f"{say(sum(t.amount for t in takers), group[0].unit, function)} now from {' and '.join(names)}")
        elif lost and _weight(lost[0]) > 0.5:
            clauses.append(f"{say(lost[0].amount, group[0].unit, function)} not made good")
    return "; ".join(clauses[:4])


def _brought(t: Transfer, facts: Facts) -> str:
    whence = f" that was in {facts.ingredients[t.source].short}" if t.source else " that nothing else brought"
    return f"brings {say(t.amount, t.unit, t.function)}{whence}"


def _left(t: Transfer, facts: Facts) -> str:
    return f"{say(t.amount, t.unit, t.function)} " + (f"now from {facts.ingredients[t.target].short}" if t.target else "less is wanted")


def _amount(grams: float) -> str:
    return f"{grams:.0f} g" if grams >= 10 else f"{grams:.1f} g" if grams >= 0.1 else f"{grams:.2f} g"


def _cap(text: str) -> str:
    return text[:1].upper() + text[1:]


def cautions_for(used: Sequence[Candidate], after: Analysis, facts: Facts) -> Iterable[str]:
    """What to mind in making and serving it: technique first, then the batter's own warnings, then the diets' cautions."""
    said: dict[str, None] = {}
    for c in used:
        if c.technique:
            said[c.technique] = None
    for w in after.warnings:
        said[w.text] = None
    for judged in after.diets.values():
        if judged.verdict == "fits":
            for r in judged.cautions:
                said[r.text] = None
    return said


def technique_for(used: Sequence[Candidate], before: Analysis, after: Analysis, facts: Facts) -> tuple[str, ...]:
    """What changes in the making: rest, mixing, size of the piece, heat, foam."""
    said: list[str] = []
    had, has = (any(i.gluten_strength > 0 and i.contains_gluten == "yes" for i in _in(a, facts)) for a in (before, after))
    form, rest = after.batter.form, after.batter.rest_min
    slow = [c.ingredient for c in used if c.ingredient.is_drinker and c.ingredient.absorption_minutes >= 12]
    if slow and (rest is None or rest < 15):
        said.append(f"Rest it 15 to 20 minutes: {slow[0].short} is slow to drink.")
    if had and not has:
        said.append("No gluten to toughen: whisk it smooth; lumps would stay dry.")
    elif has and form != "crepe":
        said.append("Stir briefly and leave the lumps: wheat toughens.")
    if after.setting.per_100g < facts.forms[form].set_comfort and form in ("griddle", "crepe"):
        said.append("It holds with little to spare: smaller pieces, and turn them late.")
    said += _heat(before.ledger("browning").mark or 0.0, after.ledger("browning").mark or 0.0)
    if before.lift.air_ml > 0 and after.lift.air_ml <= 0:
        said.append("No whites to whip: the foam's lift now comes from the leavening.")
    if after.lift.air_ml > 0:
        said.append("Whip the whites apart and fold them in last; cook within 20 minutes.")
    if after.lift.latest_min is not None and after.lift.latest_min < 20:
        said.append(f"Wet the leavening last: it has its lift for about {after.lift.latest_min:.0f} minutes.")
    return tuple(said)


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
    heavy = [line.confidence for line in a.batter.lines if line.counts and not line.problem and line.grams >= 0.03 * a.batter_g]
    return least(*heavy) if heavy else "low"


def _in(after: Analysis, facts: Facts) -> list[Ingredient]:
    lines = after.batter.lines
    return [facts.ingredients[id_] for line in lines for id_ in (line.ingredient, *line.also) if id_]


MAJOR = ALLERGENS - {"coconut"}


def _major(a: Analysis) -> set[str]:
    return {x.partition(":")[0] for x in a.plate.contains} & MAJOR


def new_allergens(before: Analysis, after: Analysis) -> tuple[str, ...]:
    """Major allergens that the answer has and the base had not."""
    return tuple(sorted(_major(after) - _major(before)))


def allergen_words(adds: Sequence[str], after: Analysis, facts: Facts) -> tuple[str, ...]:
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


def beside_changes(base: Batter, after: Batter, plate: Sequence[tuple[BatterLine, BatterLine | None]], facts: Facts) -> tuple[Change, ...]:
    """What changed on the plate or was left off it, and which of several things that a line leaves open was taken."""
    changes: list[Change] = []
    for line, taker in plate:
        old = facts.ingredients[line.ingredient or ""]
        new = facts.ingredients[taker.ingredient or ""] if taker else None
        reason = "On the plate, too, it would not fit." if new else "Left off the plate: nothing that fits stands in for it."
        changes.append(Change(old.short, new.short if new else None, reason, old.id, new.id if new else None))
    closed = {x.ingredient for x in after.lines if not x.maybe}
    for line in base.lines:
        if line.maybe and line.ingredient in closed:
            i = facts.ingredients[line.ingredient or ""]
            others = " or ".join(facts.ingredients[m].short for m in line.maybe)
            changes.append(Change(i.short, i.short, f"Take {i.short}, not {others}.", i.id, i.id))
    return tuple(changes)


def flavour_lost(before: Analysis, after: Analysis, facts: Facts) -> tuple[str, ...]:
    """Tastes that went with their bearers, each with the way to make it good."""
    had, has = ({i.id.removesuffix("_gf") for i in _in(a, facts)} for a in (before, after))
    return tuple(
        f.words + (f": {f.mend}" if f.mend else "") for f in facts.craft.flavours if had & set(f.bearers) and not has & set(f.bearers)
    )


def lost_against(before: Analysis, after: Analysis) -> tuple[str, ...]:
    """What is worse in the answer than in the base."""
    worse: list[str] = []
    if after.setting.per_100g < 0.8 * before.setting.per_100g:
        worse.append(f"holds less: set {before.setting.per_100g:.2f} → {after.setting.per_100g:.2f}")
    fat = (before.ledger("fat").total, after.ledger("fat").total)
    if abs(fat[1] - fat[0]) > max(0.25 * fat[0], 5):
        worse.append(f"{'richer' if fat[1] > fat[0] else 'leaner'}: fat {fat[0]:.0f} g → {fat[1]:.0f} g")
    sweet = (before.ledger("sweetness").total, after.ledger("sweetness").total)
    if abs(sweet[1] - sweet[0]) > max(0.15 * sweet[0], 2):
        worse.append(f"{'sweeter' if sweet[1] > sweet[0] else 'less sweet'}: {sweet[0]:.0f} g → {sweet[1]:.0f} g")
    protein = (before.nutrition.protein_g, after.nutrition.protein_g)
    if protein[1] < 0.7 * protein[0]:
        worse.append(f"less protein: {protein[0]:.0f} g → {protein[1]:.0f} g")
    brown = (before.ledger("browning").mark or 0, after.ledger("browning").mark or 0)
    if brown[0] and brown[1] < 0.7 * brown[0]:
        worse.append("browns later: a little more heat or time")
    elif brown[0] and brown[1] > 1.4 * brown[0]:
        worse.append("browns earlier: a little less heat")
    return tuple(worse)


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
