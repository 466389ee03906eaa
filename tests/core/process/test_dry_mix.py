"""A plan cut between the dry bowl and the rest: what goes into the bag, what is added, how long it keeps, and the plan of a batch from it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.measures.profile import Profile
from mutabilis.core.process.dry_mix import dry_mix
from mutabilis.core.process.parts import Ways
from mutabilis.core.process.process import process
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.batch import FromMix
from mutabilis.core.stove.fold import fold
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.core.stove.guide.prepare import follows
from mutabilis.data import load_facts
from tests.conftest import BUTTERMILK, COCONUT, RIDGE
from tests.core.process.test_process import BUSY, SCALDED, SEPARATED, YEASTED, checked
from tests.core.stove.making import batch, event

FACTS = load_facts()
PLAIN = "200 g flour\n10 g baking powder\n20 g sugar\n210 g milk\n1 egg"


def analysed(text, form="griddle"):
    return analyse(Batter(lines=read_lines(text, FACTS, Profile()), form=form), FACTS, Profile(), {})


def mixed(text):
    return dry_mix(analysed(text), FACTS, Profile())


def test_flour_powder_and_sugar_go_in_and_the_rest_is_added_on_the_day():
    m = mixed(PLAIN)
    assert {x.ingredient: x.grams for x in m.inside} == {"all_purpose_flour": 200, "baking_powder": 10, "sugar": 20}
    assert m.add_words == "Add 210 g whole milk and 1 large egg to 230 g of mix; let it rest 10 minutes."
    assert m.times(1000) == pytest.approx(1000 / 230) and sum(x.share for x in m.inside) == pytest.approx(1)
    milk = next(x for x in m.added if x.ingredient == "whole_milk")
    assert milk.per_100g == pytest.approx(100 * 210 / 230)


@pytest.mark.parametrize(
    ("text", "stays_out"),
    [
        (RIDGE, {"butter", "egg", "whole_milk", "yogurt"}), (COCONUT, {"butter", "egg", "coconut_drink", "honey"}), (BUTTERMILK, {"baking_soda", "baking_powder", "buttermilk"}),
        (BUSY, {"flax_meal", "banana", "courgette_grated", "raspberry", "cider_vinegar"}), (f"{YEASTED}\n5 g salt", {"dried_yeast", "egg", "butter"}), (SEPARATED, {"egg", "blueberry"}),
    ],
)  # fmt: skip
def test_fat_fresh_things_and_what_is_made_on_the_day_stay_out(text, stays_out):
    m = mixed(text)
    assert not stays_out & {x.ingredient for x in m.inside} and stays_out & {x.ingredient for x in m.added} == stays_out


def test_what_boiling_water_is_poured_over_is_not_in_a_bag():
    m = mixed(SCALDED)
    assert m is None or "cornmeal" not in {x.ingredient for x in m.inside}


def test_nothing_to_mix_is_no_bag():
    assert mixed("200 g flour\n300 g milk") is None and mixed("3 eggs\n200 g milk") is None


@pytest.mark.parametrize(
    ("text", "days"),
    [
        ("200 g flour\n3 g salt\n300 g milk", 120), (PLAIN, 60), ("200 g wholemeal flour\n3 g salt\n300 g milk", 30), ("100 g almond flour\n100 g flour\n10 g baking powder\n200 g milk", 21),
        ("200 g flour\n30 g skim milk powder\n300 g water", 60),
    ],
)  # fmt: skip
def test_the_thing_that_keeps_least_decides(text, days):
    assert mixed(text).days == days


@pytest.mark.parametrize("order", ["two_bowls", "one_bowl", "blender"])
@pytest.mark.parametrize("text", [RIDGE, COCONUT, BUTTERMILK, BUSY, YEASTED, SEPARATED, SCALDED])
def test_a_batch_from_a_bag_keeps_every_property(text, order):
    a = analysed(text)
    for moment in (None, "dry", "last"):
        p = process(a, FACTS, Ways(order=order, leavening=moment, bag=True))
        checked(a, p, FACTS)
        m = dry_mix(a, FACTS, Profile(), Ways(order=order, leavening=moment))
        bag = p.op("bag")
        assert (bag is None and m is None) or bag is not None
        if m is not None:
            assert sum(x.grams for x in bag.portions) == pytest.approx(m.grams) and f"{m.grams:.0f} g of the dry mix" in bag.text


@given(st.floats(0.1, 50))
def test_a_bag_scales_with_its_batter(times):
    one, many = (
        dry_mix(analysed(PLAIN), FACTS, Profile()),
        dry_mix(analyse(analysed(PLAIN).batter.scaled(times), FACTS, Profile(), {}), FACTS, Profile()),
    )
    assert many.grams == pytest.approx(times * one.grams) and [x.share for x in many.inside] == pytest.approx([x.share for x in one.inside])


def test_at_the_stove_the_bag_is_one_step_that_settles_all_of_its_lines():
    plan = analysed(PLAIN).batter
    fresh = batch(plan).model_copy(update={"mix": FromMix(id="0" * 16, grams=230.0, name="x")})
    fresh = fresh.model_copy(update={"events": (event("went", stage="weigh"), event("prep_done", key="warm_up"))})
    g = Guide(fresh, 2000.0, FACTS, Profile())
    assert g.before_pour.key == "bag" and g.vessels[0].names == ("dry mix 230 g",)
    done = event("step_done", key="bag")
    poured = follows(done, g)
    assert sorted(e.grams for e in poured) == [10, 20, 200] and all(e.because == done.id for e in poured)
    after = Guide(fresh.model_copy(update={"events": (*fresh.events, done, *poured)}), 2100.0, FACTS, Profile())
    assert after.before_pour is None and {x.ingredient for x in after.lines if not x.settled} == {"whole_milk", "egg"}
    gone = [*fresh.events, done, *poured, event("undone", event=done.id)]
    assert not any(x.poured for x in fold(plan, gone).lines), "taken back, all of it is out again"
