"""More of the Stove in the browser: none left, the bowl judged by plate, the kitchen's surfaces, what was learned, labels, and a batch given up."""

import re

import pytest
from playwright.sync_api import expect

from .counter import Hands
from .steps import go, sound, told, until
from .test_stove import at, stage


@pytest.mark.elsewhere
def test_none_left_is_solved_around_what_is_in_the_bowl(page, house):
    hands = Hands(house)
    hands.say({"kind": "scale_used", "on": False}, {"kind": "went", "stage": "weigh"})
    at(page, hands)
    page.get_by_role("button", name="It is in").click()
    # Any line can be taken before its turn.
    page.get_by_role("complementary", name="What goes in").get_by_role("button", name=re.compile("yogurt")).click()
    expect(page.get_by_role("heading", name=re.compile("yogurt"))).to_be_visible()
    page.get_by_role("button", name="I have none").click()
    weigh = stage(page, "Weigh out")
    expect(weigh).to_contain_text("Solved again around what is in the bowl")
    weigh.get_by_role("listitem").filter(has_text="Without it").get_by_role("button", name="Take this").click()
    expect(page.get_by_role("complementary", name="What goes in").get_by_text(", none left")).to_be_visible()
    yogurt = next(x for x in hands.look()["weighing"]["lines"] if x["ingredient"] == "yogurt")
    milk = next(x for x in hands.batch["weighing"]["lines"] if x["ingredient"] == "whole_milk")
    assert yogurt["none_left"] and yogurt["poured"] == 0 and milk["target"] > 340
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("complementary", name="What goes in").get_by_text(", none left")).to_have_count(0)


@pytest.mark.elsewhere
def test_the_bowl_is_judged_by_plate_and_what_is_added_is_recorded(page, house):
    hands = Hands(house)
    hands.weigh_all()
    hands.mix_all(ago=500)
    hands.go("judge")
    at(page, hands)
    judge = stage(page, "Judge")
    expect(judge).to_contain_text("are held back")
    judge.get_by_role("button", name="80 mL").click()
    wide = judge.get_by_text(re.compile("It should now be")).inner_text()
    judge.get_by_role("button", name="60 mL").click()
    assert float(re.search(r"([\d.]+)\s*cm", wide)[1]) > float(
        re.search(r"([\d.]+)\s*cm", judge.get_by_text(re.compile("It should now be")).inner_text())[1]
    )
    judge.get_by_label("across").fill("ten")
    expect(judge.get_by_role("alert")).to_contain_text("must be a number")
    judge.get_by_label("across").fill("10.3")
    judge.get_by_role("button", name="Judge it").click()
    expect(judge).to_contain_text(re.compile("more than reckoned. Stir in"))
    before = hands.look()["weighing"]["bowl_g"]
    add = hands.batch["judging"]["advice"]["add_g"]
    judge.get_by_role("button", name=re.compile(rf"^{add:.0f} g \(.*\) are in$")).click()
    expect(judge).to_contain_text("It is as it should be")
    assert hands.look()["weighing"]["bowl_g"] == before + add
    page.get_by_role("button", name="The bowl", exact=True).click()
    expect(page.get_by_role("dialog")).to_contain_text("Contains: egg, milk")
    page.keyboard.press("Escape")
    judge.get_by_role("button", name="Rest", exact=True).click()
    expect(stage(page, "Rest")).to_contain_text("Lift left now")


@pytest.mark.elsewhere
def test_the_kitchens_surfaces_are_changed_added_put_away_and_used(page, house):
    go(page, "/kitchen/surfaces")
    page.get_by_role("button", name=re.compile("^Griddle plate")).click()
    plate = page.get_by_role("region", name="Griddle plate")
    plate.get_by_label("width").fill("90")
    plate.get_by_label("width").press("Enter")
    expect(told(page)).to_contain_text("Griddle plate: kept")
    pan = page.get_by_role("button", name=re.compile("^Wide pan"))
    pan.click()
    expect(plate).to_have_count(0)  # one is open at a time
    page.get_by_role("region", name="Wide pan").get_by_role("button", name="Archive").click()
    expect(pan).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(pan).to_be_visible()
    page.get_by_role("button", name="Add a surface").click()
    fresh = page.get_by_role("region", name="New surface")
    fresh.get_by_label("Name of the surface").fill("The little pan")
    fresh.get_by_label("Name of the surface").press("Tab")
    expect(page.get_by_role("region", name="The little pan")).to_be_visible()
    hands = Hands(house)
    hands.go("cook")
    at(page, hands)
    cook = stage(page, "Cook")
    expect(cook.get_by_role("button", name="The little pan")).to_be_visible()
    cook.get_by_role("button", name="Griddle plate").click()
    expect(cook.get_by_label("pieces at a time")).to_have_value(re.compile("^(1[3-9]|2[0-9])$"))  # a wider plate takes more
    cook.get_by_role("button", name="generous").click()
    cook.get_by_role("combobox").select_option("butter")
    expect(cook).to_contain_text("butter smokes from about 150")


@pytest.mark.elsewhere
def test_what_a_batch_taught_is_shown_used_and_can_be_forgotten(page, house):
    hands = Hands(house).to("finish")
    hands.say({"kind": "finished"})
    go(page, "/kitchen/learned")
    flour = page.get_by_role("listitem").filter(has_text="all-purpose wheat flour drink")
    expect(flour).to_contain_text("at first 65 ± 7 g")
    flour.get_by_text("batch by batch").click()
    expect(flour.get_by_role("row").nth(1)).to_contain_text("± ")
    sound(page)
    go(page, "/larder/all_purpose_flour")
    expect(page.get_by_text("Learned at the stove")).to_be_visible()
    go(page, "/kitchen/learned")
    flour.get_by_role("button", name="Forget").click()
    expect(flour).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(flour).to_be_visible()


@pytest.mark.elsewhere
def test_a_batch_that_is_given_up_made_nothing_and_a_finished_one_opens_again(page, house):
    hands = Hands(house)
    hands.go("finish")
    at(page, hands)
    finish = stage(page, "Finish")
    finish.get_by_role("button", name="Finish the batch").click()
    finish.get_by_role("button", name="End it without a piece").click()  # no piece came off: it is asked once
    expect(finish).to_contain_text("It is in the log")
    assert hands.call(f"/api/batters/{hands.batch['batter_id']}")["versions"][0]["standing"] == "untested"
    page.get_by_role("button", name="Undo").click()
    expect(finish.get_by_role("button", name="Finish the batch")).to_be_visible()
    assert [b["id"] for b in hands.call("/api/stove")["batches"]] == [hands.id]


@pytest.mark.elsewhere
@pytest.mark.answers(404)
def test_a_batch_that_is_not_there_and_one_started_from_the_stove(page, house):
    go(page, "/stove/0123456789abcdef")
    expect(page.get_by_role("alert")).to_contain_text("There is no")
    page.get_by_role("link", name="To the batches that are under way").click()
    expect(page.get_by_text("No batch in progress")).to_be_visible()
    page.get_by_role("button", name="Start a batch").click()
    sheet = page.get_by_role("dialog", name="Start a batch")
    sheet.get_by_label("Find a batter").fill("dome")
    sheet.get_by_role("button", name=re.compile("Dome waffles")).click()
    sheet.get_by_role("button", name="times", exact=True).click()
    sheet.get_by_role("textbox", name="times").fill("2")
    sheet.get_by_role("button", name="Start", exact=True).click()
    expect(stage(page, "Ready")).to_be_visible()
    expect(sheet).to_have_count(0)
    page.get_by_role("button", name="Cook", exact=True).click()
    expect(stage(page, "Cook").get_by_role("button", name="Waffle iron")).to_be_visible()
    expect(stage(page, "Cook").get_by_label("a scoop of")).to_have_value("120")


@pytest.mark.elsewhere
def test_a_bowl_that_comes_out_wrong_is_put_right_by_one_touch_and_undone(page, house):
    hands = Hands(house).to("cook")
    hands.heat()
    milk = next(x for x in hands.batch["weighing"]["lines"] if "milk" in x["ingredient"])
    hands.say({"kind": "poured", "line": milk["at"], "slot": milk["slot"], "grams": -0.4 * milk["poured"], "by": "scale", "done": True})
    hands.say({"kind": "load_on", "load": 0, "pieces": 4}, ago=100)
    go(page, f"/stove/{hands.id}")
    page.get_by_role("button", name="Something is wrong with it…").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="too thick", exact=True).click()
    expect(sheet).to_contain_text(re.compile(r"Now: \d+ g more whole milk"))
    sound(page)
    sheet.get_by_role("button", name="Do it now").click()
    expect(sheet).to_have_count(0)
    expect(page.get_by_role("heading", name="whole milk")).to_be_visible()  # on the scale, for what is added alone
    assert until(lambda: hands.look()["weighing"]["current"], lambda at: at == milk["at"]) == milk["at"]
    missing = next(x["missing"] for x in hands.batch["weighing"]["lines"] if x["at"] == milk["at"])
    assert 0 < missing < 0.4 * milk["poured"]
    hands.say({"kind": "undone", "event": hands.batch["undo"]})
    assert hands.batch["stage"] == "cook" and hands.batch["weighing"]["current"] is None
