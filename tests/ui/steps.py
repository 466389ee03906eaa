"""What the journeys share: the two sides of the Bench, opening a batter, and the accessibility check."""

import re
import time
from collections.abc import Sequence
from pathlib import Path

from playwright.sync_api import Page, expect

AXE = Path(__file__).parents[2] / "web/node_modules/axe-core/axe.min.js"


def have(page: Page):
    return page.get_by_role("region", name="You have")


def made(page: Page):
    return page.get_by_role("region", name="You will make")


def expect_fits(page: Page, diets: str) -> None:
    """The head of the answer says for whom it is, and that it fits."""
    head = made(page).get_by_role("heading", level=2)
    expect(head).to_contain_text(f"You will make: {diets}")
    expect(head).to_contain_text(": fits")


def more(place, act: str) -> None:
    """One of the acts behind "More…" of a version."""
    place.get_by_text("More…").first.click()
    place.get_by_role("button", name=act).first.click()


def settled(page: Page) -> None:
    expect(made(page)).to_have_attribute("aria-busy", "false")


def watched(page: Page) -> Page:
    """The page, with what it asked for and has not come yet kept in `asked`."""
    page.asked = set()
    page.on("request", lambda r: page.asked.add(r) if r.resource_type != "eventsource" else None)  # a stream never ends
    page.on("requestfinished", lambda r: page.asked.discard(r))
    page.on("requestfailed", lambda r: page.asked.discard(r))
    return page


def quiet(page: Page) -> None:
    """Whatever the page asked for is there and shown: nothing is under way, nor a moment later."""
    calm, end = 0, time.monotonic() + 45
    while calm < 4:
        assert time.monotonic() < end, f"still waiting for {[r.url for r in page.asked]}"
        page.wait_for_timeout(50)
        calm = 0 if page.asked or page.locator("[aria-busy=true]").count() else calm + 1


def open_batter(page: Page, name: str) -> None:
    page.get_by_role("button", name="Open…").click()
    page.get_by_role("combobox", name="A batter's name").fill(name)
    with page.expect_response(re.compile("/api/(batters|versions)/")):  # one of the same name may stand there already
        page.get_by_role("option", name=name).first.click()
    quiet(page)
    expect(page.get_by_role("heading", name=name, level=1)).to_be_visible()


def go(page: Page, path: str) -> None:
    page.goto("/".join(page.url.split("/")[:3]) + path)


def walk(page: Page, path: str) -> None:
    """To another place of the page that is there, as a link of its own goes: without loading it all anew."""
    page.evaluate("(path) => { history.pushState(null, '', path); dispatchEvent(new PopStateEvent('popstate')) }", path)


def add(page: Page, text: str) -> None:
    have(page).get_by_label("Add a line").fill(text)
    have(page).get_by_role("button", name="Add", exact=True).click()


def told(page: Page):
    return page.get_by_role("status").last


COLOURS = ("color-contrast", "link-in-text-block")


def sound(page: Page) -> None:
    """Nothing by axe in either theme, and nothing that runs off the side. In the dark the page is the same but for its colours, so only those
    are looked at, and once, at the bench's own size. Of a page under an open dialog nothing can be reached: the dialog is looked at."""
    _axe(page)
    assert page.viewport_size
    if page.viewport_size["width"] >= 1280 and not page.evaluate("matchMedia('(forced-colors: active)').matches"):
        page.emulate_media(color_scheme="dark")
        _axe(page, COLOURS)
        page.emulate_media(color_scheme="light")
    within(page)


def within(page: Page) -> None:
    """Nothing runs off the side."""
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), (page.url, page.viewport_size)


def _axe(page: Page, only: Sequence[str] = ()) -> None:
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE.read_text())
    found = page.evaluate(
        "([only]) => axe.run(document.querySelector('dialog:modal') ?? document, "
        "{...(only.length ? {runOnly: {type: 'rule', values: only}} : {}), resultTypes: ['violations'], preload: false, elementRef: false})",
        [list(only)],
    )["violations"]
    bad = [(v["id"], [n["html"][:160] for n in v["nodes"]][:3]) for v in found]
    assert not bad, f"{page.url}{', dark' if only else ''}: {bad}"


def until(look, holds, seconds=20.0):
    """What `look` gives, as soon as it `holds`; a failed test where it never does."""
    end = time.monotonic() + seconds
    while True:
        seen = look()
        if holds(seen):
            return seen
        assert time.monotonic() < end, f"still {str(seen)[:200]}"
        time.sleep(0.05)


class Finger:
    """Comes down in the middle of something and up again, as a mouse's or as a finger's own."""

    def __init__(self, page, touch):
        self.page, self.wire = page, page.context.new_cdp_session(page) if touch else None
        if self.wire:
            self.wire.send("Emulation.setTouchEmulationEnabled", {"enabled": True})

    def down(self, on):
        box = on.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        if self.wire:
            self.wire.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [{"x": x, "y": y}]})
        else:
            self.page.mouse.move(x, y)
            self.page.mouse.down()

    def up(self):
        if self.wire:
            self.wire.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
        else:
            self.page.mouse.up()
