"""The amount at the head, in the middle or at the end of a line, in every way in which cooks write one."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.measures.amount import read_amount
from mutabilis.data import load_facts

UNITS = load_facts().units


def told(text):
    """The measures as (low, high, unit), the grams beside them, the words, in one row."""
    a = read_amount(text, UNITS)
    return [(round(m.low, 3), round(m.high, 3), m.unit.key if m.unit else None) for m in a.measures], a.grams, a.words


@pytest.mark.parametrize(
    "text, measures, grams, words",
    [
        ("200 g flour", [(200, 200, "g")], None, "flour"),
        ("200g flour", [(200, 200, "g")], None, "flour"),
        ("0.5 kg flour", [(0.5, 0.5, "kg")], None, "flour"),
        ("1 1/2 cups milk", [(1.5, 1.5, "cup")], None, "milk"),
        ("1½ cups milk", [(1.5, 1.5, "cup")], None, "milk"),
        ("1 half cup milk", [(0.5, 0.5, "cup")], None, "milk"),
        ("a cup of milk", [(1, 1, "cup")], None, "milk"),
        ("2 to 3 tbsp sugar", [(2, 3, "tbsp")], None, "sugar"),
        ("2–3 tbsp sugar", [(2, 3, "tbsp")], None, "sugar"),
        ("about 250 ml milk", [(250, 250, "ml")], None, "milk"),
        ("• 3 eggs", [(3, 3, None)], None, "eggs"),
        ("1) 3 eggs", [(3, 3, None)], None, "eggs"),
        ("three eggs", [(3, 3, None)], None, "eggs"),
        ("pinch of salt", [(1, 1, "pinch")], None, "salt"),
        ("cup of milk", [(1, 1, "cup")], None, "milk"),
        ("heaped tablespoon of flour", [(1, 1, "tbsp")], None, "flour"),
        ("cup cakes", [], None, "cup cakes"),
        ("cups of flour", [], None, "cups of flour"),
        ("heaped tablespoons of flour", [], None, "heaped tablespoons of flour"),
        ("salt, a pinch", [(1, 1, "pinch")], None, "salt"),
        ("1 cup plus 2 tbsp flour", [(1, 1, "cup"), (2, 2, "tbsp")], None, "flour"),
        ("1 cup + 2 tbsp flour", [(1, 1, "cup"), (2, 2, "tbsp")], None, "flour"),
        ("1 cup minus 2 tbsp flour", [(1, 1, "cup"), (-2, -2, "tbsp")], None, "flour"),
        ("1 cup flour minus 2 tbsp", [(1, 1, "cup"), (-2, -2, "tbsp")], None, "flour"),
        ("2 cups milk, plus up to 1 cup more", [(2, 2, "cup"), (0, 1, "cup")], None, "milk"),
        ("flour 200 g", [(200, 200, "g")], None, "flour"),
        ("Flour: 1 cup", [(1, 1, "cup")], None, "Flour"),
        ("milk - 1 1/2 cups", [(1.5, 1.5, "cup")], None, "milk"),
        ("1 cup (120 g) flour", [(1, 1, "cup")], (120, 120), "flour"),
        ("1 cup/120 g flour", [(1, 1, "cup")], (120, 120), "flour"),
        ("200 g / 7 oz flour", [(200, 200, "g")], (200, 200), "flour"),
        ("2 bananas (about 240 g)", [(2, 2, None)], (240, 240), "bananas"),
        ("2 (400 g) tins of coconut milk", [(2, 2, "can")], (400, 400), "coconut milk"),
        ("2 x 400 ml tins of coconut milk", [(800, 800, "ml")], None, "coconut milk"),
        ("one 15-ounce can of beans", [(15, 15, "oz")], None, "beans"),
        ("4 fl oz milk", [(4, 4, "fl_oz")], None, "milk"),
        ("some milk", [], None, "milk"),
        ("milk", [], None, "milk"),
    ],
)
def test_what_a_cook_writes_is_what_is_read(text, measures, grams, words):
    found = told(text)
    assert found[0] == measures
    assert found[2] == words
    assert found[1] == (pytest.approx(grams) if grams else None)


@pytest.mark.parametrize(
    "text, field, value",
    [
        ("walnuts, optional", "optional", True),
        ("50 g walnuts (if you like)", "optional", True),
        ("salt to taste", "to_taste", True),
        ("300 ml milk or oat drink", "alternative", "oat drink"),
        ("300 ml milk/oat drink", "alternative", "oat drink"),
        ("30 g butter or 2 tbsp oil", "alternative", "oil"),
        ("200 g flour", "alternative", None),
        ("twice as much water as flour", "relation", (2.0, "flour")),
        ("half as much sugar as the milk", "relation", (0.5, "milk")),
        ("the same weight of milk as flour", "relation", (1.0, "flour")),
        ("-20 g sugar", "problem", "a negative amount"),
        ("sugar: -20 g", "problem", "a negative amount"),
        ("nan g sugar", "problem", "not a number"),
        ("2000000000 g sugar", "problem", "an amount beyond any kitchen"),
        ("200 g flour (sifted) [twice]", "notes", ("sifted", "twice")),
    ],
)
def test_what_stands_beside_an_amount(text, field, value):
    assert getattr(read_amount(text, UNITS), field) == value


@pytest.mark.parametrize("text, heap, size", [("heaped tbsp flour", "heaped", None), ("2 scant cups milk", "scant", None), ("3 large eggs", None, "large"), ("2 extra large eggs", None, "extra_large"), ("1 sm. banana", None, "small")])  # fmt: skip
def test_heaps_and_sizes(text, heap, size):
    (measure,) = read_amount(text, UNITS).measures
    assert (measure.heap.key if measure.heap else None, measure.size) == (heap, size)


@given(st.floats(0.1, 900).map(lambda x: round(x, 1)), st.sampled_from(["g", "kg", "ml", "tsp", "tbsp", "cup", "oz", "lb"]), st.sampled_from(["flour", "oat drink", "crème fraîche"]))  # fmt: skip
def test_an_amount_reads_the_same_before_and_behind_its_name(amount, unit, name):
    before, behind = told(f"{amount} {unit} {name}"), told(f"{name}: {amount} {unit}")
    assert before[0] == behind[0] == [(amount, amount, before[0][0][2])] and before[2] == behind[2] == name


@given(st.text(max_size=200))
def test_nothing_that_is_written_breaks_the_reading(text):
    a = read_amount(text, UNITS)
    assert all(m.high >= m.low for m in a.measures)
    assert a.grams is None or a.grams[0] >= 0
