"""Facts as files, each row with its source, and the one place that reads them into the core's types."""

import csv
import tomllib
from collections.abc import Callable, Mapping
from functools import cache
from importlib.resources import files
from importlib.resources.abc import Traversable
from typing import TYPE_CHECKING, Any

from mutabilis.core.adapt.craft import Craft
from mutabilis.core.balances.marks import Tellings
from mutabilis.core.batter.batter import Form, FormKey
from mutabilis.core.diets.rules import DietRule, check_rule, read_rule
from mutabilis.core.errors import Known
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.ingredients import Ingredient, certified
from mutabilis.core.food.naming import Names
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.heat.tables import HeatTables, Turning
from mutabilis.core.measures.units import Units
from mutabilis.core.process.facts import ProcessTables
from mutabilis.core.reading.clauses import Clauses
from mutabilis.core.reading.prose import Prose
from mutabilis.core.reading.words import Words
from mutabilis.core.recipe.leftovers import Leftovers
from mutabilis.core.safety import Safety
from mutabilis.core.stove.tables import StoveTables

from .compiled import kept

if TYPE_CHECKING:  # read by few commands, so loaded by those alone
    from mutabilis.core.diagnosis.tables import DiagnosisTables
    from mutabilis.core.service.tables import ServiceTables

HERE = files(__package__)


@cache
def load_facts() -> AllFacts:
    """Everything shipped, as `read_facts` reads it."""
    return kept(read_facts)


def read_facts() -> AllFacts:
    """Everything shipped, checked as it is read. A diet file with a mistake is named in `faults`; the rest still works."""
    ingredients = load_ingredients()
    forms = Known[FormKey, Form]({k: Form.model_validate({"key": k, **v}) for k, v in _toml("forms.toml").items()})
    diets, faults = read_rules(HERE.joinpath("diets"), ingredients)
    safety = Safety.model_validate(_toml("safety.toml"))
    units = Units.from_table(_toml("units.toml"))
    names = Names(ingredients, {**_toml("names.toml"), "passed": _toml("preparation.toml")})
    words = Words(names, units)
    heat, turning, surfaces = _heat(ingredients, safety)
    return AllFacts(
        ingredients=ingredients,
        names=names,
        words=words,
        clauses=Clauses(words),
        prose=Prose(_toml("prose.toml"), words),
        units=units,
        forms=forms,
        safety=safety,
        tellings=Tellings.from_table(_toml("balances.toml")),
        diets=Known(diets),
        craft=Craft.from_tables(_rows("craft.csv"), _toml("craft.toml"), ingredients),
        heat=heat,
        turning=turning,
        surfaces=surfaces,
        process=ProcessTables.model_validate({**_toml("process.toml"), "sides": _toml("sides.toml"), "dry_mix": _toml("dry_mix.toml")}),
        stove=_stove(safety),
        usual=_usual(ingredients),
        leftovers=_leftovers(ingredients),
        faults=faults,
    )


def read_rules(
    folder: Traversable,
    ingredients: Mapping[str, Ingredient],
    text_of: Callable[[Any], str] = lambda path: path.read_text(encoding="utf-8"),
) -> tuple[dict[str, DietRule], tuple[str, ...]]:
    """The diets of a folder of rule files, in their order, and the files refused: file, line and reason of each. `text_of` reads one."""
    diets: dict[str, DietRule] = {}
    faults: list[str] = []
    for path in sorted(folder.iterdir(), key=lambda p: p.name):
        if path.name.endswith(".toml"):
            try:
                text = text_of(path)
                rule = read_rule(text, path.name)
                check_rule(rule, text, path.name, ingredients)
                diets[rule.key] = rule
            except (ValueError, OSError) as error:
                faults.append(str(error))
    return dict(sorted(diets.items(), key=lambda item: (item[1].order, item[0]))), tuple(faults)


def load_ingredients() -> dict[str, Ingredient]:
    """The ingredient table, with what the leavening table says of those that carry bicarbonate."""
    leaveners = {row["ingredient"]: row for row in _rows("leaveners.csv")}
    ingredients: dict[str, Ingredient] = {}
    for row in _rows("ingredients.csv"):
        data: dict[str, Any] = {**row, "allergens": tuple(a for a in row["allergens"].split(";") if a)}
        if leavener := leaveners.get(row["id"]):
            data["soda_fraction"] = float(leavener["bicarbonate_fraction"])
            data["early_fraction"] = float(leavener["early_fraction"])
            data["half_life_min"] = float(leavener["bench_half_life_minutes"])
        if row["id"] in ingredients:
            raise ValueError(f"ingredient {row['id']} stands twice")
        ingredients[row["id"]] = Ingredient.model_validate(data)
    return Known({**ingredients, **_certified(ingredients)})


def _certified(ingredients: Mapping[str, Ingredient]) -> dict[str, Ingredient]:
    """The twins from a certified mill of what may have met wheat on its way, by the rule of `certified.toml`."""
    rule = _toml("certified.toml")
    twins: dict[str, Ingredient] = {}
    for i in ingredients.values():
        may_have_met_wheat = i.group in rule["groups"] or i.id in rule["seeds"]
        if not may_have_met_wheat or i.contains_gluten != "risk" or i.pack_decides or i.id in rule["apart"] or i.is_certified:
            continue
        if certified(i.id) not in ingredients:
            update = {"id": certified(i.id), "name": f"{i.name}, certified gluten-free", "contains_gluten": "no"}
            twins[certified(i.id)] = i.model_copy(update=update)
    return twins


def _stove(safety: Safety) -> StoveTables:
    table = _toml("stove.toml")
    for row in table["keep"]:
        row["hours"] = getattr(safety.keep, f"{row['key']}_hours")
    return StoveTables.model_validate(table)


def _heat(ingredients: Mapping[str, Ingredient], safety: Safety) -> tuple[HeatTables, Turning, tuple[Surface, ...]]:
    table = _toml("heat.toml")
    turning = Turning.model_validate(table.pop("turning"))
    surfaces = tuple(Surface.model_validate(row) for row in table.pop("surface"))
    table["crumb"]["safe_c"] = safety.centre.celsius
    found = HeatTables.model_validate(table)
    for name in found.smoke:
        if name not in ingredients:
            raise ValueError(f"heat.toml: no ingredient “{name}”")
    return found, turning, surfaces


def _usual(ingredients: Mapping[str, Ingredient]) -> dict[str, float]:
    table = _toml("usual.toml")
    groups = {i.group for i in ingredients.values()}
    for known, names in ((ingredients, table["ingredient"]), (groups, table["group"])):
        for name in names:
            if name not in known:
                raise ValueError(f"usual.toml: no “{name}”")
    return {**table["ingredient"], **{f"group:{k}": v for k, v in table["group"].items()}}


def _leftovers(ingredients: Mapping[str, Ingredient]) -> Leftovers:
    found = Leftovers.model_validate(_toml("leftovers.toml"))
    for name in (*found.pack, *found.egg):
        if name not in ingredients:
            raise ValueError(f"leftovers.toml: no ingredient “{name}”")
    return found


def _rows(name: str) -> list[dict[str, str]]:
    with HERE.joinpath(name).open(encoding="utf-8") as file:
        return list(csv.DictReader(file))


def _toml(name: str) -> dict[str, Any]:
    return tomllib.loads(HERE.joinpath(name).read_text(encoding="utf-8"))


@cache
def load_service() -> "ServiceTables":
    """What a service is planned by; read alone, since planning needs nothing of the batters' facts."""
    from mutabilis.core.service.tables import ServiceTables

    return ServiceTables.model_validate(_toml("service.toml"))


@cache
def load_diagnosis() -> "DiagnosisTables":
    """The tables of a diagnosis, checked against each other."""
    from mutabilis.core.diagnosis.tables import DiagnosisTables

    folder = "diagnosis/"
    return DiagnosisTables.from_rows(
        _rows(f"{folder}causes.csv"),
        _rows(f"{folder}links.csv"),
        _rows(f"{folder}evidence.csv"),
        _rows(f"{folder}questions.csv"),
        _toml(f"{folder}network.toml"),
    )
