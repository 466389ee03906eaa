"""Which ingredients may be in the answer, within which bounds: the base's own lines that may stay, and what craft offers for
those that may not."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..batter import Batter
from ..coefficients import absorbed_share
from ..diets import DietRule, PackReading, judge_ingredient
from ..facts import Facts
from ..ingredients import Ingredient
from ..quantities.units import Profile
from .craft import Basis
from .wishes import Wishes

MOST_PER_ROLE = {"flour": 7, "starch": 2, "binder": 5, "moist": 2, "liquid": 4, "cultured": 2, "acid": 2, "fat": 3, "sweetener": 4, "protein": 2, "egg": 1, "flavour": 1, "mixin": 2, "leavener": 3, "salt": 1}  # fmt: skip
# With a cap on carbohydrate the flours that drink and bind count for more than closeness in taste.
CARB_CAPS = ("net_carb_g", "carb_g", "sugars_g")


@dataclass(frozen=True, slots=True)
class Candidate:
    """One variable of the model. `base_g` is what the base has of it [g]; `new` where it would have to be fetched. `low`
    and `high` bound its grams; `least` and `most` are shares of `basis` for what is new."""

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


@dataclass(frozen=True, slots=True)
class Gathered:
    """All candidates, the base lines that had to go, and wishes that stand against each other."""

    candidates: tuple[Candidate, ...]
    removed: tuple[tuple[Ingredient, float, str], ...]
    clashes: tuple[str, ...]


def gather(
    base: Batter, wishes: Wishes, rules: Mapping[str, DietRule], facts: Facts, profile: Profile,
    readings: Mapping[str, PackReading] | None, free_flours: bool,
) -> Gathered:  # fmt: skip
    """Candidates for adapting `base`. `free_flours` lets flours go that could stay, where a batter lives from its eggs."""
    grams: dict[str, float] = {}
    for line in base.lines:
        if line.counts and not line.problem and line.grams > 0:
            assert line.ingredient is not None
            grams[line.ingredient] = grams.get(line.ingredient, 0.0) + line.grams
    caps, clashes = wishes.all_caps(facts), []
    tight = bool(caps or wishes.floors or wishes.max_cost is not None)
    carb_cap = any(c in caps for c in CARB_CAPS)
    kept: dict[str, Candidate] = {}
    removed: list[tuple[Ingredient, float, str]] = []
    replaced: set[str] = set()
    for id_, amount in grams.items():
        ingredient = facts.ingredients[id_]
        why = _denied(ingredient, rules, profile, readings)
        if id_ in wishes.bans:
            why = why or "struck from this batter"
        if why and id_ in wishes.poured:
            clashes.append(f"{ingredient.short} is already in the bowl, and {why}")
        elif why:
            removed.append((ingredient, amount, why))
            replaced.add(ingredient.group)
            if id_ in wishes.pins or id_ in wishes.locked:
                clashes.append(f"{ingredient.short} is to be kept, and {why}")
            continue
        low, high = _range(ingredient, amount, facts, tight, carb_cap, free_flours)
        if (tight and (low, high) != (amount, amount)) or (free_flours and ingredient.is_flour):
            replaced.add(ingredient.group)
        if id_ in wishes.pins:
            low = max(low, 0.8 * amount)
        if id_ in wishes.locked:
            low = high = wishes.locked[id_]
        if id_ in wishes.poured:
            low, high = wishes.poured[id_], max(high, wishes.poured[id_])
        kept[id_] = Candidate(ingredient, amount, low, max(low, high), False, _role(id_, facts), 0.0, 0.0)
    if base_needs_binder(removed):
        replaced.add("wheat_flour")
    if wishes.form not in (None, base.form):
        replaced |= {"leavener", "water_juice", "fat_oil"}
    new = _new(replaced, {*kept, *(i.id for i, _, _ in removed)}, removed, wishes, rules, facts, profile, readings, caps)
    gone = {i.id for i, _, _ in removed}
    for pin in (*wishes.pins, *wishes.locked, *wishes.poured):
        if pin not in kept and pin not in gone and pin not in {c.ingredient.id for c in new} and pin in facts.ingredients:
            why = _denied(facts.ingredients[pin], rules, profile, readings)
            if why:
                clashes.append(f"{facts.ingredients[pin].short} is wished for, and {why}")
            else:
                new.append(_wished(pin, facts))
    return Gathered((*kept.values(), *new), tuple(removed), tuple(dict.fromkeys(clashes)))


def base_needs_binder(removed: Sequence[tuple[Ingredient, float, str]]) -> bool:
    """Gluten that went took its set with it."""
    return any(i.gluten_strength > 0 for i, _, _ in removed)


def _denied(i: Ingredient, rules: Mapping[str, DietRule], profile: Profile, readings: Mapping[str, PackReading] | None) -> str:
    for rule in rules.values():
        verdict, reason, _ = judge_ingredient(i, rule, profile, (readings or {}).get(i.id))
        if verdict != "fits":
            return f"{rule.label.lower()}: {reason.removeprefix(f'{i.short}: ')}"
    return ""


def _too_slow(i: Ingredient, wishes: Wishes) -> bool:
    """Would still be drinking when the first piece is due: half of its water not taken up in the time at hand."""
    return wishes.minutes is not None and i.is_drinker and absorbed_share(wishes.minutes, i.absorption_minutes) < 0.5


def _range(i: Ingredient, amount: float, facts: Facts, tight: bool, carb_cap: bool, free_flours: bool) -> tuple[float, float]:
    share = facts.craft.keep.get(i.group)
    if share is None:
        return amount, amount
    low, high = share
    if (tight and (i.is_flour or i.group in ("sugar", "liquid_sweetener", "fat_solid", "fat_oil", "fruit_puree", "salt", "leavener"))) or (
        free_flours and i.is_flour
    ):
        low = 0.0
    if carb_cap and i.group == "nut_seed_flour":
        high = 2.5
    return low * amount, high * amount


def _role(id_: str, facts: Facts) -> str:
    usage = facts.craft.usage(id_)
    return usage.role if usage else facts.ingredients[id_].group


def _new(
    replaced: set[str], taken: set[str], removed: Sequence[tuple[Ingredient, float, str]], wishes: Wishes, rules: Mapping[str, DietRule],
    facts: Facts, profile: Profile, readings: Mapping[str, PackReading] | None, caps: Mapping[str, float],
) -> list[Candidate]:  # fmt: skip
    carb_cap = any(c in caps for c in CARB_CAPS)
    found: dict[str, Candidate] = {}
    for usage in facts.craft.usages:
        id_ = usage.ingredient
        groups = [g for g in usage.replaces if g in replaced]
        if not groups or id_ in taken or id_ in wishes.bans or (wishes.larder is not None and id_ not in wishes.larder):
            continue
        ingredient = facts.ingredients[id_]
        if _denied(ingredient, rules, profile, readings) or _too_slow(ingredient, wishes):
            continue
        cost = min(usage.replaces[g] for g in groups)
        old = found.get(id_)
        if old and old.cost <= cost:
            continue
        found[id_] = Candidate(
            ingredient,
            0.0,
            0.0,
            float("inf"),
            True,
            usage.role,
            cost,
            usage.oddness,
            usage.basis,
            usage.least,
            usage.most,
            usage.technique,
        )
    # A certified twin is the same thing from a cleaner mill: it comes first, at no cost in taste.
    for gone, amount, _ in removed:
        twin = facts.ingredients.get(f"{gone.id}_gf")
        if (
            twin
            and not _denied(twin, rules, profile, readings)
            and twin.id not in wishes.bans
            and (wishes.larder is None or twin.id in wishes.larder)
        ):
            share = facts.craft.keep.get(gone.group, (0.7, 1.3))
            found[twin.id] = Candidate(
                twin,
                0.0,
                0.0,
                max(1.0, share[1]) * amount,
                True,
                _role(twin.id, facts),
                0.0,
                0.0,
                "batter",
                0.0,
                1.0,
                "",
            )
    by_role: dict[str, list[Candidate]] = {}
    for candidate in found.values():
        by_role.setdefault(candidate.role, []).append(candidate)
    chosen: list[Candidate] = []
    for role, group in by_role.items():

        def rank(c: Candidate) -> tuple[float, str]:
            net = (c.ingredient.carb_g - c.ingredient.fibre_g - c.ingredient.polyol_g - c.ingredient.allulose_g) / 100
            return (
                c.cost
                + 0.4 * c.oddness
                + (1.5 * net if carb_cap else 0.0)
                + (c.ingredient.sodium_mg / 50_000 if "sodium_mg" in caps else 0.0)
                - (5 if c.ingredient.id in wishes.pins else 0),
                c.ingredient.id,
            )

        chosen.extend(sorted(group, key=rank)[: MOST_PER_ROLE.get(role, 3)])
    return chosen


def _wished(id_: str, facts: Facts) -> Candidate:
    usage = facts.craft.usage(id_)
    if usage:
        return Candidate(
            facts.ingredients[id_],
            0.0,
            0.0,
            float("inf"),
            True,
            usage.role,
            0.0,
            0.0,
            usage.basis,
            usage.least,
            usage.most,
            usage.technique,
        )
    return Candidate(
        facts.ingredients[id_],
        0.0,
        0.0,
        float("inf"),
        True,
        facts.ingredients[id_].group,
        0.0,
        0.0,
        "batter",
        0.01,
        0.3,
    )
