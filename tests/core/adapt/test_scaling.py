"""Sizes, comparisons, swaps by hand, odd amounts, costs and this kitchen's own weights."""

import math

import pytest

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.choices import amount_for, choices, swapped
from mutabilis.core.adapt.scaling import Pan, Size, scale
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.analysis.costs import cost
from mutabilis.core.balances.yields import LEFT_IN_BOWL
from mutabilis.core.batter.batter import Tray
from mutabilis.core.batter.compare import changed, pairs
from mutabilis.core.batter.odd_amounts import queries
from mutabilis.core.diets.verdicts import judge_ingredient
from mutabilis.core.errors import CannotBe
from mutabilis.core.food.functions import does
from mutabilis.core.food.larder import Item, with_items
from mutabilis.core.process.process import process
from mutabilis.core.reading.reading import read_as, read_lines
from tests.conftest import PLAIN, RIDGE, WAFFLE


@pytest.mark.parametrize(
    ("size", "check"),
    [
        (Size(by="factor", amount=3), lambda a, b: b.batter_g / a.batter_g - 3),
        (Size(by="pieces", amount=40), lambda a, b: b.yields.pieces - 40),
        (Size(by="iron", amount=5, iron_ml=150), lambda a, b: b.yields.pieces - 5),
        (Size(by="volume", amount=1500), lambda a, b: b.batter_g / b.yields.density_g_per_ml / 1500 - 1),
        (Size(by="eggs", amount=5), lambda a, b: b.batter_g / a.batter_g - 2.5),
        (
            Size(by="pan", own_pan=Pan(shape="round", a=20), pan=Pan(shape="tray", a=20, b=31.4159)),
            lambda a, b: b.batter_g / a.batter_g - 2,
        ),
    ],
)
def test_every_way_of_scaling_meets_what_it_promises(size, check, analysed, facts, profile):
    a = analysed(WAFFLE, "waffle")
    straight = scale(a.batter, size, facts)[0]
    b = analyse(straight.batter, facts, profile)
    assert check(a, b) == pytest.approx(0, abs=0.02)
    assert b.water.spread_cm == pytest.approx(a.water.spread_cm) and b.lift.co2_ml_per_100g == pytest.approx(a.lift.co2_ml_per_100g)


def test_a_tray_is_filled_as_deep_as_was_wished_and_its_time_follows(analysed, facts, profile):
    found = []
    for depth in (1.0, 2.0):
        made = scale(analysed(PLAIN).batter, Size(by="tray", amount=depth, pan=Pan(shape="tray", a=30, b=40)), facts)[0].batter
        b = analyse(made, facts, profile)
        assert (made.form, made.tray) == ("tray", Tray(width=30, length=40))
        assert b.batter_g * (1 - LEFT_IN_BOWL) / b.yields.density_g_per_ml == pytest.approx(30 * 40 * depth, rel=0.02)
        plan = process(b, facts)
        assert f"{depth:.1f} cm deep into the lined tray of 30 × 40 cm" in plan.op("pour").text
        found.append(plan.op("bake").wait_min)
    assert found[1] > 1.2 * found[0] > 5
    with pytest.raises(CannotBe, match="sides"):
        scale(made, Size(by="tray", amount=1.0), facts)


def test_half_an_egg_is_made_whole_and_the_flow_stays(analysed, facts, profile):
    a = analysed(WAFFLE, "waffle")
    whole = scale(a.batter, Size(by="factor", amount=0.7), facts)[1]
    b = analyse(whole.batter, facts, profile)
    eggs = next(line.grams for line in whole.batter.lines if line.ingredient == "egg")
    assert eggs == 50 and b.water.spread_cm == pytest.approx(a.water.spread_cm, abs=0.15)


def test_a_doubled_egg_rich_waffle_may_leave_a_yolk_out(analysed, facts):
    labels = [s.label for s in scale(analysed(WAFFLE, "waffle").batter, Size(by="factor", amount=2), facts)]
    assert "one yolk less, as some do" in labels
    assert "one yolk less, as some do" not in [s.label for s in scale(analysed(PLAIN).batter, Size(by="factor", amount=2), facts)]


@pytest.mark.parametrize("size", [Size(by="eggs"), Size(by="iron"), Size(by="pan")])
def test_what_cannot_be_scaled_says_why(size, analysed, facts):
    with pytest.raises(ValueError, match=r"egg|iron|pans"):
        scale(analysed("200 g flour\n300 g milk").batter, size, facts)


def test_what_changed_in_one_line(batter, facts):
    old = batter(PLAIN)
    assert changed(old, old, facts) == "nothing"
    assert changed(old, old.scaled(2), facts) == "2 times as much"
    new = batter(
        PLAIN.replace("1 egg", "14 g ground flaxseed").replace("1 1/4 cups milk", "300 g oat drink").replace("3 tbsp butter", "20 g butter")
    )
    words = changed(old, new, facts)
    assert "whole milk → oat drink" in words and "whole egg → ground flaxseed" in words and "unsalted butter 43 → 20 g" in words
    sides = pairs(old, new, facts)
    assert sum(p.left or 0 for p in sides) == pytest.approx(sum(x.grams for x in old.lines))
    assert sum(p.right or 0 for p in sides) == pytest.approx(sum(x.grams for x in new.lines))


def test_a_hand_swap_does_the_same_work_and_shows_what_it_moves(batter, facts, profile):
    base = batter(RIDGE)
    at = next(n for n, line in enumerate(base.lines) if line.ingredient == "whole_milk")
    rules = {k: facts.diets[k] for k in ("vegan", "gluten_free")}
    found = choices(base, at, rules, facts, profile)
    assert len(found) >= 5 and [c.verdict for c in found].index("fits") == 0
    for c in found:
        i = facts.ingredients[c.ingredient]
        assert all(judge_ingredient(i, r, profile)[0] != "conflicts" for r in rules.values())
        after = analyse(swapped(base, at, i, c.grams), facts, profile, {})
        for e in c.effects:
            assert after.ledger(e.key).mark == e.then
    with pytest.raises(ValueError, match="not read"):
        choices(batter("50 g moon dust\n100 g flour"), 0, {}, facts, profile)


@pytest.mark.parametrize(
    ("old", "new", "key"),
    [
        ("sugar", "maple_syrup", "sweet"),
        ("butter", "rapeseed_oil", "fat"),
        ("baking_soda", "baking_powder", "soda"),
        ("lemon_juice", "cider_vinegar", "acid"),
    ],
)
def test_amounts_hold_the_work_for_which_a_thing_is_there(old, new, key, facts):
    from mutabilis.core.food.coefficients import per_gram

    grams, _ = amount_for(facts.ingredients[old], facts.ingredients[new], 40, 10)
    was, now = (40 * getattr(per_gram(facts.ingredients[old], 10), key), grams * getattr(per_gram(facts.ingredients[new], 10), key))
    assert now == pytest.approx(was, rel=0.03)


def test_odd_amounts_are_queried_at_their_line(batter, facts):
    odd = queries(batter("250 g flour\n2 tbsp baking powder\n1 tbsp salt\n300 g milk"), facts)
    assert "A teaspoon, perhaps?" in odd[1] and "A teaspoon, perhaps?" in odd[2] and set(odd) == {1, 2}
    assert queries(batter(PLAIN), facts) == {} and queries(batter("20 g baking powder"), facts) == {}


def test_a_name_that_is_two_things_asks_and_is_read_as_told(facts, profile):
    line = read_lines("1 cup coconut milk", facts, profile)[0]
    options = facts.names.could_be(line.text, line.note, line.problem)
    assert set(options) == {"coconut_milk", "coconut_drink"}
    told = read_as(line.text, "coconut_drink", facts, profile)
    assert (
        told.ingredient == "coconut_drink" and "as you said" in told.note and not facts.names.could_be(told.text, told.note, told.problem)
    )
    unknown = read_lines("50 g chikpea powdr stuff", facts, profile)[0]
    assert unknown.problem and len(facts.names.could_be(unknown.text, unknown.note, unknown.problem)) <= 4
    assert read_as("50 g moon dust", "oat_flour", facts, profile).grams == 50


def test_a_range_stays_a_range(facts, profile, batter):
    eggs, milk = read_lines("2-3 eggs\n200 to 250 g milk", facts, profile)
    assert eggs.ranged and milk.ranged and 195 <= milk.low <= 200 and 250 <= milk.high <= 255
    assert not read_lines("200 g milk", facts, profile)[0].ranged


def test_costs_never_pass_for_whole(analysed, facts):
    a = analysed("200 g flour\n300 g milk\n100 g water")
    assert cost(a.batter, 2, 5, {}, facts) is None
    part = cost(a.batter, 2, 5, {"all_purpose_flour": 1.5}, facts)
    assert part.total == pytest.approx(0.3) and part.per_piece == pytest.approx(0.06) and part.unpriced == ("whole milk",)


def test_this_kitchens_cup_and_thirst_are_used_from_then_on(facts, profile):
    own = with_items(facts.ingredients, [Item(ingredient="oat_flour", cup_g=98, absorption=2.0), Item(ingredient="sugar", stock_g=5)])
    here = facts.with_weights(own)
    assert read_lines("1 cup oat flour", here, profile)[0].grams == pytest.approx(98, rel=0.001)
    assert here.ingredients["oat_flour"].absorption_g_per_g == 2.0 and here.ingredients["sugar"] is facts.ingredients["sugar"]
    assert math.isclose(here.ingredients["oat_flour"].grams_per_ml()[0], here.ingredients["oat_flour"].tbsp_g / 14.787, rel_tol=1e-3)


def test_marks_say_what_an_ingredient_lives_from(facts):
    first = {
        "egg": "wets",
        "sugar": "sweetens",
        "baking_soda": "lifts",
        "psyllium_husk": "drinks",
        "butter": "enriches",
        "salt": "salts",
        "lemon_juice": "wets",
        "water": "wets",
    }
    for id_, wanted in first.items():
        marks = does(facts.ingredients[id_])
        assert marks[0].function == wanted or wanted in {m.function for m in marks[:2]}, id_
        assert all(0 < m.strength <= 1 for m in marks)


def test_an_own_pack_is_offered_in_answers(facts, profile, batter):
    from mutabilis.core.adapt.own_packs import usages_for
    from mutabilis.core.food.pack_labels import Label, infer

    label = Label(
        id="own_hill_drink", name="hill oat drink", kind="drink", kcal=46, fat_g=1.5, saturates_g=0.2, carbohydrate_g=6.5, sugars_g=3.5, fibre_g=0.8, protein_g=1.0,
        salt_g=0.1, contains=("oats",), vegan=True, certified_gluten_free=True, added_sugar=False,
    )  # fmt: skip
    here = facts.with_own([infer(label)[0]], (), usages_for(label, facts.craft))
    plain = adapt(batter(PLAIN), Wishes(diets=("dairy_free",), pins=("own_hill_drink",), alternatives=2), here, profile)
    assert any(line.ingredient == "own_hill_drink" for a in plain.answers for line in a.analysis.batter.lines)
    larder = ("own_hill_drink", "rapeseed_oil", "water", "egg", "sugar", "salt", "baking_powder", "all_purpose_flour")
    only = adapt(batter(PLAIN), Wishes(diets=("dairy_free",), larder=larder), here, profile)
    assert "own_hill_drink" in {line.ingredient for line in only.answers[0].analysis.batter.lines}
