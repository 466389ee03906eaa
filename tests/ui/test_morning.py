"""A whole morning in the browser: from an empty evening to the last plate, with a guest who is late and a surface that dies."""

import re

import pytest
from playwright.sync_api import expect

from .steps import go, sound, until

DAY = "/morning/2031-03-04"


def add(page, text):
    page.get_by_label("A line for each").fill(text)
    page.get_by_role("button", name="Put down").click()


@pytest.mark.elsewhere
def test_from_the_evening_to_the_last_plate(page):
    go(page, "/morning/2031-03-05")  # the guests of the house come again: they are taken out, one is left
    come = page.get_by_role("region", name="Who comes")
    expect(come.get_by_role("button", name=re.compile("^Out: "))).to_have_count(0)  # their month is over by then: forgotten
    add(page, "Ada Lind, 07:30, coeliac, 3 cakes\nBo, 07:30, 2 cakes\nCleo, 07:30, kiwi")
    expect(page.get_by_role("alert").filter(has_text="kiwi")).to_be_visible()
    expect(page.get_by_label("A line for each")).to_have_value("Cleo, 07:30, kiwi")  # what was not understood stays to be written again
    expect(page.get_by_role("heading", name="Everybody eats on time")).to_be_visible()
    expect(come.get_by_text("allergy", exact=True)).to_be_visible()
    expect(page.get_by_role("region", name="Tonight").get_by_role("listitem").first).to_contain_text("Wiped bench, clean scoop")
    sound(page)
    page.get_by_role("button", name="Out: Bo").click()
    page.get_by_role("status").last.get_by_role("button", name="Undo").click()
    expect(come.get_by_role("button", name="Out: Bo")).to_be_visible()
    page.get_by_role("button", name="Run it").click()
    head = page.get_by_role("region", name="Next").get_by_role("heading", level=2)
    expect(head).to_contain_text("Weigh out")
    page.get_by_role("button", name="Someone is late").click()
    page.get_by_role("button", name="+15 minutes: Ada Lind").click()
    slip = page.get_by_role("status").filter(has_text="Planned anew")
    expect(slip).to_contain_text("Ada Lind eats at another hour; nobody else is touched.")
    slip.get_by_role("button", name="Keep the old").click()
    expect(slip).to_have_count(0)
    page.get_by_role("button", name="Something broke").click()
    page.get_by_role("button", name="Griddle plate no longer heats").click()
    expect(slip).to_be_visible()
    slip.get_by_role("button", name="Take it").click()
    sound(page)
    for _ in range(80):
        if head.inner_text() == "Every plate is out. Well done.":
            break  # each act is one key, and each is on the server before the next
        was = head.inner_text() + page.get_by_role("region", name="Next").get_by_role("list").inner_text()
        page.keyboard.press("n")
        page.keyboard.press("n")  # a second touch of the same act is none
        page.wait_for_function(
            "(was) => { const r = document.querySelector('section[aria-label=Next]'); const l = r.querySelector('ol');"
            " return r.querySelector('h2').innerText + (l ? l.innerText : '') !== was }",
            arg=was,
        )
    expect(head).to_have_text("Every plate is out. Well done.")
    page.keyboard.press("u")
    expect(head).not_to_have_text("Every plate is out. Well done.")


@pytest.mark.elsewhere
def test_what_was_asked_before_a_touch_and_comes_after_it_does_not_take_it_back(page):
    day, asked = "2031-03-06", []

    def late(route):
        if asked:
            return route.continue_()
        asked.append((route, route.fetch()))  # worked out now, told later

    go(page, f"/morning/{day}")
    add(page, "Dee, 07:30, 2 cakes")
    head = page.get_by_role("region", name="Next").get_by_role("heading", level=2)
    expect(page.get_by_role("heading", name="Everybody eats on time")).to_be_visible()
    page.keyboard.press("b")
    expect(page).to_have_url(re.compile("/bench"))
    page.route(re.compile(f"/api/morning/{day}$"), late)
    page.go_back()
    until(lambda: page.wait_for_timeout(50) or len(asked), lambda n: n == 1)
    page.get_by_role("button", name="Run it").click()
    was = head.inner_text()
    page.keyboard.press("n")
    expect(head).not_to_have_text(was, use_inner_text=True)
    now, (route, answer) = head.inner_text(), asked[0]
    with page.expect_event("requestfinished", lambda r: r == route.request):
        route.fulfill(response=answer)
    page.evaluate("() => new Promise((drawn) => requestAnimationFrame(() => setTimeout(drawn)))")
    assert head.inner_text() == now


@pytest.mark.elsewhere
def test_a_conflict_is_settled_with_one_touch_and_a_phone_shows_it_all(page):
    page.set_viewport_size({"width": 390, "height": 844})
    go(page, DAY)
    add(page, "\n".join(f"Guest {x}, 07:30, 2 waffles" for x in ("Ama", "Bel", "Cai")))
    conflicts = page.get_by_role("region", name="What does not fit yet")
    expect(conflicts.get_by_role("listitem").first).to_contain_text("too many at 07:30")
    sound(page)
    conflicts.get_by_role("button", name=re.compile(" takes ")).first.click()
    expect(page.get_by_role("heading", name="Everybody eats on time")).to_be_visible()
