"""A server with a fresh demo book for each test, one browser for all; any error in the page's console fails the test."""

import pytest
from playwright.sync_api import expect

from .house import server

# A shared, noisy machine must not fail a test: what is waited for is the page, not the clock.
expect.set_options(timeout=20_000)


@pytest.fixture
def house(tmp_path):
    with server(tmp_path / "book.sqlite3") as one:
        yield one


@pytest.fixture
def page(browser, house):
    context = browser.new_context(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
    page = context.new_page()
    page.set_default_timeout(30_000)
    errors, outside = [], []
    page.on(
        "console",
        lambda m: (
            errors.append(m.text)
            if m.type == "error" and "Failed to load resource" not in m.text and "ERR_CONNECTION" not in m.text
            else None
        ),
    )
    page.on("pageerror", lambda e: errors.append(str(e)))
    page.on("request", lambda r: None if r.url.startswith((house.url, "data:", "blob:")) else outside.append(r.url))
    page.goto(house.url)
    page.locator("section[aria-label='You will make'] li").first.wait_for()
    yield page
    context.close()
    assert not errors and not outside
