"""Readings of one pack put together, and which of them stands."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.diets.pack_questions import GLUTEN, SUGAR, VEGAN, answered, questions
from mutabilis.core.diets.packs import PackReading, standing
from mutabilis.core.diets.verdicts import judge_ingredient

LABEL = PackReading(ingredient="oat_flour", pack="blue", by="Ada", on="2026-01-01", contains=("wheat",), may_contain=("milk",))


def part(*asked, on="2026-01-02", pack="blue", by="Bram"):
    return answered("oat_flour", asked, pack, by, on)


def test_what_is_answered_later_is_added_and_says_who_read_it():
    both = part(VEGAN, "milk").with_part(part(GLUTEN, "soy", "milk", on="2026-01-03", by="Cleo"))
    assert (both.by, both.on, both.pack, both.part) == ("Cleo", "2026-01-03", "blue", True)
    assert both.vegan is True and both.certified_gluten_free and both.added_sugar is None
    assert both.answers == ("milk", "soy")  # each question once


def test_a_whole_label_stays_whole_and_keeps_what_it_named():
    both = LABEL.with_part(part(GLUTEN, VEGAN, SUGAR, "milk"))
    assert both.contains == ("wheat",) and both.may_contain == ("milk",) and not both.part and both.answers == ()
    assert both.certified_gluten_free and both.vegan is True and both.added_sugar is False


@pytest.mark.parametrize("first, then, found", [(None, None, None), (None, True, True), (True, None, True), (False, True, False), (False, None, False), (True, False, True)])  # fmt: skip
def test_a_no_is_never_turned_into_a_yes(first, then, found):
    """For vegan a yes is safe, for added sugar a no: what was said first stands, and what was not said is filled in."""
    later = LABEL.model_copy(update={"vegan": then, "added_sugar": then, "part": True, "contains": (), "may_contain": ()})
    both = LABEL.model_copy(update={"vegan": first, "added_sugar": first}).with_part(later)
    assert both.vegan is found and both.added_sugar is found


@pytest.mark.parametrize(
    "wrong",
    [
        {"answers": ("milk",)},
        {"part": True, "contains": ("milk",)},
        {"part": True, "may_contain": ("milk",)},
        {"on": "yesterday"},
        {"on": "2026-1-1"},
        {"by": ""},
        {"pack": ""},
        {"pack": "x" * 121},
    ],
)
def test_a_reading_says_one_thing_and_says_who_and_when(wrong):
    with pytest.raises(ValueError):
        PackReading.model_validate({"ingredient": "oat_flour", "pack": "blue", "by": "Ada", "on": "2026-01-01", **wrong})


@given(st.permutations([LABEL, part(GLUTEN), part("milk", on="2026-01-03"), part(VEGAN, on="2026-01-04", pack="red")]))
def test_readings_stand_by_their_day_in_whatever_order_they_come(readings):
    blue = standing(readings, {"oat_flour": "blue"})["oat_flour"]
    assert blue.contains == ("wheat",) and blue.certified_gluten_free and blue.on == "2026-01-03" and blue.vegan is None
    red = standing(readings, {"oat_flour": "red"})["oat_flour"]
    assert red.vegan is True and red.contains == () and not red.certified_gluten_free  # nothing of the blue one
    assert standing(readings, {"oat_flour": "green"}) == {} == standing([], {})


def test_what_is_read_already_is_not_asked_again(facts, profile):
    """One answer of several leaves the others in question; with all of them nothing is left, and the rules fit."""
    asked_somewhere = 0
    for i in facts.ingredients.values():
        for rule in facts.diets.values():
            asked = questions(i, [rule], profile)
            if len(asked) < 2:
                continue
            asked_somewhere += 1
            first = answered(i.id, asked[:1], "pack", "Ada", "2026-01-01")
            assert set(questions(i, [rule], profile, first)) == set(asked[1:])
            whole = first.with_part(answered(i.id, asked[1:], "pack", "Ada", "2026-01-02"))
            assert questions(i, [rule], profile, whole) == () and judge_ingredient(i, rule, profile, whole)[0] == "fits"
    assert asked_somewhere > 20
