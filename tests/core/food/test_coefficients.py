"""What a gram does: each coefficient by a worked sum from its row, so that a wrong constant is noticed."""

import math

import pytest

from mutabilis.core.food.coefficients import absorbed_share, energy_kcal, per_gram
from mutabilis.core.food.functions import FOAMING, SOAKED, WHOLE_EGGS, does
from mutabilis.core.food.nutrients import NUTRIENTS, PER_GRAM, label_of, nutrient_names, unit_of


@pytest.fixture
def of(facts):
    return lambda id_, minutes=10.0, **more: per_gram(facts.ingredients[id_], minutes, **more)


def row(facts, id_, **changed):
    return facts.ingredients[id_].model_copy(update=changed)


@pytest.mark.parametrize(("minutes", "t90", "share"), [(0, 5, 0.0), (5, 5, 0.9), (10, 5, 0.99), (15, 5, 0.999), (1, 0, 1.0)])
def test_nine_tenths_of_what_is_left_go_in_with_each_t90(minutes, t90, share):
    assert absorbed_share(minutes, t90) == pytest.approx(share, abs=5e-5)


def test_a_drinker_swells_and_binds(facts):
    flour = row(facts, "oat_flour", absorption_g_per_g=1.5, absorption_minutes=8.0, water_g=10.0, fat_g=8.0)
    p = per_gram(flour, 8.0)
    assert p.bound == pytest.approx(1.5 * (1 - math.exp(-2.303)))
    assert p.swollen_dry == pytest.approx((1 - 0.08 - 0.10) / 1.45 + 0.10)
    assert p.free == pytest.approx(0.5 * 0.08 / 0.92)
    assert p.flow_solid == pytest.approx(p.swollen_dry + p.bound) and p.flow_free == pytest.approx(p.free - p.bound)
    assert per_gram(flour, 8.0, 1.2).bound == pytest.approx(1.2 * p.bound) and per_gram(flour, 0.0).bound == 0


def test_a_liquid_is_free_and_thickens_by_its_row(facts):
    milk = row(facts, "whole_milk", water_g=88.0, fat_g=3.6, thickening=0.05)
    p = per_gram(milk, 10.0)
    assert p.swollen_dry == p.bound == 0
    assert p.free == pytest.approx(0.88 + (1 - 0.036 - 0.88) / 1.55 + 0.5 * 0.036 / 0.92)
    assert (p.wet, p.thick, p.liquid) == (1.0, pytest.approx(0.05), 1.0)
    assert (
        per_gram(row(facts, "whole_milk", water_g=39.9), 10.0).wet == 0 and per_gram(row(facts, "whole_milk", water_g=40.0), 10.0).wet == 1
    )


def test_pieces_neither_thin_nor_thicken_and_lock_their_acid_in(facts):
    berry = row(facts, "blueberry", acid_meq_per_100g=20.0, group="mix_in")
    p = per_gram(berry, 10.0)
    assert (p.swollen_dry, p.free, p.wet) == (0, 0, 0) and p.acid == pytest.approx(0.2 * 0.2)
    assert per_gram(row(facts, "blueberry", acid_meq_per_100g=20.0, group="fruit_puree"), 10.0).acid == pytest.approx(0.2)


def test_leavening_by_its_bicarbonate(facts):
    soda = per_gram(row(facts, "baking_soda", soda_fraction=1.0, acid_meq_per_100g=0.0), 10.0)
    assert soda.soda == pytest.approx(1000 / 84.007) and soda.acid == 0  # alone it finds no acid
    powder = per_gram(row(facts, "baking_powder", soda_fraction=0.28, acid_meq_per_100g=0.0), 10.0)
    assert powder.soda == powder.acid == pytest.approx(280 / 84.007)  # and this brings its own
    salt = row(facts, "baking_powder", sodium_mg=10_000.0)
    assert per_gram(salt, 10.0).salt_taste == pytest.approx(100 / 1000 * 2.54 * 0.3)
    assert per_gram(row(facts, "salt", sodium_mg=38_758.0), 10.0).salt_taste == pytest.approx(387.58 / 1000 * 2.54)


@pytest.mark.parametrize(("ash", "soda", "buffer"), [(0.5, 0.0, 0.03), (1.5, 0.0, 0.05), (5.0, 0.0, 0.08), (3.0, 0.015, 0.03)])
def test_flour_buffers_by_its_ash_and_the_powder_in_it_is_not_its_ash(facts, ash, soda, buffer):
    assert per_gram(row(facts, "oat_flour", ash_g=ash, soda_fraction=soda), 10.0).buffer == pytest.approx(buffer)
    assert per_gram(row(facts, "whole_milk", ash_g=ash), 10.0).buffer == 0


def test_set_comes_from_eggs_gluten_and_scalded_starch_and_gels_apart(facts):
    assert per_gram(row(facts, "egg", egg_equivalents_per_g=0.02), 10.0).setting == pytest.approx(0.02)
    wheat = row(facts, "all_purpose_flour", gluten_strength=0.8, egg_equivalents_per_g=0.0, starch_g=70.0)
    assert per_gram(wheat, 10.0).setting == pytest.approx(0.0095 * 0.8)
    assert per_gram(wheat, 10.0, 1.0, 0.5).setting == pytest.approx(0.0095 * 0.8 + 0.5 * 0.0087 * 0.7)
    flax = per_gram(row(facts, "flax_meal", egg_equivalents_per_g=0.03), 10.0)
    assert (flax.setting, flax.gel) == (0, pytest.approx(0.03))


def test_energy_by_the_regulation(facts):
    """4/4/9, fibre 2, alcohol 7, organic acids 3, allulose 0.4, polyols 2.4: EU Regulation 1169/2011, Annex XIV."""
    nothing = dict.fromkeys(("protein_g", "fat_g", "carb_g", "fibre_g", "polyol_g", "allulose_g", "alcohol_g", "organic_acid_g"), 0.0)
    for part, more, kcal in (
        ("protein_g", {}, 4.0), ("fat_g", {}, 9.0), ("carb_g", {}, 4.0), ("fibre_g", {"carb_g": 10.0}, 2.0), ("alcohol_g", {}, 7.0),
        ("organic_acid_g", {}, 3.0), ("allulose_g", {"carb_g": 10.0}, 0.4), ("polyol_g", {"carb_g": 10.0}, 2.4),
    ):  # fmt: skip
        assert energy_kcal(row(facts, "oat_flour", **{**nothing, part: 10.0, **more})) == pytest.approx(10 * kcal), part
    erythritol = row(facts, "erythritol", kcal=20.0)
    assert energy_kcal(erythritol) == 20.0  # by its own row


def test_nutrients_have_one_list(facts):
    assert set(PER_GRAM) | {"net_carb_g"} == set(NUTRIENTS)
    p = per_gram(facts.ingredients["egg"], 10.0)
    assert all(isinstance(getattr(p, name), float) for name in PER_GRAM.values())
    named = nutrient_names()
    assert [n.key for n in named] == list(NUTRIENTS) and len({n.label for n in named}) == len(named)
    assert {n.unit for n in named} == {"kcal", "g", "mg"} and unit_of("sodium_mg") == "mg"
    assert label_of("net_carb_g") == "net carbohydrate"


def test_kinds_of_thing_are_things_of_the_table(facts):
    assert set(facts.ingredients) >= SOAKED | WHOLE_EGGS | FOAMING
    assert all(facts.ingredients[x].is_drinker for x in SOAKED) and all(facts.ingredients[x].group == "egg" for x in WHOLE_EGGS)


@pytest.mark.parametrize(
    ("id_", "first"),
    [("flax_meal", "sets"), ("water", "wets"), ("baking_soda", "lifts"), ("lemon_juice", "wets"), ("brown_sugar", "sweetens"),
     ("butter", "enriches"), ("salt", "salts")],
)  # fmt: skip
def test_the_first_mark_is_what_a_thing_lives_from(facts, id_, first):
    marks = does(facts.ingredients[id_])
    assert marks[0].function == first and all(0.08 <= m.strength <= 1 for m in marks)
    assert [m.strength for m in marks] == sorted((m.strength for m in marks), reverse=True)
