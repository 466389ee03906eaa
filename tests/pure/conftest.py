"""The front end's logic, called from here in the browser that it runs in: no screen, no server."""

from pathlib import Path

import pytest

SCRIPT = Path(__file__).parents[2] / "web/dist/pure.js"


class Pure:
    """What works without a screen. `pure(code, *given)` runs an arrow function's body with `p` (all of it) and what is given."""

    def __init__(self, page):
        self.page = page

    def __call__(self, code, *given):
        body = code if "return" in code else f"return {code}"
        return self.page.evaluate(f"async (given) => {{ const p = globalThis.pure; const [a, b, c] = given; {body} }}", list(given))


@pytest.fixture(scope="session")
def pure_in(browser):
    """A way to it in a time zone."""

    def opened(zone="Europe/Berlin"):
        page = browser.new_context(timezone_id=zone, locale="en-GB").new_page()
        page.add_script_tag(path=SCRIPT)
        return Pure(page)

    return opened


@pytest.fixture(scope="session")
def pure(pure_in):
    return pure_in()
