"""Book, Larder, Kitchen and files in a real browser."""

import json
import re

import pytest
from playwright.sync_api import expect

from .steps import add, have, made, more, settled, sound, told


def family(page, name):
    page.get_by_role("link", name="Book", exact=True).click()
    page.get_by_role("link", name=re.compile(f"^{name}")).click()
    return page.get_by_role("list", name="Versions").get_by_role("listitem")


AT_ONCE = """async () => {
    const search = document.querySelector("input[type=search]"), diet = document.querySelector("select[aria-label='Fits a diet']");
    const set = (field, kind, value) => Object.getOwnPropertyDescriptor(kind.prototype, "value").set.call(field, value);
    for (const typed of ["butte", "butt"]) {
        set(search, HTMLInputElement, typed);
        search.dispatchEvent(new Event("input", { bubbles: true }));
        await null;
        if (search.value !== typed) return search.value;
    }
    set(diet, HTMLSelectElement, "vegetarian");
    diet.dispatchEvent(new Event("change", { bubbles: true }));
    await null;
    return location.search;
}"""


@pytest.mark.elsewhere("book")
def test_what_was_typed_stands_before_the_next_key_and_the_next_choice(page):
    """Faster than the page is drawn: what is typed is not taken back, and a choice right after it does not bring back what was."""
    expect(page.get_by_role("region", name="Batters").get_by_role("listitem")).to_have_count(7)
    assert page.evaluate(AT_ONCE) == "?q=butt&diet=vegetarian"


@pytest.mark.elsewhere("book")
def test_the_book_is_searched_filtered_put_away_and_taken_back(page):
    batters = page.get_by_role("region", name="Batters").get_by_role("listitem")
    expect(batters).to_have_count(7)
    page.get_by_label("Search names, ingredients and notes").fill("butterm")
    expect(batters).to_have_count(1)
    page.get_by_label("Search names, ingredients and notes").fill("")
    page.get_by_label("Fits a diet").select_option(label="fits egg-free")
    expect(batters).to_have_count(2)
    page.get_by_label("Fits a diet").select_option(label="any diet")
    page.get_by_label("Search names, ingredients and notes").fill("nothing of the kind")
    expect(page.get_by_text("Nothing on this shelf answers to that")).to_be_visible()
    page.get_by_label("Search names, ingredients and notes").fill("")
    batters.filter(has_text="Dome waffles").get_by_role("link").click()
    page.get_by_role("button", name="Archive").click()
    expect(batters).to_have_count(6)
    told(page).get_by_role("button", name="Undo").click()
    expect(batters).to_have_count(7)
    page.get_by_role("button", name="Rename…").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Dôme <i>waffles</i> 🧇")
    page.keyboard.press("Enter")
    expect(batters.filter(has_text="Dôme <i>waffles</i> 🧇")).to_have_count(1)
    told(page).get_by_role("button", name="Undo").click()
    expect(batters.filter(has_text="Dome waffles")).to_have_count(1)


@pytest.mark.elsewhere("book")
def test_versions_are_compared_sized_made_and_saved_as_files(page):
    versions = family(page, "First light")
    expect(versions).to_have_count(3)
    more(versions.nth(0), "Compare")
    more(versions.nth(2), "…with this")
    two = page.get_by_role("dialog")
    expect(two).to_contain_text("What changed")
    expect(two.get_by_role("region", name="Balances of both")).to_contain_text("Flow")
    page.keyboard.press("Escape")
    more(versions.nth(2), "Compare")
    page.get_by_role("link", name=re.compile("^Meridian")).click()  # or one of another family
    more(page.get_by_role("list", name="Versions"), "…with this")
    expect(page.get_by_role("dialog")).to_contain_text("First light buttermilk cakes, version 3, and Meridian crêpes, version 1")
    page.keyboard.press("Escape")
    page.get_by_role("link", name=re.compile("^First light")).click()
    more(versions.nth(2), "Made it…")
    page.get_by_role("dialog").get_by_role("button", name="Good", exact=True).click()
    expect(versions.nth(2)).to_contain_text("made")
    told(page).get_by_role("button", name="Undo").click()
    expect(versions.nth(2)).to_contain_text("untested")
    more(versions.nth(0), "Scale…")
    sheet = page.get_by_role("dialog")
    before = sheet.get_by_role("listitem").first.inner_text()
    sheet.get_by_role("textbox", name="pieces").fill("36")
    expect(sheet.get_by_role("listitem").first).not_to_have_text(before, use_inner_text=True)
    expect(sheet).to_contain_text(re.compile("3[56] pieces"))
    page.keyboard.press("Escape")
    more(versions.nth(1), "Save as…")
    expect(page.get_by_role("dialog")).to_contain_text("Does not carry")
    with page.expect_download() as download:
        page.get_by_role("link", name=re.compile("^Mutabilis JSON")).click()
    assert json.loads(download.value.path().read_text())


@pytest.mark.answers(422)
def test_a_page_of_ten_recipes_a_broken_one_and_what_is_no_recipe(page, tmp_path):
    recipes = [
        {"@type": "Recipe", "name": f"Cakes {n}", "recipeIngredient": ["200 g plain flour", "300 g milk", "2 eggs", "1 wisp of smoke"]}
        for n in range(10)
    ]
    whole = tmp_path / "saved.html"
    whole.write_text(f'<html><script type="application/ld+json">{json.dumps({"@graph": recipes})}</script></html>')
    broken = tmp_path / "broken.html"
    broken.write_text('<script type="application/ld+json">{"@type": "Recipe", "name": </script>')
    bomb = tmp_path / "bomb.json"
    bomb.write_text("[" * 200_000)
    large = tmp_path / "film.csv"
    with large.open("wb") as file:
        file.truncate(50_000_000)
    page.get_by_role("button", name="File…").click()
    sheet = page.get_by_role("dialog")
    for path, words in ((broken, "cannot be read|no recipe|broken"), (bomb, "deep|cannot be read|no recipe"), (large, "50 MB")):
        sheet.locator("input[type=file]").set_input_files(path)
        expect(sheet.get_by_role("alert")).to_contain_text(re.compile(words))
    sheet.locator("input[type=file]").set_input_files(whole)
    expect(sheet).to_contain_text("10 recipes in it")
    sheet.get_by_role("button", name=re.compile("^Cakes 7")).click()
    expect(page.get_by_role("heading", name="Cakes 7")).to_be_visible()
    expect(have(page)).to_contain_text("not read")
    told(page).get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", name="Ridge rye cakes")).to_be_visible()


@pytest.mark.elsewhere("larder")
def test_a_cup_a_price_and_a_pack_count_from_then_on(page):
    page.get_by_label("Search ingredients").fill("oat flouer")
    page.get_by_role("link", name=re.compile("^oat flour")).first.click()
    one = page.get_by_role("region", name="oat flour", exact=True)
    one.get_by_role("textbox", name="at g").fill("98")
    one.get_by_role("button", name="Use it").click()
    expect(one).to_contain_text("A cup is counted as 98 g, weighed here")
    told(page).get_by_role("button", name="Undo").click()
    expect(one).not_to_contain_text("weighed here")
    one.get_by_role("textbox", name="at g").fill("98")
    one.get_by_role("button", name="Use it").click()
    one.get_by_label("a pack holds").fill("500")
    one.get_by_label("and costs").fill("2")
    one.get_by_label("and costs").press("Enter")
    expect(one).to_contain_text(re.compile(r"That is 4(\.0+)? a kilogram"))
    page.keyboard.press("Tab")
    page.get_by_role("link", name="Bench", exact=True).click()
    page.get_by_role("button", name="New", exact=True).click()
    add(page, "1 cup oat flour\n200 g oat drink")
    expect(have(page).get_by_label("oat flour, grams")).to_have_value("98")
    # Oats vouch for nothing until the pack is read.
    have(page).get_by_role("button", name=re.compile("^oat flour")).click()
    expect(have(page).get_by_role("listitem").first).to_contain_text("not confirmed")
    page.get_by_role("textbox", name="Who reads the pack").fill("Ottilie")  # once; from then on it is one touch
    page.get_by_role("button", name="The pack says: certified gluten-free").click()
    expect(have(page).get_by_role("listitem").first).not_to_contain_text("not confirmed")
    told(page).get_by_role("button", name="Undo").click()
    expect(page.get_by_role("textbox", name="Who reads the pack")).to_have_count(0)
    page.get_by_role("button", name="Read the whole pack…").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_label("Who reads")).to_have_value("Ottilie")
    sheet.get_by_label("certified gluten-free").check()
    sound(page)
    sheet.get_by_role("button", name="That is what it says").click()
    expect(have(page).get_by_role("listitem").first).not_to_contain_text("not confirmed")
    told(page).get_by_role("button", name="Undo").click()
    expect(have(page).get_by_role("listitem").first).to_contain_text("not confirmed")


@pytest.mark.elsewhere("kitchen")
def test_a_diet_of_ones_own_is_tried_saved_used_and_put_away(page):
    page.get_by_role("link", name="Own diets").click()
    page.get_by_role("button", name="Make a diet").click()
    rule = page.get_by_role("region", name="A diet", exact=True)
    rule.get_by_label("Name of the diet").fill("Постный стол")  # a name need not be in these letters
    rule.get_by_role("group", name="Leave out what comes from").get_by_label("egg").check()
    tried = page.get_by_role("region", name="Tried on the Book")
    expect(tried.get_by_role("listitem").filter(has_text="Ridge rye cakes")).to_contain_text("does not fit")
    expect(tried.get_by_role("listitem").filter(has_text="First light")).to_contain_text("fits")
    rule.get_by_label(re.compile("^Leave out these ingredients")).fill("oat drink")
    page.get_by_role("option", name=re.compile("^oat drink")).first.click()
    rule.get_by_role("button", name="Save this diet").click()
    expect(told(page)).to_contain_text("saved as a rule file")
    page.keyboard.press("Tab")
    page.get_by_role("link", name="Bench", exact=True).click()
    page.get_by_role("button", name="Постный стол").click()
    settled(page)
    expect(made(page).get_by_role("heading", level=2)).to_contain_text("постный стол")
    expect(made(page).get_by_role("button", name=re.compile("^oat drink"))).to_have_count(0)
    page.keyboard.press("k")
    page.get_by_role("link", name="Own diets").click()
    page.get_by_role("button", name="Постный стол").click()
    page.get_by_role("button", name="Archive").click()
    expect(page.get_by_role("button", name="Постный стол")).to_have_count(0)
    told(page).get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Постный стол")).to_have_count(1)


@pytest.mark.elsewhere("kitchen")
def test_the_kitchen_reads_and_writes_numbers_its_own_way(page):
    page.get_by_role("group", name=re.compile("[Nn]umbers")).get_by_role("button", name=re.compile(",")).click()
    page.keyboard.press("Tab")
    page.get_by_role("link", name="Bench", exact=True).click()
    expect(page.get_by_role("button", name=re.compile("^Flow"))).to_contain_text(re.compile(r"\d,\d"))
    field = have(page).get_by_label("brown sugar, grams")
    field.fill("9,5")
    field.blur()
    expect(field).to_have_value("9,5")
