"""A line is called what its cook calls it, wherever that name is read back as the same food."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.reading.own_names import LONGEST, called
from mutabilis.core.reading.reading import read_lines


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("2 cups plain flour", "plain flour"),
        ("200g/7oz self-raising flour", "self-raising flour"),
        ("flour, 200 g", "flour"),
        ("2 large eggs", "eggs"),
        ("50 g butter, melted and cooled", "butter"),
        ("7 g sachet dried yeast", "dried yeast"),  # a sachet is no part of the name
        ("2 ripe bananas", "ripe bananas"),
        ("300 ml boiling water", "boiling water"),
        ("40 g walnuts, to serve", "walnuts"),
        ("150 g oat flour, certified gluten-free", "oat flour (certified)"),  # a certified thing is always called one
        ("1 cup oat milk or milk", "oat drink"),  # left open: the table's own name
        ("3 tbsp buttr", "unsalted butter"),  # guessed: the table's own name
        ("50 g moon dust", "50 g moon dust"),  # no food: its text
    ],
)
def test_names(text, name, facts, profile):
    assert called(read_lines(text, facts, profile)[0], facts) == name


def test_a_prepared_thing_is_called_by_its_parts(facts, profile):
    assert [called(x, facts) for x in read_lines("240 g sourdough discard", facts, profile)] == ["bread wheat flour", "water"]


@given(st.data())
def test_a_name_is_read_back_as_the_same_food(facts, profile, data):
    """Whatever a line is called, "100 g" of that is the very food that was judged."""
    spoken = data.draw(st.sampled_from(sorted(facts.names.spoken)))
    (line, *rest) = read_lines(f"100 g {spoken}", facts, profile) or [None]
    if line is None or rest or not line.ingredient or line.problem or line.where != "batter":
        return
    name = called(line, facts)
    if name == facts.ingredients[line.ingredient].short:
        return
    assert len(name) <= LONGEST
    (again,) = read_lines(f"100 g {name}", facts, profile)
    assert again.ingredient == line.ingredient and again.settled
