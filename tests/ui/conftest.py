"""A server with a fresh demo book for each test, one browser for all; any error in the page's console, and any answer of 400 and
above that a test does not expect (`@pytest.mark.answers(422)`), fails the test."""

import pytest
from playwright.sync_api import expect

from .house import server
from .steps import watched

# A shared, noisy machine must not fail a test: what is waited for is the page, not the clock.
expect.set_options(timeout=45_000)


@pytest.fixture
def house(tmp_path, request):
    with server(tmp_path / "book.sqlite3", log=request.node.get_closest_marker("log") is not None) as one:
        yield one


@pytest.fixture
def page(browser, house, request):
    context = browser.new_context(viewport={"width": 1280, "height": 800}, reduced_motion="reduce", service_workers="block")
    page = watched(context.new_page())
    page.set_default_timeout(45_000)
    errors, outside, refused = [], [], []
    page.on("console", lambda m: errors.append(m.text) if m.type == "error" and not _told_by_its_answer(m.text) else None)
    page.on("pageerror", lambda e: errors.append(str(e)))
    page.on("request", lambda r: None if r.url.startswith((house.url, "data:", "blob:")) else outside.append(r.url))
    page.on("response", lambda r: refused.append(f"{r.status} {r.request.method} {r.url}") if r.status >= 400 else None)
    if place := request.node.get_closest_marker("elsewhere"):
        page.goto(house.url + (place.args[0] if place.args else "favicon.svg"))
    else:
        page.goto(house.url)
        page.locator("section[aria-label='You will make'] li").first.wait_for()
    yield page
    context.close()
    expected = {status for mark in request.node.iter_markers("answers") for status in mark.args}
    unexpected = [r for r in refused if int(r.split()[0]) not in expected]
    assert not errors and not outside and not unexpected


def _told_by_its_answer(text: str) -> bool:
    """What the browser logs of an answer of 400 and above, or of a server that is gone: the answers themselves are looked at."""
    return "Failed to load resource" in text or "ERR_CONNECTION" in text
