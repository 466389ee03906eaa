"""Small services whose right answer was worked out on paper."""

from typing import Any

import pytest

from mutabilis.core.service.hours import seconds

from .planned import planned, wishes

IRON = {"id": "iron", "kind": "iron", "places": 2, "recover_s": 60, "heat_up_s": 600}
GRIDDLE = {"id": "griddle", "kind": "griddle", "places": 6, "recover_s": 45, "heat_up_s": 480}
WAFFLE = {
    "id": "waffle", "form": "waffle", "contains": [], "fits": ["vegan"], "pour_s": 15, "turn_at_s": None, "turn_s": 0, "done_s": 240, "off_s": 15,
    "hold_s": 1200, "weigh_s": 300, "mix_s": 90, "rest_s": 600, "life_s": 2400,
}  # fmt: skip
CAKE = WAFFLE | {"id": "cake", "form": "griddle", "turn_at_s": 120, "turn_s": 15, "done_s": 195, "contains": ["wheat"]}
FREE = CAKE | {"id": "free_cake", "contains": [], "fits": ["vegan", "gluten_free"]}
COELIAC = [{"what": "gluten", "grade": "allergy"}]


def guest(id: str, at: str, pieces: int, batter: str | None = "waffle", **more: Any) -> dict[str, Any]:
    return {"id": id, "at": at, "pieces": pieces, "batter": batter, **more}


def test_four_waffles_each_of_two_kinds_on_one_iron_wait_as_long_as_the_iron_takes():
    """Four loads, 315 s apart (240 on it, 15 off, 60 to recover): the last is plated in 15 s, the others wait 330, 645 and 960 s, of
    which 300 are free: 2 · (30 + 345 + 660)."""
    plan = planned(
        wishes([IRON], [WAFFLE, WAFFLE | {"id": "other"}], [guest("a", "07:30", 4, table="1"), guest("b", "07:30", 4, "other", table="1")])
    )
    assert (plan.status, plan.late_guests, plan.late_guest_s, plan.held_beyond_free_s) == ("ok", 0, 0, 2070)
    assert plan.proven.waiting and plan.bound.held_beyond_free_s == 2070
    assert sorted(x.ready for x in plan.loads)[-1] == seconds("07:29:45")


def test_what_does_not_keep_until_the_last_is_ready_is_a_conflict_of_holding():
    """Four loads span 945 s and are plated in 15 more; waffles that keep 900 can never be served together."""
    plan = planned(wishes([IRON], [WAFFLE | {"hold_s": 900}], [guest("a", "07:30", 8, table="1"), guest("b", "07:30", 2, table="2")]))
    assert (plan.status, plan.unserved, [c.rule for c in plan.conflicts]) == ("conflict", ("a",), ["hold"])
    assert "a" in plan.conflicts[0].guests and any(p.guests == ("b",) for p in plan.plates)


@pytest.mark.parametrize(("life", "bowls"), ((2400, 1), (2385, 2)))
def test_a_bowl_serves_as_far_as_its_life_goes(life, bowls):
    """The loads of 07:00 and 07:30 go on 1800 s apart at the closest; a bowl is poured from its rest (600 s) to the end of its life."""
    plan = planned(
        wishes(
            [GRIDDLE], [FREE | {"life_s": life, "hold_s": 300}], [guest("a", "07:00", 6, "free_cake"), guest("b", "07:30", 6, "free_cake")]
        )
    )
    gap = abs(plan.loads[1].on - plan.loads[0].on)
    assert plan.status == "ok" and len(plan.bowls) == (1 if gap <= life - 600 else 2)
    assert (bowls == 1) == (life - 600 >= 1800) and len(plan.bowls) in (bowls, 1)


def test_one_pair_of_hands_pours_one_after_the_other_and_two_at_once():
    """Two griddles, each full for one table; with one pair of hands a pour of 180 s fits neither before the turn of the other load (15 s)
    nor between its turn and its end (45 s): it waits until all of that is over, at 360 s."""
    slow = FREE | {"pour_s": 180, "turn_at_s": 195, "turn_s": 60, "done_s": 300, "off_s": 60}
    told = wishes([GRIDDLE, GRIDDLE | {"id": "other"}], [slow], [guest("a", "07:30", 12, "free_cake")], free_hold_s=60)
    one, two = planned(told), planned(told | {"people": [{"id": "cook"}, {"id": "helper"}]})
    assert two.held_beyond_free_s == 0 and len({x.on for x in two.loads}) == 1
    gap = abs(one.loads[1].on - one.loads[0].on)
    assert gap == 360 and one.held_beyond_free_s == 6 * (360 + 15 - 60)


def test_an_iron_that_has_met_wheat_is_never_for_a_coeliac_guest_and_the_clean_one_is():
    met = IRON | {"id": "met", "met": ["wheat"]}
    told = wishes([met], [WAFFLE], [guest("ada", "07:30", 2, avoid=COELIAC), guest("bo", "07:30", 2)])
    alone = planned(told)
    assert alone.unserved == ("ada",) and [(c.rule, c.stations) for c in alone.conflicts] == [("met", ("met",))]
    assert "has met wheat" in alone.conflicts[0].words and [p.guests for p in alone.plates] == [("bo",)]
    both = planned(told | {"stations": [met, IRON]})
    assert both.status == "ok" and next(x.station for x in both.loads if "ada" in x.guests) == "iron"


@pytest.mark.parametrize(("cleanable", "status"), ((True, "ok"), (False, "conflict")))
def test_wheat_at_seven_and_a_coeliac_guest_at_eight_need_a_griddle_that_is_cleaned(cleanable, status):
    """Made before seven the free cakes would wait an hour and keep twenty minutes; after the wheat only a clean plate will do. Where it
    cannot be cleaned, the wheat waits for the coeliac guest's cakes: somebody is an hour late, nobody is harmed."""
    griddle = GRIDDLE | {"cleanable": cleanable, "clean_s": 300}
    plan = planned(wishes([griddle], [CAKE, FREE], [guest("w", "07:00", 3, "cake"), guest("ada", "08:00", 3, "free_cake", avoid=COELIAC)]))
    assert plan.status == status
    clean = [t for t in plan.tasks if t.do == "clean"]
    assert bool(clean) == cleanable and not plan.unserved and plan.late_guests == (0 if cleanable else 1)
    weighed = {t.of: t.at for t in plan.tasks if t.do == "weigh"}
    assert not cleanable or weighed["free_cake"] < weighed["cake"]


def test_two_tables_at_one_hour_are_plated_one_after_the_other():
    """One pair of hands, 15 s a table, and the griddle holds both: the second is served 15 s later, within the grace."""
    plan = planned(wishes([GRIDDLE], [FREE], [guest("a", "07:30", 2, "free_cake"), guest("b", "07:30", 2, "free_cake")]))
    assert (plan.status, plan.late_guests, plan.late_guest_s, len(plan.loads)) == ("ok", 0, 15, 1)
    assert plan.proven.late and plan.bound.late_guest_s == 15


def test_who_wants_to_eat_too_soon_is_late_by_what_the_batter_needs():
    """Weigh 300, mix 90, rest 600, cook 195, off 15, plate 15 from 07:00: 07:20:15, and 07:10 was wanted."""
    plan = planned(wishes([GRIDDLE], [FREE], [guest("a", "07:10", 2, "free_cake")], start="07:00"))
    assert (plan.late_guests, plan.late_guest_s, plan.proven.late) == (1, 615, True)
    (conflict,) = plan.conflicts
    assert conflict.rule == "late" and conflict.remedies[0].changes[0].at == seconds("07:21")


def test_five_waffles_for_an_iron_of_one_are_one_too_many_and_one_of_them_leaves_later_or_takes_a_cake():
    """Five loads of 315 s span more than the 900 s that waffles keep, each guest alone at a table."""
    iron = IRON | {"places": 1}
    told = wishes([iron, GRIDDLE], [WAFFLE | {"hold_s": 900}, FREE], [guest(f"g{n}", "08:00", 1) for n in range(5)])
    plan = planned(told)
    assert plan.late_guests == 1 and not plan.unserved
    words = plan.conflicts[0].words
    assert words.startswith("One guest too many at 08:00 for iron: 5 waffles") and "4 of 5 can be on time" in words
    taken = next(r for r in plan.conflicts[0].remedies if r.changes[0].batter == "free_cake").changes[0]
    settled = [g | ({"batter": taken.batter} if g["id"] == taken.guest else {}) for g in told["guests"]]
    assert planned(told | {"guests": settled}).status == "ok"


def test_a_dead_surface_and_a_batter_that_harms_are_named_first_and_the_others_eat():
    told = wishes(
        [IRON | {"dead": True}, GRIDDLE], [WAFFLE, CAKE, FREE],
        [guest("a", "07:30", 2), guest("b", "07:30", 2, "cake", avoid=["wheat"]), guest("c", "07:30", 2, None, form="griddle", needs=["gluten_free"])],
    )  # fmt: skip
    plan = planned(told)
    assert [(c.guests, c.rule) for c in plan.conflicts] == [(("a",), "dead"), (("b",), "contains")]
    assert plan.serves == {"c": "free_cake"} and [p.guests for p in plan.plates] == [("c",)]
    assert all(c.remedies for c in plan.conflicts)


def test_the_fewest_batters_that_serve_all_are_made():
    told = wishes([GRIDDLE], [CAKE | {"fits": []}, CAKE | {"id": "vegan_cake"}, FREE], [
        guest("a", "07:30", 1, None, form="griddle"), guest("b", "07:30", 1, None, needs=["vegan"]), guest("c", "07:30", 1, None, avoid=COELIAC),
    ])  # fmt: skip
    assert planned(told).batters_used == ("free_cake",)


def test_hands_do_only_what_is_theirs_and_only_while_they_are_there():
    """A helper who may only plate comes at 07:20: everything else is the cook's."""
    people = [{"id": "cook", "may": ["weigh", "mix", "pour", "turn", "off"]}, {"id": "helper", "may": ["plate"], "from": "07:20"}]
    plan = planned(wishes([GRIDDLE], [FREE], [guest("a", "07:10", 2, "free_cake")], people=people))
    assert {t.do for t in plan.tasks if t.who == "helper"} == {"plate"}
    assert plan.plates[0].served == seconds("07:20:15") and plan.late_guests == 1
