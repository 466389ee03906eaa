"""What is in the bowl while it is judged: yolks without their foam, nothing that is laid on later; and that it judges as such a bowl does."""

import pytest

from mutabilis.core.balances.water import water
from mutabilis.core.batter.bowl import fill
from mutabilis.core.stove.judging import in_pot

EGG_G, YOLK_G = 50.0, 17.0


@pytest.fixture
def pot(batter, facts):
    return lambda text: in_pot(batter(text), facts.ingredients)


@pytest.mark.parametrize(
    "text, left",
    [
        ("200 g flour\n300 g milk\n2 eggs", {"all_purpose_flour": 200, "whole_milk": 300, "egg": 100}),
        ("200 g flour\n300 g milk\n90 g egg whites, beaten stiff", {"all_purpose_flour": 200, "whole_milk": 300, "egg_white": 0}),
        ("200 g flour\n300 g milk\n90 g egg whites", {"all_purpose_flour": 200, "whole_milk": 300, "egg_white": 90}),
        ("200 g flour\n300 g milk\n60 g blueberries", {"all_purpose_flour": 200, "whole_milk": 300, "blueberry": 0}),
        ("200 g flour\n300 g milk\n2 eggs, separated, whites beaten", {"all_purpose_flour": 200, "whole_milk": 300, "egg_yolk": 100 * YOLK_G / EGG_G}),
        ("200 g flour\n300 g soy drink\n100 g aquafaba, whipped", {"all_purpose_flour": 200, "soy_drink": 300, "aquafaba": 0}),
    ],
)  # fmt: skip
def test_foam_and_what_is_laid_on_are_not_in_yet(pot, text, left):
    found = {x.ingredient: x for x in pot(text).lines}
    assert {k: x.grams for k, x in found.items()} == pytest.approx(left)
    for x in found.values():
        assert x.low <= x.grams <= x.high or x.grams == x.low == x.high == 0
        assert not (x.grams == 0 and x.states) and not x.foamed  # what is not in is treated no more, and a yolk does not foam


def test_every_line_keeps_its_place_and_what_counts_nowhere_is_left_alone(pot, batter):
    text = "200 g flour\na wisp of smoke\n300 g milk\n60 g blueberries\nTo serve:\n20 g butter"
    whole, inside = batter(text), pot(text)
    assert [x.text for x in inside.lines] == [x.text for x in whole.lines]
    assert inside.lines[1] == whole.lines[1] and inside.lines[4] == whole.lines[4]
    assert inside.form == whole.form and inside.rest_min == whole.rest_min


def test_a_bowl_without_its_foam_stands_as_the_same_bowl_that_never_had_one(pot, batter, facts):
    """Judging it by the whole batter would ask for liquid that the whites are still to bring."""
    judged = pot("160 g flour\n200 g milk\n60 g egg yolks\n120 g egg whites, beaten stiff\n60 g butter")
    plain = batter("160 g flour\n200 g milk\n60 g egg yolks\n60 g butter")
    whole = batter("160 g flour\n200 g milk\n60 g egg yolks\n120 g egg whites\n60 g butter")
    spread = lambda b: water(fill(b, facts)).spread_cm  # noqa: E731
    assert spread(judged) == pytest.approx(spread(plain), rel=1e-6) and spread(judged) < spread(whole)
