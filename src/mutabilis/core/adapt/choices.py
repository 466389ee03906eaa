"""One line swapped by hand: what could stand in its place, how much of it, and what each choice does to every balance, before it is taken."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..analysis.analysis import Analysis, analyse
from ..batter.batter import Batter, BatterLine
from ..diets.packs import PackReading
from ..diets.rules import DietRule
from ..diets.verdicts import Verdict, judge_ingredient, worst
from ..errors import CannotBe
from ..food.coefficients import PerGram, per_gram
from ..food.ingredients import KINDS, Ingredient, certified, uncertified
from ..measures.profile import Profile
from .candidates import available
from .facts import AdaptFacts
from .rounding import to_step

# What a swap by hand holds on to, by group: the work for which the thing is there.
_HELD: dict[str, tuple[str, str]] = {
    "flour": ("what it drinks", "flow_solid"), "liquid": ("its water", "flow_free"), "sweetener": ("its sweetness", "sweet"),
    "fat": ("its fat", "fat"), "set": ("its set", "hold"), "leavener": ("its gas", "soda"), "acid": ("its acid", "acid"),
    "salt": ("its salt", "salt_taste"), "protein": ("its protein", "protein"),
}  # fmt: skip
_MARKS = ("flow", "lift", "acid", "set", "sweetness", "fat", "salt", "browning")


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """How one balance would move: its label and unit, the mark now and then; `noticed` where a cook would notice."""

    key: str
    label: str
    unit: str
    now: float | None
    then: float | None
    verdict: str
    noticed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """One thing that could stand in a line's place: grams by what it does (`held` says which), by volume and by weight for
    comparison [g], the verdict of the diets asked for, and every balance it would move; `note`: what spoon for spoon would come to."""

    ingredient: str
    name: str
    grams: float
    held: str
    by_volume_g: float | None
    by_weight_g: float
    verdict: Verdict
    reason: str
    distance: float
    effects: tuple[Effect, ...]
    note: str = ""


def choices(
    batter: Batter, at: int, rules: Mapping[str, DietRule], facts: AdaptFacts, profile: Profile, readings: Mapping[str, PackReading] | None = None,
    most: int = 20,
) -> tuple[Choice, ...]:  # fmt: skip
    """What could stand in the place of line `at`, the closest first: close in kind, and moving the balances least.

    CannotBe where there is no such line, or where it was not read. What the diets deny is left out; what cannot be
    vouched for is shown after what fits, with the reason.
    """
    if at >= len(batter.lines):
        raise CannotBe("there is no such line")
    line = batter.lines[at]
    if not line.known:
        raise CannotBe("a line that was not read cannot be swapped")
    old = facts.ingredients[line.ingredient or ""]
    before = analyse(batter, facts, profile, {})
    rest = before.bowl.rest_min
    taken = {x.ingredient for x in batter.lines if x.counts}
    ranked: dict[str, float] = {}
    for usage in facts.craft.usages:
        new = available(usage.ingredient, rules, facts, profile, readings) or facts.ingredients[usage.ingredient]
        if old.group in usage.replaces and new.id not in taken and _alike(old, new):
            ranked[new.id] = min(usage.replaces[old.group] + usage.oddness, ranked.get(new.id, 9.0))
    for i in facts.ingredients.values():  # its own kind, also where craft has no row for it: own packs among them
        shown = not ranked.keys().isdisjoint((i.id, uncertified(i.id), certified(i.id)))
        if i.group == old.group and i.id not in taken and not shown and not i.is_certified:
            ranked[i.id] = 0.5
    found: list[tuple[float, Choice]] = []
    for id_, distance in sorted(ranked.items(), key=lambda kv: (kv[1], kv[0]))[: 4 * most]:
        new = facts.ingredients[id_]
        verdict, reason = _verdict(new, rules, profile, readings)
        if verdict == "conflicts":
            continue
        grams, held = amount_for(old, new, line.grams, rest, facts.craft.equal)
        after = analyse(swapped(batter, at, new, grams), facts, profile, {})
        effects = _effects(before, after, facts)
        moved = sum(e.noticed for e in effects)
        found.append((
            distance + 0.12 * moved + (1.0 if verdict != "fits" else 0.0),
            Choice(ingredient=id_, name=new.name, grams=grams, held=held, by_volume_g=_by_volume(old, new, line.grams), by_weight_g=to_step(new, line.grams), verdict=verdict, reason=reason, distance=distance, effects=effects, note=_spoon_for_spoon(old, new)),
        ))  # fmt: skip
    return tuple(choice for _, choice in sorted(found, key=lambda pair: (pair[0], pair[1].ingredient))[:most])


def swapped(batter: Batter, at: int, new: Ingredient, grams: float) -> Batter:
    """The batter with line `at` replaced by so many grams of another thing."""
    line = batter.lines[at]
    doubt = max(0.5, 0.01 * grams) if grams >= 3 else 0.05 * grams
    lines = list(batter.lines)
    lines[at] = BatterLine(
        text=f"{grams:g} g {new.name}", ingredient=new.id, grams=grams, low=max(0.0, grams - doubt), high=grams + doubt, where=line.where,
        confidence=new.confidence,
    )  # fmt: skip
    return batter.model_copy(update={"lines": tuple(lines)})


def amount_for(
    old: Ingredient, new: Ingredient, grams: float, rest_min: float, equal: Mapping[str, float] | None = None
) -> tuple[float, str]:  # fmt: skip
    """Grams of `new` that do the work of `grams` [g] of `old`, and which work that is; by weight where the two share none. `equal`: grams
    that do the same work which no balance reckons."""
    if equal and old.id in equal and new.id in equal:
        return to_step(new, grams * equal[new.id] / equal[old.id]), "its work"
    kind = KINDS.get(old.group)
    if kind is not None and KINDS.get(new.group) == kind:
        held, key = _HELD[kind]
        a, b = _work(per_gram(old, rest_min), key), _work(per_gram(new, rest_min), key)
        if a > 1e-6 and b > 1e-6 and 0.02 <= a / b <= 50:
            return to_step(new, grams * a / b), held
    return to_step(new, grams), "its weight"


def _spoon_for_spoon(old: Ingredient, new: Ingredient) -> str:
    """What a leavening would give put for another by the spoon: a habit that leaves a batter flat, or soapy.

    Both by what a spoon of them weighs and the bicarbonate in it.
    """
    if old.group != "leavener" or new.group != "leavener":
        return ""
    was, now = (i.soda_fraction * i.grams_per_ml()[0] for i in (old, new))
    if was <= 0 or now <= 0 or 0.7 < now / was < 1.4:
        return ""
    much = next(words for most, words in _PARTS if now / was <= most)
    return f"Spoon for spoon it would give {much} the gas."


_PARTS = ((0.22, "a fifth of"), (0.4, "a third of"), (0.7, "half of"), (2.5, "twice"), (3.3, "three times"), (99.0, "four times and more"))


def _work(p: PerGram, key: str) -> float:
    return p.setting + p.gel if key == "hold" else float(getattr(p, key))


def _alike(old: Ingredient, new: Ingredient) -> bool:
    """Whether one could do the work of the other: of one kind, or of none; an egg's work is taken over by many."""
    kinds = KINDS.get(old.group), KINDS.get(new.group)
    return kinds[0] in ("set", None) or kinds[1] in (kinds[0], None)


def _by_volume(old: Ingredient, new: Ingredient, grams: float) -> float | None:
    if not old.has_measures or not new.has_measures:
        return None
    return to_step(new, grams * new.grams_per_ml()[0] / old.grams_per_ml()[0])


def _verdict(
    i: Ingredient, rules: Mapping[str, DietRule], profile: Profile, readings: Mapping[str, PackReading] | None
) -> tuple[Verdict, str]:
    judged = [judge_ingredient(i, rule, profile, (readings or {}).get(i.id)) for rule in rules.values()]
    verdict = worst(v for v, _, _ in judged)
    return verdict, next((r for v, r, _ in judged if v == verdict and v != "fits"), "")


def _effects(before: Analysis, after: Analysis, facts: AdaptFacts) -> tuple[Effect, ...]:
    found = []
    for key in _MARKS:
        a, b = before.ledger(key), after.ledger(key)
        found.append(
            Effect(
                key=key,
                label=b.label,
                unit=b.mark_unit,
                now=a.mark,
                then=b.mark,
                verdict=b.verdict,
                noticed=facts.tellings.noticeable(key, a.mark, b.mark),
            )
        )
    return tuple(found)
