"""A batter at fault is named at fault; its mend is solved, puts it right, raises no other warning, and costs no guest anything."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.mends import mended
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.warnings import FAULTS, MENDABLE, PLAIN_FAULTS
from mutabilis.core.batter.batter import Batter
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from tests.sizes import many


def codes(a):
    return {w.code for w in a.warnings}


def grams(batter):
    return {line.ingredient: line.grams for line in batter.lines}


@pytest.fixture(scope="module")
def mend(facts, profile):
    def run(text, form="griddle", asked=()):
        before = analyse(Batter(lines=read_lines(text, facts, profile), form=form), facts, profile)
        return before, mended(before, facts, profile, asked=asked)

    return run


def sound(before, found, facts):
    """What is promised of every mend."""
    after = found.analysis
    assert not codes(after) & set(found.codes)
    assert codes(after) & set(MENDABLE) <= codes(before)
    for key, rule in facts.diets.items():
        if before.diets[key].verdict == "fits" and not rule.limits:
            assert after.diets[key].verdict == "fits", key
    if before.water.spread_cm is not None:
        assert after.water.spread_cm == pytest.approx(before.water.spread_cm, abs=0.6)


FAULTY = [
    ("200 g flour\n300 g milk\n4 g baking powder", "lift_low"),
    ("200 g flour\n300 g milk\n45 g baking powder", "lift_excessive"),
    ("200 g flour\n300 g milk\n18 g baking powder\n1 g baking soda", "lift_high"),
    ("200 g flour\n300 g milk", "lift_none"),
    ("200 g flour\n250 g oat drink\n8 g baking soda", "alkali_left"),
    ("200 g flour\n350 g yogurt\n10 g baking powder", "acid_left"),
    ("120 g coconut flour\n150 g milk\n2 eggs", "water_missing"),
    ("200 g rice flour\n300 g water\n10 g baking powder", "set_weak"),
    ("50 g flour\n400 g egg\n5 g baking powder", "set_rubbery"),
    ("200 g flour\n300 g milk\n10 g baking powder\n12 g salt", "salty"),
    ("200 g self-raising flour\n300 g milk\n12 g baking powder", "lift_twice"),
]


@pytest.mark.parametrize(("text", "code"), FAULTY, ids=[c for _, c in FAULTY])
def test_each_fault_is_named_and_mended(text, code, mend, facts):
    before, found = mend(text)
    assert code in codes(before)
    assert found is not None and code in found.codes and len(found.words) > 10
    sound(before, found, facts)


def test_soda_powder_and_acid_are_solved_together(mend):
    """Neither the soda alone nor a bowl of buttermilk: what gas was lost with the soda, powder brings with its own acid."""
    before, found = mend("220 g flour\n300 g soy drink\n1 tbsp oil\n4.6 g baking soda")
    lift = found.analysis.lift
    assert before.lift.residual_alkali_meq_per_100g > 5 > lift.residual_alkali_meq_per_100g + 2.5
    assert 84 <= lift.co2_ml_per_100g <= 0.95 * 270
    now = grams(found.batter)
    assert now["baking_powder"] > 5 and now["soy_drink"] == pytest.approx(300, rel=0.03)


def test_what_is_not_at_fault_stays_to_the_gram(mend):
    before, found = mend("200 g flour\n300 g milk\n1 egg\n10 g baking powder\n12 g salt\n25 g sugar")
    was, now = grams(before.batter), grams(found.batter)
    assert {k for k in was if was[k] != now[k]} == {"salt"}
    assert found.words.startswith("Table salt") and found.words.endswith("instead of 12 g.")


def test_self_raising_flour_needs_no_powder(mend):
    _, found = mend("200 g self-raising flour\n300 g milk\n1 egg\n8 g baking powder")
    assert found.words == "Leave out the baking powder."


DRY = [
    "200 g flour\n2 tsp baking powder\n20 g sugar",
    "200 g flour\n60 g milk\n1 egg\n9 g baking powder",
    "200 g rye flour, scalded\n200 ml milk\n1 egg",
]


@pytest.mark.parametrize("text", DRY)
def test_a_batter_without_its_water_gets_water_and_keeps_its_flour(text, mend, facts):
    """As a cook would mend it, whatever the bowl then weighs; the powder goes with what the water thins."""
    before, found = mend(text)
    assert "water_missing" in found.codes and found.analysis.water.spread_cm is not None
    flour = next(x for x in before.batter.lines if "flour" in (x.ingredient or ""))
    assert grams(found.batter)[flour.ingredient] == pytest.approx(flour.grams, rel=0.02)
    assert grams(found.batter)["water"] > 100
    low, high = facts.forms["griddle"].lift
    if "baking_powder" in grams(before.batter):
        assert 0.9 * min(low, before.lift.co2_ml_per_100g) <= found.analysis.lift.co2_ml_per_100g <= high
    for diets in (("vegan",), ("gluten_free", "dairy_free")):  # and it is no bar to an adaptation
        assert adapt(before.batter, Wishes(diets=diets), facts, Profile()).answers


def test_a_sound_batter_and_an_unread_one_have_no_mend(mend, analysed):
    sound_one = "200 g flour\n290 g milk\n1 egg\n9 g baking powder\n2.5 g salt\n30 g butter"
    before, found = mend(sound_one)
    assert found is None and not codes(before) & set(FAULTS)
    assert mend("200 g flour\n3 g moon dust\n400 g buttermilk")[1] is None


def test_flat_by_wish_is_no_fault(facts, profile):
    lines = read_lines("200 g cornmeal\n400 g boiling water\n3 g salt", facts, profile)
    forgotten, meant = (analyse(Batter(lines=lines, flat=flat), facts, profile) for flat in (False, True))
    assert "lift_none" in codes(forgotten) and not codes(meant) & {"lift_none", "lift_low"}
    assert meant.lift.verdict == "flat, as wished" and mended(meant, facts, profile) is None
    thin = analyse(Batter(lines=read_lines("250 g flour\n500 g milk\n3 eggs", facts, profile), form="crepe"), facts, profile)
    oven = analyse(Batter(lines=read_lines("125 g flour\n180 g milk\n3 eggs", facts, profile), form="tray"), facts, profile)
    assert thin.lift.verdict == "fits" and oven.lift.verdict == "steam" and not codes(oven) & set(FAULTS)


def test_powder_for_soda_is_named(analysed):
    words = next(
        w.text for w in analysed("250 g flour\n500 g buttermilk\n1 egg\n2.3 g baking powder").warnings if w.code == "powder_for_soda"
    )
    assert "a third of the gas" in words
    assert "powder_for_soda" not in codes(analysed("250 g flour\n500 g buttermilk\n1 egg\n2.3 g baking soda"))


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("60 g coconut flour\n5 eggs\n200 ml milk\n4 g baking powder", "egg_dependent"),
        ("200 g flour\n3 g moon dust\n400 g buttermilk", "line_not_read"),
        ("200 g flour\n300 g milk\n10 g baking powder\n60 g erythritol", "polyols"),
        ("200 g rice flour\n300 g milk\n4 g psyllium\n9 g baking powder", "gels_wet"),
    ],
)
def test_what_else_is_heard(text, code, analysed):
    assert {code, "cook_through"} <= codes(analysed(text))


@pytest.mark.parametrize("diets", [(), ("dairy_free",), ("vegan", "gluten_free")], ids="+".join)
@pytest.mark.parametrize(("text", "code"), [f for f in FAULTY if f[1] in PLAIN_FAULTS], ids=lambda x: x if " " not in str(x) else "")
def test_no_answer_hands_a_plain_fault_on(text, code, diets, facts, profile):
    """Whether it fits its diet already or is adapted for it."""
    base = Batter(lines=read_lines(text, facts, profile))
    found = adapt(base, Wishes(diets=diets), facts, profile)
    for answer in found.answers:
        assert code not in codes(answer.analysis)
    assert found.answers or found.infeasible.reasons


POWDERS = st.sampled_from(["baking soda", "baking powder", "bicarbonate of soda"])
DRINKS = st.sampled_from(["milk", "buttermilk", "oat drink", "soy drink", "water", "plain yogurt", "kefir"])


@settings(max_examples=many(25), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    st.lists(st.tuples(POWDERS, st.floats(0.5, 30)), min_size=1, max_size=2),
    DRINKS,
    st.floats(220, 420),
    st.floats(0, 14),
    st.sampled_from(["flour", "rice flour", "oat flour", "self-raising flour"]),
)
def test_any_mend_keeps_its_promises(mend, facts, powders, drink, liquid, salt, flour):
    lines = [f"200 g {flour}", f"{liquid:.0f} g {drink}", "1 egg", f"{salt:.1f} g salt", *(f"{g:.1f} g {p}" for p, g in powders)]
    before, found = mend("\n".join(lines))
    if found is not None:
        sound(before, found, facts)
