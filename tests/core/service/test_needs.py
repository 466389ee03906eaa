"""A need is met by what the batters are checked for, however it is written; what nobody checks, nobody is served as free of."""

import pytest

from mutabilis.core.errors import CannotBe
from mutabilis.core.service.inputs import read_service
from mutabilis.core.service.needs import harms

from .making import batter, stations
from .planned import RULES, planned, wishes


def told(what, contains, grade="allergy", others=()):
    one = {"id": "cake", "form": "griddle", "turn_at_s": 147, "turn_s": 20, "done_s": 210}
    batters = [batter(one, contains=list(contains)), *(batter({**one, "id": f"cake_{n}"}, contains=list(x)) for n, x in enumerate(others))]
    guest = {"id": "ada", "at": "07:30", "pieces": 2, "batter": "cake", "needs": [{"what": what, "grade": grade}]}
    return wishes(stations(), batters, [guest])


@pytest.mark.parametrize(
    ("what", "contains", "served"),
    [
        ("nuts", ["Hazelnuts"], False), ("hazelnut", ["tree nuts"], False), ("hazelnut", ["almonds"], True), ("egg", ["egg whites"], False), ("milk", ["Whey"], False), ("Soya", ["soy lecithin"], False),
        ("spelt", ["wheat"], False), ("gluten", ["barley malt"], False), ("peanut", ["tree nuts"], True), ("sesame", ["Sesame seeds"], False), ("shellfish", ["Prawns"], False), ("oats", ["Oat"], False),
        ("soy", ["Soy (check the pack)"], False),
        ("kiwi", ["wheat"], False), ("halal", [], False), ("kiwi", ["wheat", "kiwi"], False), ("banana", ["milk", "cinnamon"], False),
    ],
)  # fmt: skip
@pytest.mark.parametrize("grade", ["allergy", "preference"])
def test_what_a_batter_names_in_any_spelling_is_met_and_what_is_not_checked_is_not_served(what, contains, served, grade):
    service = told(what, contains, grade)
    del service["guests"][0]["batter"]
    plan = planned(service)
    assert (plan.unserved == ()) is served
    assert served or plan.conflicts[0].guests == ("ada",)


def test_what_nobody_read_is_for_nobody_who_reacts():
    told_as = read_service(told("sesame", ["wheat", "Anything (pack not read)"]), RULES)
    assert harms(told_as.guests[0], told_as.batters[0], RULES) == "not confirmed: not all of it is read"


def test_what_one_batter_names_the_others_are_checked_for():
    service = told("kiwi", ["wheat", "kiwi"], others=[["wheat"]])
    assert planned(service).unserved == ("ada",)  # the batter that was asked for holds it
    service["guests"][0]["batter"] = "cake_0"
    assert planned(service).unserved == ()
    alone = told("kiwi", ["wheat"])
    del alone["guests"][0]["batter"]
    assert planned(alone).conflicts[0].words == "No batter is checked for kiwi: cook for ada (allergy) apart."


def test_a_diet_that_only_a_batter_names_is_fitted_by_that_batter_alone():
    service = told("Halal", [], others=[[]])
    del service["guests"][0]["batter"]
    assert planned(service).unserved == ("ada",)
    service["batters"][1]["fits"] = ["halal"]
    plan = planned(service)
    assert plan.unserved == () and {x.batter for x in plan.loads} == {"cake_0"}


@pytest.mark.parametrize(("word", "meant"), [("Eggz", "egg"), ("wheet", "wheat"), ("hazlenut", "hazelnut"), ("sesami", "sesame")])
def test_a_slip_in_what_a_batter_holds_is_asked_about(word, meant):
    with pytest.raises(CannotBe, match=f"“{word}”: is {meant} meant"):
        read_service(told("egg", [word]), RULES)
    read_service(told("egg", ["banana", "cinnamon", "buckwheat", "rice", "apple"]), RULES)  # what a kitchen names besides is its own affair
