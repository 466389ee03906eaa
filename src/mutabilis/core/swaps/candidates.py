"""Which ingredients may be in the answer, within which bounds: the base's own lines that may stay, and what craft offers for
those that may not."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..batter import Batter, BatterLine
from ..coefficients import absorbed_share
from ..diets import DietRule, PackReading, beside_fits, judge_ingredient
from ..facts import Facts
from ..ingredients import Ingredient
from ..quantities.units import Profile
from .craft import Basis
from .wishes import Wishes

MOST_PER_ROLE = {"flour": 7, "starch": 2, "binder": 7, "moist": 2, "liquid": 4, "cultured": 2, "acid": 2, "fat": 3, "sweetener": 4, "protein": 3, "curd": 2, "egg": 1, "flavour": 1, "mixin": 2, "leavener": 3, "salt": 1}  # fmt: skip
# With a cap on carbohydrate the flours that drink and bind count for more than closeness in taste.
MAJOR = frozenset({"milk", "egg", "wheat", "soy", "peanut", "tree_nut", "sesame", "lupin"})
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
    strange: float = 0.0


@dataclass(frozen=True, slots=True)
class Gathered:
    """All candidates, the base lines that had to go, and wishes that stand against each other."""

    candidates: tuple[Candidate, ...]
    removed: tuple[tuple[Ingredient, float, str], ...]
    clashes: tuple[str, ...]
    dish: str = ""
    flat: bool = False


def gather(
    base: Batter, wishes: Wishes, rules: Mapping[str, DietRule], facts: Facts, profile: Profile,
    readings: Mapping[str, PackReading] | None, free_flours: bool,
) -> Gathered:  # fmt: skip
    """Candidates for adapting `base`. `free_flours` lets flours go that could stay, where a batter lives from its eggs."""
    grams: dict[str, float] = {}
    beside: dict[str, str] = {}
    for line in base.lines:
        if line.counts and not line.problem and line.grams > 0:
            assert line.ingredient is not None
            grams[line.ingredient] = grams.get(line.ingredient, 0.0) + line.grams
            if why := _beside_denied(line, rules, facts, profile, readings):
                beside[line.ingredient] = why
    caps, clashes = wishes.all_caps(facts), []
    tight = bool(caps or wishes.floors or wishes.max_cost is not None)
    carb_cap = any(c in caps for c in CARB_CAPS)
    kept: dict[str, Candidate] = {}
    removed: list[tuple[Ingredient, float, str]] = []
    replaced: set[str] = set()
    for id_, amount in grams.items():
        ingredient = facts.ingredients[id_]
        why = _denied(ingredient, rules, profile, readings) or beside.get(id_, "")
        if id_ in wishes.bans:
            why = why or "struck from this batter"
        if why and id_ in wishes.poured:
            clashes.append(f"{ingredient.short} is already in the bowl, and {why}")
        elif why:
            removed.append((ingredient, amount, why))
            if ingredient.group == "mix_in":  # gram for gram, by its kind: it is no part of the batter's balance
                stand_ins = (available(x, rules, facts, profile, readings) for x in facts.craft.stand_ins(id_))
                by = next((x for x in stand_ins if x is not None and x.id not in grams and x.id not in kept), None)
                if by is not None:
                    kept[by.id] = Candidate(by, amount, amount, amount, False, "mixin", 0.0, 0.0)
                continue
            if _twin(ingredient, wishes, rules, facts, profile, readings) is None or (free_flours and ingredient.is_flour):
                replaced.add(ingredient.group)
            if id_ in facts.craft.curds:
                replaced.add("curd")
            if id_ in wishes.pins or id_ in wishes.locked:
                clashes.append(f"{ingredient.short} is to be kept, and {why}")
            continue
        low, high = _range(ingredient, amount, facts, tight, carb_cap, free_flours, {facts.ingredients[k]: v for k, v in grams.items()})
        if (tight and (low, high) != (amount, amount) and ingredient.group != "protein_powder") or (free_flours and ingredient.is_flour):
            replaced.add(ingredient.group)
        if id_ in wishes.pins:
            low = max(low, 0.8 * amount)
        if id_ in wishes.locked:
            low = high = wishes.locked[id_]
        if id_ in wishes.poured:
            low, high = wishes.poured[id_], max(high, wishes.poured[id_])
        kept[id_] = Candidate(ingredient, amount, low, max(low, high), False, _role(id_, facts), 0.0, 0.0)
    if carb_cap and any(k.contains_gluten != "no" or k.is_flour for k in (facts.ingredients[x] for x in grams)):
        replaced.add("egg")
    if "protein_g" in wishes.floors:
        replaced.add("protein_powder")
    if base_needs_binder(removed):
        replaced.add("wheat_flour")
    if wishes.form not in (None, base.form):
        replaced |= {"leavener", "water_juice", "fat_oil"}
    new = _new(replaced, {*kept, *(i.id for i, _, _ in removed)}, removed, wishes, rules, facts, profile, readings, caps, free_flours)
    gone = {i.id for i, _, _ in removed}
    for pin in (*wishes.pins, *wishes.locked, *wishes.poured):
        if pin not in kept and pin not in gone and pin not in {c.ingredient.id for c in new} and pin in facts.ingredients:
            why = _denied(facts.ingredients[pin], rules, profile, readings)
            if why:
                clashes.append(f"{facts.ingredients[pin].short} is wished for, and {why}")
            else:
                new.append(_wished(pin, facts))
    whole = {facts.ingredients[k]: v for k, v in grams.items()}
    dish = next((i.short for i, amount in whole.items() if carb_cap and _is_the_dish(i, amount, whole)), "")
    return Gathered(
        (*kept.values(), *new),
        tuple(removed),
        tuple(dict.fromkeys(clashes)),
        dish,
        any(_is_the_dish(i, g, whole) for i, g in whole.items()),
    )


def base_needs_binder(removed: Sequence[tuple[Ingredient, float, str]]) -> bool:
    """Gluten that went took its set with it."""
    return any(i.gluten_strength > 0 for i, _, _ in removed)


def _denied(i: Ingredient, rules: Mapping[str, DietRule], profile: Profile, readings: Mapping[str, PackReading] | None) -> str:
    for rule in rules.values():
        verdict, reason, _ = judge_ingredient(i, rule, profile, (readings or {}).get(i.id))
        if verdict != "fits":
            return f"{rule.label.lower()}: {reason.removeprefix(f'{i.short}: ')}"
    return ""


def _beside_denied(
    line: BatterLine, rules: Mapping[str, DietRule], facts: Facts, profile: Profile, readings: Mapping[str, PackReading] | None
) -> str:
    """Why a line cannot stay for what goes with its food. What is only open is no reason: the line's own food can be taken."""
    bare = line.model_copy(update={"maybe": (), "unread": (), "guessed": ""})
    denying = (rule for rule in rules.values() if not beside_fits(bare, rule, facts, profile, readings or {}))
    return next((f"{rule.label.lower()}: what goes with it does not fit" for rule in denying), "")


def available(
    id_: str, rules: Mapping[str, DietRule], facts: Facts, profile: Profile, readings: Mapping[str, PackReading] | None
) -> Ingredient | None:
    """The thing itself where the diets allow it, else the same from a certified mill where they allow that: nobody need buy a
    certified flour who was not asked for one."""
    for name in (id_, f"{id_}_gf"):
        i = facts.ingredients.get(name)
        if i is not None and not _denied(i, rules, profile, readings):
            return i
    return None


def _twin(
    i: Ingredient, wishes: Wishes, rules: Mapping[str, DietRule], facts: Facts, profile: Profile, readings: Mapping[str, PackReading] | None
) -> Ingredient | None:  # fmt: skip
    """The same thing from a certified mill, where it may be used: then nothing else need stand in for it."""
    twin = facts.ingredients.get(f"{i.id}_gf")
    if (
        twin is None
        or _denied(twin, rules, profile, readings)
        or twin.id in wishes.bans
        or (wishes.larder is not None and twin.id not in wishes.larder)
    ):
        return None
    return twin


def _too_slow(i: Ingredient, wishes: Wishes) -> bool:
    """Would still be drinking when the first piece is due: half of its water not taken up in the time at hand."""
    return wishes.minutes is not None and i.is_drinker and absorbed_share(wishes.minutes, i.absorption_minutes) < 0.5


def _is_the_dish(i: Ingredient, amount: float, whole: Mapping[Ingredient, float]) -> bool:
    """A flour that is the dish: the one grain or pulse of a flat, unleavened batter that is not wheat."""
    if not i.is_flour or i.gluten_strength > 0 or any(x.group == "leavener" or x.soda_fraction for x in whole):
        return False
    return amount > 0.8 * sum(g for x, g in whole.items() if x.is_flour)


def _range(
    i: Ingredient, amount: float, facts: Facts, tight: bool, carb_cap: bool, free_flours: bool, whole: Mapping[Ingredient, float]
) -> tuple[float, float]:
    if carb_cap and i.id == "egg":
        return amount, 3.0 * amount  # eggs carry what the starch carried
    share = facts.craft.keep.get(i.group)
    if share is None:
        return amount, amount
    low, high = share
    if i.id in facts.craft.curds:
        return 0.9 * amount, min(high, 1.3) * amount
    if _is_the_dish(i, amount, whole) and not free_flours:
        return max(low, 0.6) * amount, high * amount
    if (tight and (i.is_flour or i.group in ("sugar", "liquid_sweetener", "fat_solid", "fat_oil", "fruit_puree", "salt", "leavener"))) or (
        free_flours and i.is_flour
    ):
        low = 0.3 if i.group in ("fat_solid", "fat_oil") and carb_cap else 0.0
    if carb_cap and i.group == "nut_seed_flour":
        high = 2.5
    return low * amount, high * amount


def _role(id_: str, facts: Facts) -> str:
    usage = facts.craft.usage(id_)
    return usage.role if usage else facts.ingredients[id_].group


def _new(
    replaced: set[str], taken: set[str], removed: Sequence[tuple[Ingredient, float, str]], wishes: Wishes, rules: Mapping[str, DietRule],
    facts: Facts, profile: Profile, readings: Mapping[str, PackReading] | None, caps: Mapping[str, float], free_flours: bool,
) -> list[Candidate]:  # fmt: skip
    carb_cap = any(c in caps for c in CARB_CAPS)
    had = {x.partition(":")[0] for k in taken for x in facts.ingredients[k].allergens}
    powder = any(k.startswith("baking_powder") for k in taken if k not in {i.id for i, _, _ in removed})
    found: dict[str, Candidate] = {}
    for usage in facts.craft.usages:
        groups = [g for g in usage.replaces if g in replaced]
        ingredient = available(usage.ingredient, rules, facts, profile, readings) if groups else None
        if ingredient is None or ingredient.id in taken or ingredient.id in wishes.bans:
            continue
        id_ = ingredient.id
        if wishes.larder is not None and id_ not in wishes.larder:
            continue
        if id_ == "egg" and any(facts.ingredients[k].group == "egg" for k in taken):
            continue
        if powder and id_.startswith("baking_powder"):
            continue  # one powder is enough
        if _too_slow(ingredient, wishes):
            continue
        cost = min(usage.replaces[g] for g in groups)
        old = found.get(id_)
        if old and old.cost <= cost:
            continue
        found[id_] = Candidate(
            ingredient,
            0.0,
            0.0,
            _most(id_, removed, facts),
            True,
            usage.role,
            cost,
            usage.oddness,
            usage.basis,
            usage.least,
            usage.most,
            usage.technique,
            strange=0.04 * len({x.partition(":")[0] for x in ingredient.allergens if not x.startswith(("may:", "cross:"))} & MAJOR - had),
        )
    # A certified twin is the same thing from a cleaner mill: it comes first, at no cost in taste.
    for gone, amount, _ in removed:
        twin = _twin(gone, wishes, rules, facts, profile, readings)
        if twin is not None:
            share = facts.craft.keep.get(gone.group, (0.7, 1.3))
            found[twin.id] = Candidate(
                twin,
                0.0,
                0.0 if carb_cap or wishes.max_cost is not None or (free_flours and gone.is_flour) else share[0] * amount,
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


def _most(id_: str, removed: Sequence[tuple[Ingredient, float, str]], facts: Facts) -> float:
    """The most of a new thing [g], where it is bound to what it stands for: aquafaba by the eggs that went, since more of it is water."""
    if id_ != "aquafaba":
        return float("inf")
    eggs = sum(g for i, g, _ in removed if i.group == "egg")
    return facts.craft.limits["aquafaba_per_egg"] * eggs if eggs > 0 else float("inf")


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
