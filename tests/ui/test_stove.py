"""The Stove in the browser: a batch by the scale and by the hand, two screens, a lost network, a killed server, and every step made sound."""

import re
import signal

import pytest
from playwright.sync_api import expect

from .counter import Hands
from .steps import go, sound, told, until


def stage(page, name):
    return page.get_by_role("region", name=name, exact=True)


def at(page, hands):
    go(page, f"/stove/{hands.id}")
    expect(page.get_by_role("article", name=hands.batch["name"])).to_be_visible()


def scale(page):
    return page.get_by_role("status", name="On the scale")


@pytest.mark.elsewhere
def test_a_batch_from_the_book_to_the_log_by_scale_and_hand(page, house):
    go(page, "/book")
    page.get_by_role("link", name=re.compile("^Ridge rye cakes")).click()
    page.get_by_role("button", name="Make it").first.click()
    page.get_by_role("textbox", name="pieces").fill("14")
    page.get_by_label("For whom").fill("the observers")
    page.get_by_role("button", name="Start", exact=True).click()
    stage(page, "Ready").get_by_role("button", name="Begin").first.click()
    expect(page.get_by_role("region", name="Clocks")).to_contain_text("29:")
    stage(page, "Ready").get_by_role("button", name="Weigh out").click()
    # The scale is poured into by its panel; what stands inside the tolerance is taken, and the next follows.
    page.get_by_role("button", name="Devices", exact=True).click()
    panel = page.get_by_role("complementary", name="Devices")
    panel.get_by_role("button", name="Bowl on, 400 g").click()
    expect(stage(page, "Weigh out")).to_contain_text(re.compile("shows 400 g"))
    page.get_by_role("button", name="The small pan is on").click()
    for step in ("+25 g", "+5 g", "+5 g", "+1 g", "+1 g", "+1 g"):
        panel.get_by_role("button", name=step, exact=True).click()
    expect(page.get_by_role("heading", name="Take the large bowl")).to_be_visible()  # the fat is in its pan: the next vessel, by itself
    expect(stage(page, "Weigh out")).to_contain_text("all-purpose wheat flour 174 g")
    page.get_by_role("button", name="The large bowl is on").click()
    expect(page.get_by_role("heading", name="all-purpose wheat flour")).to_be_visible()
    for _ in range(3):
        panel.get_by_role("button", name="+25 g").click()
    expect(scale(page)).to_have_text(re.compile("7[3-6]"))
    panel.get_by_role("button", name="+100 g").click()
    expect(scale(page)).to_have_text(re.compile("17[3-6]"))
    expect(page.get_by_role("heading", name="medium rye flour")).to_be_visible()  # by itself
    # Too much of the rye: answered at once.
    panel.get_by_role("button", name="+100 g").click()
    expect(scale(page)).to_have_text(re.compile("100|99|101"))
    page.get_by_role("button", name="That is all of it").click()
    expect(page.get_by_role("heading", name=re.compile("too much medium rye flour"))).to_be_visible()
    page.get_by_role("listitem").filter(has_text="Correct with").get_by_role("button", name="Take this").click()
    panel.get_by_role("button", name="Close").click()
    # The rest without a scale, by spoons and cups and a touch.
    page.get_by_role("button", name="Without a scale").click()
    expect(page.get_by_role("button", name="It is in")).to_be_enabled()
    inside = page.get_by_role("complementary", name="What goes in").get_by_text(", is in")
    for n in range(inside.count() + 1, 10):  # nine lines
        page.get_by_role("button", name="It is in").click()
        expect(inside).to_have_count(n)
    expect(stage(page, "Weigh out")).to_contain_text("Everything is in")
    page.get_by_role("button", name="Mix", exact=True).last.click()
    mix = stage(page, "Mix")
    expect(mix).to_contain_text("lift left")
    for step in ("Dry", "Wet", "Together"):
        expect(mix.get_by_role("heading", name=step, exact=True)).to_be_visible()
        mix.get_by_role("button", name="Done").click()
    mix.get_by_role("button", name="Hands are washed").click()
    mix.get_by_role("button", name="Judge the bowl").click()
    judge = stage(page, "Judge")
    judge.get_by_role("button", name="By eye").click()
    judge.get_by_role("button", name="falls in lumps").click()
    expect(judge).to_contain_text(re.compile("Stir in|as it should be"))
    judge.get_by_role("button", name=re.compile("^(Rest|Leave it, and rest)$")).click()
    stage(page, "Rest").get_by_role("button", name="No rest, cook").click()
    cook = stage(page, "Cook")
    cook.get_by_role("button", name="Wide pan").click()
    cook.get_by_role("button", name="Heat it").click()
    expect(cook).to_contain_text("Heating: about")  # nothing is the next act while it is cold
    cook.get_by_role("button", name="It is hot already: the test piece is on").click()
    cook.get_by_role("button", name="Turned").click()
    cook.get_by_role("button", name="It is off").click()
    cook.get_by_role("button", name="dark", exact=True).click()
    cook.get_by_role("button", name="just done").click()
    cook.get_by_role("button", name="Judge the heat").click()
    expect(cook).to_contain_text("on the knob")
    cook.get_by_role("button", name=re.compile("^Set it to")).click()
    cook.get_by_role("button", name=re.compile("pieces are on$")).click()
    cook.get_by_role("button", name="Turned").click()
    cook.get_by_role("button", name="One fewer good").click()
    cook.get_by_role("button", name=re.compile("good ones off")).click()
    expect(page.get_by_role("complementary", name="How it stands")).to_contain_text(re.compile("^2 of about"))
    cook.get_by_role("button", name="That is enough").click()
    finish = stage(page, "Finish")
    finish.get_by_role("button", name="4", exact=True).click()
    finish.get_by_label("Note").fill("The window pan runs hot.")
    finish.get_by_role("button", name="Keep", exact=True).first.click()
    expect(finish.get_by_role("link", name="Labels as a sheet")).to_be_visible()
    finish.get_by_role("button", name="Labels on the printer").click()
    expect(told(page)).to_contain_text("23 labels")
    finish.get_by_role("button", name="Finish the batch").click()
    expect(finish).to_contain_text("It is in the log")
    go(page, "/stove")
    expect(page.get_by_role("region", name="Log")).to_contain_text("the observers")
    go(page, "/kitchen/learned")
    expect(page.get_by_text("Nothing is learned yet")).to_be_visible()  # neither an eye nor a tap that cannot be teaches


@pytest.mark.elsewhere
def test_two_screens_on_one_batch_agree(page, house, browser):
    hands = Hands(house)
    hands.say({"kind": "prep_done", "key": "melt"})  # what was made ready is in its pan
    hands.go("weigh")
    other = browser.new_page(viewport={"width": 390, "height": 844})
    other.goto(f"{house.url}stove/{hands.id}")
    at(page, hands)
    expect(other.get_by_role("heading", name=re.compile("^Take the "))).to_be_visible()
    hands.pour(412)
    expect(stage(page, "Weigh out")).to_contain_text("412 g")
    page.get_by_role("button", name=re.compile("is on$")).click()
    expect(other.get_by_role("heading", name="all-purpose wheat flour")).to_be_visible()
    # Both see the same pour, and both would take it: it counts once.
    want = round(next(x["missing"] for x in hands.look()["weighing"]["lines"] if x["at"] == hands.batch["weighing"]["current"]))
    hands.pour(want)
    for screen in (page, other):
        expect(screen.get_by_role("heading", name="medium rye flour")).to_be_visible()
    flour = next(x for x in hands.look()["weighing"]["lines"] if x["ingredient"] == "all_purpose_flour")
    assert abs(flour["poured"] - want) <= 1
    page.get_by_role("button", name="Undo").click()
    expect(other.get_by_role("heading", name="all-purpose wheat flour")).to_be_visible()
    other.close()


@pytest.mark.elsewhere
def test_touches_wait_while_the_network_is_gone_and_are_sent_once_in_order(page, house):
    hands = Hands(house).to("cook")
    at(page, hands)
    cook = stage(page, "Cook")
    expect(cook.get_by_role("button", name="Turned")).to_be_visible()
    page.context.set_offline(True)
    cook.get_by_role("button", name="Turned").click()
    expect(page.get_by_role("article")).to_contain_text("kept here")
    expect(cook.get_by_role("button", name=re.compile("good ones off"))).to_be_visible()  # the touch is not asked for again
    cook.get_by_role("button", name=re.compile("good ones off")).click()
    touched = hands.look()["now"]
    before = until(lambda: hands.look(), lambda b: b["now"] - touched > 3)  # the network is gone for a while
    assert before["cooking"]["loads"][0]["turned"] is None
    page.context.set_offline(False)
    expect(page.get_by_role("complementary", name="How it stands")).to_contain_text("8 of about")
    load = hands.look()["cooking"]["loads"][0]
    assert load["off"] - load["turned"] < 3 and hands.batch["now"] - load["turned"] > 2.5  # when it happened, not when it was heard
    assert hands.batch["count"] == before["count"] + 2


@pytest.mark.elsewhere
def test_a_batch_survives_a_closed_tab_and_a_killed_server(page, house):
    hands = Hands(house)
    hands.say(
        {"kind": "prep_started", "key": "warm_up"}, {"kind": "prep_done", "key": "melt"}, {"kind": "went", "stage": "weigh"}, ago=1200
    )
    hands.pour(412)
    at(page, hands)
    expect(page.get_by_role("region", name="Clocks")).to_contain_text(re.compile(r"[^\d]9:\d\d"))
    page.get_by_role("button", name=re.compile("is on$")).click()
    hands.pour(60)
    expect(scale(page)).to_have_text("60")
    house.stop(signal.SIGKILL)
    expect(page.get_by_role("alert").filter(has_text="does not answer")).to_be_visible()
    expect(page.get_by_role("heading", name="all-purpose wheat flour")).to_be_visible()
    house.start()
    expect(scale(page)).to_have_text("60")  # the pour goes on where it was
    page.reload()
    expect(scale(page)).to_have_text("60")
    expect(page.get_by_role("region", name="Clocks")).to_contain_text(re.compile(r"[^\d]9:\d\d"))
    go(page, "/")
    expect(stage(page, "Weigh out")).to_be_visible()  # it opens where the cook is


@pytest.mark.elsewhere
def test_what_is_wrong_with_the_scale_is_told_and_mended(page, house):
    hands = Hands(house)
    hands.go("weigh")
    hands.pour(412)
    at(page, hands)
    page.get_by_role("button", name=re.compile("is on$")).click()
    hands.pour(60)
    expect(scale(page)).to_have_text("60")
    weigh = stage(page, "Weigh out")
    hands.pour(0, "unplug")
    expect(weigh.get_by_role("alert")).to_contain_text("does not answer")
    expect(scale(page)).to_have_text("–")
    hands.pour(0, "plug")
    expect(scale(page)).to_have_text("60")
    hands.pour(0, "lift")
    expect(weigh.get_by_role("alert")).to_contain_text("lifted")
    hands.pour(0, "put_back")
    expect(scale(page)).to_have_text("60")
    hands.pour(0, "freeze")
    expect(weigh.get_by_role("alert")).to_contain_text("nothing new")
    hands.pour(0, "thaw")
    hands.pour(0, "tare")
    expect(weigh.get_by_role("alert")).to_contain_text("tare was pressed")
    weigh.get_by_role("button", name="It is back: count from here").click()
    expect(scale(page)).to_have_text("0")
    hands.pour(5000)
    expect(weigh.get_by_role("alert")).to_contain_text("More than the scale can carry")


@pytest.mark.elsewhere
def test_by_keyboard_alone_and_every_touch_can_be_taken_back(page, house):
    hands = Hands(house)
    at(page, hands)
    page.keyboard.press("n")  # the one thing to do next
    expect(page.get_by_role("heading", name=re.compile("^Take the "))).to_be_visible()
    page.keyboard.press("u")
    expect(stage(page, "Ready")).to_be_visible()
    page.keyboard.press("r")
    expect(page.get_by_role("heading", name=re.compile("^Take the "))).to_be_visible()
    hands.say({"kind": "scale_used", "on": False})
    expect(page.get_by_role("button", name="It is in")).to_be_visible()
    for n in range(1, 4):
        page.keyboard.press("n")
        expect(page.get_by_role("complementary", name="What goes in").get_by_text(", is in")).to_have_count(n)
    for n in (2, 1, 0):
        page.keyboard.press("u")
        expect(page.get_by_role("complementary", name="What goes in").get_by_text(", is in")).to_have_count(n)


@pytest.mark.elsewhere
def test_the_lift_runs_out_in_sight_and_a_clock_that_is_due_sounds(page, house):
    hands = Hands(house)
    hands.say({"kind": "prep_started", "key": "melt"}, ago=700)
    at(page, hands)
    page.evaluate(
        "() => { window.strokes = 0; const start = OscillatorNode.prototype.start; OscillatorNode.prototype.start = function (t) { window.strokes++; return start.call(this, t) } }"
    )
    page.get_by_role("button", name="Sound is off").click()
    page.wait_for_function("window.strokes >= 3")
    expect(page.get_by_role("region", name="Clocks")).to_contain_text("+1:")
    untouched = page.context.new_page()
    untouched.add_init_script(
        "Object.defineProperty(navigator, 'userActivation', {value: {hasBeenActive: false}})"
    )  # a driven page is never so
    untouched.goto(f"{house.url}stove/{hands.id}")
    expect(untouched.get_by_role("region", name="Clocks")).to_contain_text("Touch once to let clocks sound")
    untouched.close()
    page.get_by_role("button", name="Sound is on").click()
    go(page, "/bench")
    expect(page.get_by_role("region", name="Clocks")).to_contain_text("Melt and cool")  # in every place
    expect(page.get_by_role("region", name="Clocks").get_by_role("link")).to_have_attribute("href", f"/stove/{hands.id}")


@pytest.mark.elsewhere
def test_every_step_is_sound(page, house):
    def looked_at(buttons=False):
        until(
            lambda: page.evaluate(
                "() => document.fonts.status === 'loaded' && document.getAnimations().every((a) => a.playState !== 'running')"
            ),
            bool,
        )
        for width, height in ((390, 844), (1280, 800)):
            page.set_viewport_size({"width": width, "height": height})
            sound(page)
            small = page.locator("main button:visible, main a:visible").evaluate_all(
                "all => all.filter(e => e.getBoundingClientRect().height < 43.5).map(e => e.outerHTML.slice(0, 90))"
            )
            assert not (buttons and small), small

    long = "the long table by the window that looks out over the saddle and the two small ones behind it"
    hands = Hands(house, diets=("vegan", "gluten_free", "vegetarian"), whom=long)
    go(page, "/stove")
    expect(page.get_by_role("link", name=re.compile("the long table")).first).to_be_visible()
    looked_at()
    for name in ("ready", "weigh", "mix", "judge", "rest", "cook", "finish"):
        hands.batch = hands.look()
        if name == "weigh":
            hands.go("weigh")
        elif name == "mix":
            hands.weigh_all()
            hands.go("mix")
        elif name == "judge":
            hands.mix_all()
            hands.go("judge")
            hands.say({"kind": "judged", "way": "spread", "value": 10.2})
        elif name == "cook":
            hands.heat()
            hands.say({"kind": "load_on", "load": 0, "pieces": 8}, ago=400)
        elif name == "finish":
            hands.say({"kind": "off", "load": 0, "good": 8}, {"kind": "kept", "what": "pieces_cold", "amount": 2, "until": 4e9})
            hands.go("finish")
        else:
            hands.go(name)
        at(page, hands)
        expect(page.get_by_role("button", name=re.compile(".")).first).to_be_visible()
        looked_at(buttons=True)
    page.get_by_role("button", name="The piece").click()
    expect(page.get_by_role("img", name="Map of heat against thickness")).to_be_visible(timeout=30_000)
    looked_at()
    page.get_by_role("button", name="Close").click()
    page.get_by_role("button", name="The bowl").click()
    looked_at()
    for place in ("surfaces", "learned"):
        go(page, f"/kitchen/{place}")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        looked_at()
