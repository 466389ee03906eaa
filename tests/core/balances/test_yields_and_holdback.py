"""Yield, hold-back, labels, conditions, plate: what the ledgers need round them."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.balances.holdback import hold_back
from mutabilis.core.balances.water import water
from mutabilis.core.batter.bowl import fill
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.pack_labels import Label, infer
from tests.conftest import PLAIN, RIDGE


def test_yield_counts_whole_pieces_and_names_the_last(analysed):
    y = analysed(PLAIN, portion_ml=60).yields
    assert y.portion_g == pytest.approx(60 * y.density_g_per_ml) and 0.85 < y.density_g_per_ml < 1.05
    assert y.whole + y.last_share == pytest.approx(analysed(PLAIN).batter_g * 0.965 / y.portion_g)
    assert y.cooked_high_g < y.portion_g
    area = math.pi * (y.diameter_cm / 2) ** 2
    assert y.thickness_cm == pytest.approx(60 / area * 1.5)
    assert analysed(PLAIN, portion_ml=120).yields.diameter_cm == pytest.approx(y.diameter_cm * 2**0.4)


def test_cold_warm_and_blender(analysed):
    """Twice as fast for ten degrees: the cold keeps lift and slows the drink; a blender drinks at once."""
    room, cold, warm = (analysed(PLAIN, rest_min=30, rest_c=c) for c in (21, 4, 31))
    assert cold.lift.co2_left_ml > room.lift.co2_left_ml > warm.lift.co2_left_ml
    assert warm.lift.latest_min == pytest.approx(room.lift.latest_min / 2, rel=1e-3)
    slow = "200 g rice flour\n260 g water"
    thick, thin = (analysed(slow, rest_min=1, blender=b).water for b in (True, False))
    assert thick.bound_g > thin.bound_g and thick.spread_cm < thin.spread_cm
    assert analysed(slow, rest_min=720, rest_c=4).water.bound_g == pytest.approx(140, rel=0.01)


def test_weighing_shrinks_what_is_held_back(batter, facts):
    bowl = fill(batter(RIDGE), facts)
    scale, cups = hold_back(bowl, "scale"), hold_back(bowl, "cups")
    assert scale.ingredient == "whole_milk" and scale.pour_g < scale.plan_g < scale.enough_g
    assert scale.hold_g < cups.hold_g and scale.pour_g + scale.hold_g == pytest.approx(scale.plan_g)
    assert hold_back(fill(batter("100 g flour\n50 g butter"), facts), "scale") is None


def test_the_poured_amount_is_too_little_in_nineteen_of_twenty(batter, facts):
    """Simulated kitchens with true absorptions drawn at random: the liquid they need lies above `pour` about 95 times in 100."""
    import random

    from mutabilis.core.balances.water import absorption_doubt
    from mutabilis.core.batter.flow import yield_stress
    from mutabilis.core.food.coefficients import per_gram

    bowl = fill(batter("200 g rice flour\n50 g oat flour\n330 g milk\n100 g egg"), facts)
    plan, tau = hold_back(bowl, "scale"), water(bowl).yield_stress_pa
    random.seed(7)

    def needed() -> float:
        portions = [
            (
                p,
                p.grams + random.gauss(0, 0.5),
                random.gauss(1, absorption_doubt(p.ingredient)) if p.ingredient.is_drinker else 1.0,
            )
            for p in bowl.portions
        ]
        low, high = 0.0, 900.0
        for _ in range(40):
            milk = (low + high) / 2
            solid = free = wet = thick = 0.0
            for p, grams, factor in portions:
                grams = milk if p.ingredient.id == plan.ingredient else grams
                one = per_gram(p.ingredient, bowl.rest_min, round(factor, 6))
                solid += grams * one.flow_solid
                free += grams * one.flow_free
                wet += grams * one.wet
                thick += grams * one.thick
            stiff = free <= 0 or yield_stress(solid / (solid + free), thick / wet) > tau
            low, high = (milk, high) if stiff else (low, milk)
        return low

    draws = [needed() for _ in range(400)]
    assert 0.92 <= sum(d > plan.pour_g for d in draws) / 400 <= 0.98
    assert 0.92 <= sum(d < plan.enough_g for d in draws) / 400 <= 0.98


OAT = {
    "id": "hill_oat_flour",
    "name": "Hill oat flour",
    "kind": "flour",
    "kcal": 375,
    "fat_g": 7,
    "saturates_g": 1.3,
    "carbohydrate_g": 60,
    "sugars_g": 1,
    "fibre_g": 9,
    "protein_g": 13,
    "salt_g": 0.02,
}


def test_a_label_becomes_an_ingredient_with_a_wide_doubt(facts):
    i, (low, high) = infer(Label(**OAT, contains=("oats",), vegan=True))
    assert i.carb_g == 69 and i.starch_g == 59 and 95 <= i.water_g + i.protein_g + i.fat_g + i.carb_g + i.ash_g <= 101
    assert low < facts.ingredients["oat_flour"].absorption_g_per_g < high
    assert i.contains_gluten == "risk" and i.confidence == "low" and i.animal == "none"
    american, _ = infer(Label(**{**OAT, "carbohydrate_g": 69, "basis": "carb_with_fibre"}))
    assert american.carb_g == 69  # fibre is never taken off twice
    assert american.pack_decides  # no allergen line, nothing vouched for


def test_thirst_from_a_label_meets_the_table(facts):
    """The estimate holds most flours of the table within its range."""
    inside = []
    for i in facts.ingredients.values():
        if i.group in ("wheat_flour", "gluten_free_flour") and i.soda_fraction == 0:
            row = {
                "id": "x1",
                "name": i.name,
                "kind": "flour",
                "kcal": i.kcal,
                "fat_g": i.fat_g,
                "saturates_g": i.sat_fat_g,
                "carbohydrate_g": i.carb_g,
                "sugars_g": i.sugars_g,
                "fibre_g": i.fibre_g,
                "protein_g": i.protein_g,
                "salt_g": 0,
                "basis": "carb_with_fibre",
            }
            low, high = infer(Label.model_validate(row))[1]
            inside.append(low <= i.absorption_g_per_g <= high)
    assert sum(inside) / len(inside) > 0.85, inside


@pytest.mark.parametrize(
    "wrong",
    [
        {"kcal": 900},
        {"fat_g": 60, "protein_g": 50},
        {"saturates_g": 9},
        {"sugars_g": 70},
        {"fat_g": -1},
        {"fat_g": math.nan},
    ],
)
def test_a_label_that_cannot_be_is_refused(wrong):
    with pytest.raises(ValueError):
        Label(**{**OAT, **wrong})


def test_an_own_ingredient_is_used_by_its_name(facts, profile):
    from mutabilis.core.reading.reading import read_lines

    own, _ = infer(Label(**OAT, contains=("oats",), vegan=True))
    mine = facts.with_own((own,))
    assert isinstance(mine, AllFacts)
    (line,) = read_lines("100 g hill oat flour", mine, profile)
    assert line.ingredient == "hill_oat_flour" and "hill_oat_flour" not in facts.ingredients


def test_the_guest_eats_the_plate(analysed):
    a = analysed("200 g flour\n300 g soy milk\n10 g baking powder\nbutter for frying\n30 g honey, to serve")
    assert a.diets["vegan"].verdict == "fits" and a.plate.diets["vegan"].verdict == "conflicts"
    assert "milk" in a.plate.contains and "milk" not in a.contains
    assert a.plate.nutrition.kcal > a.nutrition.kcal + 100
    assert "half_swapped" in {w.code for w in a.warnings}


@given(st.floats(1, 500), st.floats(1, 300))
def test_holding_back_scales_with_the_batch(batter, facts, flour, more):
    bowl = fill(batter(f"{flour:.2f} g flour\n{1.4 * flour:.2f} g milk"), facts)
    plan = hold_back(bowl, "cups")
    assert 0 <= plan.pour_g <= plan.plan_g <= plan.enough_g
