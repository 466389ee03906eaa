"""Services made up from a seed: as many orders as wanted, on two griddles of six, two irons of two and an oven."""

import random
from typing import Any

BATTERS: tuple[dict[str, Any], ...] = (
    {"id": "hill_cake", "form": "griddle", "contains": ["wheat"], "fits": ["vegan"], "turn_at_s": 147, "turn_s": 20, "done_s": 210},
    {"id": "egg_cake", "form": "griddle", "contains": ["wheat", "egg", "milk"], "fits": [], "turn_at_s": 135, "turn_s": 20, "done_s": 195},
    {"id": "free_cake", "form": "griddle", "contains": [], "fits": ["vegan", "gluten_free"], "turn_at_s": 150, "turn_s": 20, "done_s": 225},
    {"id": "lamp_waffle", "form": "waffle", "contains": ["wheat", "egg", "milk"], "fits": [], "done_s": 240},
    {"id": "free_waffle", "form": "waffle", "contains": [], "fits": ["vegan", "gluten_free"], "done_s": 255},
    {"id": "tray_cake", "form": "tray", "contains": ["wheat"], "fits": ["vegan"], "done_s": 1200},
)
HOLD = {"griddle": 1200, "waffle": 900, "tray": 2400}


def batter(one: dict[str, Any], **more: Any) -> dict[str, Any]:
    """A batter with its usual moments."""
    usual = {"turn_at_s": None, "turn_s": 0, "pour_s": 30, "off_s": 15, "weigh_s": 300, "mix_s": 90, "rest_s": 600, "life_s": 2700}
    return {**usual, "hold_s": HOLD[one["form"]], **one, **more}


def stations(**more: Any) -> list[dict[str, Any]]:
    """Two griddles of six, two irons of two (the second has met wheat) and an oven of twelve."""
    return [
        {"id": "griddle_a", "kind": "griddle", "places": 6, "recover_s": 45, "heat_up_s": 480, "cleanable": True, "clean_s": 240, **more},
        {"id": "griddle_b", "kind": "griddle", "places": 6, "recover_s": 45, "heat_up_s": 480, "cleanable": True, "clean_s": 240, **more},
        {"id": "iron_a", "kind": "iron", "places": 2, "recover_s": 60, "heat_up_s": 600},
        {"id": "iron_b", "kind": "iron", "places": 2, "recover_s": 60, "heat_up_s": 600, "met": ["wheat"]},
        {"id": "oven", "kind": "oven", "places": 12, "recover_s": 60, "heat_up_s": 900},
    ]


def service(orders: int, hands: int, seed: int) -> dict[str, Any]:
    """`orders` guests between 07:00 and 09:00 at tables of one to four."""
    dice = random.Random(seed)
    guests: list[dict[str, Any]] = []
    span = min(120, 20 + 2 * orders)
    while len(guests) < orders:
        at = 7 * 60 + 5 * dice.randrange(span // 5)
        table = f"t{len(guests)}"
        for _ in range(min(dice.randint(1, 4), orders - len(guests))):
            form = dice.choices(("griddle", "waffle", "tray"), (6, 2, 1))[0]
            needs = dice.choices(
                ([], [{"what": "vegan", "grade": "preference"}], [{"what": "gluten", "grade": "allergy"}], ["egg"]), (10, 3, 1, 1)
            )[0]
            form = "griddle" if form == "tray" and needs and needs != [{"what": "vegan", "grade": "preference"}] else form
            guests.append(
                {
                    "id": f"g{len(guests)}",
                    "table": table,
                    "at": f"{at // 60:02d}:{at % 60:02d}",
                    "pieces": dice.randint(1, 3),
                    "form": form,
                    "needs": needs,
                }
            )
    people = [{"id": f"cook_{n}"} for n in range(hands)]
    return {"start": "05:30", "people": people, "stations": stations(), "batters": [batter(b) for b in BATTERS], "guests": guests}
