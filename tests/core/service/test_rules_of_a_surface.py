"""One surface at a time: its heat, its recovery, its end, its oven's heat, what it has met, and its cleaning; by the quick hand and by the solver."""

import pytest

from mutabilis.core.service.check import faults
from mutabilis.core.service.cover import covers
from mutabilis.core.service.draft import written
from mutabilis.core.service.hours import seconds
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.job import GRID_S, job_of
from mutabilis.core.service.quick import first_draft
from mutabilis.core.service.solve import Effort, improve, servable, workers_for
from tests.sizes import many

from .making import BATTERS, batter, service
from .planned import RULES, planned, wishes

GRIDDLE = {"id": "griddle", "kind": "griddle", "places": 4, "recover_s": 45, "heat_up_s": 300}
OVEN = {"id": "oven", "kind": "oven", "places": 6, "recover_s": 60, "heat_up_s": 900, "change_s": 900}
FREE, EGG = batter(BATTERS[2]), batter(BATTERS[1])
COELIAC = [{"what": "gluten"}]


def quick(told, order="due"):
    job = job_of(read_service(told, RULES), covers(read_service(told, RULES), RULES)[0][0], RULES)
    draft = first_draft(job, order)
    return job, draft, written(job, draft) if draft else None


def guest(id, at, pieces, which, **more):
    return {"id": id, "at": at, "pieces": pieces, "batter": which, **more}


def test_nothing_goes_on_before_the_surface_is_hot_and_all_is_told_as_late():
    told = wishes([GRIDDLE | {"heat_up_s": 3600}], [FREE], [guest("a", "06:00", 2, "free_cake")])
    plan = planned(told)
    assert plan.loads[0].on >= seconds("06:30") and plan.late_guests == 1
    hot = planned(told | {"stations": [GRIDDLE | {"heat_up_s": 3600, "hot_from": "05:35"}]})
    assert hot.late_guests == 0 and hot.loads[0].on >= seconds("05:35")


def test_a_surface_that_dies_takes_nothing_that_would_still_lie_on_it():
    other = GRIDDLE | {"id": "other"}
    told = wishes(
        [GRIDDLE | {"dead_from": "07:20"}, other], [FREE], [guest("a", "07:30", 4, "free_cake"), guest("b", "07:30", 4, "free_cake")]
    )
    plan = planned(told)
    assert all(x.station == "other" or x.off <= seconds("07:20") for x in plan.loads) and not plan.unserved


@pytest.mark.parametrize(("heats", "gap"), (((180, 180), 60), ((180, 220), 900)))
def test_an_oven_has_one_heat_at_a_time_and_takes_its_time_to_change(heats, gap):
    trays = [batter(BATTERS[5], id=f"tray_{n}", oven_c=c, done_s=600) for n, c in enumerate(heats)]
    plan = planned(wishes([OVEN], trays, [guest("a", "07:30", 4, "tray_0"), guest("b", "07:30", 4, "tray_1")]))
    first, second = sorted(plan.loads, key=lambda x: x.on)
    assert second.on - first.off >= gap - 15 and not plan.unserved


def test_whoever_may_not_meet_it_is_cooked_first_where_the_hours_allow():
    """Cakes keep twenty minutes: the free ones of 07:30 go on before the wheat of 07:40, and no cleaning is needed."""
    told = wishes(
        [GRIDDLE | {"cleanable": True, "clean_s": 300}],
        [FREE, EGG],
        [guest("ada", "07:30", 3, "free_cake", avoid=COELIAC), guest("w", "07:40", 3, "egg_cake")],
    )
    plan = planned(told)
    on = {x.batter: x.on for x in plan.loads}
    assert on["free_cake"] < on["egg_cake"] and not [t for t in plan.tasks if t.do == "clean"] and plan.late_guests == 0


def test_a_surface_that_has_met_it_before_the_morning_is_cleaned_once_before_anything_lies_on_it():
    met = GRIDDLE | {"cleanable": True, "clean_s": 240, "met": ["wheat"]}
    told = wishes(
        [met], [FREE], [guest("ada", "07:30", 3, "free_cake", avoid=COELIAC), guest("bea", "08:10", 3, "free_cake", avoid=COELIAC)]
    )
    plan = planned(told)
    (clean,) = [t for t in plan.tasks if t.do == "clean"]
    assert clean.to - clean.at == 240 and clean.to <= min(x.on for x in plan.loads) and plan.status == "ok"
    _, draft, first = quick(told)
    assert draft is not None and len(draft.clean) == 1 and first is not None and faults(read_service(told, RULES), first, RULES) == ()


def test_whoever_minds_nothing_leaves_the_clean_surface_alone_where_another_is_free():
    told = wishes(
        [GRIDDLE | {"met": ["wheat"]}, GRIDDLE | {"id": "clean"}],
        [FREE, EGG],
        [guest("ada", "07:30", 4, "free_cake", avoid=COELIAC), guest("w", "07:30", 4, "egg_cake")],
    )
    where = {x.batter: x.station for x in planned(told).loads}
    assert where == {"free_cake": "clean", "egg_cake": "griddle"}


def test_strict_pieces_lie_apart_only_where_it_matters():
    """Two eat the same batter, one of them coeliac: one load where no surface has met gluten, two where the other's could lie elsewhere."""
    guests = [guest("ada", "07:30", 2, "free_cake", avoid=COELIAC), guest("bo", "07:30", 2, "free_cake")]
    assert len(quick(wishes([GRIDDLE], [FREE], guests))[0].lumps) == 1
    apart, _, _ = quick(wishes([GRIDDLE, GRIDDLE | {"id": "met", "met": ["wheat"]}], [FREE], guests))
    assert sorted(len(x.stations) for x in apart.lumps) == [1, 2]


@pytest.mark.parametrize("order", ["due", "strict"])
@pytest.mark.parametrize("seed", range(many(3)))
def test_the_solver_never_makes_the_quick_hands_plan_worse(order, seed):
    told = service(10, 1, 40 + seed)
    job, draft, plan = quick(told, order)
    assert plan is not None
    for better in improve(job, plan, draft, Effort(left=lambda: 20.0, workers=1, deterministic=0.2)):
        assert better.value <= plan.value and faults(job.service, better, RULES) == ()
        plan = better
    assert plan.bound.late_guest_s <= plan.late_guest_s and plan.bound.held_beyond_free_s <= plan.held_beyond_free_s


def test_what_can_be_served_late_can_be_served_and_what_never_keeps_cannot():
    early = wishes([GRIDDLE], [FREE], [guest("a", "05:40", 4, "free_cake")])
    job, _, _ = quick(early)
    effort = Effort(left=lambda: 10.0, workers=1)
    assert servable(job, job.open, effort) is True and servable(job, job.open, effort, late=False) is False
    never = wishes([GRIDDLE | {"places": 1}], [FREE | {"hold_s": 60}], [guest("a", "07:30", 3, "free_cake")])
    lost, _, plan = quick(never)
    assert plan is None and servable(lost, lost.open, effort) is False
    assert servable(job, job.open, Effort(left=lambda: 0.0)) is None


def test_small_services_are_planned_to_the_second_and_large_ones_on_a_grid():
    odd = batter(BATTERS[2], done_s=197, turn_at_s=101, off_s=7)
    small, _, _ = quick(wishes([GRIDDLE | {"recover_s": 13}], [odd], [guest("a", "07:30", 2, "free_cake")]))
    large, _, _ = quick(service(40, 2, 1))
    assert small.grid == 1 and large.grid == GRID_S
    assert workers_for(small.service) == 1 and workers_for(large.service) == 2
