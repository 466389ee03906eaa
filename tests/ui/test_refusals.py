"""What is refused is said where it was typed, in words, and nothing is lost by it; what goes out of the house comes in again."""

import re

import pytest
from playwright.sync_api import expect

from .steps import go, have, made, more, quiet, settled, told

LABEL = {
    "energy": 350,
    "fat": 2.5,
    "of which saturates": 0.5,
    "carbohydrate": 70,
    "of which sugars": 2,
    "fibre": 6,
    "protein": 11,
    "salt": 0.02,
}


def fill(sheet, name, **changed):
    sheet.get_by_label("Name").fill(name)
    for label, value in {**LABEL, **changed}.items():
        sheet.get_by_role("textbox", name=re.compile(f"^{label}")).fill(str(value))


@pytest.mark.elsewhere
@pytest.mark.answers(422)
def test_a_label_that_cannot_be_is_told_before_it_is_kept(page):
    go(page, "/larder?pack=new")
    sheet = page.get_by_role("dialog")
    keep = sheet.get_by_role("button", name="Keep this pack")
    expect(sheet).to_contain_text("Once the eight figures stand")
    expect(keep).to_be_disabled()
    fill(sheet, "Loft oats", energy=90)
    expect(sheet.get_by_role("region", name="Inferred").get_by_role("alert")).to_contain_text("where the parts give about")
    keep.click()
    expect(sheet.get_by_role("alert").last).to_contain_text("Nothing was changed")
    sheet.get_by_role("textbox", name=re.compile("^energy")).fill("350")
    keep.click()
    expect(page.get_by_role("region", name="Loft oats")).to_contain_text("Guessed from its label")
    # A second of the same name would be taken for the first.
    page.get_by_role("button", name="Enter a pack…").click()
    fill(sheet, "loft OATS")
    keep.click()
    expect(sheet.get_by_role("alert")).to_contain_text("already")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="own packs").click()
    rows = page.get_by_role("region", name="Ingredients").get_by_role("listitem")
    expect(rows.filter(has_text="own pack")).to_have_count(1)
    page.get_by_role("region", name="Ingredients").get_by_role("link", name=re.compile("^Loft oats")).click()
    page.get_by_role("button", name="Archive").click()
    told(page).get_by_role("button", name="Undo").click()
    expect(rows.filter(has_text="own pack")).to_have_count(1)


@pytest.mark.elsewhere
@pytest.mark.answers(422)
def test_a_diet_that_would_fit_everything_or_bears_anothers_name_is_refused(page):
    go(page, "/kitchen/diets")
    page.get_by_role("button", name="Make a diet").click()
    rule = page.get_by_role("region", name="A diet", exact=True)
    rule.get_by_label("Name of the diet").fill("Open table")
    rule.get_by_role("button", name="Save this diet").click()
    expect(rule.get_by_role("alert")).to_contain_text("would fit everything")
    rule.get_by_role("group", name="Leave out what holds").get_by_label("sesame").check()
    rule.get_by_label("Name of the diet").fill("vegan")
    rule.get_by_role("button", name="Save this diet").click()
    expect(rule.get_by_role("alert")).to_contain_text("taken for each other")
    rule.get_by_label("Name of the diet").fill("Sesame table")
    rule.get_by_role("button", name="Save this diet").click()
    expect(told(page)).to_contain_text("saved as a rule file")
    told(page).get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Sesame table")).to_have_count(0)


@pytest.mark.elsewhere
def test_numbers_that_cannot_be_are_told_at_the_field_and_not_kept(page):
    go(page, "/kitchen")
    cup = page.get_by_role("textbox", name=re.compile("^a cup holds"))
    for typed, words in (("12", "101 or more"), ("4000", "399 or less"), ("cup", "must be a number"), ("", "missing")):
        cup.fill(typed)
        expect(page.get_by_role("alert")).to_contain_text(words)
    cup.blur()
    expect(cup).to_have_value("236.588")
    cup.fill("250")
    cup.press("Enter")
    expect(page.get_by_role("button", name="metric, 250 mL")).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="none", exact=True).click()  # at once after it: neither change undoes the other
    quiet(page)
    page.reload()
    expect(cup).to_have_value("250")
    expect(page.get_by_role("button", name="none", exact=True)).to_have_attribute("aria-pressed", "true")


@pytest.mark.elsewhere("book")
def test_the_whole_book_goes_out_and_comes_in_without_doubles(page, tmp_path):
    with page.expect_download() as download:
        page.get_by_role("link", name="Save all").click()
    path = tmp_path / "all.json"
    download.value.save_as(path)
    page.get_by_role("region", name="Batters").get_by_role("link").first.click()
    more(page.get_by_role("list", name="Versions"), "Duplicate")
    expect(page.get_by_role("region", name="Batters").get_by_role("listitem")).to_have_count(8)
    page.get_by_role("button", name="Read a file…").click()
    page.get_by_role("dialog").locator("input[type=file]").set_input_files(path)
    expect(page.get_by_role("dialog").get_by_role("status")).to_contain_text("7 here already and left as they were")
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name="Batters").get_by_role("listitem")).to_have_count(8)
    # One version goes out as text, and lies on the bench again.
    more(page.get_by_role("list", name="Versions"), "Save as…")
    with page.expect_download() as download:
        page.get_by_role("link", name="Plain text").click()
    text = tmp_path / "one.txt"
    download.value.save_as(text)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Read a file…").click()
    page.get_by_role("dialog").locator("input[type=file]").set_input_files(text)
    expect(page).to_have_url(re.compile("/bench$"))
    settled(page)
    expect(have(page)).not_to_contain_text("not read")
    expect(made(page).get_by_role("listitem").first).to_be_visible()
