"""A morning under way: what stands of what happened, what no longer moves, and the wishes from which the rest is planned."""

import pytest

from mutabilis.core.service.hours import hour, lasting, seconds, spoken
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.live import Happening, begun, done_of, from_stove, moved, standing, wishes_now
from mutabilis.core.service.planning import last, plans
from mutabilis.core.service.solve import Effort, moved_loads

from .making import service
from .planned import RULES, planned


@pytest.fixture(scope="module")
def morning():
    told = service(6, 2, 2)
    return read_service(told, RULES), planned(told, 0.3)


def happened(n, kind, at="06:00", **more):
    return Happening.model_validate({"id": f"event-{n:04d}", "at": at, "kind": kind, **more})


def test_what_was_taken_back_no_longer_stands():
    one, two = happened(1, "late", of="g1", to="08:00"), happened(2, "gone", of="g2")
    assert standing([one, two, happened(3, "undone", of=one.id)]) == (two,)
    assert done_of([happened(1, "done", do="mix", of="bowl_1"), happened(2, "undone", of="event-0001")]) == frozenset()


def test_guests_come_later_or_not_at_all_and_one_more_comes(morning):
    wishes, plan = morning
    first, second = wishes.guests[0], wishes.guests[1]
    events = [
        happened(1, "late", of=first.id, to="08:40"), happened(2, "gone", of=second.id), happened(3, "came", guest={"id": "more", "at": "08:50", "pieces": 1}),
    ]  # fmt: skip
    now = wishes_now(wishes, plan, events, seconds("06:00"))
    hours = {g.id: g.at for g in now.guests}
    assert hours[first.id] == seconds("08:40") and second.id not in hours and hours["more"] == seconds("08:50")
    assert (
        wishes_now(wishes, plan, [happened(1, "late", of=first.id, to="05:40")], 0).guests[0].at == first.at
    )  # nobody is late into the past


def test_before_its_start_a_morning_is_planned_from_the_beginning(morning):
    wishes, plan = morning
    early = wishes_now(wishes, plan, [], wishes.start - 3600)
    assert early.now is None and early.under_way == () and early.begin == wishes.start


def test_what_begins_within_a_minute_does_not_move_and_what_is_later_does(morning):
    _wishes, plan = morning
    load = plan.loads[0]
    for now, stays in ((load.on - 60, True), (load.on - 61, False), (load.on + 30, True)):
        assert any(r.id == load.id for r in begun(plan, [], now)) == stays, hour(now)
    ticked = [happened(1, "done", do="pour", of=load.id)]
    assert any(r.id == load.id for r in begun(plan, ticked, load.on - 600))  # put on early: it lies there


def test_a_dead_surface_loses_what_lies_on_it_and_keeps_what_came_off(morning):
    wishes, plan = morning
    load = plan.loads[0]
    for at, lost in ((load.on + 10, True), (load.off + 10, False)):
        dead = happened(1, "dead", at=hour(at), of=load.station)
        assert any(r.id == load.id for r in begun(plan, [dead], at)) != lost
        assert wishes_now(wishes, plan, [dead], at).station(load.station).dead_from == at
    future = happened(1, "dead", at="09:59", of=load.station)
    assert wishes_now(wishes, plan, [future], load.on).station(load.station).dead_from == load.on  # it is dead now, whatever the clock said


def test_a_spoiled_bowl_is_mixed_anew_and_a_helper_who_left_does_nothing_more(morning):
    wishes, plan = morning
    bowl = plan.bowls[0]
    now = bowl.mix + 30
    assert any(r.id == bowl.id and r.mix is not None for r in begun(plan, [], now))
    assert not any(r.id == bowl.id for r in begun(plan, [happened(1, "spoiled", of=bowl.id)], now))
    gone = wishes_now(wishes, plan, [happened(1, "left", at="06:10", of="cook_1")], seconds("06:10"))
    assert next(p for p in gone.people if p.id == "cook_1").ends == seconds("06:10")


def test_the_stoves_loads_are_the_next_loads_of_their_batter(morning):
    _, plan = morning
    batter = plan.loads[0].batter
    mine = sorted((x for x in plan.loads if x.batter == batter), key=lambda x: (x.on, x.id))
    found = from_stove(plan, {batter: [(100.0, 200.0, None)]}, {batter: 1})
    done = done_of(found)
    assert ("pour", mine[0].id) in done and ("turn", mine[0].id) in done and ("off", mine[0].id) not in done
    assert ("weigh", batter) in done and sum(do == "mix" for do, _ in done) == 1
    assert from_stove(plan, {"another": [(1.0, None, None)]}, {"another": 0}) == ()
    many = from_stove(plan, {batter: [(1.0, 2.0, 3.0)] * 50}, {})
    assert len([e for e in many if e.do == "pour"]) == len(mine)  # more loads than were planned are the cook's own


def test_what_moved_is_one_sentence(morning):
    wishes, plan = morning
    assert moved(plan, plan, wishes) == "Nobody's plate moves."
    p = plan.plates[0]
    later = plan.model_copy(update={"plates": (p.model_copy(update={"served": p.served + 600}), *plan.plates[1:])})
    names = [wishes.guest(g).said for g in p.guests]
    assert moved(plan, later, wishes).startswith(names[0] if len(names) == 1 else ", ".join(names[:1])) and "at another hour" in moved(
        plan, later, wishes
    )
    slight = plan.model_copy(update={"plates": (p.model_copy(update={"served": p.served + 30}), *plan.plates[1:])})
    assert moved(plan, slight, wishes) == "Nobody's plate moves."


@pytest.mark.parametrize("text", ["7:5", "24:00", "07:60", "", "seven", "07:30:99", "-1:00", None, 1.5, True, 90_000])
def test_what_is_no_hour_is_refused(text):
    with pytest.raises(ValueError):
        seconds(text)


@pytest.mark.parametrize(("text", "at"), [("7:05", 25_500), ("07:05:30", 25_530), (" 23:59 ", 86_340), (25_500, 25_500)])
def test_hours_are_read_and_said_back(text, at):
    assert seconds(text) == at and seconds(hour(at)) == at and seconds(spoken(at)) == at


def test_spans_are_rounded_up_to_the_minute():
    assert [lasting(s) for s in (0, 59, 60, 61, 3600)] == ["0 seconds", "59 seconds", "1 minute", "2 minutes", "60 minutes"]


@pytest.mark.parametrize("orders, seed, by", [(6, 2, 0), (20, 4, 600), (12, 5, 900)])
def test_a_load_moves_only_where_that_serves_somebody_sooner(orders, seed, by):
    """The same rest of a morning, planned with and without a memory of where its loads lay: nobody eats later for it, and fewer move."""
    told = service(orders, seed, 2)
    wishes, plan = read_service(told, RULES), planned(told, 0.5)
    at = sorted(x.on for x in plan.loads)[len(plan.loads) // 3]
    guest = max(wishes.guests, key=lambda g: g.at)
    now = wishes_now(wishes, plan, [happened(1, "late", of=guest.id, to=hour(guest.at + by))] if by else [], at)
    assert now.planned and not {r.id for r in now.planned} & {r.id for r in now.under_way if r.on is not None}
    with_memory, without = (
        last(plans(s, RULES, Effort(left=lambda: 60.0, workers=1, deterministic=0.5)))
        for s in (now, now.model_copy(update={"planned": ()}))
    )
    assert with_memory.value[:4] == without.value[:4] and (with_memory.proven.waiting or without.proven == with_memory.proven)
    assert (moved_loads(now, with_memory) or 0) <= (moved_loads(now, without) or 0)
    assert by or moved_loads(now, with_memory) == 0
