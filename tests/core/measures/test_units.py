"""Units: every name of the table is read in a line as what it is, in this kitchen's own cups and spoons."""

import pytest

from mutabilis.core.food.kitchen_measures import one_of
from mutabilis.core.measures.profile import US_CUP_ML, US_TBSP_ML, US_TSP_ML, Profile
from mutabilis.core.measures.units import Units
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts

FACTS = load_facts()
UNITS = FACTS.units


def grams(text, profile=None):
    (line,) = read_lines(text, FACTS, profile or Profile())
    assert not line.problem, (text, line.problem)
    return line.grams


@pytest.mark.parametrize(
    ("unit", "g"),
    [("g", 1), ("kg", 1000), ("mg", 0.001), ("oz", 28.3495), ("lb", 453.592), ("ounces", 28.3495), ("pound", 453.592), ("kilo", 1000)],
)
def test_a_mass_is_a_mass_whatever_it_is_of(unit, g):
    for food in ("plain flour", "whole milk", "butter"):
        assert grams(f"3 {unit} {food}") == pytest.approx(3 * g, rel=1e-4)


@pytest.mark.parametrize(
    ("unit", "ml"),
    [
        ("ml", 1),
        ("cl", 10),
        ("dl", 100),
        ("l", 1000),
        ("fl oz", 29.5735),
        ("pint", 473.176),
        ("quart", 946.353),
        ("glass", 200),
        ("ladle", 90),
        ("splash", 10),
        ("litres", 1000),
    ],
)
def test_a_volume_goes_by_the_density_of_its_food(unit, ml):
    milk = FACTS.ingredients["whole_milk"]
    assert grams(f"2 {unit} whole milk") == pytest.approx(2 * ml * milk.grams_per_ml()[0], rel=1e-3)


@pytest.mark.parametrize(
    ("unit", "key"),
    [
        ("cup", "cup"),
        ("c", "cup"),
        ("tbsp", "tbsp"),
        ("Tb", "tbsp"),
        ("T", "tbsp"),
        ("tablespoon", "tbsp"),
        ("tsp", "tsp"),
        ("t", "tsp"),
        ("teaspoonful", "tsp"),
    ],
)
@pytest.mark.parametrize("profile", [Profile(), Profile(cup_ml=250.0, tbsp_ml=20.0, tsp_ml=5.0)])
def test_cups_and_spoons_are_this_kitchens(unit, key, profile):
    salt = FACTS.ingredients["whole_milk"]
    assert grams(f"2 {unit} whole milk", profile) == pytest.approx(2 * one_of(salt, key, profile), rel=0.02)


def test_a_dessert_spoon_is_two_tea_spoons_and_a_pinch_a_sixteenth():
    milk = FACTS.ingredients["whole_milk"]
    assert grams("1 dsp whole milk") == pytest.approx(2 * US_TSP_ML * milk.grams_per_ml("tbsp")[0], rel=0.02)
    assert grams("1 pinch salt") == pytest.approx(0.308 * FACTS.ingredients["salt"].grams_per_ml("tsp")[0], rel=0.05)
    assert pytest.approx(US_TSP_ML / 16, rel=0.01) == 0.308 and pytest.approx(3 * US_TSP_ML, rel=0.001) == US_TBSP_ML
    assert pytest.approx(16 * US_TBSP_ML, rel=0.001) == US_CUP_ML


@pytest.mark.parametrize("unit", sorted(UNITS.by_name))
def test_every_name_of_a_unit_is_found_by_it_with_a_dot_or_in_capitals(unit):
    found = UNITS.find(unit)
    assert found is UNITS.by_name[unit] and UNITS.find(f"{unit}.") is found
    if unit not in ("t", "tb", "T"):
        assert UNITS.find(unit.upper()) in (found, UNITS.by_name["tbsp"])
    ml = found.millilitres(Profile())
    assert (ml is not None and ml > 0) if found.kind in ("volume", "profile") else True
    assert 0 <= found.spread <= 0.5


@pytest.mark.parametrize("word", ["", "cow", "gg", "cupp"])
def test_what_is_no_unit_is_none(word):
    assert UNITS.find(word) is None


def test_a_name_that_stands_for_two_units_is_refused():
    table = {
        "mass": {"g": {"g": 1.0, "names": ["g"]}, "x": {"g": 2.0, "names": ["g"]}},
        "volume": {},
        "profile": {},
        "piece": {},
        "heap": {},
    }
    with pytest.raises(ValueError, match="stands twice"):
        Units.from_table(table)


@pytest.mark.parametrize(("text", "times"), [("level", 1.0), ("heaped", None), ("scant", None), ("rounded", None)])
def test_how_full_a_spoon_is_counts(text, times):
    level, other = grams("1 tsp baking powder"), grams(f"1 {text} tsp baking powder")
    assert other == pytest.approx(level) if times else (other > level) == (text != "scant")


def test_a_measure_is_as_sure_as_it_can_be():
    def doubt(text):
        (line,) = read_lines(text, FACTS, Profile())
        return (line.high - line.low) / line.grams

    assert doubt("100 g plain flour") == pytest.approx(0.02)  # a gram on the scale
    assert (
        doubt("100 g plain flour") < doubt("1 tsp baking powder") < doubt("1 heaped tsp baking powder") < doubt("1 pinch baking powder") * 2
    )
    assert doubt("1 cup plain flour") > doubt("1 cup whole milk")
    scooped, spooned = (grams("1 cup plain flour", Profile(flour=f)) for f in ("scooped", "spooned"))
    assert scooped == pytest.approx(1.2 * spooned)


@pytest.mark.parametrize(("cup", "tbsp"), [(250.0, None), (None, 20.0), (None, None), (240.0, 15.0)])
def test_a_source_has_its_own_cup_where_it_says_so(cup, tbsp):
    mine = Profile(cup_ml=236.588, tbsp_ml=14.787)
    theirs = mine.measuring(cup, tbsp)
    assert theirs.cup_ml == (cup or mine.cup_ml) and theirs.tbsp_ml == (tbsp or mine.tbsp_ml) and theirs.tsp_ml == mine.tsp_ml
    assert theirs.schools == mine.schools
