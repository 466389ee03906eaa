"""Every place in both themes, at three sizes, enlarged, in the system's own colours, and with hostile text in every field."""

import re

import pytest
from playwright.sync_api import expect

from .steps import go, have, made, quiet, settled, sound, walk, within

BENCH = (1280, 800)
PLACES = ["/book", "/larder", "/larder/oat_flour", "/kitchen", "/kitchen/diets", "/card", "/morning"]


@pytest.mark.elsewhere
@pytest.mark.parametrize("size", [BENCH, (390, 844)], ids=["bench and tablet", "phone"])
def test_every_place_is_accessible_in_both_themes_and_three_sizes(page, size):
    def looked_at():
        quiet(page)
        sound(page)
        if size == BENCH:  # a tablet shows the same in other places
            page.set_viewport_size({"width": 1024, "height": 768})
            within(page)
            page.set_viewport_size({"width": size[0], "height": size[1]})

    page.set_viewport_size({"width": size[0], "height": size[1]})
    batter = page.evaluate("fetch('/api/book?q=first').then((r) => r.json()).then((b) => b.batters[0].id)")
    go(page, PLACES[0])
    for path in [*PLACES, f"/book/{batter}"]:
        walk(page, path)
        page.get_by_role("heading", level=1).first.wait_for()
        looked_at()
    for button in ("Scale…", "Made it…", "Dry mix…", "Save as…", "Rename…"):
        if button != "Rename…":
            page.get_by_role("list", name="Versions").get_by_text("More…").first.click()
        page.get_by_role("button", name=button).first.click()
        looked_at()
        page.keyboard.press("Escape")
    walk(page, "/bench")
    settled(page)
    page.get_by_role("button", name="More wishes").click()
    looked_at()
    page.keyboard.press("Escape")
    made(page).get_by_role("listitem").first.get_by_role("button").click()
    looked_at()
    for button in ("Swap by hand…", "Compare the", "File…", "Save( as a version)?$"):
        page.get_by_role("button", name=re.compile(f"^{button}")).click()
        looked_at()
        page.keyboard.press("Escape")
    if size != BENCH:  # one side is in sight at a time
        page.get_by_role("group", name="Which batter is in sight").get_by_role("button", name="Have").click()
    have(page).get_by_role("button", name=re.compile("^eggs")).click()
    looked_at()
    page.get_by_role("button", name=re.compile("^Flow")).click()
    looked_at()


@pytest.mark.elsewhere
@pytest.mark.log
@pytest.mark.parametrize("size", [(320, 256), (640, 512)], ids=["at 400 %", "at 200 %"])
def test_every_place_can_be_read_enlarged_and_in_the_systems_own_colours(page, size):
    """A page of 1280 by 1024 enlarged so far is that many pixels wide: nothing runs off the side; nothing is lost where the system sets the colours."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    go(page, PLACES[0])
    for path in [*PLACES, "/journal", "/help", "/stove"]:
        walk(page, path)
        page.get_by_role("heading").first.wait_for()
        quiet(page)
        within(page)
    page.emulate_media(forced_colors="active")
    page.set_viewport_size({"width": BENCH[0], "height": BENCH[1]})
    walk(page, "/bench")
    settled(page)
    sound(page)
    shapes = page.locator("svg").evaluate_all(
        "(all) => all.filter((s) => s.checkVisibility() && [...s.querySelectorAll('path, rect, circle, ellipse')].every((x) => getComputedStyle(x).fill === 'none' && getComputedStyle(x).stroke === 'none')).length"
    )
    assert shapes == 0


HOSTILE = "<img src=x onerror=alert(1)>\u202etxet\u202c 🧇\u0000' OR 1=1 --" + "x" * 20_000


@pytest.mark.elsewhere
def test_hostile_text_in_every_field_of_every_place(page):
    page.on("dialog", lambda d: pytest.fail("a script ran"))
    for path, opening in (
        ("/bench", ("More wishes",)),
        ("/bench", ("Save as a version",)),
        ("/book", ("Rename…",)),
        ("/book", ("More…", "Made it…")),
        ("/book", ("More…", "Scale…")),
        ("/larder/oat_flour", ()),
        ("/larder/oat_flour", ("Read the pack…",)),
        ("/larder?pack=new", ()),
        ("/kitchen", ()),
        ("/kitchen/diets", ("Make a diet",)),
    ):
        go(page, path)
        if path == "/book":
            page.get_by_role("link", name=re.compile("^First light")).click()
        for name in opening:
            (page.get_by_text(name) if name == "More…" else page.get_by_role("button", name=name)).first.click()
        quiet(page)
        scope = page.get_by_role("dialog") if page.get_by_role("dialog").count() else page.get_by_role("main")
        fields = scope.locator("input:not([type=checkbox]):not([type=file]), textarea")
        fields.first.wait_for()
        for at in range(fields.count()):
            fields.nth(at).fill(HOSTILE, force=True)
            fields.nth(at).blur()
        quiet(page)
        within(page)
        assert page.locator("img[src=x]").count() == 0
    go(page, "/book")
    expect(page.get_by_role("region", name="Batters").get_by_role("listitem")).to_have_count(7)
