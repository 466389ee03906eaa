"""Dishes beside the batter: what a heading makes of the lines under it, how each is made, what it yields, and whom it fits."""

import pytest

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.measures.profile import Profile
from mutabilis.core.process.process import latest_starts, process
from mutabilis.core.reading.reading import read_lines
from tests.core.process.test_process import WAYS, checked

BATTER = "200 g flour\n300 g milk\n2 eggs\n8 g baking powder\n10 g butter for the pan\n"
COMPOTE = "\nBlueberry compote:\n200 g blueberries\n40 g sugar\n10 g chia seeds\n5 g cornflour\n"


def planned(text, facts, form="griddle"):
    batter = Batter(lines=read_lines(text, facts, Profile()), form=form)
    a = analyse(batter, facts, Profile())
    return a, process(a, facts)


@pytest.mark.parametrize(
    ("heading", "where", "side"),
    [
        ("For the compote:", "plate", "Compote"), ("Berry compote (optional):", "plate", "Berry compote"), ("Topping", "plate", "Topping"),
        ("Topping for the pancakes:", "plate", "Topping"), ("Sauce ingredients:", "plate", "Sauce"), ("Swirl:", "plate", "Swirl"), ("Filling", "plate", "Filling"),
        ("Roast plums:", "plate", "Roast plums"), ("To serve", "plate", ""), ("To serve with the pancakes:", "plate", ""), ("For the tray:", "plate", ""),
        ("Sheet pan pancakes:", "batter", ""), ("Fruit waffles:", "batter", ""), ("Dry mix:", "batter", ""), ("Dry ingredients (cream of tartar):", "batter", ""), ("For the griddle:", "plate", ""), ("Griddle cakes:", "batter", ""), ("Walnut sauce:", "plate", "Walnut sauce"),
    ],
)  # fmt: skip
def test_a_heading_moves_what_stands_under_it_to_its_place(heading, where, side, facts):
    line = read_lines(f"{heading}\n200 g pears", facts, Profile())[-1]
    assert (line.where, line.side) == (where, side)


@pytest.mark.parametrize("food", ["Maple syrup", "Sour cream", "Peanut butter", "soft butter", "Chocolate sauce", "fresh berries"])
def test_a_food_without_an_amount_heads_nothing(food, facts):
    assert [x.where for x in read_lines(f"{food}\n2 eggs", facts, Profile())] == ["batter", "batter"]


def test_a_dish_named_alone_after_an_empty_line_is_a_heading_where_an_amount_follows(facts):
    lines = read_lines(BATTER + "\nRaspberry compote\n200 g raspberries\n\nTo serve: 20 g honey", facts, Profile())
    assert [(x.ingredient, x.side) for x in lines[-2:]] == [("raspberry", "Raspberry compote"), ("honey", "")]
    assert read_lines("200 g flour\nRaspberry compote\n2 eggs", facts, Profile())[-1].where == "batter"


def test_a_compote_is_simmered_thickened_and_left_to_gel(facts):
    _, p = planned(BATTER + COMPOTE, facts)
    work = p.sides[0]
    assert (
        work.kind == "compote"
        and work.yield_g == pytest.approx(0.88 * 255)
        and [o.id for o in work.operations] == ["weigh_side_1", "side_1", "side_1_stand"]
    )
    made, gel = p.op("side_1"), p.op("side_1_stand")
    assert "Slake the 5 g maize starch" in made.text and "chia" not in made.text and any("burns" in c for c in made.cautions)
    assert "chia" in gel.text and gel.wait_min == facts.ingredients["chia_seeds"].absorption_minutes
    assert p.op("serve").takes == ("side_1_stand",) and "the blueberry compote" in p.op("serve").text
    late = latest_starts(p, 60.0)  # the dish is ready when the last of the plate is laid on, not before it need be
    assert late["side_1"] + made.minutes == pytest.approx(late["side_1_stand"]) and late["side_1_stand"] + gel.minutes == pytest.approx(
        late["serve"]
    )


@pytest.mark.parametrize(
    ("text", "kind"),
    [
        ("Topping:\n200 g strawberries\n20 g sugar", "compote"), ("Topping:\n150 g yogurt\n20 g honey", "cold"), ("Topping:\n30 g maple syrup", None), ("Salsa:\n200 g mango\n10 g lime juice\n5 g sugar", "cold"),
        ("Balsamic reduction:\n200 g balsamic vinegar\n20 g honey", "reduction"), ("Roast plums:\n300 g plums", "roast"), ("Crumble:\n50 g flour\n30 g butter\n30 g sugar", "crumble"),
        ("Vanilla sauce:\n200 g milk\n2 egg yolks\n30 g sugar", "sauce"), ("Sugar crust:\n30 g pearl sugar", None),
    ],
)  # fmt: skip
def test_the_kind_of_a_dish_follows_its_heading_and_what_is_in_it(text, kind, facts):
    a, p = planned(BATTER + text, facts)
    assert [w.kind for w in p.sides] == ([kind] if kind else [])
    checked(a, p, facts)


def test_a_reduction_leaves_half_and_a_custard_is_cooked_through(facts):
    _, p = planned(BATTER + "Balsamic reduction:\n200 g balsamic vinegar\n20 g honey", facts)
    assert p.sides[0].yield_g == pytest.approx(110)
    _, custard = planned(BATTER + "Vanilla sauce:\n200 g milk\n2 egg yolks\n30 g sugar", facts)
    assert "71 °C" in custard.op("side_1").done_when and any("egg" in c for c in custard.op("side_1").cautions)


def test_butter_of_a_dish_greases_nothing_and_a_swirl_goes_through_the_batter(facts):
    _, p = planned(BATTER + "Crumble:\n50 g flour\n30 g butter\n30 g sugar", facts)
    assert [x.grams for x in p.op("grease").portions] == [10]
    _, swirl = planned(BATTER + "Cinnamon swirl:\n30 g butter\n40 g brown sugar", facts, "tray")
    assert swirl.op("swirl_1").takes == ("side_1",) and swirl.op("serve") is None


def test_every_way_keeps_the_properties_with_two_dishes_beside(facts):
    a, _ = planned(BATTER + COMPOTE + "\nTopping:\n100 g yogurt\n20 g honey\n\nTo serve: 20 g maple syrup", facts, "waffle")
    for ways in WAYS[::3]:
        checked(a, process(a, facts, ways), facts)


def test_a_dish_is_judged_alone_and_the_plate_as_the_worst_of_all(facts):
    vegan_batter = "200 g flour\n300 g oat drink\n8 g baking powder\n"
    a, _ = planned(vegan_batter + "\nHoney compote:\n200 g pears\n30 g honey\n\nBerry compote:\n200 g raspberries\n20 g sugar", facts)
    honey, berry = a.sides
    assert (honey.diets["vegan"].verdict, berry.diets["vegan"].verdict) == ("conflicts", "fits")
    assert a.diets["vegan"].verdict == "fits" and a.plate.diets["vegan"].verdict == "conflicts"
    assert a.batter.lines[honey.diets["vegan"].reasons[0].line].ingredient == "honey"


@pytest.mark.parametrize("text", ["Walnut sauce:\n100 g oat cream\n20 g sugar", "Walnut sauce:"])
def test_a_food_that_only_a_heading_names_counts_in_its_dish(text, facts):
    a, _ = planned("200 g rice flour\n300 g oat drink\n" + text, facts)
    assert a.plate.diets["nut_free"].verdict != "fits"
    assert all(s.diets["nut_free"].verdict != "fits" for s in a.sides) and len(a.sides) == 1
