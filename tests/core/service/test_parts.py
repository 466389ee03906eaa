"""The parts of a plan one by one: whose hands, what may be eaten, who gets which batter, and how acts are said."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mutabilis.core.service.acts import acts
from mutabilis.core.service.cover import choices, covers
from mutabilis.core.service.hands import Diary, spread_out
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.live import Happening
from mutabilis.core.service.needs import carries, clash, has_met, strict
from mutabilis.core.service.plan import Task
from mutabilis.core.service.wishes import Guest, Need, Offer, Station
from tests.sizes import many

from .making import BATTERS, batter, service
from .planned import RULES, planned, wishes


def offer(**more):
    return Offer.model_validate(batter({"id": "b", "form": "griddle", "contains": [], "fits": [], "done_s": 200}, **more))


def task(at, to, do="pour", of="x"):
    return Task(at=at, to=to, who="", do=do, of=of)


@settings(max_examples=many(60), deadline=None)
@given(st.lists(st.tuples(st.integers(0, 200), st.integers(1, 30)), max_size=30))
def test_a_diary_never_holds_two_things_at_once(spans):
    diary, kept = Diary(10, 190), []
    for at, long in spans:
        free = diary.free(at, at + long)
        assert free == (at >= 10 and at + long <= 190 and not any(a < at + long and at < b for a, b in kept))
        if free:
            diary.take(at, at + long)
            kept.append((at, at + long))
    for at, to in kept:
        diary.leave(at, to)
    assert diary.free(10, 190)


def test_hands_are_given_to_whoever_may_and_is_there():
    told = service(1, 1, 1) | {"people": [{"id": "cook"}, {"id": "tam", "may": ["plate"], "from": "07:00", "to": "08:00"}]}
    morning = read_service(told, RULES)
    at = 7 * 3600
    both = spread_out([task(at, at + 60, "plate"), task(at, at + 60, "turn", "y")], morning, {})
    assert both is not None and {t.do: t.who for t in both} == {"plate": "tam", "turn": "cook"}  # who may do little is asked first
    assert spread_out([task(at, at + 60), task(at + 30, at + 90, of="y")], morning, {}) is None
    early = spread_out([task(6 * 3600, 6 * 3600 + 10, "plate")], morning, {})
    assert early is not None and early[0].who == "cook"
    given_ = spread_out([task(at, at + 5, "mix", "bowl")], morning, {("mix", "bowl"): "cook"})
    assert given_ is not None and given_[0].who == "cook"


@pytest.mark.parametrize(
    ("need", "has", "word"),
    [
        ({"what": "gluten"}, {"contains": ("wheat",)}, "wheat"), ({"what": "gluten_free"}, {"contains": (), "fits": ()}, "not confirmed gluten free"), ({"what": "gluten_free"}, {"fits": ("gluten_free",)}, None),
        ({"what": "vegan", "grade": "preference"}, {"contains": ("egg",), "fits": ("vegan",)}, "egg"), ({"what": "nut_free"}, {"contains": ("peanut",), "fits": ("nut_free",)}, "peanut"),
        ({"what": "soy"}, {"may_contain": ("soy",)}, "soy"), ({"what": "soy", "grade": "preference"}, {"may_contain": ("soy",)}, None), ({"what": "sesame"}, {"may_contain": ("unknown",)}, "not confirmed: not all of it is read"),
        ({"what": "shellfish"}, {"contains": ("crustacean",)}, "crustacean"),
    ],
)  # fmt: skip
def test_a_need_and_a_batter_go_together_or_a_word_says_why_not(need, has, word):
    assert clash(Need.model_validate(need), offer(**has), RULES) == word


def test_what_is_chosen_binds_the_batter_and_what_would_harm_the_surface_too():
    careful = [
        Guest.model_validate({"id": "a", "at": "07:00", "pieces": 1, "needs": [{"what": w, "grade": g}]})
        for w, g in (("vegan", "preference"), ("egg", "intolerance"), ("gluten", "allergy"))
    ]
    assert strict(careful, RULES) == {"egg", "gluten"}
    iron = Station(id="i", kind="iron", places=1, met=("Spelt", "soya"))
    assert has_met(iron, ["gluten"], RULES) == "spelt" and has_met(iron, ["egg"], RULES) is None
    assert (
        carries(offer(contains=("rye",)), "gluten", RULES)
        and carries(offer(may_contain=("anything",)), "egg", RULES)
        and not carries(offer(), "egg", RULES)
    )


def test_another_form_is_taken_before_nothing_is_eaten():
    told = wishes(
        [{"id": "g", "kind": "griddle", "places": 4}],
        [batter(BATTERS[2]), batter(BATTERS[4])],
        [{"id": "a", "at": "07:30", "pieces": 2, "form": "waffle"}],
    )
    morning = read_service(told, RULES)
    found, why = choices(morning.guests[0], morning, RULES)
    assert [o.id for o in found] == ["free_cake"] and why is None  # there is no iron
    (cover, *_), _ = covers(morning, RULES)
    assert cover.other_form == 1


def test_a_named_batter_is_made_even_where_fewer_would_do():
    guests = [
        {"id": "a", "at": "07:30", "pieces": 1, "batter": "egg_cake"},
        {"id": "b", "at": "07:30", "pieces": 1, "form": "griddle", "needs": ["vegan"]},
    ]
    told = wishes([{"id": "g", "kind": "griddle", "places": 4}], [batter(b) for b in BATTERS[:3]], guests)
    (first, *others), conflicts = covers(read_service(told, RULES), RULES)
    assert not conflicts and first.serves["a"] == "egg_cake" and first.serves["b"] in ("hill_cake", "free_cake") and len(first.batters) == 2
    assert all(len(c.batters) <= 3 for c in others)


def test_covers_come_in_rising_number_and_none_holds_another():
    guests = [
        {"id": f"g{n}", "at": "07:30", "pieces": 1, "form": "griddle", "needs": needs}
        for n, needs in enumerate(([], ["vegan"], ["gluten_free"]))
    ]
    told = wishes([{"id": "g", "kind": "griddle", "places": 4}], [batter(b) for b in BATTERS[:3]], guests)
    found, _ = covers(read_service(told, RULES), RULES)
    sizes = [len(c.batters) for c in found]
    assert (
        sizes[0] == 1
        and sizes == sorted(sizes)
        and not any(a.batters < b.batters for a in found for b in found if a.batters == found[0].batters)
    )


def test_acts_say_who_does_what_to_how_many_and_for_whom():
    iron = {"id": "iron", "name": "Old iron", "kind": "iron", "places": 2, "heat_up_s": 60}
    griddle = {"id": "plate", "name": "Plate", "kind": "griddle", "places": 6, "heat_up_s": 60}
    guests = [
        {"id": "ada", "name": "Ada", "at": "07:30", "pieces": 2, "batter": "free_waffle"},
        {"id": "bo", "name": "Bo", "at": "07:30", "pieces": 3, "batter": "egg_cake"},
    ]
    told = wishes([iron, griddle], [batter(BATTERS[4], name="Free waffles"), batter(BATTERS[1], name="Egg cakes")], guests)
    morning, plan = read_service(told, RULES), planned(told, 0.3)
    words = {(a.do, a.of if a.do == "weigh" else ""): a.words for a in acts(morning, plan)}
    assert words["weigh", "free_waffle"] == "Weigh out Free waffles" and words["turn", ""] == "Turn three on the plate"
    said = [a.words for a in acts(morning, plan)]
    assert "Pour two on the old iron" in said and "Open two waffles, Old iron" in said and "Lift off three cakes, Plate" in said
    assert any(w.startswith("Plate for ") for w in said)
    first = acts(morning, plan)[0]
    ticked = acts(morning, plan, [Happening(id="tick-0001", at=first.at, kind="done", do=first.do, of=first.of)])
    assert ticked[0].done and not any(a.done for a in ticked[1:])
