"""Everything that can be said of one batter, from one pass over its bowl."""

from collections.abc import Mapping
from dataclasses import dataclass

from .batter import Batter, BatterLine
from .bowl import Bowl, fill
from .diets import DietRule, Judged, PackReading, allergens, judge
from .facts import Facts
from .ledgers.entry import Ledger
from .ledgers.lift import Lift, acid_ledger, lift, lift_ledger
from .ledgers.nutrition import Nutrition, net_carb_ledger, nutrition
from .ledgers.setting import Setting, set_ledger, setting
from .ledgers.taste import browning_ledger, fat_ledger, salt_ledger, sweetness_ledger
from .ledgers.water import Water, flow_ledger, water
from .quantities.units import Profile
from .warnings import Warning, warn


@dataclass(frozen=True, slots=True)
class Analysis:
    """The ledgers, verdicts and warnings of a batter. `servings` as given, or from the form's serving."""

    batter: Batter
    batter_g: float
    servings: float
    water: Water
    lift: Lift
    setting: Setting
    nutrition: Nutrition
    ledgers: tuple[Ledger, ...]
    diets: dict[str, Judged]
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]
    warnings: tuple[Warning, ...]

    def ledger(self, key: str) -> Ledger:
        """One ledger by its key; KeyError where there is none."""
        for x in self.ledgers:
            if x.key == key:
                return x
        raise KeyError(key)


def servings_of(batter: Batter, bowl: Bowl) -> float:
    """How many the batter serves: as said, else by the usual serving of the form [g]."""
    return batter.servings or max(bowl.batter_g / bowl.form.serving_g, 1e-6)


def per_serving(n: Nutrition, sodium_mg: float, servings: float) -> dict[str, float]:
    """Nutrients of one serving, by the names the limits use."""
    keys = ("kcal", "protein_g", "fat_g", "sat_fat_g", "carb_g", "fibre_g", "sugars_g", "polyols_g", "net_carb_g")
    return {**{k: getattr(n, k) / servings for k in keys}, "sodium_mg": sodium_mg / servings}


def analyse(
    batter: Batter, facts: Facts, profile: Profile, diets: Mapping[str, DietRule] | None = None,
    readings: Mapping[str, PackReading] | None = None,
) -> Analysis:  # fmt: skip
    """Analyse a batter against the diets given (all shipped ones by default). Unknown ingredient ids raise KeyError."""
    bowl = fill(batter, facts)
    w, x, s = water(bowl), lift(bowl), setting(bowl)
    servings = servings_of(batter, bowl)
    n = nutrition(bowl, profile)
    salt = salt_ledger(bowl)
    ledgers = (
        flow_ledger(bowl, w), lift_ledger(bowl, x), acid_ledger(bowl, x), set_ledger(bowl, s), sweetness_ledger(bowl), fat_ledger(bowl), salt,
        browning_ledger(bowl, x.residual_alkali_meq_per_100g, x.excess_acid_meq_per_100g), net_carb_ledger(bowl, servings, profile),
    )  # fmt: skip
    each = per_serving(n, bowl.total("sodium"), servings)
    rules = facts.diets if diets is None else diets
    judged = {key: judge(batter.lines, rule, facts, profile, each, readings) for key, rule in rules.items()}
    contains, may = allergens((line for line in batter.lines if line.where == "batter"), facts)
    return Analysis(
        batter,
        bowl.batter_g,
        servings,
        w,
        x,
        s,
        n,
        ledgers,
        judged,
        contains,
        may,
        warn(batter, bowl, w, x, s, salt.per_100g, facts),
    )


def as_json(a: Analysis, facts: Facts) -> dict[str, object]:
    """The analysis under the stable keys of the command line. Numbers as computed, rounded only where shown."""
    w, x, s, n = a.water, a.lift, a.setting, a.nutrition
    return {
        "lines": [line_json(line, facts) for line in a.batter.lines if line.ingredient is not None and not line.problem],
        "unresolved": [line.text for line in a.batter.lines if line.ingredient is None or line.problem],
        "batter_g": _r(a.batter_g), "form": a.batter.form, "servings": _r(a.servings),
        "water": {
            "total_g": _r(w.total_g), "bound_g": _r(w.bound_g), "hydration_pct": _r(w.hydration_pct), "solids_fraction": _r(w.solids_fraction, 4),
            "yield_stress_pa": _r(w.yield_stress_pa), "spread_cm": _r(w.spread_cm), "class": w.kind, "missing_g": _r(w.missing_g),
            "spread_low_cm": _r(w.spread_low_cm), "spread_high_cm": _r(w.spread_high_cm), "thickening": _r(w.thickening, 4),
        },
        "lift": {
            "co2_ml": _r(x.co2_ml), "co2_ml_per_100g": _r(x.co2_ml_per_100g), "residual_alkali_meq_per_100g": _r(x.residual_alkali_meq_per_100g),
            "excess_acid_meq_per_100g": _r(x.excess_acid_meq_per_100g), "air_ml": _r(x.air_ml), "verdict": x.verdict,
            "co2_left_ml": _r(x.co2_left_ml), "latest_min": _r(x.latest_min),
        },
        "set": {"egg_equivalents": _r(s.egg_equivalents), "per_100g": _r(s.per_100g), "egg_share": _r(s.egg_share), "verdict": s.verdict, "egg_dependent": s.egg_dependent},
        "sweetness_g": _r(a.ledger("sweetness").total), "fat_g": _r(n.fat_g), "sodium_mg": _r(sum(_sodium(a, facts)), 1), "browning": _r(a.ledger("browning").mark),
        "salt_per_100g": _r(a.ledger("salt").mark),
        "nutrition": {k: _r(getattr(n, k)) for k in n.__slots__},
        "diets": {
            key: {
                "verdict": j.verdict,
                "reasons": [{"line": a.batter.lines[r.line].text if r.line is not None else None, "index": r.line, "reason": r.text} for r in j.reasons],
                "cautions": [r.text for r in j.cautions],
            }
            for key, j in a.diets.items()
        },
        "allergens": {"contains": list(a.contains), "may_contain": list(a.may_contain)},
        "warnings": [{"code": v.code, "text": v.text} for v in a.warnings],
    }  # fmt: skip


def line_json(line: BatterLine, facts: Facts) -> dict[str, object]:
    """One line under the stable keys of the command line."""
    assert line.ingredient is not None
    return {
        "text": line.text, "ingredient": line.ingredient, "name": facts.ingredients[line.ingredient].name, "grams": _r(line.grams, 2),
        "grams_low": _r(line.low, 2), "grams_high": _r(line.high, 2), "confidence": line.confidence, "note": line.note, "where": line.where,
    }  # fmt: skip


def _sodium(a: Analysis, facts: Facts) -> list[float]:
    return [
        line.grams * facts.ingredients[line.ingredient or ""].sodium_mg / 100
        for line in a.batter.lines
        if line.counts and not line.problem
    ]


def _r(value: float | None, digits: int = 3) -> float | None:
    return None if value is None else round(value, digits)
