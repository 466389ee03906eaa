"""Every cause has its own correction: in grams that land, in degrees, seconds, minutes or millilitres of the heat model, or in words."""

import pytest

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.diagnosis.corrections import correction, predicted
from mutabilis.core.diagnosis.features import figures
from mutabilis.core.diagnosis.record import Record
from mutabilis.core.measures.profile import Profile
from mutabilis.core.stove.resting import window

from .kitchen import FACTS, TABLES
from .test_diagnosis import BUTTERMILK, CAKE, STOVE, batter, swap

GEL = ("150 g rice flour", "250 g oat drink", "20 g psyllium husk", "8 g baking powder", "20 g oil")
EGGY = ("120 g plain flour", "100 g milk", "450 g egg", "6 g baking powder", "20 g butter, melted")


def corrected(cause, lines, reference=CAKE, form="griddle", **more):
    r = Record.model_validate(
        {
            "batter": batter(*lines, form=form),
            "reference": batter(*reference, form=form) if reference else None,
            "faults": ("dense",),
            "events": STOVE | more,
        }
    )
    now = analyse(r.as_poured, FACTS, Profile(), {})
    ref = analyse(r.reference, FACTS, Profile(), {}) if r.reference else None
    seen = figures(r, now, ref, FACTS, TABLES)
    return correction(TABLES.cause(cause), r, now, ref, seen, FACTS, Profile(), TABLES), now


@pytest.mark.parametrize(
    ("cause", "lines", "reference", "ingredient", "sign"),
    [
        ("water_low", swap(CAKE, milk="180 g milk"), CAKE, "whole_milk", 1), ("water_high", swap(CAKE, milk="330 g milk"), CAKE, "whole_milk", -1), ("swap_unbalanced", swap(CAKE, milk="180 g soy drink"), CAKE, "soy_drink", 1),
        ("lift_low", swap(CAKE, powder="3 g baking powder"), CAKE, "baking_powder", 1), ("lift_high", swap(CAKE, powder="30 g baking powder"), CAKE, "baking_powder", -1),
        ("soda_unmet", swap(BUTTERMILK, buttermilk="350 g oat drink"), BUTTERMILK, "baking_soda", -1), ("acid_left", swap(BUTTERMILK, soda="1 g baking soda"), None, "baking_soda", 1),
        ("set_weak", swap(CAKE, egg="10 g egg"), CAKE, "egg", 1), ("binder_high", GEL, None, "psyllium_husk", -1), ("set_high", EGGY, CAKE, "egg", -1),
        ("sugar_high", swap(CAKE, sugar="90 g sugar"), CAKE, "sugar", -1), ("sugar_low", swap(CAKE, sugar="2 g sugar"), CAKE, "sugar", 1), ("fat_low", swap(CAKE, butter="2 g butter, melted"), CAKE, "unsalted_butter", 1),
    ],
)  # fmt: skip
def test_grams_move_the_right_thing_the_right_way_and_raise_nothing(cause, lines, reference, ingredient, sign):
    fixed, now = corrected(cause, lines, reference)
    moved = {fixed.ingredient: fixed.grams, **fixed.also}
    name = next((i for i in moved if i and (i == ingredient or ingredient.endswith(i) or i.startswith(ingredient))), None)
    assert fixed.grams is not None and name is not None and moved[name] * sign > 0, fixed
    a = analyse(batter(*fixed.lines), FACTS, Profile(), {})
    assert {w.code for w in a.warnings} <= {w.code for w in now.warnings}
    for key, value in predicted(a).items():
        assert value == pytest.approx(fixed.predicts[key], abs={"spread_cm": 0.1, "co2_ml_per_100g": 5}.get(key, 0.3)), key


def test_the_liquid_comes_back_to_the_references_own_spread():
    fixed, _ = corrected("water_low", swap(CAKE, milk="180 g milk"))
    meant = analyse(batter(*CAKE), FACTS, Profile(), {}).water.spread_cm
    assert fixed.predicts["spread_cm"] == pytest.approx(meant, abs=0.05) and fixed.grams == pytest.approx(70, abs=1)
    alone, now = corrected("water_low", swap(CAKE, milk="180 g milk"), None)
    low, high = now.bowl.form.spread_cm
    assert alone.predicts["spread_cm"] == pytest.approx((low + high) / 2, abs=0.1)  # without one, the middle of the form's band


def test_heat_and_seconds_come_from_the_heat_model():
    hot, _ = corrected("heat_high", CAKE, read_c=240)
    assert hot.change == "heat" and 170 <= hot.to <= 205 and hot.predicts == {"celsius": hot.to}
    early, _ = corrected("turned_early", CAKE, turned_s=40)
    late, _ = corrected("cooked_long", CAKE, off_s=900)
    assert early.change == late.change == "time" and early.to < late.to and early.words.startswith("Turn at ")
    opened, _ = corrected("opened_early", CAKE, form="waffle", off_s=60)
    assert opened.words.startswith("Open or lift off at ") and opened.predicts["off_s"] == opened.to
    thick, _ = corrected("piece_thick", CAKE, thickness_mm=25)
    assert thick.change == "portion" and 15 <= thick.to <= 400 and "mL a piece" in thick.words
    cold, _ = corrected("cold_surface", CAKE, heat_on_min=2)
    assert cold.change == "wait" and cold.to == FACTS.surfaces[0].heat_up_min


def test_minutes_come_from_the_window_of_the_bowl():
    rest, now = corrected("flour_undrunk", ("80 g coconut flour", "200 g milk", "200 g egg", "6 g baking powder"), None)
    w = window(now.bowl, False, FACTS.stove.time)
    assert rest.change == "rest" and rest.to == round(w.earliest_min)
    lost, now = corrected("lift_lost", BUTTERMILK, BUTTERMILK)
    assert lost.to == round(window(now.bowl, False, FACTS.stove.time).latest_min) and "minutes" in lost.words
    short, now = corrected("under_rested", CAKE)
    assert short.to == now.bowl.rest_min


@pytest.mark.parametrize("cause", [c.cause for c in TABLES.causes])
def test_every_cause_says_something_to_do_in_a_sentence(cause):
    fixed, _ = corrected(cause, CAKE)
    assert fixed.words[:1].isupper() or fixed.words[:1].isdigit()
    assert fixed.words.endswith(".") and fixed.warnings_raised == ()
