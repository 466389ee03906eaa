"""Amounts as a scale or a spoon set can follow them, and the balance made good in what is left."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.adapt.rounding import liquid_step, settle, step_for, stress_of, to_kitchen, to_step
from mutabilis.core.measures.profile import Profile
from mutabilis.data import load_facts

FACTS = load_facts()
I = FACTS.ingredients  # noqa: E741  as the core's own short name for one


@pytest.mark.parametrize(
    ("id_", "grams", "step"),
    [("whole_milk", 200, 1.0), ("whole_milk", 9.9, 0.5), ("whole_milk", 2.9, 0.1), ("whole_milk", 0.2, 0.01), ("baking_powder", 40, 0.1), ("salt", 12, 0.1), ("salt", 0.29, 0.01),
     ("psyllium_husk", 25, 0.1), ("cider_vinegar", 20, 0.1), ("all_purpose_flour", 10, 1.0), ("all_purpose_flour", 3, 0.5)],
)  # fmt: skip
def test_a_step_is_what_a_kitchen_scale_can_follow(id_, grams, step):
    assert step_for(I[id_], grams) == step


@given(st.sampled_from(["whole_milk", "salt", "all_purpose_flour", "psyllium_husk"]), st.floats(0.05, 900))
def test_what_is_rounded_is_a_whole_number_of_steps_and_near(id_, grams):
    found, step = to_step(I[id_], grams), step_for(I[id_], grams)
    assert abs(found - grams) <= step / 2 + 1e-9 and abs(found / step - round(found / step)) < 1e-6
    assert to_step(I[id_], found) == pytest.approx(found, abs=step / 2)


@given(st.floats(120, 400), st.floats(0.2, 8))
def test_the_liquid_is_settled_where_the_batter_flows_as_it_should(flour, tau):
    portions = [(I["all_purpose_flour"], flour), (I["whole_milk"], 1.4 * flour), (I["egg"], 50.0)]
    grams = settle(portions, 1, tau, 10.0)

    def off(g):
        return abs(stress_of([portions[0], (portions[1][0], g), portions[2]], 10.0) - tau)

    if grams != to_step(I["whole_milk"], 1.4 * flour):  # within reach
        assert off(grams) <= min(off(grams - 1), off(grams + 1)) + 1e-9
    assert grams == round(grams, 3) >= 0


def test_what_is_out_of_reach_stays_as_it_was():
    portions = [(I["all_purpose_flour"], 200.0), (I["whole_milk"], 280.0)]
    assert settle(portions, 1, 0.0, 10.0) == 280.0  # no milk makes it water
    assert stress_of([(I["all_purpose_flour"], 200.0)], 10.0) == float("inf")


def test_a_coarser_step_is_kept_to():
    portions = [(I["all_purpose_flour"], 200.0), (I["whole_milk"], 280.0)]
    assert settle(portions, 1, 2.0, 10.0, step=5.0) % 5 == 0 and settle(portions, 1, 2.0, 10.0, step=0.5) % 0.5 == 0


@pytest.mark.parametrize("profile", [Profile(), Profile(cup_ml=250.0, tbsp_ml=20.0, tsp_ml=5.0)])
def test_a_spoon_set_has_its_own_steps(profile):
    soda, salt, flour, milk, egg = (I[k] for k in ("baking_soda", "salt", "all_purpose_flour", "whole_milk", "egg"))
    tsp = lambda i: i.grams_per_ml("tsp")[0] * profile.tsp_ml  # noqa: E731
    tbsp = lambda i: i.grams_per_ml("tbsp")[0] * profile.tbsp_ml  # noqa: E731
    steps = {soda: tsp(soda) / 8, salt: tsp(salt) / 4, flour: tbsp(flour)}
    for i, step in steps.items():
        found = to_kitchen(i, 7.3 * step, profile)
        assert found / step == pytest.approx(round(found / step), abs=0.02), i.id
    assert to_kitchen(egg, 112.0, profile) % egg.unit_g == pytest.approx(0, abs=1e-6)
    assert to_kitchen(flour, 0.0, profile) == 0 and to_kitchen(soda, 0.01, profile) > 0  # never rounded away
    assert liquid_step(milk, profile) == pytest.approx(tsp(milk))
