"""Flow: one sum, one relation from solids to stress, one from stress to spread, each by a worked figure and against its inverse."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.batter.flow import (
    DENSITY,
    Flow,
    flow_of,
    kind_of,
    solids_for,
    spread_from_stress,
    stress_from_spread,
    yield_stress,
)
from mutabilis.core.batter.main_liquid import main_flour, main_liquid, pours, thins
from mutabilis.core.errors import CannotBe
from mutabilis.core.food.coefficients import per_gram


def test_stress_of_solids_by_hand():
    """τ = [3·exp(12·(φ − 0.48)) + 0.5]·exp(3·θ) − 0.5."""
    assert yield_stress(0.48, 0.0) == pytest.approx(3.0)
    assert yield_stress(0.48, 0.1) == pytest.approx(3.5 * math.exp(0.3) - 0.5)
    assert yield_stress(0.53, 0.0) == pytest.approx(3 * math.exp(0.6))
    assert yield_stress(0.0, 0.0) == pytest.approx(3 * math.exp(-5.76))


def test_stress_of_a_spread_by_hand():
    """τ = 225·ρ·g·V²/(128·π²·R⁵) − λ·R²/V at 60 mL and 12 cm: ρ 1050, g 9.81, λ 0.005."""
    first = 225 * 1050 * 9.81 * (60e-6) ** 2 / (128 * math.pi**2 * 0.06**5)
    assert stress_from_spread(12.0) == pytest.approx(first - 0.005 * 0.06**2 / 60e-6) and DENSITY == 1050


@given(st.floats(0.30, 0.62), st.floats(0, 0.5))
def test_solids_and_stress_are_each_others_inverse(phi, theta):
    assert solids_for(yield_stress(phi, theta), theta) == pytest.approx(phi)


@given(st.floats(6, 19), st.floats(20, 200))
def test_spread_and_stress_are_each_others_inverse(cm, ml):
    tau = stress_from_spread(cm, ml)
    if tau > 0.05:
        assert spread_from_stress(tau, ml) == pytest.approx(cm, rel=1e-6)


@given(st.floats(0.05, 40), st.floats(1.05, 3))
def test_what_is_stiffer_spreads_less_and_more_of_it_further(tau, times):
    assert spread_from_stress(tau * times) < spread_from_stress(tau) < spread_from_stress(tau, 90)


@pytest.mark.parametrize("given_", [(0, 60), (-1, 60), (12, 0), (math.nan, 60)])
def test_what_is_no_spread_is_refused(given_):
    with pytest.raises(CannotBe):
        stress_from_spread(*given_)


def test_liquids_that_are_too_thick_alone_have_no_solids():
    assert solids_for(0.2, 1.5) is None


@pytest.mark.parametrize(
    ("cm", "kind"),
    [(None, "dough"), (7.99, "dough"), (8, "thick"), (10.49, "thick"), (10.5, "griddle"), (15.49, "griddle"), (15.5, "crepe")],
)
def test_a_kind_has_its_bounds(cm, kind):
    assert kind_of(cm) == kind


def test_the_sum_that_flows(facts):
    i, minutes = facts.ingredients, 10.0
    parts = [
        (200.0, i["flour_ap"] if "flour_ap" in i else next(x for x in i.values() if x.group == "wheat_flour")),
        (300.0, i["whole_milk"]),
    ]
    flow = flow_of((g, per_gram(x, minutes)) for g, x in parts)
    flour, milk = (per_gram(x, minutes) for _, x in parts)
    assert flow.swollen_ml == pytest.approx(200 * (flour.swollen_dry + flour.bound))
    assert flow.free_ml == pytest.approx(200 * (flour.free - flour.bound) + 300 * milk.free)
    assert flow.thickening == pytest.approx(milk.thick / milk.wet) and flow.stress_pa == pytest.approx(
        yield_stress(flow.solids_fraction, flow.thickening)
    )
    nothing = Flow(swollen_ml=0.0, free_ml=0.0, wet_g=0.0, thick_g=0.0)
    assert nothing.stress_pa is None and nothing.solids_fraction == nothing.thickening == 0
    assert flow_of([(200.0, flour)]).stress_pa is None  # flour alone: nothing is free


def test_the_main_liquid_pours_before_it_is_most(facts):
    i = facts.ingredients
    yogurt, milk, egg, oil, syrup = (
        i[k] for k in ("plain_yogurt" if "plain_yogurt" in i else "yogurt", "whole_milk", "egg", "sunflower_oil", "maple_syrup")
    )
    assert thins(yogurt) and not pours(yogurt) and pours(milk) and not thins(egg) and not thins(oil) and not thins(syrup)
    assert main_liquid([(0, yogurt, 400), (1, milk, 90), (2, egg, 900)]) == 1
    assert main_liquid([(0, yogurt, 400), (2, egg, 900)]) == 0
    assert main_liquid([(7, milk, 90), (3, i["water"], 120)]) == 3
    assert main_liquid([(2, egg, 900), (3, oil, 50)]) is None and main_liquid([]) is None


def test_the_main_flour_is_the_one_that_there_is_most_of(facts):
    i = facts.ingredients
    flour, oats, flax = i["all_purpose_flour"], i["oat_flour"], i["flax_meal"]
    assert main_flour([(4, oats, 60), (1, flour, 90), (2, flax, 300)]) == 1  # seeds drink and are no flour
    assert main_flour([(2, flax, 300)]) is None and main_flour([]) is None
