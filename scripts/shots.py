"""Pictures of the main views, from the demo data, into docs/screenshots."""

import re
import tempfile
from collections.abc import Callable
from datetime import date, timedelta
from pathlib import Path

from playwright.sync_api import Page
from tests.ui.counter import Hands, Wire
from tests.ui.house import chromium, server
from tests.ui.steps import have, made, open_batter, settled, watched

OUT = Path("docs/screenshots")


def bench(page: Page) -> None:
    """The Bench as it opens."""


def whole(page: Page) -> None:
    """All of the Bench, with its pictures and the plate."""
    plate = page.get_by_role("region", name="The plate")
    plate.get_by_label("Add to the plate").fill("20 g butter\n60 g maple syrup")
    plate.get_by_role("button", name="Add", exact=True).click()
    plate.get_by_text("fits with the plate").wait_for()
    page.get_by_role("button", name=re.compile("^Compare the")).wait_for()
    page.set_viewport_size({"width": 1280, "height": 1400})


def why(page: Page) -> None:
    """A line touched: its ribbons and its reasons."""
    if page.viewport_size and page.viewport_size["width"] < 1024:  # one side is in sight at a time
        made(page).get_by_role("button", name=re.compile("^soy yogurt")).click()
    else:
        have(page).get_by_role("button", name=re.compile("^eggs")).click()


def impossible(page: Page) -> None:
    """What cannot be done, and the nearest that can."""
    open_batter(page, "Small-hours almond waffles")
    page.get_by_role("button", name="Vegan", exact=True).click()
    page.get_by_role("region", name="Cannot be done").wait_for()


def mending(page: Page) -> None:
    """A pasted recipe with a line to be mended."""
    page.get_by_role("button", name="New", exact=True).click()
    have(page).get_by_label("Add a line").fill(
        "Lantern cakes\n1 1/2 cups flour\n2 tbsp baking powder\n1 1/4 cups coconut milk\n2-3 eggs\n3 tbsp buttr\n1/2 cup root of dawn"
    )
    have(page).get_by_role("button", name="Add", exact=True).click()
    have(page).get_by_role("button", name=re.compile("^(?!Remove).*cup root of dawn")).click()
    page.wait_for_timeout(1500)


def book(page: Page) -> None:
    """The Book with a family open."""
    page.get_by_role("link", name="Book", exact=True).click()
    page.get_by_role("link", name=re.compile("^First light")).click()
    page.get_by_role("list", name="Versions").get_by_text("More…").first.wait_for()


def larder(page: Page) -> None:
    """The Larder with an ingredient open."""
    page.get_by_role("link", name="Larder", exact=True).click()
    page.get_by_role("link", name=re.compile("^ground flaxseed")).click()
    page.get_by_text("Your cup and spoon of it").wait_for()


def kitchen(page: Page) -> None:
    """How the kitchen measures, and where cooks disagree."""
    page.get_by_role("link", name="Kitchen", exact=True).click()
    page.get_by_text("Where cooks disagree").wait_for()


def diet(page: Page) -> None:
    """An own diet, tried on the Book while it is put together."""
    kitchen(page)
    page.get_by_role("link", name="Own diets").click()
    page.get_by_role("button", name="Make a diet").click()
    page.get_by_label("Name of the diet").fill("Table seven")
    page.get_by_label("soy").check()
    page.get_by_label("coconut").check()


def card(page: Page) -> None:
    """The recipe card of what stands on the Bench."""
    page.get_by_role("button", name="Card", exact=True).click()
    page.get_by_role("article").wait_for()
    page.set_viewport_size({"width": 1000, "height": 1300})


def hands(page: Page) -> Hands:
    """A batch for the night observers on the house that the page is in."""
    return Hands(Wire("/".join(page.url.split("/")[:3]) + "/"), whom="the night observers")


def at(page: Page, batch: Hands) -> None:
    page.goto(f"{batch.house.url}stove/{batch.id}")
    page.get_by_role("article").wait_for()
    page.wait_for_timeout(1500)


def weigh(page: Page) -> None:
    """Weighing out, a third of the flour in."""
    batch = hands(page)
    batch.say({"kind": "prep_started", "key": "warm_up"}, {"kind": "prep_done", "key": "melt"}, ago=420)
    batch.go("weigh")
    batch.pour(412)
    at(page, batch)
    page.get_by_role("button", name="The large bowl is on").click()
    batch.pour(138)
    page.wait_for_timeout(1500)


def judge(page: Page) -> None:
    """The bowl judged: what the flour drank, and what to add."""
    batch = hands(page)
    batch.weigh_all()
    batch.mix_all()
    batch.go("judge")
    batch.say({"kind": "judged", "way": "spread", "value": 10.9})
    at(page, batch)
    page.set_viewport_size({"width": 390, "height": 1180})


def cook(page: Page) -> None:
    """A load on the griddle, soon to be turned."""
    batch = hands(page)
    batch.to("cook")
    at(page, batch)


def piece(page: Page) -> None:
    """The piece in cross-section and the chart."""
    cook(page)
    page.get_by_role("button", name="The piece").click()
    page.get_by_role("img", name="Map of heat against thickness").wait_for()
    page.set_viewport_size({"width": 1100, "height": 1000})


def evening(page: Page) -> None:
    """The morning after next, planned: who comes, what does not fit, the hill, tonight's acts."""
    page.get_by_role("link", name="Morning", exact=True).click()
    page.get_by_label("Day").fill((date.today() + timedelta(days=1)).isoformat())
    page.get_by_role("heading", name=re.compile("^Does not fit yet|^Everybody eats")).wait_for()
    page.get_by_text("Looking for a better plan").wait_for(state="detached")


def running(page: Page) -> None:
    """The same, as it is run: the next act, and the hill."""
    evening(page)
    page.get_by_role("button", name="Run it").click()


def journal(page: Page) -> None:
    """A batch that came out wrong, and why."""
    page.get_by_role("link", name="Journal", exact=True).click()
    page.get_by_label("Fault").select_option(label="too thick")
    page.get_by_role("region", name="Log").get_by_role("link").first.click()
    page.get_by_role("region", name="Over time").wait_for()


VIEWS: list[tuple[str, Callable[[Page], None], tuple[int, int], str]] = [
    ("bench-day", bench, (1280, 800), "light"),
    ("bench-whole", whole, (1280, 800), "light"),
    ("bench-why-dawn", why, (1280, 800), "dark"),
    ("bench-cannot", impossible, (1280, 800), "dark"),
    ("bench-mending", mending, (1280, 800), "light"),
    ("bench-phone", why, (390, 844), "light"),
    ("book", book, (1280, 800), "light"),
    ("book-phone", book, (390, 844), "dark"),
    ("larder", larder, (1280, 800), "light"),
    ("kitchen", kitchen, (1280, 800), "dark"),
    ("own-diet", diet, (1280, 800), "light"),
    ("card", card, (1280, 800), "light"),
    ("stove-weigh", weigh, (1280, 800), "light"),
    ("stove-cook-dawn", cook, (1280, 800), "dark"),
    ("stove-judge-phone", judge, (390, 844), "light"),
    ("stove-piece", piece, (1280, 800), "light"),
    ("morning-evening", evening, (1280, 800), "light"),
    ("morning-run-dawn", running, (1280, 800), "dark"),
    ("journal", journal, (1280, 800), "light"),
]
WITH_LOG = ("journal",)


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, chromium() as browser:
        for name, steps, (width, height), scheme in VIEWS:
            home = Path(folder) / name  # a folder of its own: own diets are kept beside the book
            home.mkdir()
            with server(home / "book.sqlite3", log=name in WITH_LOG) as house:
                page = watched(browser.new_page(viewport={"width": width, "height": height}, color_scheme=scheme, reduced_motion="reduce"))
                page.goto(house.url)
                made(page).get_by_role("listitem").first.wait_for()
                settled(page)
                page.get_by_role("button", name=re.compile("^Compare the")).wait_for()
                steps(page)
                page.wait_for_timeout(600)
                page.screenshot(path=OUT / f"{name}.png")
                page.close()
                print(OUT / f"{name}.png")


if __name__ == "__main__":
    main()
