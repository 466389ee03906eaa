"""Boiling liquid turns starch to paste, which holds; steam lifts what is rich in egg and baked hot; yeast is no leavening of a lean batter."""

import pytest

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.lift import EXCESSIVE, FLAT, STEAM, STEAM_EGG, verdict_of
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.bowl import SCALDING, scalded
from mutabilis.core.food.coefficients import SCALDED_SET, per_gram
from mutabilis.core.reading.reading import read_lines


@pytest.fixture(scope="module")
def read(facts, profile):
    return lambda text, **kw: Batter(lines=read_lines(text, facts, profile), **kw)


@pytest.fixture(scope="module")
def look(read, facts, profile):
    return lambda text, **kw: analyse(read(text, **kw), facts, profile)


@pytest.mark.parametrize(
    ("line", "state"),
    [
        ("300 ml boiling water", "boiling"),
        ("300 ml just boiled water", "boiling"),
        ("300 ml freshly boiled water", "boiling"),
        ("200 g cornmeal, scalded", "scalded"),
        ("300 ml cooled boiled water", ""),
        ("300 ml hot milk", ""),
    ],
)
def test_what_is_boiling_when_it_goes_in(line, state, read):
    (one,) = read(line).lines
    assert (state in one.states) if state else not {"boiling", "scalded"} & set(one.states)


def test_the_share_that_is_scalded(read, facts):
    """1.5 g of boiling liquid to a gram of meal, no more than all of it; cold liquid scalds nothing; meal scalded before counts."""
    share = lambda text: scalded(read(text).lines, facts)  # noqa: E731
    assert share("200 g cornmeal\n300 g boiling water") == 1.0
    assert share("200 g cornmeal\n150 g boiling water") == pytest.approx(150 / (SCALDING * 200), abs=0.01)
    assert share("200 g cornmeal\n300 g water") == 0.0
    assert share("200 g cornmeal\n900 g boiling water") == 1.0
    assert share("100 g cornmeal, scalded\n100 g flour\n300 g milk") == 0.5
    assert share("300 g boiling water") == 0.0
    assert share("200 g flour\n60 g boiling oil\n250 g milk") == 0.0  # hot fat turns nothing to paste


def test_scalded_starch_holds_half_of_what_boiled_starch_does(facts, look):
    """Worked: 200 g meal of 73 % starch, wholly scalded, against mashed potato by its own row."""
    meal, mash = facts.ingredients["cornmeal"], facts.ingredients["mashed_potato_plain"]
    assert pytest.approx(0.5 * mash.egg_equivalents_per_g / (mash.starch_g / 100), rel=0.02) == SCALDED_SET
    cold, hot = (look(f"200 g cornmeal\n300 g {how}water") for how in ("", "boiling "))
    gained = hot.setting.egg_equivalents - cold.setting.egg_equivalents
    assert gained == pytest.approx(200 * SCALDED_SET * meal.starch_g / 100, rel=1e-6)
    assert hot.setting.verdict == "fits" and cold.setting.verdict == "weak"
    assert hot.water.spread_cm == cold.water.spread_cm  # what it does to the flow is not reckoned
    nut, egg = facts.ingredients["egg"], facts.ingredients["whole_milk"]
    assert per_gram(nut, 10, 1.0, 1.0) == per_gram(nut, 10) and per_gram(egg, 10, 1.0, 1.0) == per_gram(egg, 10)


def test_what_stands_in_for_something_boiling_goes_in_boiling(facts, profile, read):
    found = adapt(read("200 g cornmeal\n400 g boiling milk\n3 g salt"), Wishes(diets=("vegan",)), facts, profile)
    answer = found.answers[0] if found.answers else found.infeasible.nearest
    drink = next(x for x in answer.analysis.batter.lines if "drink" in (x.ingredient or ""))
    assert "boiling" in drink.states and "boiling" in drink.text
    assert answer.analysis.setting.per_100g >= 0.95 * found.base.setting.per_100g


@pytest.mark.parametrize(
    ("text", "form", "verdict"),
    [
        ("125 g flour\n180 g milk\n3 eggs", "tray", STEAM),
        ("125 g flour\n250 g milk\n1 egg", "tray", "none"),  # too little egg to set round the steam
        ("125 g flour\n180 g milk\n3 eggs\n6 g baking powder", "tray", "fits"),
        ("125 g flour\n180 g milk\n3 eggs", "griddle", "none"),  # no griddle is hot enough all round
        ("125 g flour\n180 g milk\n3 eggs\n3 g dried yeast", "tray", "not reckoned"),
    ],
)
def test_steam_lifts_an_oven_batter_rich_in_egg(text, form, verdict, look):
    a = look(text, form=form)
    assert a.lift.verdict == verdict
    assert ("steam" in {w.code for w in a.warnings}) == (verdict == STEAM)
    assert "lift_none" not in {w.code for w in a.warnings} or verdict == "none"


def test_the_share_of_egg_from_which_steam_lifts(look):
    flour = 100
    just, under = (look(f"{flour} g flour\n150 g milk\n{flour * STEAM_EGG + d:.0f} g egg", form="tray") for d in (1, -2))
    assert just.lift.verdict == STEAM and under.lift.verdict == "none"


def test_flat_is_a_wish_and_no_verdict_of_a_risen_batter(look):
    assert look("200 g flour\n300 g milk", flat=True).lift.verdict == FLAT
    assert look("200 g flour\n300 g milk\n10 g baking powder", flat=True).lift.verdict == "fits"
    assert look("200 g flour\n300 g milk\n45 g baking powder", flat=True).lift.verdict == "excessive"


def test_yeast_goes_from_a_lean_batter_and_its_lift_is_made_good(facts, profile, read):
    base = read("250 g flour\n350 g milk\n1 egg\n5 g dried yeast\n4 g salt", servings=4.0)
    answer = adapt(base, Wishes(diets=("low_carb",), caps={"net_carb_g": 8.0}), facts, profile).answers[0]
    gone = next(c for c in answer.changes if c.source_id == "dried_yeast")
    assert "little to feed on" in gone.reason
    low, high = facts.forms["griddle"].lift
    assert low <= answer.analysis.lift.co2_ml_per_100g <= high
    plain = adapt(base, Wishes(diets=("vegan",)), facts, profile).answers[0]
    assert any(x.ingredient == "dried_yeast" for x in plain.analysis.batter.lines)


@pytest.mark.parametrize("ml, said", [(0, "none"), (2.9, "none"), (3.1, "low"), (69.9, "low"), (70, "fits"), (270, "fits"), (270.1, "high"), (EXCESSIVE, "high"), (EXCESSIVE + 1, "excessive")])  # fmt: skip
def test_a_verdict_changes_at_its_borders(ml, said):
    assert verdict_of(ml, (70.0, 270.0)) == said
