"""How many touches the everyday acts cost, counted in the page itself; and that nothing jumps under a finger meanwhile."""

import re

import pytest
from playwright.sync_api import expect

from .counter import Hands
from .steps import Finger, go, have, made, open_batter, quiet, settled, until

RECIPE = "250 g plain flour\n400 ml milk\n2 eggs\n30 g melted butter\n2 tsp baking powder\n1/4 tsp salt"


@pytest.fixture
def touches(page):
    """How often something was touched since it was last asked."""
    page.evaluate("window.touches = 0; addEventListener('pointerdown', () => window.touches++, true)")

    def counted():
        n = page.evaluate("window.touches")
        page.evaluate("window.touches = 0")
        return n

    return counted


def test_a_pasted_recipe_is_vegan_in_three_why_in_one_a_card_printed_in_two(page, touches):
    for diet in ("Vegan", "Gluten-free"):
        page.get_by_role("button", name=diet, exact=True).click()
    assert touches() == 2
    page.get_by_role("button", name="New", exact=True).click()
    expect(have(page).get_by_role("textbox", name=re.compile("line|recipe", re.IGNORECASE))).to_be_focused()  # a paste needs no touch
    page.keyboard.insert_text(RECIPE)
    have(page).get_by_role("button", name="Add", exact=True).click()
    page.get_by_role("button", name="Vegan", exact=True).click()
    expect(made(page).get_by_role("heading", level=2)).to_contain_text("You will make: vegan")
    assert touches() <= 3
    have(page).get_by_role("button", name=re.compile("^(whole )?eggs?")).click()
    expect(page.get_by_role("region", name="Why")).to_contain_text("egg")
    assert touches() == 1
    page.evaluate("window.printed = 0; window.print = () => window.printed++; 0")
    page.get_by_role("button", name="Card", exact=True).click()
    page.get_by_role("button", name="Print", exact=True).click()
    assert page.evaluate("window.printed") == 1 and touches() == 2


def test_what_stands_on_the_bench_is_under_way_in_two(page, house, touches):
    page.get_by_role("button", name="Make it").click()
    page.get_by_role("button", name="Save and start").click()
    expect(page).to_have_url(re.compile("/stove/[0-9a-f]+$"))
    assert touches() == 2


def test_nothing_under_the_answer_jumps_from_one_kind_to_the_next(page):
    open_batter(page, "Ridge rye cakes")
    page.get_by_role("button", name="Vegan", exact=True).click()
    settled(page)
    page.get_by_role("button", name=re.compile("^Compare the")).wait_for()
    tops = set()
    for slot in page.get_by_role("group", name="Answers").get_by_role("button").all():
        slot.click()
        settled(page)
        tops.add(round(page.get_by_role("button", name=re.compile("^Compare the")).bounding_box()["y"]))
    assert len(tops) == 1
    low = page.get_by_role("region", name="What is next").bounding_box()
    assert low["y"] + low["height"] <= 800  # always at hand


def test_a_finger_that_touches_twice_is_one(page):
    lines = have(page).get_by_role("listitem")
    before = lines.count()
    have(page).get_by_label("Add a line").fill("10 g honey")
    have(page).get_by_role("button", name="Add", exact=True).dblclick()
    expect(lines).to_have_count(before + 1)
    page.get_by_role("button", name="Make it").dblclick()  # the second falls beside the dialog that the first has opened
    quiet(page)
    expect(page.get_by_role("dialog")).to_be_visible()
    expect(lines).to_have_count(before + 1)


@pytest.mark.elsewhere
@pytest.mark.parametrize("touch", [False, True], ids=["mouse", "touch"])
@pytest.mark.parametrize(("place", "region", "words"), [("book", "Batters", "ridge dome"), ("larder", "Ingredients", "buckwheat teff")])
def test_what_is_pressed_does_not_move_away_under_the_finger(place, region, words, touch, page):
    """A finger comes down on a row while an answer is on its way that would take the row away: the row stays until the finger is up."""
    waiting, late = [], re.compile(rf"/api/{place}\?.*q=(?:{'|'.join(words.split())})")
    page.route(late, lambda route: route.continue_() if waiting else waiting.append(route))
    go(page, f"/{place}")
    found = page.get_by_role("region", name=region)
    rows, told = found.get_by_role("listitem"), found.get_by_role("status")
    row = rows.get_by_role("link").first
    name = row.inner_text().split("\n")[0]
    before, was = rows.count(), told.inner_text()
    page.get_by_role("searchbox").fill(next(word for word in words.split() if word not in name.lower()))
    until(lambda: page.wait_for_timeout(50) or len(waiting), lambda n: n == 1)
    finger = Finger(page, touch)
    finger.down(row)
    waiting[0].continue_()
    expect(told).not_to_have_text(was, use_inner_text=True)  # the answer has come
    assert rows.count() == before
    finger.up()
    expect(page.get_by_role("heading", name=name).first).to_be_visible()
    expect(rows.filter(has_text=name)).to_have_count(0)


@pytest.mark.elsewhere
def test_a_finger_that_goes_away_again_opens_nothing_and_holds_nothing_up(page):
    """A press that is drawn off the list is none; what was found meanwhile is shown."""
    go(page, "/book")
    rows = page.get_by_role("region", name="Batters").get_by_role("listitem")
    finger = Finger(page, False)
    finger.down(rows.nth(2))
    page.mouse.move(900, 600, steps=4)
    finger.up()
    page.get_by_role("searchbox").fill("dome")
    expect(rows).to_have_count(1)
    assert page.url.endswith("/book?q=dome")


PLACES = """() => new Promise((done) => {
    const seen = new Set(), began = performance.now();
    const top = (of) => Math.round(document.querySelector(of).getBoundingClientRect().top);
    const shopping = [...document.querySelectorAll("button")].find((b) => b.innerText === "Shopping list");
    const look = () => {
        const rows = ["You have", "You will make"].map((name) => top(`section[aria-label='${name}'] li`));
        const { left, top: at } = shopping.getBoundingClientRect();
        seen.add(JSON.stringify([...rows, Math.round(left), Math.round(at), top("section[aria-label=Balances]")]));
        window.watched = [...seen];
        if (window.enough) done(); else requestAnimationFrame(look);
    };
    look();
})"""


def test_nothing_jumps_while_the_other_answers_are_looked_for(page):
    """The first answer comes before the others: what stands beside and under them keeps its place from the key to the last answer."""
    compare = made(page).get_by_role("button", name=re.compile("^Compare the"))
    expect(compare).to_be_visible()
    quiet(page)
    page.evaluate(f"void ({PLACES})()")
    answers = re.compile("/api/adapt")
    with page.expect_response(lambda r: answers.search(r.url) and r.request.post_data_json["wishes"]["alternatives"] == 5):
        have(page).get_by_role("textbox", name="whole milk, grams").fill("300")
    quiet(page)
    expect(compare).to_be_visible()
    assert len(page.evaluate("window.enough = true, window.watched")) == 1


def test_a_sheet_stays_where_it_opened_however_much_is_found(page):
    page.get_by_role("button", name="Open…").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("option").nth(1)).to_be_visible()
    heading = sheet.get_by_role("heading", level=2)
    before, found = heading.bounding_box(), sheet.get_by_role("option").count()
    sheet.get_by_role("combobox").fill("Ridge")
    until(lambda: page.wait_for_timeout(50) or sheet.get_by_role("option").count(), lambda n: n < found)
    assert heading.bounding_box() == before


@pytest.mark.elsewhere
def test_nothing_jumps_at_the_stove_while_the_server_is_late(page, house):
    """The next touch of a quick cook finds everything where it was; a step begins at its top; Undo touched again is Undo again."""
    page.set_viewport_size({"width": 390, "height": 500})
    go(page, f"/stove/{Hands(house).id}")
    steps, undo = page.get_by_role("navigation", name="Steps of the work"), page.get_by_role("button", name="Undo")
    page.get_by_role("button", name="Weigh out").last.click()  # under everything that is to be ready
    step = page.get_by_role("region", name="Weigh out", exact=True)
    expect(step).to_be_visible()
    until(lambda: page.wait_for_timeout(50) or steps.bounding_box()["y"], lambda y: y >= 0)
    held = []
    page.route("**/events", lambda route: route.continue_() if held else held.append(route))
    where = step.bounding_box(), undo.bounding_box()
    undo.click()
    expect(page.get_by_role("article")).to_contain_text("1 touch is kept here and on the way to the server.")
    assert (step.bounding_box(), undo.bounding_box()) == where
    held[0].continue_()
    expect(page.get_by_role("button", name="Redo")).to_be_visible()
    assert undo.bounding_box()["x"] == where[1]["x"]
