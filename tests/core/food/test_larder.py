"""This kitchen's own: what a pack costs, what a cup of it weighs here, and what was learned of its thirst."""

import pytest
from pydantic import ValidationError

from mutabilis.core.food.larder import Item, prices, with_items
from mutabilis.core.food.learning import LEAST_SD, Lesson, Normal, known, with_thirst
from mutabilis.core.measures.profile import US_CUP_ML, US_TBSP_ML, US_TSP_ML, Profile


@pytest.mark.parametrize(("price", "pack", "per_kg"), [(2.4, 500, 4.8), (0.0, 1000, 0.0), (None, 500, None), (2.4, None, None)])
def test_a_price_is_of_a_kilogram_or_not_known(price, pack, per_kg):
    item = Item(ingredient="oat_flour", price=price, pack_g=pack)
    assert item.price_per_kg == (None if per_kg is None else pytest.approx(per_kg))
    assert prices([item]) == ({} if per_kg is None else {"oat_flour": item.price_per_kg})


@pytest.mark.parametrize(("grams", "is_in"), [(None, False), (0, False), (1, True)])
def test_a_thing_is_in_where_some_of_it_is(grams, is_in):
    assert Item(ingredient="egg", stock_g=grams).is_in is is_in


def test_a_weighed_cup_sets_the_spoons_and_a_weighed_spoon_speaks_for_itself(facts):
    def kitchen(**weighed):
        (changed,) = with_items(facts.ingredients, [Item(ingredient="oat_flour", **weighed)])
        return changed

    cup = kitchen(cup_g=100.0, cup_ml=250.0)
    assert cup.cup_g == pytest.approx(100 / 250 * US_CUP_ML) and cup.tbsp_g == pytest.approx(100 / 250 * US_TBSP_ML)
    assert cup.tsp_g == pytest.approx(100 / 250 * US_TSP_ML)
    both = kitchen(cup_g=100.0, cup_ml=250.0, tbsp_g=9.0, tbsp_ml=20.0)
    assert both.cup_g == cup.cup_g and both.tbsp_g == pytest.approx(9 / 20 * US_TBSP_ML) and both.tsp_g == pytest.approx(9 / 20 * US_TSP_ML)
    spoon = kitchen(tsp_g=3.0)
    assert spoon.tsp_g == pytest.approx(3.0) and spoon.cup_g == facts.ingredients["oat_flour"].cup_g
    thirsty = kitchen(absorption=2.2)
    assert thirsty.absorption_g_per_g == 2.2 and thirsty.absorption_minutes == facts.ingredients["oat_flour"].absorption_minutes
    assert with_items(facts.ingredients, [Item(ingredient="oat_flour", price=3), Item(ingredient="gone", cup_g=100)]) == []


def test_a_weight_is_kept_with_the_size_that_was_weighed():
    mine = Profile(cup_ml=250.0, tbsp_ml=20.0)
    kept = Item(ingredient="oat_flour", cup_g=100.0, tbsp_g=9.0, tbsp_ml=15.0).weighed_with(mine)
    assert (kept.cup_ml, kept.tbsp_ml, kept.tsp_ml) == (250.0, 15.0, None)


@pytest.mark.parametrize(
    "wrong", [{"stock_g": -1}, {"price": -0.1}, {"cup_g": 1}, {"absorption": 21}, {"price": float("nan")}, {"pack_g": 0}]
)
def test_what_no_larder_holds_is_refused(wrong):
    with pytest.raises(ValidationError):
        Item(ingredient="egg", **wrong)


def test_beliefs_add_up_as_gauss_has_it():
    prior = Normal(mean=1.0, sd=0.2)
    once = prior.told(1.4, 0.1)
    assert once.mean == pytest.approx((25 * 1.0 + 100 * 1.4) / 125) and once.sd == pytest.approx(125**-0.5)
    either_way = [prior.told(1.4, 0.1).told(0.9, 0.3), prior.told(0.9, 0.3).told(1.4, 0.1)]
    assert either_way[0].mean == pytest.approx(either_way[1].mean) and either_way[0].sd == pytest.approx(either_way[1].sd)
    assert Normal(mean=1.0, sd=0.0).told(9.0, 0.1) == Normal(mean=1.0, sd=0.0)  # what is certain is not told anything


def lesson(subject, mean, sd=0.05, kind="absorption"):
    return Lesson(kind=kind, subject=subject, before_mean=1.0, before_sd=0.1, after_mean=mean, after_sd=sd)


def test_what_was_learned_last_stands_and_what_was_set_by_hand_stays(facts):
    table = facts.ingredients["oat_flour"].absorption_g_per_g
    lessons = [
        lesson("oat_flour", 1.3),
        lesson("griddle", 0.2, kind="pace"),
        lesson("oat_flour", 1.1),
        lesson("water", 2.0),
        lesson("gone", 2.0),
    ]
    learned = known(lessons, "absorption")
    assert learned["oat_flour"].mean == 1.1 and "griddle" not in learned
    (oats,) = with_thirst(facts.ingredients, learned)
    assert oats.absorption_g_per_g == pytest.approx(1.1 * table) and oats.absorption_doubt == pytest.approx(0.05 / 1.1)
    assert with_thirst(facts.ingredients, learned, by_hand=["oat_flour"]) == []
    (sure,) = with_thirst(facts.ingredients, {"oat_flour": Normal(mean=1.0, sd=0.001)})
    assert sure.absorption_doubt == LEAST_SD == 0.02  # never surer than one sack is like the next
    (dry,) = with_thirst(facts.ingredients, {"oat_flour": Normal(mean=-3.0, sd=0.1)})
    assert dry.absorption_g_per_g == pytest.approx(0.05 * table)
