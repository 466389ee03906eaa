"""Craft as data: every row makes sense, and every guest has something to be served from."""

import re
from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.adapt.candidates import available
from mutabilis.core.food.kitchen_measures import measure
from mutabilis.core.reading.reading import read_lines

NEEDED = ("flour", "binder", "liquid", "fat", "sweetener", "leavener", "salt")
DIETS = (
    "vegan",
    "egg_free",
    "dairy_free",
    "gluten_free",
    "nut_free",
    "soy_free",
    "wheat_free",
    "lactose_free",
    "low_carb",
    "no_added_sugar",
)


def test_every_row_names_what_is_there_and_bounds_that_can_be(facts):
    groups = {i.group for i in facts.ingredients.values()} | {"curd"}
    for u in facts.craft.usages:
        assert set(u.replaces) <= groups, u.ingredient
        assert 0 <= u.least < u.most <= 1 and all(0 <= cost <= 1 for cost in u.replaces.values()), u.ingredient
        assert u.role in facts.craft.members, u.role
        assert facts.ingredients[u.ingredient].confidence != "low" or u.oddness > 0, (
            f"{u.ingredient}: little is known, yet it costs nothing"
        )
    assert len({(u.ingredient, u.role) for u in facts.craft.usages}) == len(facts.craft.usages)


@pytest.mark.parametrize("diets", [*combinations(DIETS, 2), ("vegan", "gluten_free", "nut_free", "soy_free")], ids="+".join)
def test_every_guest_has_something_of_each_kind(diets, facts, profile):
    """For each pair of diets there is a flour, something that binds, a drink, a fat, a sweetener, a leavening and salt."""
    rules = {d: facts.diets[d] for d in diets}
    fitting = {u.role for u in facts.craft.usages if available(u.ingredient, rules, facts, profile, None) is not None}
    assert set(NEEDED) <= fitting


def test_no_swap_on_offer_is_vague(facts):
    """What craft offers is known well enough to vouch for, save what only its pack can tell."""
    assert not [u.ingredient for u in facts.craft.usages if facts.ingredients[u.ingredient].pack_decides]


def test_technique_says_what_a_thirsty_thing_needs(facts):
    gels = {u.ingredient for u in facts.craft.usages if facts.ingredients[u.ingredient].absorption_g_per_g > 3}
    assert gels and all(facts.craft.usage(i).technique or facts.ingredients[i].group != "binder" for i in gels)


def plain(ingredient):
    """Its name without what stands in brackets."""
    return re.sub(r"\s*\([^)]*\)", "", ingredient.name)


SPOONED = [
    "all_purpose_flour",
    "sugar",
    "whole_milk",
    "baking_powder",
    "salt",
    "butter",
    "maple_syrup",
    "flax_meal",
    "oat_flour_gf",
    "rapeseed_oil",
]


@given(st.sampled_from(SPOONED), st.floats(1.2, 900))
def test_a_measure_reads_back_as_what_it_measures(facts, profile, id_, grams):
    """Grams to cups and spoons and back: within what such a measure can tell."""
    i = facts.ingredients[id_]
    words = measure(i, grams, profile)
    if words == "a pinch" or not words:
        return
    (line,) = read_lines(f"{words} {plain(i)}", facts, profile)
    assert line.ingredient == id_, words
    assert line.grams == pytest.approx(grams, rel=0.12, abs=0.6)


@given(st.sampled_from(SPOONED), st.floats(2, 600))
def test_more_is_never_measured_as_less(facts, profile, id_, grams):
    i = facts.ingredients[id_]
    (less,) = read_lines(f"{measure(i, grams, profile)} {plain(i)}", facts, profile)
    (more,) = read_lines(f"{measure(i, 1.5 * grams, profile)} {plain(i)}", facts, profile)
    assert more.grams >= less.grams
