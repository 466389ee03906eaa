"""Whole batches in the browser by the one next thing to do: what the plan says is weighed, mixed, judged, and comes last in its order."""

import re

import pytest
from playwright.sync_api import expect

from .counter import Hands
from .steps import more, sound
from .test_stove import at, stage

EVENTS = re.compile("/api/stove/batches/[0-9a-f]+/events$")
WAYS_OF_WORKING = {
    "soda and buttermilk": (
        "200 g plain flour\n1/2 tsp baking soda\n1 tsp salt\n240 g buttermilk\n1 egg\n30 g butter, melted", "griddle", "two_bowls",
        ["Take out of the fridge", "Into the small pan", "Into the large bowl", "Into the jug", "Into the small cup", "Together", "Judge", "Start the rest", "Leaven last", "Wide pan"],
    ),
    "separated eggs, folded": (
        "150 g plain flour\n40 g sugar\n3 eggs, separated\n200 g milk\n5 g baking powder", "griddle", "two_bowls",
        ["Separate", "Into the large bowl", "Into the jug", "egg yolks", "Into the clean bowl", "egg whites", "Into the saucer", "Together", "whipped air|By eye", "Start the rest", "Whip", "Fold", "Wide pan"],
    ),
    "flax gel and a soured drink": (
        "200 g buckwheat flour\n14 g ground flaxseed\n300 g soy drink\n10 g cider vinegar\n6 g baking powder\n2 g baking soda\n20 g oil", "griddle", "two_bowls",
        ["Soak", "Sour the milk", "Into the soaking cup", "Into the jug", "Into the large bowl", "the soaked gel", "Judge", "Leaven last"],
    ),
    "oat and banana in a blender": (
        "200 g rolled oats\n2 bananas, mashed\n2 eggs\n150 g milk\n6 g baking powder", "griddle", "blender", ["Into the blender", "Blend", "Judge", "Start the rest", "Wide pan"],
    ),
    "one bowl, coconut flour": (
        "60 g coconut flour\n4 eggs\n120 g milk\n30 g butter\n5 g baking powder\n2 g salt", "griddle", "one_bowl", ["Into the large bowl", "Wet first", "Into the large bowl", "Dry on top", "Judge"],
    ),
    "a tray with a layer": (
        "200 g plain flour\n250 g milk\n2 eggs\n8 g baking powder\n100 g blueberries", "tray", "two_bowls", ["Into the large bowl", "Into the jug", "Into the dish by the stove", "Together", "Oven and tray"],
    ),
    "crêpes in two pans": (
        "150 g plain flour\n320 g milk\n3 eggs\n25 g butter\n2 g salt\n50 g chocolate chips", "crepe", "two_bowls", ["Into the large bowl", "Into the jug", "Together", "Judge", "Two pans"],
    ),
    "a compote alongside": (
        "200 g plain flour\n250 g milk\n2 eggs\n8 g baking powder\nBlueberry compote:\n200 g blueberries\n40 g sugar", "griddle", "two_bowls",
        ["Blueberry compote", "Simmer 200 g blueberries", "Into the large bowl", "Beside the batter", "Together", "Beside the batter", "Wide pan"],
    ),
    "waffles with a sugar crust": (
        "200 g plain flour\n250 g milk\n2 eggs\n8 g baking powder\n60 g oil\n30 g pearl sugar, to serve", "waffle", "two_bowls", ["Into the large bowl", "Together", "Waffle iron"],
    ),
}  # fmt: skip


def started(house, text, form, order):
    wire = Hands.__new__(Hands)
    wire.house = house
    lines = wire.call("/api/read", {"text": text})
    kept = wire.call("/api/batters", {"name": "Walked", "version": {"batter": {"lines": lines, "form": form, "rest_min": 10}}})
    hands = Hands.__new__(Hands)
    hands.house = house
    hands.batch = wire.call("/api/stove/batches", {"version": kept["id"], "order": order, "diets": []})
    hands.id = hands.batch["id"]
    hands.say({"kind": "scale_used", "on": False})
    return hands


@pytest.mark.elsewhere
@pytest.mark.parametrize("way", WAYS_OF_WORKING)
def test_each_way_of_working_is_told_in_its_order(way, page, house):
    text, form, order, wanted = WAYS_OF_WORKING[way]
    hands = started(house, text, form, order)
    at(page, hands)
    told, now = [], hands.batch
    for _ in range(60):
        body = page.get_by_role("article").inner_text()
        told.append(body)
        if page.get_by_role("heading", name="Whip", exact=True).count():
            expect(page.locator("svg[data-look^='peaks']")).to_be_visible()  # a picture where a cook would rather look
        if now["stage"] == "cook":
            break
        if now["stage"] == "judge" and now["judging"]["advice"] is None:
            page.get_by_role("button", name="By eye").click()
            with page.expect_response(EVENTS) as seen:
                page.get_by_role("button", name="as it should be").click()
            expect(stage(page, "Judge")).to_contain_text("nothing to add")  # the cook is believed
            assert seen.value.json()["judging"]["advice"]["add_g"] == 0
        with page.expect_response(EVENTS) as done:
            page.keyboard.press("n")
        now = done.value.json()
        expect(page.get_by_role("article")).to_have_attribute("aria-busy", "false")
        expect(page.get_by_role("article")).not_to_have_text(body, use_inner_text=True)
    assert hands.look()["stage"] == "cook", "the one next thing leads all the way"
    where = 0
    for words in wanted:
        found = next((n for n in range(where, len(told)) if any(w in told[n] for w in words.split("|"))), None)
        assert found is not None, f"{words} is not told after {told[where][:300]!r}"
        where = found
    # Every line is in, to the gram, and the leavening was wetted once.
    batch = hands.batch
    assert all(x["settled"] for x in batch["weighing"]["lines"]) and batch["mixing"]["missing"] == []
    leavened = "powder" in text or "soda" in text
    assert (batch["resting"]["leavened_at"] is not None) == leavened and batch["resting"]["wet_at"] is not None
    page.set_viewport_size({"width": 390, "height": 844})  # at its full size each step is looked at in test_stove
    sound(page)


@pytest.mark.elsewhere
def test_a_whole_vessel_is_ticked_at_once_and_card_bench_and_stove_say_the_same_figures(page, house):
    hands = started(house, "200 g plain flour\n8 g baking powder\n20 g sugar\n260 g milk\n1 egg", "griddle", "two_bowls")
    hands.say({"kind": "scale_used", "on": True})
    batter = {
        "lines": hands.call("/api/read", {"text": "200 g plain flour\n8 g baking powder\n20 g sugar\n260 g milk\n1 egg"}),
        "form": "griddle",
        "rest_min": 10,
    }
    bench = hands.call("/api/analyse", {"batter": batter, "diets": []})
    card = hands.call("/api/card", {"batter": batter, "name": "Walked", "diets": []})
    judged = next(s for s in card["steps"] if s["key"] == "judge")["text"]
    held = f"{bench['pieces']['hold_back']['hold_g']:.0f} g"
    assert any(f"Hold back {held} of the whole milk" in s["text"] for s in card["steps"])
    assert held in next(v for v in hands.batch["weighing"]["vessels"] if v["held"])["names"][0]
    assert f"{hands.batch['judging']['target_cm']:.1f} cm" in judged  # five minutes after the wetting, where nobody said when that was
    assert (
        f"stand {hands.batch['resting']['window']['best_min']:.0f} minutes" in next(s for s in card["steps"] if s["key"] == "rest")["text"]
    )
    hands.say({"kind": "scale_used", "on": False}, {"kind": "went", "stage": "weigh"})
    at(page, hands)
    page.get_by_role("button", name="All of the large bowl is in").click()
    expect(stage(page, "Weigh out")).to_contain_text("Into the jug")
    assert all(x["settled"] for x in hands.look()["weighing"]["lines"] if x["vessel"] == "bowl")


def test_two_touches_from_the_bench_to_a_running_batch_and_an_adaptation_is_saved_on_the_way(page, house):
    page.get_by_role("button", name="Make it").click()  # for vegan and gluten-free guests, which is in no Book yet
    page.get_by_role("button", name="Save and start").click()
    expect(stage(page, "Ready")).to_be_visible()
    expect(page.get_by_role("article")).to_contain_text("fits vegan")
    page.get_by_role("link", name="Bench", exact=True).click()
    for diet in ("Vegan", "Gluten-free"):
        page.get_by_role("button", name=diet, exact=True).click()
    expect(page.get_by_role("region", name="You will make")).not_to_contain_text("soy")
    page.get_by_role("button", name="Make it").click()  # what stands here is in the Book already
    page.get_by_role("button", name="Start", exact=True).click()
    expect(stage(page, "Ready")).to_contain_text("whole egg")


@pytest.mark.elsewhere("book")
def test_a_bag_of_dry_mix_from_the_book_to_a_batch(page, house):
    page.get_by_role("link", name=re.compile("^Ridge rye cakes")).click()
    more(page.get_by_role("list", name="Versions"), "Dry mix…")
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("region", name="Into the bag")).to_contain_text(["plain flour", "all-purpose"][1])
    sheet.get_by_label("for so many batches").fill("3")
    expect(sheet.get_by_role("region", name="Its label")).to_contain_text("use by")
    sound(page)
    sheet.get_by_role("button", name="It is made: into the Larder").click()
    shelf = page.get_by_role("region", name="Dry mixes")
    expect(shelf).to_contain_text("3 batches left")
    sound(page)
    shelf.get_by_role("button", name="Make a batch from it").click()
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_role("article")).to_contain_text("of dry mix")
    page.get_by_role("button", name="Weigh out").last.click()
    page.get_by_role("button", name="Without a scale").first.click()
    page.get_by_role("button", name="It is in").click()
    expect(stage(page, "Weigh out")).to_contain_text("of the dry mix into the large bowl")
    sound(page)
    page.keyboard.press("n")
    expect(stage(page, "Weigh out")).to_contain_text("Into the jug")
    expect(page.get_by_role("complementary", name="What goes in")).to_contain_text("dry mix, is in")
    page.get_by_role("link", name="Larder", exact=True).click()
    expect(page.get_by_role("region", name="Dry mixes")).to_contain_text("2 batches left")


def test_a_compote_has_its_verdict_on_the_bench_and_its_clock_at_the_stove(page, house):
    plate = page.get_by_role("region", name="The plate")
    plate.get_by_label("Add to the plate").fill("Honey compote:\n200 g pears\n30 g honey\n10 g chia seeds")
    plate.get_by_role("button", name="Add", exact=True).first.click()
    dish = plate.get_by_role("region", name="Honey compote")
    expect(dish).to_contain_text("makes about")
    expect(dish).to_contain_text("does not fit")  # honey is not for vegans, and the batter's own verdict does not hide it
    dish.get_by_text("How it is made").click()
    expect(dish).to_contain_text("Simmer")
    sound(page)
    hands = started(
        house,
        "200 g plain flour\n250 g milk\n2 eggs\n8 g baking powder\nBerry compote:\n200 g blueberries\n40 g sugar",
        "griddle",
        "two_bowls",
    )
    hands.go("weigh")
    at(page, hands)
    beside = page.get_by_role("region", name="Beside the batter")
    beside.get_by_role("button", name="Begin").click()
    expect(page.get_by_role("region", name="Clocks")).to_contain_text("Berry compote")
    beside.get_by_role("button", name="Done").click()
    expect(beside).to_have_count(0)
    sound(page)
