"""What is touched offline, in one tab or two, is never lost; what is refused holds nothing up; a field under the hand belongs to the hand; and a
line's question is answered by one touch."""

import re
import time

import pytest
from playwright.sync_api import expect

from .counter import Hands
from .steps import add, go, have, made, quiet, settled, sound, told, until

PUT_BAD = """
async ([batch, id]) => {
  const db = await new Promise((done, no) => { const r = indexedDB.open("mutabilis", 1); r.onsuccess = () => done(r.result); r.onerror = no; });
  const write = db.transaction("acts", "readwrite");
  write.objectStore("acts").add({ batch, event: { kind: "noted", text: "x".repeat(5000), id, at: Date.now() / 1000 } });
  await new Promise((done) => { write.oncomplete = done; });
  db.close();
}
"""


@pytest.mark.elsewhere
@pytest.mark.answers(422)
def test_one_refused_act_holds_nothing_up_and_is_shown(page, house):
    hands = Hands(house).to("cook")
    go(page, f"/stove/{hands.id}")
    cook = page.get_by_role("region", name="Cook", exact=True)
    expect(cook.get_by_role("button", name="Turned")).to_be_visible()
    page.context.set_offline(True)
    page.evaluate(PUT_BAD, [hands.id, "e" * 16])
    cook.get_by_role("button", name="Turned").click()
    expect(page.get_by_role("article")).to_contain_text("kept here")
    page.context.set_offline(False)
    refused = page.get_by_role("alert").filter(has_text="Not taken")
    expect(refused).to_contain_text("A note at")
    until(hands.look, lambda b: b["cooking"]["loads"][0]["turned"] is not None)
    page.reload()  # it is kept until someone has seen it
    expect(refused).to_contain_text("A note at")
    sound(page)
    refused.get_by_role("button", name="Remove it").click()
    expect(refused).to_have_count(0)


@pytest.mark.elsewhere
def test_two_tabs_offline_lose_nothing(page, house):
    hands = Hands(house).to("cook")
    other = page.context.new_page()
    for tab in (page, other):
        go(page, f"/stove/{hands.id}") if tab is page else tab.goto(f"{house.url}stove/{hands.id}")
        expect(tab.get_by_role("button", name="Turned")).to_be_visible()
    before = hands.look()["count"]
    page.context.set_offline(True)
    page.get_by_role("button", name="Turned").click()
    for name in ("Judge", "Rest", "Cook"):
        other.get_by_role("navigation", name="Steps of the work").get_by_role("button", name=name, exact=True).click()
    expect(other.get_by_role("article")).to_contain_text("kept here")
    page.close()  # the tab that was touched first is gone before the network is back
    other.context.set_offline(False)
    until(hands.look, lambda b: b["count"] >= before + 4)
    assert hands.batch["count"] == before + 4 and hands.batch["cooking"]["loads"][0]["turned"] is not None
    other.close()


@pytest.mark.elsewhere
def test_what_is_typed_stands_while_answers_are_late(page, house):
    go(page, "/larder/oat_flour")
    one = page.get_by_role("region", name="oat flour", exact=True)
    held = []
    page.route("**/api/larder/oat_flour", lambda route: held.append(route) if route.request.method == "PUT" else route.continue_())
    one.get_by_role("textbox", name="at g").fill("98")
    one.get_by_role("button", name="Use it").click()
    holds = one.get_by_label("a pack holds")
    holds.fill("500")
    holds.press("Tab")
    one.get_by_label("and costs").fill("2")
    for _ in range(2):
        until(lambda: page.wait_for_timeout(20) or held, bool)
        held.pop(0).continue_()
    expect(holds).to_have_value("500")
    expect(one.get_by_label("and costs")).to_have_value("2")
    page.unroute("**/api/larder/oat_flour")
    one.get_by_label("and costs").press("Enter")
    expect(one).to_contain_text(re.compile(r"That is 4(\.0+)? a kilogram"))
    page.reload()
    expect(one.get_by_label("a pack holds")).to_have_value("500")
    expect(one).to_contain_text("A cup is counted as 98 g")


def test_a_line_typed_while_another_is_read_is_not_taken_away(page):
    waiting = []
    page.route("**/api/read", lambda route: waiting.append(route))
    box = have(page).get_by_label("Add a line")
    add(page, "20 g honey")
    box.fill("30 g walnuts, chop")
    until(lambda: page.wait_for_timeout(20) or waiting, bool)
    waiting.pop().continue_()
    expect(have(page)).to_contain_text("honey")
    expect(box).to_have_value("30 g walnuts, chop")


def test_one_touch_answers_what_a_line_leaves_open(page):
    page.get_by_role("button", name="New", exact=True).click()
    add(page, "200 g flour\n8 g baking powder\n250 ml milk\n1 egg\n60 g blueberries or chopped walnuts\n20 g raisins, zorbled")
    settled(page)
    for diet in ("Vegan", "Gluten-free"):
        button = page.get_by_role("button", name=diet, exact=True)
        if button.get_attribute("aria-pressed") == "true":
            button.click()
    page.get_by_role("button", name="Nut-free", exact=True).click()
    row = have(page).get_by_role("listitem").filter(has_text="blueberries")
    expect(row).to_contain_text("asks")
    row.get_by_role("button").first.click()
    why = page.get_by_role("region", name="Why")
    expect(why).to_contain_text("Which one: blueberries or walnuts?")
    why.get_by_role("button", name="blueberries", exact=True).click()
    expect(row).not_to_contain_text("asks")
    quiet(page)  # the answer to it is there, and nothing moves under the next touch
    raisins = have(page).get_by_role("listitem").filter(has_text="raisins")
    raisins.get_by_role("button").first.click()
    expect(why).to_contain_text("What is “zorbled”?")
    sound(page)
    why.get_by_role("button", name="How it is prepared").click()
    expect(raisins).not_to_contain_text("asks")
    settled(page)
    page.keyboard.press("u")  # taken back like everything
    expect(raisins).to_contain_text("asks")
    go(page, "/kitchen/learned")
    words = page.get_by_role("region", name="Words of this kitchen")
    expect(words).to_contain_text("zorbled with raisins")
    words.get_by_role("button", name="Forget").click()
    expect(words).to_have_count(0)


@pytest.mark.elsewhere
def test_copies_are_shown_made_and_put_back(page):
    go(page, "/kitchen/copies")
    copies = page.get_by_role("region", name="Copies")
    expect(copies.get_by_role("row").filter(has_text="of the day")).to_have_count(1)
    copies.get_by_role("button", name="Make a copy now").click()
    row = copies.get_by_role("row").filter(has_text="asked for")
    expect(row).to_contain_text("kB")
    sound(page)
    row.get_by_role("button", name="Put it back").click()
    expect(told(page)).to_contain_text("The book is as")
    expect(copies.get_by_role("row").filter(has_text="before a restore")).to_have_count(1)


@pytest.mark.elsewhere
@pytest.mark.answers(404)
def test_an_address_of_which_nothing_is_known(page, house):
    page.goto(f"{house.url}moon/and/stars")
    expect(page.get_by_role("heading", name="There is nothing at this address")).to_be_visible()
    sound(page)
    page.get_by_role("main").get_by_role("link", name="To the Bench").click()
    expect(made(page)).to_be_visible()


@pytest.mark.elsewhere
def test_each_touch_takes_back_one_act_more(page, house):
    """Touches that come before the answer to the one before, and those on acts that the server has yet to hear."""
    hands = Hands(house).to("cook")
    go(page, f"/stove/{hands.id}")
    steps = page.get_by_role("navigation", name="Steps of the work")
    back = page.get_by_role("button", name="Undo")
    for name in ("Judge", "Rest", "Finish"):
        steps.get_by_role("button", name=name, exact=True).click()
        expect(steps.get_by_role("button", name=name, exact=True)).to_have_attribute("aria-current", "step")
    page.route("**/events", lambda route: (time.sleep(0.3), route.continue_()))
    for _ in range(3):
        back.click()
    expect(steps.get_by_role("button", name="Cook", exact=True)).to_have_attribute("aria-current", "step")
    page.unroute("**/events")
    page.context.set_offline(True)
    for name in ("Judge", "Rest"):
        steps.get_by_role("button", name=name, exact=True).click()
    back.click()
    page.context.set_offline(False)
    expect(steps.get_by_role("button", name="Judge", exact=True)).to_have_attribute("aria-current", "step")
    expect(page.get_by_role("article")).to_have_attribute("aria-busy", "false")
    assert hands.look()["stage"] == "judge"


def test_a_note_that_names_an_allergen_says_so_until_it_is_left_out(page):
    page.set_viewport_size({"width": 390, "height": 844})
    page.get_by_role("button", name="Nut-free", exact=True).click()
    page.get_by_role("group", name="Which batter is in sight").get_by_role("button", name="Have").click()
    add(page, "Note: may contain nuts and zorble")
    note = have(page).get_by_role("listitem").filter(has_text="may contain nuts")
    expect(note).to_contain_text("names tree nut, peanut, “zorble”")
    assert note.get_by_text("Note: may contain").bounding_box()["width"] > 200  # legible beside its button, also on a phone
    sound(page)
    note.get_by_role("button", name="Leave out").click()
    expect(note).to_have_count(0)
    expect(have(page).get_by_text("is no ingredient")).to_have_count(0)


def test_a_place_opens_with_the_server_gone_and_says_so(browser, house):
    """The shell is kept on the device: a reload without a server is a page of ours, and with one again all is there."""
    context = browser.new_context(viewport={"width": 390, "height": 844}, reduced_motion="reduce")
    page = context.new_page()
    page.goto(house.url + "book")
    page.get_by_role("heading", name="Book").first.wait_for()
    page.evaluate("navigator.serviceWorker.ready.then(() => new Promise((done) => setTimeout(done, 300)))")
    house.stop()
    page.goto(house.url + "larder")
    expect(page.get_by_text(re.compile("server|cannot be reached|does not answer")).first).to_be_visible()
    kept = page.evaluate(
        "caches.keys().then(async (k) => (await Promise.all(k.map(async (x) => (await (await caches.open(x)).keys()).map((r) => r.url)))).flat())"
    )
    assert kept and not any("/api/" in url for url in kept)
    house.start()
    page.get_by_role("heading", name="Larder").first.wait_for()  # asked again by itself
    context.close()


@pytest.mark.elsewhere("book")
def test_a_place_opens_with_the_network_lost_where_nothing_can_be_kept(page):
    """By plain http in a kitchen's own network a browser keeps no program: a page that was opened once has all its places."""
    page.add_init_script("Object.defineProperty(Navigator.prototype, 'serviceWorker', { get: () => undefined })")
    with page.expect_response(re.compile("/assets/CardPage-.*js")):  # the last of the places
        page.reload()
    quiet(page)
    page.context.set_offline(True)
    page.get_by_role("link", name="Larder", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("does not answer")  # said by the place itself
    expect(page.get_by_text("Opening…")).to_have_count(0)
    page.context.set_offline(False)
    expect(page.get_by_role("heading", name="Larder").first).to_be_visible()


@pytest.mark.elsewhere
def test_what_is_shown_stands_however_long_the_server_is_gone(page):
    go(page, "/book")
    batters = page.get_by_role("region", name="Batters").get_by_role("listitem")
    expect(batters).to_have_count(7)
    tried = []
    page.route("**/api/book?*", lambda route: (tried.append(route.request.url), route.abort()))
    page.get_by_label("Search names, ingredients and notes").fill("butterm")
    expect(page.get_by_role("alert")).to_contain_text("does not answer")
    until(lambda: page.wait_for_timeout(100) or len(tried), lambda n: n > 3)
    expect(batters).to_have_count(7)
    page.unroute("**/api/book?*")
    expect(batters).to_have_count(1)  # asked again by itself
    expect(page.get_by_role("alert")).to_have_count(0)


@pytest.mark.elsewhere
def test_a_part_that_cannot_be_fetched_takes_nothing_away_and_comes_later(page):
    tried = []
    page.route("**/assets/Find-*.js", lambda route: (tried.append(route.request.url), route.abort()))
    go(page, "/book")
    expect(page.get_by_role("region", name="Batters").get_by_role("listitem")).to_have_count(7)
    page.evaluate("window.stood = true")
    page.keyboard.press("f")
    expect(page.get_by_role("dialog", name="Find")).to_be_visible()
    until(lambda: page.wait_for_timeout(100) or len(tried), lambda n: n > 2)
    assert page.evaluate("window.stood") is True
    page.unroute("**/assets/Find-*.js")
    expect(page.get_by_role("dialog", name="Find").get_by_role("combobox")).to_be_visible()
    assert page.evaluate("window.stood") is True  # and was never loaded anew, though the server was there all the time


@pytest.mark.elsewhere
def test_a_page_whose_program_was_replaced_is_loaded_anew_once(page):
    def newer(route):
        if route.request.is_navigation_request():
            route.continue_()
        else:
            route.fulfill(body=route.fetch().text().replace("/assets/index-", "/assets/newer-"), content_type="text/html")

    asked = []
    page.route("**/assets/Find-*.js", lambda route: (asked.append(route.request.url), route.abort()))
    go(page, "/book")
    page.route("**/book", newer)
    with page.expect_event("load"):
        page.keyboard.press("f")
    expect(page.get_by_role("region", name="Batters").get_by_role("listitem")).to_have_count(7)
    page.evaluate("window.stood = true")
    tried = len(asked)
    page.keyboard.press("f")  # the part is gone here as well: not loaded anew over and over
    until(lambda: page.wait_for_timeout(100) or len(asked), lambda n: n > tried + 1)
    assert page.evaluate("window.stood") is True
