"""The Bench beyond its first answer: every wish, every picture, every swap, in the browser."""

import re

import pytest
from playwright.sync_api import expect

from .steps import add, expect_fits, have, made, settled


def wished(page):
    return page.get_by_role("list", name="Wished").get_by_role("button")


def more(page):
    page.get_by_role("button", name="More wishes").click()


def test_every_wish_stands_in_sight_and_can_be_let_go(page):
    more(page)
    panel = page.get_by_role("region", name="Wishes")
    panel.get_by_label("make it as").select_option(label="waffles")
    for label, value in (
        ("pieces", "9"),
        ("ready in", "45"),
        ("net carbohydrate", "40"),
        ("sodium", "900"),
        ("protein", "3"),
        ("fibre", "1"),
    ):
        panel.get_by_role("textbox", name=re.compile(f"^{label}")).fill(value)
    for words in ("thinner", "cups and spoons"):
        panel.get_by_role("button", name=words, exact=True).click()
    panel.get_by_label("only with what is in the Larder").check()
    chips = (
        "as waffles", "9 pieces", "ready in 45 min", "thinner", "in cups and spoons", "only what is in", "net carbohydrate at most 40 g",
        "sodium at most 900 mg", "protein at least 3 g", "fibre at least 1 g",
    )  # fmt: skip
    expect(wished(page)).to_have_count(len(chips))
    for words in chips:
        wished(page).filter(has_text=words).click()
    expect(page.get_by_role("list", name="Wished")).to_have_count(0)
    settled(page)
    expect_fits(page, "vegan, gluten-free")


def test_another_form_and_size_are_solved_for(page):
    flow = page.get_by_role("button", name=re.compile("^Flow"))
    before = flow.inner_text()
    more(page)
    page.get_by_label("make it as").select_option(label="crêpes")
    settled(page)
    expect(flow).not_to_have_text(before, use_inner_text=True)
    page.get_by_role("textbox", name="pieces").fill("20")
    settled(page)
    expect(made(page)).to_contain_text(re.compile(r"(19|20) pieces of 60 mL"))
    page.get_by_role("textbox", name=re.compile("^a piece of")).fill("80")
    settled(page)
    expect(made(page)).to_contain_text(re.compile(r"pieces of 80 mL"))


def test_only_what_is_in_leaves_nothing_to_buy(page):
    expect(made(page)).to_contain_text("buy")
    more(page)
    page.get_by_role("button", name="Gluten-free", exact=True).click()
    page.get_by_label("only with what is in the Larder").check()
    settled(page)
    expect(made(page)).to_contain_text("All of it is in")


def test_wishes_that_clash_are_named_with_the_nearest(page):
    more(page)
    page.get_by_role("textbox", name=re.compile("^energy")).fill("5")
    settled(page)
    refused = page.get_by_role("region", name="Cannot be done")
    expect(refused).to_be_visible()
    expect(made(page)).to_contain_text("Closest match")
    page.get_by_role("textbox", name=re.compile("^energy")).fill("")
    settled(page)
    expect(refused).to_have_count(0)


def test_ribbons_show_one_kind_of_work_at_a_time(page):
    ribbons = page.get_by_role("img", name=re.compile("^Where the work went")).locator("path")
    work = page.get_by_label("Show what each ingredient does")
    before = ribbons.count()
    options = work.get_by_role("option").all_inner_texts()
    assert options[0] == "everything" and len(options) >= 5
    seen = set()
    for option in options[1:]:
        work.select_option(label=option)
        seen.add(ribbons.count())
    assert max(seen) < before and len(seen) > 1
    work.select_option(label="everything")
    assert ribbons.count() == before


def test_pictures_say_in_words_what_they_show(page):
    pictures = page.get_by_role("region", name="Pictures")
    water = pictures.get_by_role("img", name=re.compile("water", re.IGNORECASE))
    acid = pictures.get_by_role("img", name=re.compile("acid", re.IGNORECASE))
    for picture, word in ((water.first, "whole milk"), (acid.first, "baking powder")):
        said = picture.get_attribute("aria-label") or picture.text_content()
        assert word in said and re.search(r"\d", said)
    before = pictures.inner_text()
    have(page).get_by_label("whole milk, grams").fill("400")
    expect(pictures).not_to_have_text(before, use_inner_text=True)


def test_every_balance_opens_to_its_lines_and_says_how_sure_it_is(page):
    balances = page.get_by_role("region", name="Balances").get_by_role("button")
    expect(balances).to_have_count(9)
    for n in range(9):
        name = balances.nth(n).inner_text().split("\n")[0]
        balances.nth(n).click()
        sheet = page.get_by_role("dialog", name=name)
        expect(sheet.get_by_role("row")).not_to_have_count(0)
        expect(sheet).to_contain_text(re.compile("19 in 20|sure|confidence"))
        page.keyboard.press("Escape")
        expect(sheet).to_have_count(0)


def test_a_line_is_swapped_by_hand_and_taken_back(page):
    flour = made(page).get_by_role("listitem").first
    page.get_by_role("button", name=re.compile("^Compare the")).wait_for()
    before = made(page).inner_text()
    flour.get_by_role("button").first.click()
    page.get_by_role("button", name="Swap by hand…").click()
    sheet = page.get_by_role("dialog")
    first = sheet.get_by_role("listitem").first
    name = first.locator("b").first.inner_text()
    expect(first).to_contain_text("by weight")
    first.get_by_role("button", name="Take it").click()
    expect(made(page).get_by_label(f"{name}, grams")).to_be_visible()
    expect(made(page).get_by_role("button", name="mend the rest")).to_be_visible()
    page.keyboard.press("u")
    expect(made(page)).to_have_text(before, use_inner_text=True)
    page.keyboard.press("r")
    expect(made(page).get_by_label(f"{name}, grams")).to_be_visible()
    made(page).get_by_role("button", name="back to the answer").click()
    expect(made(page)).to_have_text(before, use_inner_text=True)


def test_odd_amounts_are_asked_about_and_ranges_stay(page):
    page.get_by_role("button", name="New", exact=True).click()
    add(page, "Odd cakes\n250 g flour\n3 tbsp baking powder\n300 g milk\n2-3 eggs")
    rows = have(page).get_by_role("listitem")
    expect(page.get_by_role("heading", name="Odd cakes", level=1)).to_be_visible()
    expect(rows.filter(has_text="baking powder")).to_contain_text("asks")
    expect(rows.filter(has_text="eggs")).to_contain_text("2-3 eggs")
    rows.filter(has_text="baking powder").get_by_role("button").first.click()
    expect(page.get_by_role("region", name="Why")).to_contain_text("perhaps")
    rows.filter(has_text="eggs").get_by_role("button").first.click()
    expect(page.get_by_role("region", name="Why")).to_contain_text("measuring included")


@pytest.mark.parametrize("order, words", [("one bowl", "Dry on top"), ("a blender", "Blend")])
def test_the_card_follows_the_bowl_it_is_made_in(page, order, words):
    page.keyboard.press("c")
    card = page.get_by_role("article")
    before = card.get_by_role("region", name="Method").inner_text()
    page.get_by_role("button", name=order, exact=True).click()
    expect(card.get_by_role("region", name="Method")).not_to_have_text(before, use_inner_text=True)
    expect(card.get_by_role("region", name="Method")).to_contain_text(re.compile(words))
    expect(card).to_contain_text("cook through")
    expect(card).to_contain_text("Contains:")
