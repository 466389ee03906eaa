"""Everything that can be said of one batter, from one pass over its bowl."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..balances.entry import Ledger
from ..balances.holdback import Way, hold_back
from ..balances.lift import Lift, acid_ledger, lift, lift_ledger
from ..balances.nutrition import Nutrition, net_carb_ledger, nutrient_ledgers, nutrition
from ..balances.setting import Setting, set_ledger, setting
from ..balances.taste import browning_ledger, fat_ledger, salt_ledger, sweetness_ledger
from ..balances.warnings import Warning, warn
from ..balances.water import Water, flow_ledger, water
from ..balances.yields import Yield, yield_ledger, yields
from ..batter.batter import Batter, BatterLine
from ..batter.bowl import Bowl, fill
from ..diets.allergens import allergens
from ..diets.packs import PackReading
from ..diets.rules import DietRule
from ..diets.verdicts import Judged, judge, worst
from ..errors import NotKnown
from ..food.nutrients import NUTRIENTS
from ..measures.profile import Profile
from ..reading.line_questions import questions_of
from .facts import AnalysisFacts


@dataclass(frozen=True, slots=True, kw_only=True)
class Plate:
    """Batter and what meets it on the pan and the plate together: nutrition, allergens, and verdicts, each the worse of the
    two with the reasons of the plate's own lines."""

    lines: int
    nutrition: Nutrition
    sodium_mg: float
    diets: dict[str, Judged]
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Analysis:
    """The bowl that a batter was filled into, its ledgers, verdicts and warnings. `servings` as given, or from the form's serving. `potassium_mg`: of leavenings and
    salt substitutes alone; that of foods is not kept."""

    batter: Batter
    bowl: Bowl
    batter_g: float
    servings: float
    water: Water
    lift: Lift
    setting: Setting
    nutrition: Nutrition
    sodium_mg: float
    potassium_mg: float
    yields: Yield
    plate: Plate
    ledgers: tuple[Ledger, ...]
    diets: dict[str, Judged]
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]
    warnings: tuple[Warning, ...]

    def ledger(self, key: str) -> Ledger:
        """One ledger by its key; NotKnown where there is none."""
        for x in self.ledgers:
            if x.key == key:
                return x
        raise NotKnown(key)

    def per_piece(self, ledger: Ledger) -> float:
        """The total of a ledger in one piece [unit of the ledger]; 0 where there is no piece."""
        return ledger.total / self.yields.pieces if self.yields.pieces > 0 else 0.0


def all_ledgers(a: Analysis) -> tuple[Ledger, ...]:
    """Every ledger: the balances of the analysis, and energy, protein, fibre, sugars and yield, which are told but not balanced."""
    return (*a.ledgers, *nutrient_ledgers(a.bowl, a.servings), yield_ledger(a.bowl, a.yields))


def servings_of(batter: Batter, bowl: Bowl) -> float:
    """How many the batter serves: as said, else by the usual serving of the form [g]."""
    return batter.servings or max(bowl.batter_g / bowl.form.serving_g, 1e-6)


def per_serving(n: Nutrition, sodium_mg: float, servings: float) -> dict[str, float]:
    """Nutrients of one serving, by the names the limits use."""
    return {k: (sodium_mg if k == "sodium_mg" else getattr(n, k)) / servings for k in NUTRIENTS}


def analyse(
    batter: Batter, facts: AnalysisFacts, profile: Profile, diets: Mapping[str, DietRule] | None = None,
    readings: Mapping[str, PackReading] | None = None,
) -> Analysis:  # fmt: skip
    """Analyse a batter against the diets given (all shipped ones by default). Unknown ingredient ids raise NotKnown."""
    bowl = fill(batter, facts)
    w, x, s = water(bowl), lift(bowl), setting(bowl)
    servings = servings_of(batter, bowl)
    n = nutrition(bowl, profile)
    salt = salt_ledger(bowl)
    y = yields(bowl, w, x)
    ledgers = (
        flow_ledger(bowl, w), lift_ledger(bowl, x), acid_ledger(bowl, x), set_ledger(bowl, s), sweetness_ledger(bowl), fat_ledger(bowl), salt,
        browning_ledger(bowl, x.residual_alkali_meq_per_100g, x.excess_acid_meq_per_100g), net_carb_ledger(bowl, servings, profile),
    )  # fmt: skip
    each = per_serving(n, bowl.total("sodium"), servings)
    rules = facts.diets if diets is None else diets
    judged = {key: judge(batter.lines, rule, facts, profile, each, readings) for key, rule in rules.items()}
    contains, may = allergens((line for line in batter.lines if line.where == "batter"), facts)
    plate = _plate(batter, n, bowl.total("sodium"), judged, rules, servings, facts, profile, readings)
    warnings = warn(batter, bowl, w, x, s, salt.per_100g, facts)
    return Analysis(
        batter=batter,
        bowl=bowl,
        batter_g=bowl.batter_g,
        servings=servings,
        water=w,
        lift=x,
        setting=s,
        nutrition=n,
        sodium_mg=bowl.total("sodium"),
        potassium_mg=bowl.total("potassium"),
        yields=y,
        plate=plate,
        ledgers=ledgers,
        diets=judged,
        contains=contains,
        may_contain=may,
        warnings=warnings,
    )


def _plate(
    batter: Batter, n: Nutrition, sodium_mg: float, judged: dict[str, Judged], rules: Mapping[str, DietRule], servings: float, facts: AnalysisFacts, profile: Profile,
    readings: Mapping[str, PackReading] | None,
) -> Plate:  # fmt: skip
    lines = sum(line.where == "plate" for line in batter.lines)
    contains, may = allergens(batter.lines, facts)
    if not lines:
        return Plate(lines=0, nutrition=n, sodium_mg=sodium_mg, diets=judged, contains=contains, may_contain=may)
    on_it = fill(batter, facts, "plate")
    extra = nutrition(on_it, profile)
    both = Nutrition(*(getattr(n, k) + getattr(extra, k) for k in Nutrition.__slots__))
    sodium = sodium_mg + on_it.total("sodium")
    each = per_serving(both, sodium, servings)
    verdicts: dict[str, Judged] = {}
    for key, rule in rules.items():
        own = judge(batter.lines, rule, facts, profile, each, readings, "plate")
        verdicts[key] = Judged(
            worst((own.verdict, judged[key].verdict)),
            own.reasons + judged[key].reasons,
            own.cautions + judged[key].cautions,
        )
    return Plate(lines=lines, nutrition=both, sodium_mg=sodium, diets=verdicts, contains=contains, may_contain=may)


def as_json(a: Analysis, facts: AnalysisFacts) -> dict[str, object]:
    """The analysis under the stable keys of the command line. Numbers as computed, rounded only where shown."""
    w, lift_, s, n = a.water, a.lift, a.setting, a.nutrition
    return {
        "lines": [line_json(line, facts) for line in a.batter.lines if line.known],
        "unresolved": [line.text for line in a.batter.lines if line.unresolved],
        "set_aside": [line.text for line in a.batter.lines if line.where == "aside"],
        "batter_g": _r(a.batter_g), "form": a.batter.form, "servings": _r(a.servings),
        "water": {
            "total_g": _r(w.total_g), "bound_g": _r(w.bound_g), "hydration_pct": _r(w.hydration_pct), "solids_fraction": _r(w.solids_fraction, 4),
            "yield_stress_pa": _r(w.yield_stress_pa), "spread_cm": _r(w.spread_cm), "class": w.kind, "missing_g": _r(w.missing_g),
            "spread_low_cm": _r(w.spread_low_cm), "spread_high_cm": _r(w.spread_high_cm), "thickening": _r(w.thickening, 4),
        },
        "lift": {
            "co2_ml": _r(lift_.co2_ml), "co2_ml_per_100g": _r(lift_.co2_ml_per_100g), "residual_alkali_meq_per_100g": _r(lift_.residual_alkali_meq_per_100g),
            "excess_acid_meq_per_100g": _r(lift_.excess_acid_meq_per_100g), "air_ml": _r(lift_.air_ml), "verdict": lift_.verdict,
            "co2_left_ml": _r(lift_.co2_left_ml), "latest_min": _r(lift_.latest_min),
        },
        "set": {"egg_equivalents": _r(s.egg_equivalents), "per_100g": _r(s.per_100g), "egg_share": _r(s.egg_share), "verdict": s.verdict, "egg_dependent": s.egg_dependent},
        "sweetness_g": _r(a.ledger("sweetness").total), "fat_g": _r(n.fat_g), "sodium_mg": _r(a.sodium_mg, 1), "potassium_mg": _r(a.potassium_mg, 1), "browning": _r(a.ledger("browning").mark),
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
        "plate": {
            "lines": a.plate.lines,
            "nutrition": {k: _r(getattr(a.plate.nutrition, k)) for k in a.plate.nutrition.__slots__},
            "diets": {key: {"verdict": j.verdict, "reasons": [{"line": a.batter.lines[r.line].text if r.line is not None else None, "reason": r.text} for r in j.reasons]} for key, j in a.plate.diets.items()},
            "allergens": {"contains": list(a.plate.contains), "may_contain": list(a.plate.may_contain)},
        },
        "hold_back": {"scale": _held(a.bowl, "scale"), "cups": _held(a.bowl, "cups")},
        "yield": {
            "pieces": a.yields.whole, "last_share": _r(a.yields.last_share), "portion_ml": a.yields.portion_ml, "portion_g": _r(a.yields.portion_g, 1),
            "diameter_cm": _r(a.yields.diameter_cm, 1), "thickness_cm": _r(a.yields.thickness_cm, 2),
            "cooked_g": [_r(a.yields.cooked_low_g, 1), _r(a.yields.cooked_high_g, 1)],
        },
        "ledgers": [
            {
                "key": x.key, "unit": x.unit, "total": _r(x.total), "per_100g": _r(x.per_100g), "per_piece": _r(a.per_piece(x)), "mark": _r(x.mark),
                "mark_unit": x.mark_unit, "low": _r(x.low), "high": _r(x.high), "band": [x.band.low, x.band.high] if x.band else None, "verdict": x.verdict,
                "contributions": [{"line": a.batter.lines[c.line].text, "amount": _r(c.amount), "rule": c.rule, "confidence": c.confidence, "part": c.part} for c in x.contributions],
            }
            for x in all_ledgers(a)
        ],
        "allergens": {"contains": list(a.contains), "may_contain": list(a.may_contain)},
        "warnings": [{"code": v.code, "text": v.text} for v in a.warnings],
    }  # fmt: skip


def _held(bowl: Bowl, way: Way) -> dict[str, object] | None:
    plan = hold_back(bowl, way)
    if plan is None:
        return None
    return {
        "ingredient": plan.ingredient,
        "name": plan.name,
        "plan_g": _r(plan.plan_g, 1),
        "pour_g": _r(plan.pour_g, 1),
        "hold_g": _r(plan.hold_g, 1),
        "enough_g": _r(plan.enough_g, 1),
    }


def line_json(line: BatterLine, facts: AnalysisFacts) -> dict[str, object]:
    """One line under the stable keys of the command line."""
    assert line.ingredient is not None
    return {
        "text": line.text, "ingredient": line.ingredient, "name": facts.ingredients[line.ingredient].name, "grams": _r(line.grams, 2),
        "grams_low": _r(line.low, 2), "grams_high": _r(line.high, 2), "confidence": line.confidence, "note": line.note, "where": line.where,
        "also": list(line.also), "maybe": list(line.maybe), "heard": list(line.heard), "unread": list(line.unread), "guessed": line.guessed,
        "questions": [q.text for q in questions_of(line, facts)],
    }  # fmt: skip


def _r(value: float | None, digits: int = 3) -> float | None:
    return None if value is None else round(value, digits)
