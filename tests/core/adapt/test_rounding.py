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
     ("stevia", 5, 0.1), ("vanilla_extract", 5, 0.1), ("psyllium_husk", 25, 0.1), ("cider_vinegar", 20, 0.1), ("all_purpose_flour", 10, 1.0), ("all_purpose_flour", 3, 0.5)],
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
@pytest.mark.parametrize(
    ("id_", "spoon", "spoons", "rounded"),
    [
        ("baking_soda", "tsp", 0.45, 0.5), ("baking_soda", "tsp", 1.60, 1.625), ("potassium_bicarbonate", "tsp", 1.60, 1.625),
        ("baking_powder", "tsp", 0.90, 0.875), ("baking_powder", "tsp", 1.60, 1.5), ("baking_powder", "tsp", 1.0, 1.0),
        ("salt", "tsp", 1.60, 1.5), ("psyllium_husk", "tsp", 3.30, 3.25), ("cider_vinegar", "tsp", 2.60, 2.5),
        ("vanilla_extract", "tsp", 1.30, 1.25), ("stevia", "tsp", 1.30, 1.25), ("baking_soda", "tsp", 0.01, 0.125),
        ("all_purpose_flour", "tbsp", 2.60, 2.5), ("all_purpose_flour", "tbsp", 4.60, 5.0), ("whole_milk", "tbsp", 3.60, 3.5),
    ],
)  # fmt: skip
def test_a_spoon_set_has_its_own_steps(profile, id_, spoon, spoons, rounded):
    ml = profile.tsp_ml if spoon == "tsp" else profile.tbsp_ml
    one = I[id_].grams_per_ml(spoon)[0] * ml
    assert to_kitchen(I[id_], spoons * one, profile) == pytest.approx(rounded * one, abs=0.001)


def test_eggs_come_whole_and_nothing_is_nothing():
    assert [to_kitchen(I["egg"], g, Profile()) for g in (0.0, 20, 76, 130)] == [0, 50, 100, 150]
    assert to_kitchen(I["whole_milk"], 0.0, Profile()) == 0
    assert liquid_step(I["whole_milk"], Profile()) == pytest.approx(I["whole_milk"].grams_per_ml("tsp")[0] * Profile().tsp_ml)
