"""What every test may ask for: the shipped facts, a plain kitchen, and a batter from a text."""

from collections.abc import Callable

import pytest
from hypothesis import settings

from mutabilis.core.analysis.analysis import Analysis, analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts

from .sizes import LONG, many

# A cold solver or a busy machine must not fail a property; the same examples every time, so that a red run can be repeated. The long way
# (make test-long) tries ten times as many, others each time.
settings.register_profile("ours", deadline=None, max_examples=many(40), derandomize=not LONG)
settings.load_profile("ours")

RIDGE = "160 g plain flour\n70 g rye flour\n270 g whole milk\n90 g plain yogurt\n2 eggs\n35 g butter\n22 g brown sugar\n10 g baking powder\n3 g salt"
PLAIN = "1 1/2 cups flour\n3 1/2 tsp baking powder\n1/4 tsp salt\n1 tbsp sugar\n1 1/4 cups milk\n1 egg\n3 tbsp butter"
COCONUT = "60 g coconut flour\n5 eggs\n200 ml coconut drink\n40 g butter\n1 tsp baking powder\n20 g honey\n1 g salt"
BUTTERMILK = "250 g flour\n1 tsp bicarb\n1 tsp baking powder\n1/2 tsp salt\n25 g sugar\n400 g buttermilk\n2 eggs\n50 g butter"
WAFFLE = "240 g flour\n12 g baking powder\n3 g salt\n25 g sugar\n380 g milk\n2 eggs\n110 g butter"
CREPE = "150 g flour\n320 ml milk\n3 eggs\n25 g butter\n2 g salt"


@pytest.hookimpl(tryfirst=True)  # before the marks are read
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The browser's walks go first, one by one: they are the longest, and one that began last would be waited for. What shares a module
    shares what it made; what looks at six weeks of batches shares those."""
    items.sort(key=lambda item: "tests/ui" not in item.nodeid)
    for item in items:
        if "weeks" in getattr(item, "fixturenames", ()):
            item.add_marker(pytest.mark.xdist_group("weeks"))
        elif "tests/ui" not in item.nodeid:
            item.add_marker(pytest.mark.xdist_group(item.nodeid.split("::")[0]))
        elif item.get_closest_marker("log"):
            item.add_marker(pytest.mark.xdist_group("log"))


@pytest.fixture(scope="session")
def facts() -> AllFacts:
    return load_facts()


@pytest.fixture(scope="session")
def profile() -> Profile:
    return Profile()


@pytest.fixture(scope="session")
def batter(facts: AllFacts, profile: Profile) -> Callable[..., Batter]:
    def make(text: str, form: str = "griddle", **more: object) -> Batter:
        return Batter.model_validate({"lines": read_lines(text, facts, profile), "form": form, **more})

    return make


@pytest.fixture(scope="session")
def analysed(facts: AllFacts, profile: Profile, batter: Callable[..., Batter]) -> Callable[..., Analysis]:
    def make(text: str, form: str = "griddle", **more: object) -> Analysis:
        return analyse(batter(text, form, **more), facts, profile)

    return make


@pytest.fixture(scope="session")
def browser():
    """One browser for all that needs one: pages, and what works without a screen."""
    from tests.ui.house import chromium

    with chromium() as one:
        yield one
