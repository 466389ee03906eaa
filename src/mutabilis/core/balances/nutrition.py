"""Nutrition of the batter (batter-science, section 5)."""

from dataclasses import dataclass

from ..batter.bowl import Bowl, Portion
from ..food.nutrients import NUTRIENTS as PER_SERVING
from ..measures.profile import Profile
from .entry import Ledger, contributions, spread_of


@dataclass(frozen=True, slots=True)
class Nutrition:
    """Of the whole batter: kcal and grams. `carb_g` includes fibre and polyols; `net_carb_g` by the kitchen's school."""

    kcal: float
    protein_g: float
    fat_g: float
    sat_fat_g: float
    carb_g: float
    fibre_g: float
    sugars_g: float
    polyols_g: float
    net_carb_g: float


def net_carb(p: Portion, profile: Profile) -> float:
    """Net carbohydrate of a portion [g] by the school of the kitchen."""
    return p.grams * net_carb_per_gram(p.per.carb, p.per.fibre, p.per.polyols, p.per.allulose, profile)


def net_carb_per_gram(carb: float, fibre: float, polyols: float, allulose: float, profile: Profile) -> float:
    """Net carbohydrate per gram: all less fibre, polyols and allulose; all less fibre; or all."""
    if profile.net_carb == "total":
        return carb
    if profile.net_carb == "minus_fibre":
        return carb - fibre
    return carb - fibre - polyols - allulose


def nutrition(bowl: Bowl, profile: Profile) -> Nutrition:
    """Totals for a bowl."""
    return Nutrition(
        kcal=bowl.total("kcal"), protein_g=bowl.total("protein"), fat_g=bowl.total("fat"), sat_fat_g=bowl.total("saturated"),
        carb_g=bowl.total("carb"), fibre_g=bowl.total("fibre"), sugars_g=bowl.total("sugars"),
        polyols_g=bowl.total("polyols"), net_carb_g=sum(net_carb(p, profile) for p in bowl.portions),
    )  # fmt: skip


NUTRIENTS = (
    ("energy", "Energy", "kcal", "kcal"),
    ("protein", "Protein", "protein", "g"),
    ("fibre", "Fibre", "fibre", "g"),
    ("sugars", "Sugars", "sugars", "g"),
)


def nutrient_ledgers(bowl: Bowl, servings: float) -> tuple[Ledger, ...]:
    """Energy, protein, fibre and sugars, each by line; the mark is one serving's."""
    found = []
    for key, label, coefficient, unit in NUTRIENTS:
        total = bowl.total(coefficient)
        doubt = 2 * spread_of(bowl, lambda p, c=coefficient: getattr(p.per, c)) / servings  # type: ignore[misc]
        each = total / servings
        found.append(
            Ledger(
                key=key, label=label, unit=unit, total=total, per_100g=bowl.per_100g(total), mark=each, mark_unit=f"{unit}/serving", low=max(0.0, each - doubt), high=each + doubt, band=None, verdict="fits",
                reason="4 kcal/g protein and carbohydrate, 9 fat, 2 fibre, 7 alcohol, 3 organic acids; polyols by kind." if key == "energy" else "Of one serving.",
                contributions=contributions(bowl, lambda p, c=coefficient: p.grams * getattr(p.per, c), f"m · {label.lower()} per gram"),  # type: ignore[misc]
            )
        )  # fmt: skip
    return tuple(found)


def net_carb_ledger(bowl: Bowl, servings: float, profile: Profile) -> Ledger:
    """Net carbohydrate per serving [g]."""
    total = sum(net_carb(p, profile) for p in bowl.portions)
    doubt = 2 * spread_of(bowl, lambda p: net_carb(p, profile) / p.grams) / servings
    each = total / servings
    return Ledger(
        key="net_carb", label="Net carbohydrate", unit="g", total=total, per_100g=bowl.per_100g(total), mark=each, mark_unit="g/serving", low=max(0.0, each - doubt), high=each + doubt,
        band=None, verdict="fits", reason="Carbohydrate less fibre and polyols, by the kitchen's own school.",
        contributions=contributions(bowl, lambda p: net_carb(p, profile), "m · (carbohydrate − fibre − polyols − allulose)"),
    )  # fmt: skip


def per_serving(n: Nutrition, sodium_mg: float, servings: float) -> dict[str, float]:
    """Nutrients of one serving, by the names the limits use."""
    return {k: (sodium_mg if k == "sodium_mg" else getattr(n, k)) / servings for k in PER_SERVING}
