"""Grams as a cook measures them: in steps that a spoon set has, and never further off than it says."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.food.kitchen_measures import measure, one_of
from mutabilis.core.measures.profile import US_CUP_ML, US_TBSP_ML, US_TSP_ML, Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts

FACTS = load_facts()
MEASURED = sorted(i.id for i in FACTS.ingredients.values() if i.has_measures and i.group != "egg")


@pytest.mark.parametrize(
    ("cups", "words"),
    [(1, "1 cup"), (0.5, "1/2 cup"), (1.25, "1 1/4 cups"), (2 / 3, "2/3 cup"), (0.25, "1/4 cup"), (3, "3 cups"), (1.3333, "1 1/3 cups")],
)
def test_cups_go_by_quarters_and_thirds(cups, words):
    milk = FACTS.ingredients["whole_milk"]
    assert measure(milk, cups * one_of(milk, "cup", Profile()), Profile()) == words


@pytest.mark.parametrize(
    ("spoons", "key", "words"),
    [(1, "tbsp", "1 tbsp"), (2, "tbsp", "2 tbsp"), (2.5, "tbsp", "2 1/2 tbsp"), (1, "tsp", "1 tsp"), (0.5, "tsp", "1/2 tsp"), (0.25, "tsp", "1/4 tsp"),
     (0.125, "tsp", "1/8 tsp"), (0.05, "tsp", "a pinch")],
)  # fmt: skip
def test_spoons_go_by_halves_and_quarters(spoons, key, words):
    powder = FACTS.ingredients["baking_powder"]
    assert measure(powder, spoons * one_of(powder, key, Profile()), Profile()) == words


@pytest.mark.parametrize(("grams", "words"), [(50, "1 egg"), (100, "2 eggs"), (125, "2.5 eggs"), (60, "1.2 eggs"), (0, ""), (-3, "")])
def test_eggs_are_counted(grams, words):
    egg = FACTS.ingredients["egg"].model_copy(update={"unit_g": 50.0, "unit_name": "egg"})
    assert measure(egg, grams, Profile()) == words


def test_what_was_never_weighed_in_a_cup_has_no_measure():
    bare = FACTS.ingredients["whole_milk"].model_copy(update={"cup_g": None, "tbsp_g": None, "tsp_g": None})
    assert measure(bare, 100, Profile()) == ""


def test_what_is_a_spoon_short_of_a_part_is_told_from_the_part_below():
    berries = FACTS.ingredients["blueberry"]
    assert measure(berries, 62 / 148 * one_of(berries, "cup", Profile()), Profile()) == "1/3 cup + generous 1 tbsp"


@given(st.sampled_from(MEASURED), st.floats(0.4, 900))
def test_what_is_told_is_near_what_is_meant(id_, grams):
    """Read back as a recipe, a measure weighs what it was told for, as near as "scant" and "generous" allow."""
    i, profile = FACTS.ingredients[id_], Profile()
    words = measure(i, grams, profile)
    if words in ("", "a pinch", "1/8 tsp"):
        return
    plain = re.sub(r"^(scant|generous) ", "", words)
    told = sum(
        _number(n) * one_of(i, {"cup": "cup", "cups": "cup", "tbsp": "tbsp", "tsp": "tsp"}[unit], profile)
        for n, unit in re.findall(r"([\d/ ]+?) (cups?|tbsp|tsp)", plain)
    )
    step = one_of(i, "tbsp" if "cup" in words or "tbsp" in words else "tsp", profile) * (
        1.0 if "cup" in words else 0.25 if "tbsp" in words else 0.125
    )
    assert abs(told - grams) <= max(0.13 * grams, 1.01 * step), words


def _number(text):
    return sum(int(a) / int(b) if (b := part.partition("/")[2]) and (a := part.partition("/")[0]) else float(part) for part in text.split())


@pytest.mark.parametrize(("key", "ml"), [("cup", US_CUP_ML), ("tbsp", US_TBSP_ML), ("tsp", US_TSP_ML)])
def test_this_kitchens_spoons_hold_what_they_hold(key, ml):
    i = FACTS.ingredients["granulated_sugar" if "granulated_sugar" in FACTS.ingredients else "brown_sugar"]
    bigger = Profile(cup_ml=250.0, tbsp_ml=20.0, tsp_ml=6.0)
    size = {"cup": 250.0, "tbsp": 20.0, "tsp": 6.0}[key]
    assert one_of(i, key, bigger) == pytest.approx(one_of(i, key, Profile()) * size / ml)


def test_a_density_is_its_own_measures_or_the_next_larger():
    i = FACTS.ingredients["salt"].model_copy(update={"cup_g": 300.0, "tbsp_g": 17.0, "tsp_g": 6.0})
    assert [i.grams_per_ml(m)[0] for m in ("cup", "tbsp", "tsp")] == pytest.approx([300 / US_CUP_ML, 17 / US_TBSP_ML, 6 / US_TSP_ML])
    no_tsp = i.model_copy(update={"tsp_g": None})
    assert no_tsp.grams_per_ml("tsp")[0] == pytest.approx(17 / US_TBSP_ML)
    cup_alone = no_tsp.model_copy(update={"tbsp_g": None})
    assert cup_alone.grams_per_ml("tsp")[0] == cup_alone.grams_per_ml("tbsp")[0] == pytest.approx(300 / US_CUP_ML)
    tsp_alone = i.model_copy(update={"cup_g": None, "tbsp_g": None})
    assert tsp_alone.grams_per_ml("cup")[0] == pytest.approx(6 / US_TSP_ML)
    unknown = i.model_copy(update={"cup_g": None, "tbsp_g": None, "tsp_g": None, "water_g": 0.0, "fat_g": 0.0})
    assert unknown.grams_per_ml() == (0.55, "low") and unknown.model_copy(update={"water_g": 80.0}).grams_per_ml() == (0.95, "low")


def test_a_spoon_read_is_a_spoon_told():
    for text in ("2 tbsp olive oil", "1 tsp salt", "1/2 cup whole milk", "3/4 tsp baking soda"):
        (line,) = read_lines(text, FACTS, Profile())
        assert measure(FACTS.ingredients[line.ingredient], line.grams, Profile()) == " ".join(text.split()[:2])
