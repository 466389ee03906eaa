"""What a line weighs: worked by hand from the density, the spoon and the piece of its ingredient, with bounds that hold the truth."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.measures.amount import LARGEST_G
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.reading.weights import cap, drained, portion
from mutabilis.data import load_facts

FACTS = load_facts()


def line(text, **kitchen):
    (found,) = read_lines(text, FACTS, Profile(**kitchen))
    return found


@pytest.mark.parametrize(
    "text, grams",
    [
        ("200 g flour", 200), ("0.2 kg flour", 200), ("1 lb flour", 453.592), ("8 oz flour", 226.796),
        ("1 cup flour (120 g)", 120), ("2 bananas (about 240 g)", 240), ("2 x 75 g bananas", 150), ("200-220 g flour", 210),
    ],
)  # fmt: skip
def test_a_mass_is_that_mass(text, grams):
    found = line(text)
    assert found.grams == pytest.approx(grams, rel=1e-5) and found.low <= found.grams <= found.high
    assert found.high - found.low <= max(4.5, 0.03 * grams) or "range" in found.note or "-" in text


@pytest.mark.parametrize(
    "text, ingredient, grams",
    [
        ("2 cups or 250 g flour", "all_purpose_flour", 250), ("1 large or 2 small eggs", "egg", 76), ("200 g plain or wholemeal flour", "all_purpose_flour", 200),
        ("200 g wholemeal/plain flour", "whole_wheat_flour", 200), ("100 g dark or milk chocolate chips", "dark_chocolate_chip", 100), ("1 cup or 250 g oat or soy milk", "oat_drink", 250),
        ("200 ml full-fat or semi-skimmed milk", "whole_milk", 206), ("1 or 2 eggs", "egg", 75), ("50 g fresh or frozen raspberries, or blueberries", "raspberry", 50),
    ],
)  # fmt: skip
def test_what_is_said_twice_or_of_two_kinds_counts_once(text, ingredient, grams):
    found = line(text)
    assert (found.ingredient, round(found.grams)) == (ingredient, grams)


@pytest.mark.parametrize("unit, key", [("cup", "cup_ml"), ("tbsp", "tbsp_ml"), ("tsp", "tsp_ml")])
@pytest.mark.parametrize("name", ["whole milk", "honey", "cane sugar", "sunflower oil", "fine sea salt"])
def test_a_volume_is_the_kitchens_spoon_times_the_density_of_the_thing(unit, key, name):
    for kitchen in ({}, {"cup_ml": 250.0, "tbsp_ml": 20.0, "tsp_ml": 5.0}):
        found = line(f"2 {unit} {name}", **kitchen)
        density, _ = FACTS.ingredients[found.ingredient].grams_per_ml(unit)
        assert found.grams == pytest.approx(2 * getattr(Profile(**kitchen), key) * density, rel=1e-4)


def test_flour_that_is_scooped_weighs_a_fifth_more_and_nobody_knows_is_wider():
    spooned, scooped = line("1 cup flour", flour="spooned"), line("1 cup flour", flour="scooped")
    unknown = line("1 cup flour", flour="unknown")
    assert scooped.grams == pytest.approx(1.2 * spooned.grams, rel=1e-4) and "a fifth more" in scooped.note
    assert unknown.high / unknown.grams > spooned.high / spooned.grams
    assert line("1 cup flour, spooned and levelled", flour="scooped").grams == spooned.grams
    assert line("1 tbsp flour", flour="scooped").grams == line("1 tbsp flour", flour="spooned").grams  # a spoon is never scooped


@pytest.mark.parametrize("size, each", [("small", 38), ("medium", 44), ("large", 50), ("extra large", 56), ("jumbo", 63)])
def test_eggs_by_their_size_and_their_parts_with_them(size, each):
    whole, white, yolk = (line(f"2 {size} {x}") for x in ("eggs", "egg whites", "egg yolks"))
    assert whole.grams / 2 == pytest.approx(each, abs=3) and whole.confidence == "high"
    assert white.grams + yolk.grams == pytest.approx(whole.grams, rel=0.02)
    assert f"{whole.grams / 2:.0f} g each" in whole.note


@given(st.sampled_from(["flour", "milk", "sugar", "butter", "oat flour", "honey", "flax meal"]), st.sampled_from(["g", "cup", "tbsp", "tsp", "ml", "oz"]), st.floats(0.2, 40).map(lambda x: round(x, 1)))  # fmt: skip
def test_twice_the_amount_is_twice_the_weight_and_the_bounds_hold_it(name, unit, n):
    one, two = line(f"{n} {unit} {name}"), line(f"{round(2 * n, 1)} {unit} {name}")
    assert two.grams == pytest.approx(2 * one.grams, rel=1e-3, abs=1e-3)
    assert 0 <= one.low <= one.grams <= one.high and one.confidence in ("high", "medium", "low")
    assert line(f"heaped {n} {unit} {name}").grams >= line(f"scant {n} {unit} {name}").grams


def test_added_and_taken_off_measures_count_and_a_perhaps_counts_half():
    cup, spoon = line("1 cup milk").grams, line("1 tbsp milk").grams
    assert line("1 cup plus 2 tbsp milk").grams == pytest.approx(cup + 2 * spoon, rel=1e-4)
    assert line("1 cup minus 2 tbsp milk").grams == pytest.approx(cup - 2 * spoon, rel=1e-4)
    perhaps = line("1 cup milk, plus up to 2 tbsp more")
    assert perhaps.grams == pytest.approx(cup + spoon, rel=1e-4) and perhaps.low < cup + 1e-6 <= perhaps.high


def test_what_has_no_amount_is_a_pinch_or_a_question():
    salt, milk = line("salt"), line("milk")
    assert 0.2 < salt.grams < 0.7 and salt.low == 0 and salt.confidence == "low" and "pinch" in salt.note
    assert milk.problem == "no amount given" and not milk.counts
    assert line("lemon juice to taste").grams == 15 and line("oil, as needed").where in ("plate", "batter")


def test_beyond_any_kitchen_is_said_and_counts_nowhere():
    found = line("101 kg flour")
    assert found.problem == "more than 100 kg" and found.ingredient is None and not found.counts
    assert line("99 kg flour").grams == 99_000 and cap(1e9) == LARGEST_G and cap(1.23456) == 1.2346


def test_a_part_of_a_line_is_that_share_of_all_of_it():
    whole = line("1 cup milk")
    half = portion(whole, "water", 0.5)
    assert (half.grams, half.low, half.high) == (whole.grams / 2, whole.low / 2, whole.high / 2)
    assert half.ingredient == "water" and half.confidence != "high" and half.text == whole.text
    squeezed = drained(line("300 g courgette"), "water", 0.6)
    assert squeezed.grams == pytest.approx(180) and "300 g raw: about 120 g run off, 180 g stay" in squeezed.note
