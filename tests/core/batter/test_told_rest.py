"""The rest that a recipe's own words ask for."""

import pytest

from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.batter.bowl import fill
from mutabilis.core.batter.told_rest import told_rest
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines

LINES = "200 g flour\n300 g milk\n2 eggs\n"


@pytest.mark.parametrize(
    ("words", "minutes"),
    [
        ("Rest 20 minutes.", 20), ("Let the batter rest for 20-30 min", 25), ("Resting time: 45 minutes", 45), ("Let the batter stand for 1 hour.", 60),
        ("Leave to rest in a warm place for 15 mins, then cook.", 15), ("Whisk in the rest of the milk, cook 2 minutes.", None), ("Mix flax and water, let rest 5 minutes.", None),
        ("Let the pancakes rest 5 minutes before serving.", None), ("Rest overnight, 12 hours", None), ("Cook 3 minutes a side.", None), ("Rest 999 hours", None),
    ],
)  # fmt: skip
def test_a_rest_is_heard_and_what_rests_beside_the_batter_is_not(words, minutes):
    assert told_rest([BatterLine(text=words, where="aside")]) == minutes
    assert told_rest([BatterLine(text=words)]) is None  # a line of food asks for no rest


def test_the_cook_comes_before_the_words_and_the_words_before_the_form(facts):
    lines = read_lines(LINES + "Let the batter rest 40 minutes.", facts, Profile())
    assert fill(Batter(lines=lines), facts).rest_min == 40
    assert fill(Batter(lines=lines, rest_min=5), facts).rest_min == 5
    assert fill(Batter(lines=lines[:-1]), facts).rest_min == facts.forms["griddle"].rest_min
