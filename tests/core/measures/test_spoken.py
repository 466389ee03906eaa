"""What is said aloud is written as it would be on a list, and nothing else is touched."""

import pytest

from mutabilis.core.measures.spoken import each_of, up_to, written
from mutabilis.data import load_facts

UNITS = load_facts().units


@pytest.mark.parametrize(
    ("said", "line"),
    [
        ("two cups and a half of rye flour", "2 1/2 cups rye flour"),
        ("an ounce and three quarters of butter", "1 3/4 ounce butter"),
        ("two thirds of a cup of oats", "2/3 cup of oats"),
        ("one and a half tablespoons of honey", "1 1/2 tablespoons of honey"),
        ("250.5 mils oat drink", "250.5 ml oat drink"),
        ("2 dessert spoons of oil", "2 dessertspoons of oil"),
        ("a few drops of vanilla", "3 drops of vanilla"),
        ("brine from a tin of chickpeas", "aquafaba"),
        ("another knob extra of butter", "1 knob butter"),
        ("a bit more salt", "salt to taste"),
        ("2 & a half cups oat drink", "2 1/2 cups oat drink"),
        ("a cup & a quarter of rye", "1 1/4 cup rye"),
        ("a wee bit of salt", "salt to taste"),
        ("bit of lard", "lard to taste"),
        ("2x250ml cider", "500 ml cider"),
        ("rye flour, 1 1/2 cups x 2", "rye flour, 3 cups"),
        ("rye flour 250 g x2", "rye flour 500 g"),
        ("250 g x2 rye flour", "250 g x2 rye flour"),
        ("100 to 200 g x 2 rye", "100 to 200 g x 2 rye"),
        ("tins 2 x 20 cm", "tins 2 x 20 cm"),
        ("3 x large eggs", "3 x large eggs"),
        ("rounded tablespoon of rye", "1 rounded tablespoon of rye"),
        ("2 tsp b.p.", "2 tsp bp"),
        # what only looks like an amount stays as it is
        ("2 eggs and a half lemon", "2 eggs and a half lemon"),
        ("half and half", "half and half"),
        ("200 g flour and a bit of love", "200 g flour and a bit of love"),
    ],
)
def test_said_as_written(said: str, line: str) -> None:
    assert written(said, UNITS) == line
    assert written(line, UNITS) == line


@pytest.mark.parametrize(
    ("said", "lines"),
    [
        ("1 tsp each: salt, sugar, and cinnamon", ("1 tsp salt", "1 tsp sugar", "1 tsp cinnamon")),
        ("oats and buckwheat, 100 g each", ("100 g oats", "100 g buckwheat")),
        ("½ cup each (packed) brown sugar & coconut", ("½ cup (packed) brown sugar", "½ cup coconut")),
        ("1 tsp each salt", ("1 tsp each salt",)),
        ("3 eggs, 60 g each", ("3 eggs, 60 g each",)),
    ],
)
def test_one_amount_of_several_things(said: str, lines: tuple[str, ...]) -> None:
    assert each_of(said, UNITS) == lines


@pytest.mark.parametrize(
    ("said", "what"),
    [
        ("oat drink, enough to make 1½ cups", ("oat drink", "1½ cups")),
        ("water to bring it up to 500 ml in all", ("water", "500 ml")),
        ("water to cover", None),
        ("2 cups water to make it thin", None),
    ],
)
def test_up_to_a_volume(said: str, what: tuple[str, str] | None) -> None:
    assert up_to(said) == what
