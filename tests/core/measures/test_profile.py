"""Cups and spoons have owners: the source a batter was written in, the kitchen that weighed, the table."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.food.kitchen_measures import measure, one_of
from mutabilis.core.food.larder import Item, with_items
from mutabilis.core.measures.profile import US_CUP_ML, Profile
from mutabilis.core.reading.reading import read_lines

CUPS = st.sampled_from([US_CUP_ML, 240.0, 250.0, 284.0])
SPOONS = st.sampled_from([(14.787, 4.929), (15.0, 5.0), (20.0, 5.0)])
WEIGHED = st.sampled_from(["oat_flour", "all_purpose_flour", "sugar", "honey", "whole_milk", "flax_meal", "brown_rice_flour"])


def grams(text, facts, profile):
    (line,) = read_lines(text, facts, profile)
    return line.grams


@given(WEIGHED, st.floats(40, 400), CUPS, CUPS)
def test_a_cup_that_was_weighed_weighs_what_it_weighed(facts, id_, weight, here, theirs):
    kitchen = Profile(cup_ml=here)
    item = Item(ingredient=id_, cup_g=weight).weighed_with(kitchen)
    own = facts.with_weights(with_items(facts.ingredients, [item]))
    name = facts.ingredients[id_].name
    assert one_of(own.ingredients[id_], "cup", kitchen) == pytest.approx(weight)
    assert grams(f"1 cup {name}", own, kitchen) == pytest.approx(weight, abs=1e-3)
    assert grams(f"1 cup {name}", own, kitchen.measuring(theirs, None)) == pytest.approx(weight * theirs / here, abs=1e-3)
    # Kept with the size it had: weighed "again" in a kitchen with another cup, it says the same of the stuff.
    assert item.weighed_with(Profile(cup_ml=theirs)) == item


@given(WEIGHED, st.floats(3, 30), st.floats(1, 9), SPOONS)
def test_each_spoon_speaks_for_itself(facts, id_, tbsp, tsp, spoons):
    kitchen = Profile(tbsp_ml=spoons[0], tsp_ml=spoons[1])
    item = Item(ingredient=id_, tbsp_g=tbsp, tsp_g=tsp).weighed_with(kitchen)
    own = facts.with_weights(with_items(facts.ingredients, [item])).ingredients[id_]
    assert one_of(own, "tbsp", kitchen) == pytest.approx(tbsp) and one_of(own, "tsp", kitchen) == pytest.approx(tsp)
    assert one_of(own, "cup", kitchen) == pytest.approx(one_of(facts.ingredients[id_], "cup", kitchen))  # nobody weighed a cup


@given(WEIGHED, st.floats(30, 700), CUPS, SPOONS)
def test_what_the_kitchen_measures_reads_back_in_its_own_cups(facts, id_, amount, cup, spoons):
    kitchen = Profile(cup_ml=cup, tbsp_ml=spoons[0], tsp_ml=spoons[1])
    words = measure(facts.ingredients[id_], amount, kitchen)
    back = grams(f"{words} {facts.ingredients[id_].name}", facts, kitchen)
    # Half a table spoon, in what is measured: no cup and no spoon can tell more.
    assert back == pytest.approx(amount, abs=0.55 * one_of(facts.ingredients[id_], "tbsp", kitchen) + 0.06 * amount), words


def test_a_source_keeps_its_cup_and_the_kitchen_its_own(facts):
    metric = Profile().measuring(250.0, 20.0)
    assert (metric.cup_ml, metric.tbsp_ml, metric.tsp_ml) == (250.0, 20.0, Profile().tsp_ml) and Profile().measuring(
        None, None
    ) == Profile()
    assert grams("1 cup sugar", facts, metric) / grams("1 cup sugar", facts, Profile()) == pytest.approx(250 / US_CUP_ML)
    assert grams("1 tbsp honey", facts, metric) / grams("1 tbsp honey", facts, Profile()) == pytest.approx(20 / 14.787)
