"""What holds of every morning: plans keep every rule, names do not matter, one more guest never helps."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mutabilis.core.errors import CannotBe
from mutabilis.core.service.check import faults
from mutabilis.core.service.cover import covers
from mutabilis.core.service.draft import written
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.job import job_of
from mutabilis.core.service.loads import Piece, cuts
from mutabilis.core.service.quick import first_draft
from tests.sizes import many

from .making import service
from .planned import RULES, planned


@settings(deadline=None, max_examples=many(25))
@given(st.integers(1, 40), st.integers(1, 3), st.integers(0, 10**6))
def test_the_plan_at_once_keeps_every_rule(orders, hands, seed):
    wishes = read_service(service(orders, hands, seed), RULES)
    found, conflicts = covers(wishes, RULES)
    assert not conflicts
    for order in ("due", "strict"):
        job = job_of(wishes, found[0], RULES)
        draft = first_draft(job, order)
        plan = written(job, draft) if draft else None
        assert plan is None or faults(wishes, plan, RULES) == ()


def test_one_more_guest_never_makes_a_plan_better():
    told = service(8, 1, 11)
    before = planned(told)
    more = {**told, "guests": [*told["guests"], {"id": "more", "at": "07:15", "pieces": 2, "form": "griddle"}]}
    after = planned(more)
    assert before.proven.late and after.proven.late
    assert (before.late_guests, before.late_guest_s) <= (after.late_guests, after.late_guest_s)


def test_renaming_everybody_changes_nothing_and_the_same_wishes_give_the_same_plan():
    told = service(9, 1, 5)
    plan = planned(told, 0.3)
    assert plan.told() == planned(told, 0.3).told()
    names = {g["id"]: f"z{n:02d}" for n, g in enumerate(told["guests"])}
    other = planned({**told, "guests": [{**g, "id": names[g["id"]]} for g in told["guests"]]}, 0.3)
    assert other.value == plan.value


@settings(deadline=None, max_examples=many(60))
@given(st.lists(st.integers(0, 12), min_size=1, max_size=24), st.integers(1, 6), st.floats(1, 2000), st.integers(0, 1500))
def test_no_way_to_cut_the_loads_is_cheaper(hours, places, price, hold):
    """The cuts by dynamic programming against every way to cut a short list."""
    pieces = [Piece(f"g{n:02d}", 300 * h, (f"t{n:02d}", 300 * h)) for n, h in enumerate(hours[:9])]
    queue = sorted(pieces, key=lambda p: (p.due, p.table, p.guest))

    def cost(cut):
        return sum(price + sum(max(0, p.due - c[0].due - 300) for p in c) for c in cut)

    best = min(
        cost(found)
        for mask in range(2 ** (len(queue) - 1))
        for found in [_cut(queue, mask)]
        if all(len(c) <= places and c[-1].due - c[0].due <= hold for c in found)
    )
    found = cuts(pieces, places, hold, 300, price)
    assert [p for c in found for p in c] == queue and all(len(c) <= places for c in found)
    assert cost(found) == pytest.approx(best)


def _cut(queue, mask):
    found, last = [], 0
    for n in range(1, len(queue) + 1):
        if n == len(queue) or mask >> (n - 1) & 1:
            found.append(queue[last:n])
            last = n
    return found


ODD = [
    ({"guests": []}, "nobody comes"),
    ({"stations": []}, "no surface"),
    ({"batters": []}, "no batter"),
    ({"people": []}, "nobody is there to cook"),
    ({"start": "25:00"}, "an hour is written"),
    ({"start": "09:30"}, "before the service starts"),
    ({"plate_s": -1}, "plate_s"),
    ({"stations": [{"id": "i", "kind": "iron", "places": 0}]}, "stations i places"),
    ({"guests": [{"id": "a", "at": "07:00", "pieces": 1}] * 2}, "two guests have the id “a”"),
    ({"guests": [{"id": f"g{n}", "at": "07:00", "pieces": 1} for n in range(500)]}, "500 guests are too many"),
    ({"guests": [{"id": "a", "at": "07:00", "pieces": 1, "alergy": ["nuts"]}]}, "guests a alergy: is not a name that is known"),
    ({"guests": [{"id": "a", "at": "07:00", "pieces": 1, "batter": "gone"}]}, "no such batter"),
    ({"guests": [{"id": "a", "at": "07:00", "pieces": "many"}]}, "guests a pieces"),
    ({"under_way": [{"on": "07:00"}]}, "a load under way names its batter"),
    ({"people": [{"id": "a", "from": "08:00", "to": "07:00"}]}, "leaves at 07:00, before coming"),
]  # fmt: skip


@pytest.mark.parametrize(("change", "said"), ODD)
def test_what_cannot_be_planned_is_said_in_one_plain_line(change, said):
    with pytest.raises(CannotBe) as refused:
        read_service({**service(3, 1, 1), **change}, RULES)
    assert said in str(refused.value) and "\n" not in str(refused.value)


@pytest.mark.parametrize(
    ("avoid", "has", "met"),
    [
        ("gluten", "wheat", True), ("wheat", "gluten", True), ("Coeliac", "Spelt", True), ("Eggs", "egg", True), ("lactose", "milk", True), ("nuts", "tree_nut:almond", True),
        ("almond", "tree nuts", True), ("soya", "soy", True), ("gluten", "soy", False), ("peanut", "tree_nut", False), ("rye", "wheat", False),
    ],
)  # fmt: skip
def test_allergens_are_met_under_any_of_their_names(avoid, has, met):
    told = service(1, 1, 1)
    told["batters"] = [{**told["batters"][2], "contains": [has]}]
    told["guests"] = [{"id": "a", "at": "07:30", "pieces": 1, "avoid": [avoid]}]
    assert bool(covers(read_service(told, RULES), RULES)[1]) == met


def test_nobody_gets_what_is_not_confirmed_or_not_read():
    told = service(1, 1, 1)
    free = told["batters"][2]
    for change, needs in (
        ({"fits": []}, ["vegan"]), ({"may_contain": ["soy"]}, ["soy"]), ({"may_contain": ["anything"]}, ["sesame"]), ({"contains": ["milk"]}, ["vegan"]),
    ):  # fmt: skip
        made = {**told, "batters": [{**free, **change}], "guests": [{"id": "a", "at": "07:30", "pieces": 1, "needs": needs}]}
        (conflict,) = covers(read_service(made, RULES), RULES)[1]
        assert conflict.rule == "nothing_fits"


def test_what_has_begun_stays_and_the_rest_is_planned_around_it():
    """At many moments of a morning, with a guest who comes later, one who goes, a dead iron, or a spoiled bowl."""
    dice = random.Random(4)
    told = service(14, 2, 8)
    plan = planned(told, 0.3)
    for what in ("late", "gone", "dead", "spoiled", "more"):
        now = dice.randrange(7 * 3600, 8 * 3600)
        begun = under_way(plan.told(), now)
        new = {**told, "now": clock(now), "under_way": begun}
        waiting = [g for g in told["guests"] if g["at"] > clock(now)[:5]]
        if what == "late" and waiting:
            new["guests"] = [{**g, "at": "08:20"} if g is waiting[0] else g for g in told["guests"]]
        if what == "more":
            new["guests"] = [*told["guests"], {"id": "more", "at": "08:30", "pieces": 3, "form": "griddle"}]
        if what == "dead":
            new["stations"] = [{**s, "dead_from": clock(now)} if s["id"] == "griddle_b" else s for s in told["stations"]]
            new["under_way"] = [r for r in begun if not (r.get("station") == "griddle_b" and r["off"] > clock(now))]
        if what == "spoiled":
            new["under_way"] = [r for r in begun if "mix" not in r or r["batter"] != plan.bowls[0].batter]
        again = planned(new, 0.3)
        lies = {x.id: x for x in again.loads}
        for row in new["under_way"]:
            if "on" in row:
                assert lies[row["id"]].station == row["station"]
        assert not again.unserved, what


def clock(at: int) -> str:
    return f"{at // 3600:02d}:{at // 60 % 60:02d}:{at % 60:02d}"


def under_way(plan, now):
    """The rows of a plan that have begun, or begin within a minute."""
    edge = clock(now + 60)
    return [
        *(x for x in plan["loads"] if x["on"] <= edge),
        *(b for b in plan["bowls"] if b["mix"] <= edge),
        *({k: p[k] for k in ("table", "wanted", "served")} for p in plan["plates"] if p["served"] <= edge),
        *(t for t in plan["tasks"] if t["at"] <= edge and t["do"] in ("weigh", "clean")),
    ]
