"""Just on either side of each line that is drawn: warnings, verdicts, what is kept and what is spooned."""

import re

import pytest

from mutabilis.core.adapt.choices import choices
from mutabilis.core.adapt.rounding import step_for, to_kitchen, to_step
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.leavening import swap_leavening
from mutabilis.core.balances.warnings import TWICE
from mutabilis.core.batter.batter import Batter
from mutabilis.core.errors import CannotBe
from mutabilis.core.food.kitchen_measures import one_of
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.keeping import keeping


@pytest.fixture(scope="module")
def look(facts, profile):
    def run(text, form="griddle", **kw):
        return analyse(Batter(lines=read_lines(text, facts, profile), form=form, **kw), facts, profile)

    return run


def codes(a):
    return {w.code for w in a.warnings}


@pytest.mark.parametrize(
    ("template", "code", "under", "over"),
    [
        ("200 g flour\n300 g oat drink\n{} g baking soda", "alkali_left", 1.2, 2.6),
        ("200 g flour\n{} g plain yogurt\n2 g salt", "acid_left", 60, 320),
        ("200 g flour\n300 g milk\n{} g baking powder", "lift_high", 16, 18),
        ("200 g flour\n300 g milk\n{} g baking powder", "lift_excessive", 21, 24),
        ("200 g flour\n300 g milk\n8 g baking powder\n{} g salt", "salty", 4.5, 8),
        ("200 g rice flour\n300 g milk\n9 g baking powder\n{} g erythritol", "polyols", 19, 21),
        ("120 g almond flour\n{} g egg\n80 g milk\n4 g baking powder", "egg_dependent", 60, 400),
    ],
)
def test_a_warning_begins_where_it_says(template, code, under, over, look):
    assert code not in codes(look(template.format(under))) and code in codes(look(template.format(over)))


@pytest.mark.parametrize(
    ("template", "code", "under", "over"),
    [
        ("200 g flour\n300 g milk\n{} g baking powder", "lift_low", 5, 3),
        ("200 g flour\n300 g milk\n{} g baking powder", "lift_none", 1, 0.01),
        ("150 g rice flour\n240 g milk\n{} g egg\n8 g baking powder", "set_weak", 60, 5),
    ],
)
def test_a_warning_ends_where_there_is_enough(template, code, under, over, look):
    assert code not in codes(look(template.format(under))) and code in codes(look(template.format(over)))


@pytest.mark.parametrize(
    ("text", "form", "starch"),
    [
        ("300 g rice flour\n100 g lentil flour\n600 g water\n6 g salt", "crepe", True),
        ("250 g chickpea flour\n750 g water\n60 g olive oil", "crepe", True),
        ("250 g chickpea flour\n750 g water\n60 g olive oil\n10 g egg", "crepe", False),
        ("150 g rice flour\n300 g oat drink\n1 g psyllium husk", "crepe", False),
        ("200 g rice flour\n300 g oat drink\n9 g baking powder", "griddle", False),
    ],
)
def test_a_flat_cake_of_grain_and_water_is_told_how_it_holds(text, form, starch, look):
    (said,) = (w.text for w in look(text, form).warnings if w.code == "set_weak")
    assert ("own starch" in said) == starch and "apart" in said


def test_self_raising_flour_and_a_second_leavening(look, facts):
    """A quarter of the flour's own gas beside it is lift counted twice: powder and soda by their bicarbonate, a pinch not."""
    flour, powder = facts.ingredients["self_raising_flour_uk"], facts.ingredients["baking_powder"]
    line = TWICE * 200 * flour.soda_fraction / powder.soda_fraction
    for grams, twice in ((0.8 * line, False), (1.2 * line, True)):
        assert ("lift_twice" in codes(look(f"200 g self-raising flour\n300 g milk\n{grams:.2f} g baking powder"))) == twice
    assert "lift_twice" in codes(look("200 g self-raising flour\n300 g buttermilk\n1.5 g baking soda"))
    assert "lift_twice" not in codes(look("200 g self-raising flour\n300 g milk"))


def test_what_is_kept_and_for_how_long(look, facts):
    stays, leaves = look("200 g flour\n300 g water\n10 g baking powder"), look("200 g flour\n300 g buttermilk\n1 egg\n3 g baking soda")
    kept = {k.key: k for k in keeping(stays, False, 1000.0, facts.stove, facts.safety)}
    gone = {k.key: k for k in keeping(leaves, True, 1000.0, facts.stove, facts.safety)}
    for row in facts.stove.keep:
        assert kept[row.key].until == 1000.0 + 3600 * row.hours
    assert not gone["batter_cold"].advised and "lift is mostly gone" in gone["batter_cold"].caution
    assert kept["pieces_frozen"].advised and not gone["pieces_frozen"].advised
    assert facts.safety.words("hold") in kept["batter_cold"].caution


def test_leavening_for_leavening(facts):
    soda, powder, flour = (facts.ingredients[k] for k in ("baking_soda", "baking_powder", "all_purpose_flour"))
    found = swap_leavening(soda, 2.0, powder, acid_meq=30.0)
    assert found.gas_ml == pytest.approx(2.0 / 84.007 * 1000 * 24.47)
    assert found.grams == pytest.approx(2.0 / powder.soda_fraction, rel=1e-6)
    assert found.spoon_for_spoon_ml == pytest.approx(found.gas_ml * powder.soda_fraction, rel=1e-6)
    back = swap_leavening(powder, found.grams, soda, acid_meq=30.0)
    assert back.grams == pytest.approx(2.0, rel=1e-3)
    for pair in ((flour, powder), (powder, flour)):
        with pytest.raises(CannotBe, match=re.escape(f"{flour.name} is no leavening")):
            swap_leavening(pair[0], 2.0, pair[1])


@pytest.mark.parametrize(
    ("out", "into", "words"),
    [("baking soda", "baking_powder", "a third of the gas"), ("baking powder", "baking_soda", "four times and more the gas")],
)
def test_spoon_for_spoon_is_named_where_it_is_chosen(out, into, words, facts, profile):
    batter = Batter(lines=read_lines(f"200 g flour\n300 g buttermilk\n3 g {out}", facts, profile))
    found = next(c for c in choices(batter, 2, {}, facts, profile) if c.ingredient == into)
    assert words in found.note
    flour = next(iter(choices(batter, 0, {}, facts, profile)))
    assert flour.note == ""


@pytest.mark.parametrize(
    ("ingredient", "grams", "step"),
    [
        ("all_purpose_flour", 200, 1.0), ("all_purpose_flour", 9.4, 0.5), ("all_purpose_flour", 2.2, 0.1), ("baking_powder", 12, 0.1),
        ("baking_soda", 0.2, 0.01), ("salt", 4, 0.1), ("psyllium_husk", 20, 0.1), ("lemon_juice", 14, 0.1), ("stevia", 0.05, 0.01),
    ],
)  # fmt: skip
def test_the_step_a_scale_can_follow(ingredient, grams, step, facts):
    i = facts.ingredients[ingredient]
    assert step_for(i, grams) == step and to_step(i, grams) == pytest.approx(round(grams / step) * step)


def test_spoons_of_a_set(facts, profile):
    """Eighths of a tea spoon of soda, quarters of powder, half table spoons of a little sugar, table spoons of flour, whole eggs; never
    nothing."""
    i = facts.ingredients
    for name, spoon, parts, grams in (
        ("baking_soda", "tsp", 8, 2.9), ("baking_powder", "tsp", 4, 7.1), ("sugar", "tbsp", 2, 33.0), ("all_purpose_flour", "tbsp", 1, 203.0),
    ):  # fmt: skip
        step = one_of(i[name], spoon, profile) / parts
        told = to_kitchen(i[name], grams, profile)
        assert told / step == pytest.approx(round(told / step), abs=0.01) and abs(told - grams) <= step / 2 + 0.01
    assert to_kitchen(i["egg"], 130, profile) == 150 and to_kitchen(i["egg"], 3, profile) == 50
    assert to_kitchen(i["salt"], 0.01, profile) > 0 and to_kitchen(i["salt"], 0, profile) == 0
