"""The Journal in the browser: a batch explained, a question answered, one change carried to the Bench, batches compared, a pack traced."""

import re

import pytest
from playwright.sync_api import expect

from tests.pictures import picture

from .steps import Finger, go, quiet, sound, until


@pytest.mark.log
@pytest.mark.elsewhere("journal")
def test_a_fault_is_explained_and_one_change_goes_to_the_bench(page):
    log = page.get_by_role("region", name="Log")
    expect(log.get_by_role("listitem")).to_have_count(60)
    log.get_by_label("Fault").select_option(label="too thick")
    expect(log.get_by_role("listitem").first).to_contain_text("too thick")
    log.get_by_role("link").first.click()
    why = page.get_by_role("region", name="Why")
    expect(why.get_by_role("listitem").first).to_contain_text("Too little water for these flours")
    happened = page.get_by_role("region", name="What was meant, what happened")
    expect(happened).to_contain_text(" g less")
    sound(page)
    why.get_by_role("button", name="Other faults…").click()
    page.get_by_role("dialog").get_by_role("button", name="in all of them").click()
    page.get_by_role("dialog").get_by_role("button", name="Keep").click()
    expect(why.get_by_role("button", name="Undo what was said last")).to_be_visible()
    expect(page.get_by_role("region", name="Next time")).to_contain_text("g more")
    page.get_by_role("region", name="Next time").get_by_role("button", name="Take it along").click()
    expect(page).to_have_url(re.compile("/bench$"))
    expect(page.get_by_role("status").last).to_contain_text("A new version, with that one change.")


@pytest.mark.elsewhere
@pytest.mark.log
def test_batches_are_compared_traced_and_read_on_a_phone(page):
    go(page, "/journal")
    log = page.get_by_role("region", name="Log")
    for n in (0, 1):
        log.get_by_role("checkbox").nth(n).check()
    log.get_by_role("button", name="Compare 2 batches").click()
    expect(page.get_by_role("dialog")).to_contain_text(re.compile("comparison proves none|One thing changed|Nothing that was recorded"))
    expect(page.get_by_role("dialog").get_by_role("columnheader")).to_have_count(4)
    expect(page.get_by_role("dialog")).to_contain_text("Reckoned and found")
    sound(page)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Trace a pack").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("combobox", name="Ingredient").fill("oat flour, certified")
    option = sheet.get_by_role("option").first
    called = option.inner_text()
    option.click()
    expect(sheet.get_by_text(called, exact=True)).to_be_visible()
    sheet.get_by_label("The pack").fill("lot 7")
    sheet.get_by_role("button", name="Where did it go?").click()
    expect(sheet.get_by_role("status")).to_contain_text("the maker's notice and the authorities decide")
    expect(sheet).not_to_contain_text(re.compile(r"\bsafe\b"))
    expect(sheet.get_by_role("region", name="Ruled out")).not_to_contain_text("Discard")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Trace a pack").click()  # the other way is within reach while the field has the focus
    sheet.get_by_role("button", name="from a guest back to the packs").click()
    sheet.get_by_label("Who ate").fill("juna pell")
    sheet.get_by_role("button", name="What was in it?").click()
    expect(sheet.get_by_role("status")).to_contain_text("known to have eaten of it")
    expect(sheet.get_by_role("status")).to_contain_text("lot ")
    sound(page)
    page.keyboard.press("Escape")
    page.set_viewport_size({"width": 390, "height": 844})
    go(page, "/journal")
    log.get_by_role("link").first.click()
    expect(page.get_by_role("heading", level=2)).to_be_visible()
    sound(page)


@pytest.mark.elsewhere
def test_an_empty_journal_says_what_will_stand_there(page):
    go(page, "/journal")
    expect(page.get_by_text("Whatever is made at the Stove stands here")).to_be_visible()
    sound(page)


@pytest.mark.elsewhere
@pytest.mark.log
@pytest.mark.answers(422)
def test_a_photo_a_trial_and_a_log_that_comes_back(page, tmp_path):
    go(page, "/journal")
    log = page.get_by_role("region", name="Log")
    log.get_by_label("Fault").select_option(label="too thick")
    second = log.get_by_role("link").nth(1)  # the first has a photo of the house's own
    expect(log.get_by_role("link").filter(has_not_text="too thick")).to_have_count(0)
    second.click()
    expect(second).to_have_attribute("aria-current", "page")
    photos = page.get_by_role("region", name="Photos")
    photos.get_by_label("Add a photo").set_input_files({"name": "no.jpg", "mimeType": "image/jpeg", "buffer": b"not a photo"})
    expect(photos.get_by_role("alert")).to_contain_text("no photo")
    photos.get_by_label("Add a photo").set_input_files({"name": "one.jpg", "mimeType": "image/jpeg", "buffer": picture()})
    expect(photos.get_by_role("img")).to_have_count(1)
    photos.get_by_role("button", name=re.compile("^1 of 1")).click()
    sound(page)
    page.get_by_role("dialog").get_by_role("button", name="Take it away").click()
    expect(photos.get_by_role("img")).to_have_count(0)
    page.get_by_role("button", name="Undo", exact=True).last.click()
    expect(photos.get_by_role("img")).to_have_count(1)
    page.get_by_role("button", name="Try it in two halves of one bowl").click()
    trial = page.get_by_role("region", name="A trial")
    trial.get_by_role("button", name="Plate 1 is better").click()
    expect(trial).to_contain_text("of 1 pairs")
    sound(page)
    with page.expect_download() as saved:
        page.get_by_role("link", name="Everything").click()
    saved.value.save_as(tmp_path / "journal.json")
    page.get_by_label("Read a log in").set_input_files(tmp_path / "journal.json")
    expect(page.get_by_role("status").last).to_contain_text("60 here already")
    page.set_viewport_size({"width": 390, "height": 844})
    sound(page)
    expect(page.get_by_role("region", name="Held back")).to_be_visible()


@pytest.mark.log
@pytest.mark.elsewhere("journal")
def test_a_narrowed_log_leaves_what_is_read_and_what_is_pressed(page):
    """A search puts no other batch beside the log, and takes no row away under the finger."""
    log, read = page.get_by_role("region", name="Log"), page.get_by_role("article").get_by_role("heading", level=2)
    rows = log.get_by_role("listitem")
    expect(rows.nth(2)).to_be_visible()
    before = rows.count()
    newest, second = (rows.nth(n).locator("b").first.inner_text() for n in (0, 1))
    expect(read).to_contain_text(newest)
    waiting = []
    page.route(re.compile(r"/api/journal\?.*q="), lambda route: waiting.append(route))
    log.get_by_role("textbox").fill("nothing of the kind")
    until(lambda: page.wait_for_timeout(50) or len(waiting), lambda n: n == 1)
    finger = Finger(page, False)
    finger.down(rows.nth(1))
    waiting[0].continue_()
    quiet(page)  # the answer has come
    assert rows.count() == before
    expect(read).to_contain_text(newest)
    finger.up()
    expect(read).to_contain_text(second)
    expect(rows).to_have_count(0)
