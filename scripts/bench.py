"""Figures of speed and size, printed, never asserted: percentiles on whatever machine this is, beside a bare measure of it."""

import gzip
import re
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from tests.ui.house import chromium, server

from mutabilis.core.analysis import analyse
from mutabilis.core.batter import Batter
from mutabilis.core.quantities.units import Profile
from mutabilis.core.reading import read_lines
from mutabilis.core.swaps.adapt import adapt
from mutabilis.core.swaps.wishes import Wishes
from mutabilis.data import load_facts
from mutabilis.demo import demo_batters

FIFTEEN = "200 g flour\n50 g rye flour\n30 g cornflour\n10 g baking powder\n2 g bicarb\n3 g salt\n30 g sugar\n10 g honey\n300 g milk\n100 g yogurt\n2 eggs\n40 g butter\n1 tsp vanilla\n1 tsp cinnamon\n1 banana"
WISHES = [
    ("vegan",),
    ("egg_free",),
    ("dairy_free",),
    ("gluten_free",),
    ("low_carb",),
    ("vegan", "gluten_free"),
    ("low_carb", "nut_free"),
]


def show(what: str, times_ms: list[float], wanted: str = "") -> None:
    """One line of a table: median and 95th percentile."""
    ordered = sorted(times_ms)
    p95 = ordered[min(len(ordered) - 1, int(0.95 * len(ordered)))]
    print(f"{what:<52}{statistics.median(ordered):>9.2f}{p95:>9.2f} ms   {wanted}")


def timed(times: int, job: Callable[[], object]) -> list[float]:
    """Milliseconds of each of so many runs."""
    found = []
    for _ in range(times):
        start = time.perf_counter()
        job()
        found.append(1000 * (time.perf_counter() - start))
    return found


def core() -> None:
    facts, profile = load_facts(), Profile()
    batter = Batter(lines=read_lines(FIFTEEN, facts, profile))
    analyse(batter, facts, profile)
    show("ledgers of a 15-line batter", timed(300, lambda: analyse(batter, facts, profile, {})), "under 2 ms")
    show("ledgers and every diet's verdicts", timed(300, lambda: analyse(batter, facts, profile)))
    show("reading its 15 lines", timed(50, lambda: read_lines(FIFTEEN, facts, profile)))
    adapt(batter, Wishes(diets=("vegan",)), facts, profile)  # scipy is loaded by the first
    first = []
    for _, version, _ in demo_batters(facts):
        for diets in WISHES:
            first += timed(2, lambda b=version.batter, d=diets: adapt(b, Wishes(diets=d), facts, profile))
    show(f"first answer, {len(first) // 2} cases", first, "under 300 ms")


def command_line() -> None:
    run = [sys.executable, "-m", "mutabilis.cli", "ledger", "-", "--json"]
    show("a bare Python", timed(5, lambda: subprocess.run([sys.executable, "-c", "pass"], check=True)))
    show(
        "command line, ledger from start to end",
        timed(7, lambda: subprocess.run(run, input=FIFTEEN, text=True, capture_output=True, check=True)),
    )


def page_weight() -> None:
    assets = Path("src/mutabilis/static/assets")
    script = sum(len(gzip.compress(p.read_bytes(), 6)) for p in assets.glob("*.js"))
    style = sum(len(gzip.compress(p.read_bytes(), 6)) for p in assets.glob("*.css"))
    print(f"first page: {script / 1000:.0f} kB of compressed script (under 300), {style / 1000:.0f} kB of style")


KEY_TO_MARK = """
async (grams) => {
  const field = document.querySelector("input[aria-label='whole milk, grams']");
  const track = [...document.querySelectorAll("section[aria-label='Balances'] button")].find((b) => b.innerText.startsWith("Flow"));
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const start = performance.now();
  const moved = new Promise((resolve) => {
    const watch = new MutationObserver(() => { watch.disconnect(); requestAnimationFrame(() => resolve(performance.now() - start)); });
    watch.observe(track, { subtree: true, childList: true, characterData: true, attributes: true });
  });
  set.call(field, String(grams));
  field.dispatchEvent(new Event("input", { bubbles: true }));
  return await moved;
}
"""


def in_the_browser() -> None:
    with tempfile.TemporaryDirectory() as folder, server(Path(folder) / "book.sqlite3") as house, chromium() as browser:
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        start = time.perf_counter()
        page.goto(house.url)
        page.locator("section[aria-label='You will make'] li").first.wait_for()
        print(
            f"first page to first answer: {1000 * (time.perf_counter() - start):.0f} ms, the server's first solve in it"
        )
        times = []
        for n in range(60):
            times.append(page.evaluate(KEY_TO_MARK, 240 + 2 * n))
            page.wait_for_timeout((90, 150, 260, 400)[n % 4])  # typing on, and typing into a solve under way
        show("key press to moved marks, in the browser", times, "under 150 ms")
        assert house.process
        memory = re.search(r"VmRSS:\s+(\d+)", Path(f"/proc/{house.process.pid}/status").read_text())
        if memory:
            print(f"server after this: {int(memory[1]) / 1024:.0f} MB")


if __name__ == "__main__":
    print(f"{'':<52}{'median':>9}{'95 %':>9}")
    core()
    command_line()
    page_weight()
    in_the_browser()
