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
    [("whole_milk", 200, 1.0), ("whole_milk", 9.9, 0.5), ("whole_milk", 2.9, 0.1), ("whole_milk", 0.2, 0.01), ("baking_powder", 40, 0.1), ("salt", 12, 0.1), ("salt", 0.29, 0.01), ("salt", 0.3, 0.1),
     ("salt", 1.2, 0.1), ("whole_milk", 1.2, 0.1),
     ("stevia", 5, 0.1), ("vanilla_extract", 5, 0.1), ("psyllium_husk", 25, 0.1), ("cider_vinegar", 20, 0.1), ("all_purpose_flour", 10, 1.0), ("all_purpose_flour", 3, 0.5)],
)  # fmt: skip
def test_a_step_is_what_a_kitchen_scale_can_follow(id_, grams, step):
    assert step_for(I[id_], grams) == step


@given(st.sampled_from(["whole_milk", "salt", "all_purpose_flour", "psyllium_husk"]), st.floats(0.05, 900))
def test_what_is_rounded_is_a_whole_number_of_steps_and_near(id_, grams):
    found, step = to_step(I[id_], grams), step_for(I[id_], grams)
    assert abs(found - grams) <= step / 2 + 1e-9 and abs(found / step - round(found / step)) < 1e-6
    assert to_step(I[id_], found) == pytest.approx(found, abs=step / 2)


@given(st.floats(120, 400), st.floats(1.2, 1.9), st.floats(0.6, 1.5))
def test_the_liquid_is_settled_where_the_batter_flows_as_it_should(flour, wet, start):
    """From a flow that so much milk gives, and from elsewhere, the search comes back to that milk."""

    def bowl(milk):
        return [(I["all_purpose_flour"], flour), (I["whole_milk"], milk), (I["egg"], 50.0)]

    tau = stress_of(bowl(wet * flour), 10.0)
    assert 0 < tau < stress_of(bowl(wet * flour - 5), 10.0) < float("inf")
    assert abs(settle(bowl(start * flour), 1, tau, 10.0) - wet * flour) <= 1
    assert settle(bowl(start * flour), 1, tau, 10.0, step=5.0) in (5 * int(wet * flour / 5), 5 * int(wet * flour / 5) + 5)
    fine = settle(bowl(start * flour), 1, tau, 10.0, step=0.01)
    assert abs(fine - wet * flour) <= 0.011 and fine == round(fine, 3)


@pytest.mark.parametrize(("wanted", "found"), [(0.4, 0.4), (40, 40.0), (79.4, 79.4), (80.6, 10.0)])
def test_it_looks_from_nothing_to_three_times_as_much_and_a_little(wanted, found):
    """From 10 g of milk beside eggs: as far as 80 g, and what is further stays as it was."""

    def bowl(milk):
        return [(I["all_purpose_flour"], 90.0), (I["whole_milk"], milk), (I["egg"], 150.0)]

    assert settle(bowl(10.0), 1, stress_of(bowl(wanted), 10.0), 10.0, step=0.1) == pytest.approx(found, abs=0.1)


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
