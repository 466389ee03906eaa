"""The Bench in a real browser: the answer, the marks, the reasons, the saving, and what happens when things go wrong."""

import re
import signal

import pytest
from playwright.sync_api import expect

from .steps import add, expect_fits, have, made, open_batter, quiet, settled, until, within


def test_opens_on_a_computed_adaptation(page):
    expect(page.get_by_role("button", name="Vegan", exact=True)).to_have_attribute("aria-pressed", "true")
    expect_fits(page, "vegan, gluten-free")
    expect(have(page).get_by_role("listitem")).to_have_count(9)
    expect(made(page).get_by_role("button", name=re.compile("^baking powder .certified"))).to_be_visible()
    expect(page.get_by_role("region", name="Cautions")).to_contain_text("cook through, 71 °C")
    expect(page.get_by_role("region", name="Cautions")).to_contain_text("not fit for a gluten-free guest")


def test_editing_a_gram_moves_the_marks_and_the_answer(page):
    flow = page.get_by_role("button", name=re.compile("^Flow"))
    before, answer = flow.inner_text(), made(page).inner_text()
    field = have(page).get_by_label("whole milk, grams")
    field.fill("330")
    expect(flow).not_to_have_text(before, use_inner_text=True)
    settled(page)
    assert made(page).inner_text() != answer
    before = flow.inner_text()
    made(page).get_by_label("brown sugar, grams").fill("60")
    expect(page.get_by_role("button", name=re.compile("^Sweetness"))).to_contain_text(re.compile(r"[6-9]\.\d"))
    page.get_by_role("button", name="back to the answer").click()
    expect(flow).to_have_text(before, use_inner_text=True)


def test_why_is_one_touch_away(page):
    have(page).get_by_role("button", name=re.compile("^eggs")).click()
    why = page.get_by_role("region", name="Why")
    expect(why).to_contain_text("Vegan: comes from an animal")
    expect(why).to_contain_text("now binds")  # in words, with the figures beneath
    expect(why).to_contain_text(re.compile(r"\d+ g of water"))
    expect(why).to_contain_text("egg of set")
    page.get_by_role("button", name=re.compile("^Lift")).click()
    sheet = page.get_by_role("dialog", name="Lift")
    expect(sheet).to_contain_text("24.47")
    expect(sheet).to_contain_text("19 in 20 between")
    page.keyboard.press("Escape")
    expect(sheet).to_have_count(0)


def test_diets_are_toggles_and_answers_can_be_chosen(page):
    page.get_by_role("button", name="Gluten-free", exact=True).click()
    settled(page)
    expect(made(page).get_by_role("button", name=re.compile("^plain flour"))).to_be_visible()
    first = made(page).inner_text()
    made(page).get_by_role("button", name="most protein").click()
    expect(made(page)).to_contain_text(re.compile(r"\d+ g of protein a serving, where the nearest has"))
    assert made(page).inner_text() != first
    page.get_by_role("button", name="Vegan", exact=True).click()
    expect(made(page)).to_contain_text("Who cannot eat what?")
    page.get_by_role("button", name="more diets").click()
    expect(page.get_by_role("button", name="Soy-free")).to_be_visible()


def test_a_version_is_saved_and_found_again(page, house):
    page.get_by_role("button", name="Save as a version").click()
    page.get_by_label("Note").fill("for the <b>06:00</b> party ☕")
    page.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("status")).to_contain_text("Saved as version 2 of Ridge rye cakes")
    page.get_by_role("link", name="Book", exact=True).click()
    page.get_by_role("link", name=re.compile("^Ridge rye cakes")).click()
    family = page.get_by_role("region", name="Family of Ridge rye cakes").get_by_role("listitem")
    expect(family).to_have_count(2)
    expect(family.nth(1)).to_contain_text("fits vegan")
    expect(family.nth(1)).to_contain_text("<b>06:00</b> party ☕")
    family.nth(1).get_by_role("button", name="On the Bench").click()
    settled(page)
    expect(made(page)).not_to_contain_text("was ")  # it fits already, so it comes back as it is


def test_bad_amounts_are_told_at_the_field_and_change_nothing(page):
    flow = page.get_by_role("button", name=re.compile("^Flow"))
    before = flow.inner_text()
    field = have(page).get_by_label("whole milk, grams")
    for typed, words in (
        ("-5", "below 0"),
        ("", "missing"),
        ("12x", "must be a number"),
        ("NaN", "must be a number"),
        ("9999999", "More than a kitchen"),
    ):
        field.fill(typed)
        expect(page.get_by_role("alert")).to_contain_text(words)
        expect(page.get_by_role("alert")).to_contain_text("Nothing changed")
    field.blur()
    expect(field).to_have_value("270")
    expect(flow).to_have_text(before, use_inner_text=True)


def test_a_line_that_cannot_be_read_is_kept_marked_and_vouches_for_nothing(page):
    add(page, "2 tbsp honey\n50 g moon dust <script>alert(1)</script>")
    expect(have(page).get_by_role("listitem")).to_have_count(11)
    expect(have(page)).to_contain_text("<script>alert(1)</script>")
    settled(page)
    expect(made(page).get_by_role("heading", level=2)).to_contain_text("not confirmed vegan, gluten-free")
    have(page).get_by_role("button", name=re.compile("^Remove 50 g moon")).click()
    expect_fits(page, "vegan, gluten-free")


def test_what_cannot_be_done_is_said_with_the_nearest(page):
    open_batter(page, "Small-hours almond waffles")
    page.get_by_role("button", name="Vegan", exact=True).click()
    settled(page)
    refused = page.get_by_role("region", name="Cannot be done")
    expect(refused).to_contain_text("Eggs hold this batter together")
    expect(made(page)).to_contain_text("Closest match")


def test_the_draft_survives_a_closed_tab_and_a_killed_server(page, house, browser):
    with page.expect_response(lambda r: r.url.endswith("/api/draft") and r.ok):
        have(page).get_by_label("brown sugar, grams").fill("44")
    house.stop(signal.SIGKILL)
    have(page).get_by_label("brown sugar, grams").fill("45")
    expect(page.get_by_role("alert").first).to_be_visible()
    house.start()
    expect(page.get_by_role("alert")).to_have_count(0)  # the bar is gone, and what waited has gone through
    fresh = browser.new_context().new_page()
    fresh.goto(house.url)
    expect(have(fresh).get_by_label("brown sugar, grams")).to_have_value("45")
    fresh.context.close()


def test_by_keyboard_alone(page):
    page.keyboard.press("Tab")
    for _ in range(60):
        if page.evaluate("document.activeElement.getAttribute('aria-label')") == "plain whole-milk yogurt, grams":
            break
        page.keyboard.press("Tab")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("ArrowUp")
    expect(have(page).get_by_label("plain whole-milk yogurt, grams")).to_have_value("92")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")  # strike it
    expect(have(page).get_by_role("listitem")).to_have_count(8)


def test_a_new_batter_from_a_messy_paste(page, house):
    page.get_by_role("button", name="New", exact=True).click()
    expect(have(page)).to_contain_text("Get a batter that still works")
    page.get_by_label("Add a line").fill(
        "For the batter:\n1 ½ c. plain flour, sifted\n2 tsps baking powder\n1 1/4 cups milk\n2 eggs\n3 tbsp butter, melted\n"
        "½ cup of stardust\nbutter for frying\n"
    )
    have(page).get_by_role("button", name="Add", exact=True).click()
    expect(have(page).get_by_role("listitem")).to_have_count(6)
    expect(page.get_by_role("region", name="The plate").get_by_text("butter", exact=True)).to_be_visible()
    expect(have(page)).to_contain_text("not read")
    have(page).get_by_role("button", name=re.compile("^Remove ½ cup of stardust")).click()
    page.get_by_label("Form").select_option(label="waffle")
    expect_fits(page, "vegan, gluten-free")
    page.get_by_role("button", name="Save as a version").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Sieved waffles " + "of the long night " * 5)
    page.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("status")).to_contain_text("Saved as version 2 of Sieved waffles")
    within(page)


def test_hostile_and_endless_text_is_told_and_nothing_runs(page):
    page.on("dialog", lambda d: pytest.fail("a script ran"))
    add(page, "1 g <img src=x onerror=alert(1)>\n1 g \u202egnp.eert\n1 g " + "x" * 99_000)
    expect(have(page).get_by_role("listitem")).to_have_count(12)
    within(page)
    assert page.locator("img[src=x]").count() == 0


def test_the_theme_is_ours_and_is_kept(page, house):
    ground = "getComputedStyle(document.documentElement).backgroundColor"
    page.emulate_media(color_scheme="light", reduced_motion="reduce")
    light = page.evaluate(ground)
    page.keyboard.press("k")
    page.get_by_role("button", name="before dawn").click()
    dark = page.evaluate(ground)
    assert light != dark
    page.reload()
    page.get_by_role("button", name="before dawn").wait_for()
    assert page.evaluate(ground) == dark
    page.get_by_role("button", name="as the system").click()
    assert page.evaluate(ground) == light
    page.emulate_media(color_scheme="dark", reduced_motion="reduce")
    assert page.evaluate(ground) == dark


def test_an_unreachable_server_is_said_and_asked_again(page, house):
    quiet(page)
    asked, carb = [], page.get_by_role("button", name="Low-carb", exact=True)
    page.on("requestfailed", lambda r: asked.append(r) if r.url.endswith("/api/analyse") else None)
    before = carb.bounding_box()["y"]
    house.stop()
    carb.click()
    expect(page.get_by_role("alert").first).to_contain_text("does not answer")
    until(lambda: page.wait_for_timeout(100) or len(asked), lambda n: n > 3)  # however long it is gone
    assert carb.bounding_box()["y"] == before  # nothing moves under the finger
    assert have(page).get_by_role("listitem").count() == 9  # what was there is still there
    expect(made(page).get_by_role("heading", level=2)).to_contain_text("not judged yet")  # and vouches for nothing new
    house.start()
    expect(made(page).get_by_role("heading", level=2)).not_to_contain_text("not judged yet")  # it was asked again
    carb.click()
    settled(page)
    expect_fits(page, "vegan, gluten-free")


def test_how_many_it_serves_decides_a_limit(page):
    page.get_by_role("button", name="Vegan", exact=True).click()
    page.get_by_role("button", name="Gluten-free", exact=True).click()
    page.get_by_role("button", name="Low-carb", exact=True).click()
    settled(page)
    expect(have(page)).not_to_contain_text("kept")
    page.get_by_label("serves").fill("60")
    settled(page)
    expect(made(page)).not_to_contain_text("was ")  # so thin a share is low in carbohydrate as it is
    expect(page.get_by_role("button", name=re.compile("^Net carbohydrate"))).to_be_visible()


def test_a_faulty_batter_is_said_to_be(page):
    have(page).get_by_label("baking powder, double-acting, grams").fill("60")
    expect(page.get_by_text("The batter itself is at fault.")).to_be_visible()
    expect(page.get_by_role("region", name="At fault")).to_contain_text(re.compile(r"baking powder \d[\d.]* g .* instead of 60 g"))
    settled(page)
    expect(page.get_by_role("button", name=re.compile("^Lift"))).not_to_contain_text("excessive")


def fresh(page, text):
    """A new batter, for nobody in particular."""
    page.get_by_role("button", name="New", exact=True).click()
    for diet in ("Vegan", "Gluten-free"):
        button = page.get_by_role("button", name=diet, exact=True)
        if button.get_attribute("aria-pressed") == "true":
            button.click()
    page.get_by_label("Add a line").fill(text)
    have(page).get_by_role("button", name="Add", exact=True).click()


def test_a_fault_is_mended_in_one_touch_and_taken_back(page):
    """Also where no diet is asked for; no dairy goes into a batter without dairy."""
    fresh(page, "220 g plain flour\n300 ml oat milk\n2 tsp bicarbonate of soda\n25 g sugar\n2 tbsp oil")
    fault = page.get_by_role("region", name="At fault")
    expect(fault).to_contain_text("Soda finds no acid")
    expect(fault).to_contain_text(re.compile("put in .* of baking powder"))
    fault.get_by_role("button", name="Mend it").click()
    expect(fault).to_have_count(0)
    expect(have(page)).to_contain_text("baking powder")
    expect(have(page)).to_contain_text("plain flour")
    expect(have(page)).not_to_contain_text("buttermilk")
    page.get_by_role("button", name="Undo").click()
    expect(fault).to_contain_text("Soda finds no acid")


def test_a_flat_batter_may_be_meant(page):
    fresh(page, "200 g cornmeal\n300 ml boiling water\n100 ml milk\n1/2 tsp salt")
    fault = page.get_by_role("region", name="At fault")
    fault.get_by_role("button", name="It is meant to be flat").click()
    expect(fault).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("^Lift"))).to_contain_text("flat, as wished")


def test_a_line_that_is_not_understood_comes_first(page):
    fresh(page, "220 g plain flour\n300 ml milk\n2 tsp baking powder\n1 egg\n30 g moon dust")
    page.get_by_role("button", name="Vegan", exact=True).click()
    expect(page.get_by_role("region", name="Cannot be done")).to_contain_text("“30 g moon dust” is not understood")
    expect(page.get_by_role("heading", name=re.compile("^Without that line"))).to_be_visible()
    have(page).get_by_role("button", name=re.compile("^Remove 30 g moon dust")).click()
    expect(page.get_by_role("heading", name=re.compile("^You will make"))).to_be_visible()


def test_an_empty_kind_of_answer_says_why(page):
    settled(page)
    answers = page.get_by_role("group", name="Answers")
    names = ["nearest", "from the larder", "least to buy", "most protein", "simplest"]
    expect(answers.get_by_role("button")).to_have_text([re.compile(f"^{name}.") for name in names])
    answers.get_by_role("button", name="from the larder").click()
    expect(made(page)).to_contain_text(re.compile("from the larder: Not from what is in"))
    page.keyboard.press("v")
    expect(page.get_by_role("dialog")).to_contain_text("from the larder: Not from what is in")


def test_piece_and_heat_are_one_story(page):
    """The Bench, its card and the Stove name the same largest piece, heat and time."""
    settled(page)
    page.get_by_role("button", name="Card", exact=True).click()
    card = page.get_by_role("article")
    expect(card).to_contain_text("Pieces of at most")
    words = re.search(
        r"Pieces of at most \d+ mL, \d+ cm across: about \d+ °C, turned after [^(]*done in [^(]*\([^)]*\)", card.inner_text()
    )[0]
    page.get_by_role("button", name="To the Bench").click()
    expect(page.get_by_role("region", name="Why")).to_contain_text(words)


def test_the_first_light_of_an_empty_book(tmp_path, browser):
    from .house import Server

    house = Server(tmp_path / "fresh.sqlite3", demo=False).start()
    try:
        page = browser.new_context().new_page()
        page.goto(house.url)
        expect(page.get_by_label("Add a line")).to_be_visible()
        page.get_by_label("Add a line").fill("200 g flour\n300 g milk\n2 eggs")
        page.keyboard.press("Enter")
        expect(have(page).get_by_role("listitem")).to_have_count(3)
        page.get_by_role("button", name="Egg-free", exact=True).click()
        made(page).get_by_role("listitem").first.wait_for()
        page.context.close()
    finally:
        house.stop()


@pytest.mark.answers(422)
@pytest.mark.elsewhere
def test_a_draft_that_cannot_be_shown_can_be_cleared(page, house):
    """A draft of another day may name what is no longer there: the Book stays, the bench can be cleared."""
    draft = {
        "versionId": None,
        "name": "Old",
        "diets": [],
        "base": {"lines": [{"text": "x", "ingredient": "unobtainium", "grams": 1}], "form": "griddle"},
    }
    page.evaluate(
        "(d) => fetch('/api/draft', {method: 'PUT', headers: {'content-type': 'application/json'}, body: JSON.stringify(d)})", draft
    )
    page.goto(house.url)
    expect(page.get_by_role("alert")).to_contain_text("no ingredient “unobtainium”")
    page.get_by_role("button", name="Clear the bench").click()
    expect(have(page).get_by_role("listitem")).to_have_count(9)


def test_a_cleared_batter_is_gone_before_the_next_is_weighed_up(page):
    """Rows that go only with the next answer would move the field under the hand that writes."""
    held = []
    page.route("**/api/analyse", lambda route: held.append(route))
    page.get_by_role("button", name="New", exact=True).click()
    field = have(page).get_by_label("Add a line")
    expect(have(page).locator("li")).to_have_count(0)
    before = field.bounding_box()
    with page.expect_response("**/api/analyse"):
        for route in held:
            route.continue_()
    page.wait_for_timeout(100)
    expect(have(page).locator("li")).to_have_count(0)
    assert abs(before["y"] - field.bounding_box()["y"]) < 2


def test_a_server_that_goes_just_after_a_change_takes_nothing_off_the_screen(page):
    page.route("**/api/start", lambda route: route.abort())
    page.get_by_role("link", name="Larder", exact=True).click()
    page.get_by_label("Search ingredients").fill("oat flour")
    page.get_by_role("link", name=re.compile("^oat flour")).first.click()
    one = page.get_by_role("region", name="oat flour", exact=True)
    one.get_by_role("textbox", name="at g").fill("98")
    with page.expect_event("requestfailed", lambda r: r.url.endswith("/api/start")):
        one.get_by_role("button", name="Use it").click()
    expect(one).to_contain_text("A cup is counted as 98 g, weighed here")
    page.get_by_role("link", name="Bench", exact=True).click()
    expect(have(page).locator("li").first).to_be_visible()
