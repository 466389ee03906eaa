"""Pictures of the main views, from the demo data, into docs/screenshots."""

import re
import tempfile
from pathlib import Path

from playwright.sync_api import Page
from tests.ui.house import chromium, server

OUT = Path("docs/screenshots")


def bench(page: Page) -> None:
    """The Bench as it opens."""


def why(page: Page) -> None:
    """A line touched: its ribbons and its reasons."""
    page.get_by_role("region", name="You have").get_by_role("button", name=re.compile("^whole egg")).click()


def ledger(page: Page) -> None:
    """A balance opened."""
    page.get_by_role("button", name=re.compile("^Lift")).click()


def impossible(page: Page) -> None:
    """What cannot be done, and the nearest that can."""
    page.get_by_label("Batter and version").select_option(label="Small-hours almond waffles")
    page.get_by_role("region", name="Cannot be done").wait_for()


VIEWS = [
    ("bench-day", bench, (1280, 800), "light"),
    ("bench-why-dawn", why, (1280, 800), "dark"),
    ("bench-ledger", ledger, (1280, 800), "light"),
    ("bench-cannot", impossible, (1280, 800), "dark"),
    ("bench-phone", why, (390, 844), "light"),
]


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, chromium() as browser:
        for name, steps, (width, height), scheme in VIEWS:
            with server(Path(folder) / f"{name}.sqlite3") as house:
                page = browser.new_page(viewport={"width": width, "height": height}, color_scheme=scheme, reduced_motion="reduce")
                page.goto(house.url)
                page.locator("section[aria-label='You will make'] li").first.wait_for()
                steps(page)
                page.wait_for_timeout(500)
                page.screenshot(path=OUT / f"{name}.png")
                page.close()
                print(OUT / f"{name}.png")


if __name__ == "__main__":
    main()
