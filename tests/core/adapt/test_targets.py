"""What an answer is held to: the base where it is sound, the form where it is not; and which things may be fetched for it."""

import pytest

from mutabilis.core.adapt.candidates import Gathering, available, denied, whole_step
from mutabilis.core.adapt.course import STRAIGHT, Course
from mutabilis.core.adapt.targets import ENOUGH, SAFE_FLOOR, WEAK_KEPT, WELL_IN, targets
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.lift import EXCESSIVE, FOAM_HALF_MIN, FOAM_ML_PER_G, FOLDED
from mutabilis.core.balances.setting import RUBBERY
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.bowl import fill
from mutabilis.core.batter.flow import stress_from_spread
from mutabilis.core.reading.reading import read_lines

PLAIN = "200 g flour\n300 g milk\n50 g egg\n9 g baking powder\n2.5 g salt\n30 g butter\n20 g sugar"


@pytest.fixture(scope="module")
def aim(facts, profile):
    """Targets and candidates of a text, for wishes and a course."""

    def run(text, form="griddle", course=STRAIGHT, **wishes):
        base = Batter(lines=read_lines(text, facts, profile), form=form)
        wished = Wishes(**wishes)
        before = analyse(base, facts, profile)
        gathered = Gathering(
            base=base, wishes=wished, rules=wished.rules(facts), facts=facts, profile=profile, readings=None, course=course
        ).gather()
        return before, targets(before, fill(base, facts), wished, gathered, course, facts), gathered

    return run


# ---- what is held


def test_a_sound_base_is_its_own_target(aim):
    before, t, _ = aim(PLAIN, diets=("vegan",))
    assert (t.batter_g, t.tau, t.theta) == (before.batter_g, before.water.yield_stress_pa, before.water.thickening)
    assert t.gas_per_100g == before.lift.co2_ml_per_100g and t.set_per_100g == before.setting.per_100g
    assert (t.flour, t.fat) == (200, pytest.approx(before.ledger("fat").total))


def test_what_is_folded_in_is_no_part_of_the_balance(aim):
    bare, with_chips = aim(PLAIN)[1], aim(PLAIN + "\n80 g dark chocolate chips")[1]
    assert (bare.fat, bare.sweet, bare.protein) == pytest.approx((with_chips.fat, with_chips.sweet, with_chips.protein))


@pytest.mark.parametrize(
    ("powder", "code", "share"),
    [(3, "lift_low", None), (22, "lift_high", WELL_IN[1]), (40, "lift_excessive", WELL_IN[1])],
)
def test_a_lift_at_fault_is_brought_into_its_band(powder, code, share, aim, facts):
    low, high = facts.forms["griddle"].lift
    before, t, _ = aim(PLAIN.replace("9 g baking powder", f"{powder} g baking powder"), course=Course(mends=frozenset({code})))
    assert t.gas_per_100g == pytest.approx(share * high if share else low + ENOUGH * (high - low))
    assert not low <= before.lift.co2_ml_per_100g <= high


def test_far_too_much_is_never_handed_on(aim, facts):
    """Also where nobody asked for a mend."""
    before, t, _ = aim(PLAIN.replace("9 g baking powder", "45 g baking powder"), diets=("vegan",))
    assert before.lift.co2_ml_per_100g > EXCESSIVE and t.gas_per_100g == pytest.approx(WELL_IN[1] * facts.forms["griddle"].lift[1])


def test_salt_and_set_at_fault_have_targets_of_their_own(aim, facts):
    salty = aim(PLAIN.replace("2.5 g salt", "14 g salt"), course=Course(mends=frozenset({"salty"})))
    assert salty[1].salt_taste == pytest.approx(WELL_IN[1] * facts.forms["griddle"].salt[1] * salty[0].batter_g / 100)
    hard = aim("50 g flour\n400 g egg\n5 g baking powder", course=Course(mends=frozenset({"set_rubbery"})))
    assert hard[0].setting.per_100g > RUBBERY and hard[1].set_per_100g == pytest.approx(WELL_IN[1] * RUBBERY)


def test_the_floor_of_set(aim, facts):
    form = facts.forms["griddle"]
    assert aim(PLAIN, diets=("vegan",))[1].set_floor == pytest.approx(SAFE_FLOOR * form.set_floor)
    weak = "200 g rice flour\n320 g milk\n9 g baking powder"
    before, t, _ = aim(weak, diets=("dairy_free",))
    assert before.setting.per_100g < form.set_floor and t.set_floor == pytest.approx(WEAK_KEPT * max(0.0, before.setting.per_100g))
    assert aim(weak, course=Course(mends=frozenset({"set_weak"})))[1].set_floor == pytest.approx(SAFE_FLOOR * form.set_floor)
    nuts = aim("180 g almond flour\n150 g egg\n80 g milk\n5 g baking powder", diets=("egg_free",))[1]
    assert nuts.set_floor == pytest.approx(SAFE_FLOOR * form.set_comfort)  # held comfortably, or refused


def test_kept_air_is_counted_once_and_wears_off(aim, facts):
    _, t, _ = aim("60 g flour\n40 g milk\n99 g egg whites, whipped\n30 g sugar\n2 g baking powder", diets=("vegan",))
    per = FOAM_ML_PER_G * FOLDED * 2 ** (-facts.forms["griddle"].rest_min / FOAM_HALF_MIN)
    assert t.air["egg_white"] == pytest.approx(per) and t.air["aquafaba"] == pytest.approx(per)
    assert t.foam == pytest.approx(99 * per)
    assert aim(PLAIN, diets=("vegan",))[1].air == {}


def test_thinner_and_another_form_move_the_flow_alone(aim, facts):
    before, same, _ = aim(PLAIN)
    assert aim(PLAIN, flow="thinner")[1].tau == pytest.approx(0.75 * same.tau) and aim(PLAIN, flow="thicker")[1].tau == pytest.approx(
        1.33 * same.tau
    )
    crepe = facts.forms["crepe"]
    changed = targets(before, fill(before.batter, facts), Wishes(form="crepe"), aim(PLAIN)[2], STRAIGHT, facts)
    assert changed.tau == pytest.approx(stress_from_spread((crepe.spread_cm[0] + min(crepe.spread_cm[1], 17.5)) / 2))
    assert changed.gas_per_100g == pytest.approx(0.9 * crepe.lift[1]) and changed.body == 0.0


def test_yeast_that_goes_is_made_good(aim, facts):
    low, high = facts.forms["griddle"].lift
    _, t, g = aim("250 g flour\n350 g milk\n5 g dried yeast\n50 g egg", diets=("low_carb",), caps={"net_carb_g": 8.0})
    assert "dried_yeast" in {i.id for i, _, _ in g.removed} and t.lean
    assert t.gas_per_100g >= 0.7 * (low + ENOUGH * (high - low)) and "baking_powder" in {c.ingredient.id for c in g.candidates}


# ---- what may be fetched


def ids(gathered, new=True):
    return {c.ingredient.id for c in gathered.candidates if c.new is new}


def test_nothing_sweet_goes_into_a_savoury_batter(aim):
    savoury = "200 g flour\n300 g milk\n50 g egg\n9 g baking powder\n3 g salt"
    assert not {"banana", "apple_sauce", "sugar", "maple_syrup"} & ids(aim(savoury, diets=("vegan",))[2])
    assert {"banana", "apple_sauce"} & ids(aim(savoury + "\n20 g sugar", diets=("vegan",))[2])


def test_a_mend_fetches_only_what_mends(aim, facts):
    _, _, g = aim(
        "200 g flour\n300 g oat drink\n6 g baking soda\n20 g sugar", course=Course(mends=frozenset({"alkali_left"}), mend_alone=True)
    )
    assert {facts.ingredients[k].group for k in ids(g)} <= {"leavener", "acid"}
    assert "potassium_bicarbonate" not in ids(g)  # for low-sodium bowls alone
    fixed = {c.ingredient.id for c in g.candidates if not c.new and c.low == c.high}
    assert fixed == {"all_purpose_flour", "sugar"}
    assert not any("milk" in facts.ingredients[k].allergens for k in ids(g))


def test_self_raising_flour_has_no_leavening_fetched_beside_it(aim):
    course = Course(mends=frozenset({"lift_twice", "lift_high"}), mend_alone=True)
    _, _, g = aim("200 g self-raising flour\n300 g milk\n12 g baking powder", course=course, bans=("baking_powder", "baking_powder_gf"))
    assert not ids(g) and {i.id for i, _, _ in g.removed} == {"baking_powder"}


def test_what_is_set_by_hand_is_held_and_takes_nobodys_place(aim):
    _, _, g = aim(PLAIN, diets=("vegan",), locked={"oat_drink": 280, "sugar": 12})
    held = {c.ingredient.id: (c.low, c.high) for c in g.candidates if c.held}
    assert held == {"oat_drink": (280, 280), "sugar": (12, 12)} and "water" in ids(g)
    poured = aim(PLAIN, diets=("vegan",), poured={"oat_drink": 100})[2]
    assert next((c.low, c.high) for c in poured.candidates if c.held)[0] == 100


def test_the_same_thing_made_by_hand_stands_in_first(aim, facts):
    _, _, g = aim("150 g mashed potato\n100 g flour\n100 g egg\n60 g milk\n5 g baking powder", diets=("dairy_free",))
    twin = next(c for c in g.candidates if c.ingredient.id == "mashed_potato_own")
    assert twin.twin and (twin.low, twin.high, twin.cost) == (150, 150, 0.0)


def test_pieces_of_fruit_stay_pieces_and_eggs_are_whole(aim, facts):
    _, _, g = aim("2 bananas\n100 g oat flour\n2 eggs\n5 g baking powder", diets=("gluten_free",))
    banana = next(c for c in g.candidates if c.ingredient.id == "banana")
    assert banana.low == banana.high == banana.base_g == 2 * facts.ingredients["banana"].unit_g
    mashed = next(
        c for c in aim("150 g mashed banana\n100 g oat flour\n2 eggs", diets=("gluten_free",))[2].candidates if c.ingredient.id == "banana"
    )
    assert mashed.low < mashed.base_g < mashed.high
    assert whole_step(facts.ingredients["egg"]) == facts.ingredients["egg"].unit_g and whole_step(facts.ingredients["sugar"]) == 0


def test_a_certified_twin_only_where_it_is_asked_for(facts, profile):
    gluten, vegan = ({k: facts.diets[k]} for k in ("gluten_free", "vegan"))
    assert available("oat_flour", gluten, facts, profile, None).id == "oat_flour_gf"
    assert available("oat_flour", vegan, facts, profile, None).id == "oat_flour"
    assert available("whole_milk", vegan, facts, profile, None) is None
    assert (
        denied(facts.ingredients["whole_milk"], vegan, profile, None).startswith("vegan: ")
        and denied(facts.ingredients["sugar"], vegan, profile, None) == ""
    )


def test_a_course_says_what_may_move():
    soda, salt = Course(mends=frozenset({"alkali_left"})), Course(mends=frozenset({"salty"}))
    assert soda.mends_lift and not salt.mends_lift
    assert "leavener" in soda.movable and "salt" in salt.movable and "milk" in salt.movable and "leavener" not in salt.movable
    assert soda.offered == {"leavener"} and salt.offered == frozenset()
    assert Course(mends=frozenset({"alkali_left", "lift_twice"})).offered == frozenset()
    assert STRAIGHT.may_fetch("flour") and not Course(mend_alone=True).may_fetch("flour")
    assert (
        Course(mend_alone=True, mends=frozenset({"salty"})).leaves_liquid
        and not Course(mend_alone=True, mends=frozenset({"water_missing"})).leaves_liquid
    )
