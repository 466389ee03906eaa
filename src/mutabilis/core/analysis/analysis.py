"""Everything that can be said of one batter, from one pass over its bowl."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..balances.entry import Ledger
from ..balances.lift import Lift, acid_ledger, lift, lift_ledger
from ..balances.nutrition import Nutrition, net_carb_ledger, nutrient_ledgers, nutrition, per_serving
from ..balances.setting import Setting, set_ledger, setting
from ..balances.taste import browning_ledger, fat_ledger, salt_ledger, sweetness_ledger
from ..balances.warnings import Warning, warn
from ..balances.water import Water, flow_ledger, water
from ..balances.yields import Yield, yield_ledger, yields
from ..batter.batter import Batter
from ..batter.bowl import Bowl, fill
from ..diets.allergens import allergens
from ..diets.packs import PackReading
from ..diets.rules import DietRule
from ..diets.verdicts import Judged, judge, together
from ..errors import NotKnown
from ..measures.profile import Profile
from .facts import AnalysisFacts
from .sides import SideDish, side_dishes


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
    sides: tuple[SideDish, ...]
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

    @property
    def is_dough(self) -> bool:
        """Lifted by yeast and too dry to flow: it is kneaded, and no batter."""
        return any(w.code == "dough" for w in self.warnings)

    def per_piece(self, ledger: Ledger) -> float:
        """The total of a ledger in one piece [unit of the ledger]; 0 where there is no piece."""
        return ledger.total / self.yields.pieces if self.yields.pieces > 0 else 0.0


def all_ledgers(a: Analysis) -> tuple[Ledger, ...]:
    """Every ledger: the balances of the analysis, and energy, protein, fibre, sugars and yield, which are told but not balanced."""
    return (*a.ledgers, *nutrient_ledgers(a.bowl, a.servings), yield_ledger(a.bowl, a.yields))


def servings_of(batter: Batter, bowl: Bowl) -> float:
    """How many the batter serves: as said, else by the usual serving of the form [g]."""
    return batter.servings or max(bowl.batter_g / bowl.form.serving_g, 1e-6)


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
        sides=side_dishes(batter, servings, facts, profile, rules, readings),
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
    if not lines and not any(line.side for line in batter.lines):
        return Plate(lines=0, nutrition=n, sodium_mg=sodium_mg, diets=judged, contains=contains, may_contain=may)
    on_it = fill(batter, facts, "plate")
    extra = nutrition(on_it, profile)
    both = Nutrition(*(getattr(n, k) + getattr(extra, k) for k in Nutrition.__slots__))
    sodium = sodium_mg + on_it.total("sodium")
    each = per_serving(both, sodium, servings)
    verdicts: dict[str, Judged] = {}
    for key, rule in rules.items():
        verdicts[key] = together(judge(batter.lines, rule, facts, profile, each, readings, "plate"), judged[key])
    return Plate(lines=lines, nutrition=both, sodium_mg=sodium, diets=verdicts, contains=contains, may_contain=may)
