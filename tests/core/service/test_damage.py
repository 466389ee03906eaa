"""The checker refuses plans that were damaged in every way that would hurt a guest or a morning, and solvers are not part of it."""

import ast
import random
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from mutabilis.core.service import check
from mutabilis.core.service.check import faults
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.plan import Plan

from .making import service
from .planned import RULES, planned

Told = dict[str, Any]


def moved(row: Told, *fields: str, by: int) -> None:
    for field in fields:
        if row[field] is not None:
            h, m, s = (int(x) for x in row[field].split(":"))
            at = h * 3600 + m * 60 + s + by
            row[field] = f"{at // 3600:02d}:{at // 60 % 60:02d}:{at % 60:02d}"


def whole_load(plan: Told, dice: random.Random, by: int) -> None:
    """A load with all its tasks at another time."""
    load = dice.choice(plan["loads"])
    moved(load, "on", "turn", "off", "ready", by=by)
    for t in plan["tasks"]:
        if t["of"] == load["id"]:
            moved(t, "at", "to", by=by)


def swapped_surface(plan: Told, dice: random.Random) -> None:
    load = dice.choice([x for x in plan["loads"] if x["station"] == "iron_a"])
    load["station"] = "griddle_a"


def met_iron(plan: Told, dice: random.Random) -> None:
    load = dice.choice([x for x in plan["loads"] if x["station"] == "iron_a" and "coeliac" in x["guests"]])
    load["station"] = "iron_b"


def other_batter(plan: Told, dice: random.Random) -> None:
    load = next(x for x in plan["loads"] if "coeliac" in x["guests"])
    load["batter"] = "lamp_waffle"


DAMAGE: dict[str, Callable[[Told, random.Random], object]] = {
    "a load two hours earlier": lambda p, d: whole_load(p, d, -7200),
    "a load an hour later": lambda p, d: whole_load(p, d, 3600),
    "a piece less": lambda p, d: d.choice(p["loads"]).update(pieces=0),
    "a guest's pieces left out": lambda p, d: d.choice(p["loads"])["guests"].popitem(),
    "a load left out": lambda p, d: p["loads"].remove(d.choice(p["loads"])),
    "taken off early": lambda p, d: moved(d.choice(p["loads"]), "off", by=-30),
    "ready before it is": lambda p, d: moved(d.choice(p["loads"]), "ready", by=-15),
    "turned later": lambda p, d: moved(d.choice([x for x in p["loads"] if x["turn"]]), "turn", by=60),
    "a waffle on a griddle": swapped_surface,
    "the iron that has met wheat": met_iron,
    "wheat for the coeliac guest": other_batter,
    "a bowl mixed an hour before": lambda p, d: moved(d.choice(p["bowls"]), "mix", "usable_from", "usable_to", by=-3600),
    "a bowl that lasts longer": lambda p, d: moved(d.choice(p["bowls"]), "usable_to", by=600),
    "a bowl of another batter": lambda p, d: p["bowls"][0].update(batter=next(b for b in p["batters_used"] if b != p["bowls"][0]["batter"])),
    "a plate before its hour": lambda p, d: moved(d.choice(p["plates"]), "served", by=-60),
    "a plate an hour later": lambda p, d: moved(d.choice(p["plates"]), "served", by=3600),
    "a plate left out": lambda p, d: p["plates"].remove(d.choice(p["plates"])),
    "a task left out": lambda p, d: p["tasks"].remove(d.choice(p["tasks"])),
    "a task of nobody": lambda p, d: d.choice(p["tasks"]).update(who="nobody"),
    "two things at once": lambda p, d: p["tasks"].append({**d.choice(p["tasks"]), "do": "clean", "of": "griddle_b"}),
    "the clean mix weighed last": lambda p, d: [
        moved(t, "at", "to", by=4 * 3600) for t in p["tasks"] if t["do"] == "weigh" and t["of"].startswith("free")
    ],
    "a figure made nicer": lambda p, d: p.update(late_guest_s=p["late_guest_s"] - 15, held_beyond_free_s=p["held_beyond_free_s"] + 15),
    "a guest forgotten": lambda p, d: p["serves"].update(coeliac=None),
}  # fmt: skip


@pytest.fixture(scope="module")
def good() -> tuple[Told, Plan]:
    told = service(12, 2, 3)
    told["guests"].append({"id": "coeliac", "at": "07:30", "pieces": 2, "batter": "free_waffle", "avoid": ["gluten"]})
    told["guests"].append({"id": "else", "at": "07:40", "pieces": 2, "batter": "lamp_waffle"})
    plan = planned(told, 0.5)
    assert plan.status == "ok"
    return told, plan


@pytest.mark.parametrize("what", DAMAGE)
def test_a_damaged_plan_is_refused(good, what):
    told, plan = good
    wishes = read_service(told, RULES)
    for seed in range(4):
        damaged = plan.told()
        DAMAGE[what](damaged, random.Random(seed))
        damaged["serves"] = {k: v for k, v in damaged["serves"].items() if v}
        assert faults(wishes, Plan.model_validate(damaged), RULES), seed


def test_a_plan_survives_being_written_and_read(good):
    told, plan = good
    assert faults(read_service(told, RULES), Plan.model_validate(plan.told()), RULES) == ()


def test_the_checker_knows_nothing_of_how_plans_are_made():
    tree = ast.parse(Path(check.__file__).read_text())
    used = {n.module for n in ast.walk(tree) if isinstance(n, ast.ImportFrom) and n.level}
    assert used == {"hours", "needs", "plan", "tables", "wishes"}
