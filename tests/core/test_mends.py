"""A fault that is named with an amount must be gone when the amount is followed."""

import re

import pytest

from mutabilis.core.warnings import FAULTS, spoons


def told(analysis, code):
    return next(w.text for w in analysis.warnings if w.code == code)


def tsp(text):
    """The tea spoons a text names: "1 1/2 tsp"."""
    m = re.search(r"(?:(\d+) )?(?:(\d)/(\d) )?tsp", text)
    return int(m[1] or 0) + (int(m[2]) / int(m[3]) if m[2] else 0)


def test_too_little_powder(analysed):
    low = analysed("200 g flour\n300 g milk\n4 g baking powder")
    more = tsp(told(low, "lift_low"))
    assert analysed(f"200 g flour\n300 g milk\n{4 + 4.6 * more} g baking powder").lift.verdict == "fits"


@pytest.mark.parametrize("powder", [26, 45])
def test_too_much_powder(analysed, powder):
    high = analysed(f"200 g flour\n300 g milk\n{powder} g baking powder")
    text = told(high, "lift_high" if high.lift.verdict == "high" else "lift_excessive")
    grams = float(re.search(r"\((\d+) g\)", text)[1])
    assert analysed(f"200 g flour\n300 g milk\n{powder - grams} g baking powder").lift.verdict == "fits"


def test_no_lift_at_all(analysed):
    none = analysed("200 g flour\n300 g milk")
    grams = float(re.search(r"About (\d+) g", told(none, "lift_none"))[1])
    assert analysed(f"200 g flour\n300 g milk\n{grams} g baking powder").lift.verdict == "fits"


@pytest.mark.parametrize(
    ("text", "soda", "sour"),
    [
        ("200 g flour\n250 g milk\n{} g baking soda", 2.2, "buttermilk"),
        ("200 g flour\n250 g oat drink\n{} g baking soda", 2.8, "lemon juice"),
        ("200 g flour\n250 g milk\n{} g baking soda", 8, ""),  # so much sour would be another batter
        ("200 g potato starch\n200 g water\n1 egg\n{} g baking soda", 6, ""),
    ],
)
def test_alkali_left(text, soda, sour, analysed):
    """Either mend meets the alkali; less soda leaves no batter flat, and no dairy goes into one that has none."""
    said = told(analysed(text.format(soda)), "alkali_left")
    assert re.findall("buttermilk|lemon juice", said) == ([sour] if sour else [])
    if sour == "lemon juice":
        grams = re.search(r"(\d+) g of lemon juice", said)[1]
        assert analysed(text.format(soda) + f"\n{grams} g lemon juice").lift.residual_alkali_meq_per_100g < 0.3
    elif sour:
        grams = int(re.search(r"in place of (\d+) g of the milk", said)[1])
        sourer = text.format(soda).replace("250 g milk", f"{250 - grams} g milk\n{grams} g buttermilk")
        assert analysed(sourer).lift.residual_alkali_meq_per_100g < 0.3
    powder = re.search(r"\((\d+) g\) of baking powder", said)
    mended = analysed(text.format(round(soda - 4.6 * tsp(said), 2)) + f"\n{powder[1] if powder else 0} g baking powder").lift
    assert mended.verdict == "fits" and mended.residual_alkali_meq_per_100g < 2.5


def test_acid_left(analysed):
    sour = analysed("200 g flour\n350 g yogurt\n10 g baking powder")
    text = told(sour, "acid_left")
    assert (
        analysed(f"200 g flour\n350 g yogurt\n10 g baking powder\n{4.6 * tsp(text):.2f} g baking soda").lift.excess_acid_meq_per_100g < 1.0
    )


def test_water_missing(analysed):
    dry = analysed("120 g coconut flour\n150 g milk\n2 eggs")
    grams = float(re.search(r"about (\d+) g of liquid", told(dry, "water_missing"))[1])
    assert analysed(f"120 g coconut flour\n150 g milk\n2 eggs\n{grams + 2} g water").water.missing_g == pytest.approx(0, abs=2)


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("200 g rice flour\n300 g water\n10 g baking powder", "set_weak"),
        ("50 g flour\n400 g egg\n5 g baking powder", "set_rubbery"),
        ("200 g flour\n300 g milk\n10 g baking powder\n12 g salt", "salty"),
        ("200 g self-raising flour\n300 g milk\n12 g baking powder", "lift_twice"),
        ("60 g coconut flour\n5 eggs\n200 ml milk\n4 g baking powder", "egg_dependent"),
        ("200 g flour\n3 g moon dust\n400 g buttermilk", "line_not_read"),
        ("200 g flour\n300 g milk\n10 g baking powder\n60 g erythritol", "polyols"),
        ("200 g rice flour\n300 g milk\n4 g psyllium\n9 g baking powder", "gels_wet"),
    ],
)
def test_what_else_is_heard(text, code, analysed):
    a = analysed(text)
    assert code in {w.code for w in a.warnings}
    assert {"cook_through"} <= {w.code for w in a.warnings}


def test_a_sound_batter_is_left_in_peace(analysed):
    assert not {w.code for w in analysed("200 g flour\n290 g milk\n1 egg\n9 g baking powder\n2.5 g salt\n30 g butter").warnings} & set(
        FAULTS
    )


def test_spoons_are_what_a_set_has():
    assert [spoons(x) for x in (0.02, 0.24, 0.5, 0.77, 1.0, 2.3)] == ["a pinch", "1/4 tsp", "1/2 tsp", "3/4 tsp", "1 tsp", "2 1/4 tsp"]
