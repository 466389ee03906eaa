"""Which line goes which way, and what the main liquid is; then the answers in their slots."""

import pytest

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.process.sorting import main_of, sort_lines
from mutabilis.demo import demo_batters


def uses(analysed, facts, text, **more):
    return {x.i.id: x.use for x in sort_lines(analysed(text, **more), facts)}


@pytest.mark.parametrize(
    "text, wanted",
    [
        ("200 g flour\n3 g salt\n20 g sugar\n8 g baking powder", {"all_purpose_flour": "dry", "baking_powder": "dry"}),
        ("200 g flour\n300 g milk\n2 eggs\n30 g butter\n20 g honey\n30 g oil", {"whole_milk": "wet", "egg": "wet", "butter": "wet", "honey": "wet"}),
        ("200 g flour\n300 g milk\n60 g blueberries\n40 g chocolate chips", {"blueberry": "late"}),
        ("200 g flour\n300 g milk\n90 g egg whites, beaten stiff", {"egg_white": "foam"}),
        ("200 g flour\n300 g milk\n90 g egg whites", {"egg_white": "wet"}),
        ("200 g flour\n300 g oat drink\n15 g flax meal", {"flax_meal": "soak", "oat_drink": "wet"}),
        ("200 g flour\n15 g flax meal", {"flax_meal": "dry"}),  # nothing to soak it in
        ("200 g flour\n300 g yogurt\n15 g flax meal", {"flax_meal": "dry"}),  # and in yogurt it finds no water
        ("200 g flour\n300 g milk\nTo serve:\n30 g maple syrup", {"maple_syrup": "plate"}),
        ("200 g flour\n300 g water\n20 g egg white powder\n30 g milk powder", {"egg_white_powder": "dry"}),
    ],
)  # fmt: skip
def test_each_line_goes_where_a_cook_puts_it(text, wanted, analysed, facts):
    found = uses(analysed, facts, text)
    assert {k: found.get(k) for k in wanted} == wanted


@pytest.mark.parametrize("picked", range(7))
def test_no_line_of_a_batter_is_lost_or_goes_two_ways(picked, facts, profile):
    _, version = demo_batters(facts)[picked]
    a = analyse(version.batter, facts, profile)
    items = sort_lines(a, facts)
    assert [x.at for x in items] == [n for n, line in enumerate(version.batter.lines) if line.known and line.grams > 0]
    assert sum(x.grams for x in items if x.inside) == pytest.approx(a.bowl.batter_g)
    assert all(x.inside is (x.line.where != "plate") and 0 <= x.white <= 1 for x in items)
    assert all(x.use == "wet" for x in items if x.melts)


def test_the_main_liquid_is_one_that_a_seed_can_be_stirred_into(analysed, facts):
    of = lambda text: (lambda x: x and x.i.id)(main_of(sort_lines(analysed(text), facts)))  # noqa: E731
    assert of("200 g flour\n100 g milk\n300 g oat drink") == "oat_drink"
    assert of("200 g flour\n300 g yogurt\n100 g milk") == "whole_milk"
    assert of("200 g flour\n300 g yogurt") is None and of("200 g flour") is None
