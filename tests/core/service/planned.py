"""A service planned the same way each time: one worker, and a limit that counts work and not seconds."""

from typing import Any

from mutabilis.core.service.check import faults
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.plan import Plan
from mutabilis.core.service.planning import last, plans
from mutabilis.core.service.solve import Effort
from mutabilis.data import load_service

RULES = load_service()


def wishes(stations: list[dict[str, Any]], batters: list[dict[str, Any]], guests: list[dict[str, Any]], **more: Any) -> dict[str, Any]:
    """A service that starts at 05:30."""
    return {"start": "05:30", "stations": stations, "batters": batters, "guests": guests, **more}


def planned(told: dict[str, Any], work: float = 1.0) -> Plan:
    """The plan, which keeps every rule."""
    service = read_service(told, RULES)
    plan = last(plans(service, RULES, Effort(left=lambda: 60.0, workers=1, deterministic=work)))
    assert faults(service, plan, RULES) == (), plan.value
    return plan
