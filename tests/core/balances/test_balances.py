"""The ledgers against examples worked by hand, and the properties that hold for any batter."""

import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.batter.flow import spread_from_stress, stress_from_spread, yield_stress
from tests.conftest import BUTTERMILK, COCONUT, PLAIN


def test_water_by_hand(analysed):
    """100 g flour (11.9 water, 1.0 fat, drinks 0.65, t90 5 min) in 150 g water, after ten minutes."""
    w = analysed("100 g flour\n150 g water", rest_min=10).water
    held = 65 * (1 - math.exp(-2.303 * 2))
    swollen = (100 - 1 - 11.9) / 1.45 + 11.9 + held
    free = 150 - held + 0.5 * 1 / 0.92
    assert w.bound_g == pytest.approx(held)
    assert w.solids_fraction == pytest.approx(swollen / (swollen + free))
    assert w.yield_stress_pa == pytest.approx(3 * math.exp(12 * (swollen / (swollen + free) - 0.48)))
    assert w.hydration_pct == pytest.approx(150)
    assert w.total_g == pytest.approx(161.9)
    assert w.contributions[0].amount == 150 and w.contributions[1].amount == pytest.approx(-held)


def test_shortage_is_named_instead_of_a_number(analysed):
    w = analysed("100 g coconut flour\n100 g water", rest_min=1000).water
    assert w.spread_cm is None and w.yield_stress_pa is None and w.kind == "dough"
    assert w.missing_g == pytest.approx(420 / 0.85 - 100)
    mended = analysed(f"100 g coconut flour\n{100 + w.missing_g} g water", rest_min=1000)
    assert mended.water.missing_g == pytest.approx(0, abs=0.1)
    assert "water_missing" in [x.code for x in analysed("100 g coconut flour\n100 g water", rest_min=1000).warnings]


def test_lift_by_hand(analysed):
    """4.6 g soda is 54.76 mmol; 400 g buttermilk brings 38 meq and 200 g flour buffers 6 meq; the rest meets only heat."""
    x = analysed("200 g flour\n4.6 g baking soda\n400 g buttermilk").lift
    soda = 4.6 * 1000 / 84.007
    left = soda - 38 - 200 * 0.03
    assert x.co2_ml == pytest.approx(24.47 * (38 + 6 + 0.3 * left))
    assert x.residual_alkali_meq_per_100g == pytest.approx(100 * left / 604.6)
    assert x.excess_acid_meq_per_100g == 0


def test_powder_brings_its_own_acid_and_culture_is_left_over(analysed):
    x = analysed("200 g flour\n10 g baking powder\n400 g buttermilk").lift
    assert x.co2_ml == pytest.approx(24.47 * 10 * 0.28 * 1000 / 84.007)
    assert x.excess_acid_meq_per_100g == pytest.approx(100 * 38 / 610)


@pytest.mark.parametrize(
    ("text", "form", "verdict"),
    [
        ("200 g flour\n300 g milk", "griddle", "none"),
        ("200 g flour\n300 g milk\n3 g baking powder", "griddle", "low"),
        (PLAIN, "griddle", "fits"),
        ("200 g flour\n300 g milk\n20 g baking powder", "griddle", "high"),
        ("200 g flour\n300 g milk\n40 g baking powder", "griddle", "excessive"),
        ("200 g flour\n400 g milk", "crepe", "fits"),
    ],
)
def test_lift_verdicts(analysed, text, form, verdict):
    assert analysed(text, form).lift.verdict == verdict


def test_lift_leaves_with_time(analysed):
    """Soda with acid gives all of its gas early, half of it gone after 20 minutes; powder keeps its later part."""
    soda = analysed("200 g flour\n3 g baking soda\n400 g buttermilk", rest_min=20).lift
    powder = analysed("200 g flour\n10 g baking powder\n300 g milk", rest_min=30).lift
    assert soda.co2_left_ml == pytest.approx(soda.co2_ml / 2)
    assert powder.co2_left_ml == pytest.approx(powder.co2_ml * (0.7 + 0.3 / 2))
    assert powder.latest_min == pytest.approx(30, abs=0.01)


def test_whipped_whites_hold_air(analysed):
    fresh = analysed("200 g flour\n200 g milk\n3 egg whites, whipped stiff", rest_min=0).lift
    later = analysed("200 g flour\n200 g milk\n3 egg whites, whipped stiff", rest_min=25).lift
    assert fresh.air_ml == pytest.approx(99 * 5 / 2) and later.air_ml == pytest.approx(fresh.air_ml / 2)


def test_set_and_its_dependence_on_eggs(analysed):
    s = analysed("100 g flour\n100 g egg").setting
    assert s.egg_equivalents == pytest.approx(2 + 100 * 0.0095 * 0.85)
    assert analysed(COCONUT).setting.egg_dependent and not analysed(PLAIN).setting.egg_dependent
    once, twice = (analysed(f"100 g rice flour\n300 g water\n{g} g psyllium").setting.egg_equivalents for g in (3, 300))
    assert twice - 100 * 0.002 == pytest.approx(1.2, abs=0.01) and once < twice  # gels saturate


def test_faults_are_named_with_amounts(analysed):
    texts = {w.code: w.text for w in analysed("200 g flour\n300 g milk\n2 tsp baking soda\n50 g sugar").warnings}
    assert re.search(r"about \d\.\d g of it is too much", texts["alkali_left"])
    assert "lift_twice" in {w.code for w in analysed("200 g self-raising flour\n10 g baking powder\n250 g milk").warnings}
    assert "xylitol" in {w.code for w in analysed("200 g flour\n250 g milk\n20 g xylitol").warnings}


def test_net_carbohydrate_by_school(batter, facts, profile):
    b = batter("50 g almond flour\n20 g erythritol")
    nets = {
        s: analyse(b, facts, profile.model_copy(update={"net_carb": s})).nutrition.net_carb_g
        for s in ("total", "minus_fibre", "minus_fibre_polyols")
    }
    assert nets["total"] == pytest.approx(9.35 + 20)
    assert nets["minus_fibre"] == pytest.approx(9.35 + 20 - 4.95)
    assert nets["minus_fibre_polyols"] == pytest.approx(9.35 - 4.95)


def test_every_total_is_the_sum_of_its_contributions(analysed):
    for ledger in analysed(BUTTERMILK).ledgers:
        if ledger.key in ("sweetness", "fat", "salt", "browning", "net_carb", "lift"):
            assert sum(c.amount for c in ledger.contributions) == pytest.approx(ledger.total), ledger.key


# ---- properties

SOME = [
    "all_purpose_flour",
    "rye_flour_medium",
    "coconut_flour",
    "whole_milk",
    "buttermilk",
    "egg",
    "butter",
    "sugar",
    "baking_soda",
    "baking_powder",
    "banana",
    "psyllium_husk",
]
LINES = st.lists(st.tuples(st.sampled_from(SOME), st.floats(1, 400)), min_size=2, max_size=9, unique_by=lambda x: x[0])


def make(lines, **more):
    return Batter(lines=tuple(BatterLine(text=i, ingredient=i, grams=g, low=0.95 * g, high=1.05 * g) for i, g in lines), **more)


@given(LINES, st.floats(0.1, 20))
def test_scaling_changes_no_ratio(facts, profile, lines, factor):
    a, b = (analyse(x, facts, profile, {}) for x in (make(lines), make(lines).scaled(factor)))
    for one, other in zip(a.ledgers, b.ledgers, strict=True):
        assert one.per_100g == pytest.approx(other.per_100g, rel=1e-6, abs=1e-6)
    assert a.water.solids_fraction == pytest.approx(b.water.solids_fraction)


@given(LINES, st.randoms(use_true_random=False))
def test_order_of_lines_changes_nothing(facts, profile, lines, random):
    mixed = list(lines)
    random.shuffle(mixed)
    a, b = (analyse(make(x), facts, profile) for x in (lines, mixed))
    assert [x.total for x in a.ledgers] == pytest.approx([x.total for x in b.ledgers])
    assert {k: v.verdict for k, v in a.diets.items()} == {k: v.verdict for k, v in b.diets.items()}


@given(LINES, st.floats(1, 300))
def test_water_never_thickens(facts, profile, lines, more):
    before = analyse(make(lines), facts, profile, {}).water
    after = analyse(make([*lines, ("water", more)]), facts, profile, {}).water
    if before.yield_stress_pa is not None:
        assert after.yield_stress_pa <= before.yield_stress_pa + 1e-9
    assert after.missing_g <= before.missing_g + 1e-9


@given(LINES, st.floats(1, 100), st.sampled_from(["wheat_bran", "oat_fibre", "white_rice_flour"]))
def test_a_drinker_never_thins(facts, profile, lines, more, drinker):
    before = analyse(make(lines), facts, profile, {}).water
    after = analyse(make([*lines, (drinker, more)]), facts, profile, {}).water
    if after.yield_stress_pa is not None and before.yield_stress_pa is not None:
        assert after.yield_stress_pa >= before.yield_stress_pa - 1e-9
    assert after.missing_g >= before.missing_g - 1e-9


@given(st.floats(8, 18), st.floats(30, 120))
def test_the_spread_relation_runs_both_ways(diameter, volume):
    assert spread_from_stress(stress_from_spread(diameter, volume), volume) == pytest.approx(diameter, rel=1e-9)


@given(st.floats(0.1, 0.7), st.floats(0, 1))
def test_thickening_and_solids_stiffen(phi, theta):
    assert yield_stress(phi + 0.01, theta) > yield_stress(phi, theta) <= yield_stress(phi, theta + 0.01)
