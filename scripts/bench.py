"""Figures of speed and size, printed, never asserted: percentiles on whatever machine this is, beside a bare measure of it."""

import gzip
import random
import re
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page
from tests.reference.grid import TOGETHER
from tests.reference.lore import one_for_one
from tests.ui.house import chromium, server

from mutabilis.core.adapt import linear as model
from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.job import Job
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.book.versions import NewVersion
from mutabilis.core.food.pack_labels import Label
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts
from mutabilis.demo import demo_batters
from mutabilis.store.book import Book
from mutabilis.store.database import Database
from mutabilis.store.larder import Larder

from . import bench_faults, bench_stove
from .figures import show, timed

FIFTEEN = "200 g flour\n50 g rye flour\n30 g cornflour\n10 g baking powder\n2 g bicarb\n3 g salt\n30 g sugar\n10 g honey\n300 g milk\n100 g yogurt\n2 eggs\n40 g butter\n1 tsp vanilla\n1 tsp cinnamon\n1 banana"


def core() -> None:
    facts, profile = load_facts(), Profile()
    batter = Batter(lines=read_lines(FIFTEEN, facts, profile))
    analyse(batter, facts, profile)
    show("ledgers of a 15-line batter", timed(300, lambda: analyse(batter, facts, profile, {})), "under 2 ms")
    show("ledgers and every diet's verdicts", timed(300, lambda: analyse(batter, facts, profile)))
    show("reading its 15 lines", timed(50, lambda: read_lines(FIFTEEN, facts, profile)))
    adapt(batter, Wishes(diets=("vegan",)), facts, profile)  # the solver is loaded by the first


def solver() -> None:
    """Over the whole grid: the first answer, five answers, and beside them the time inside HiGHS for the same models."""
    facts, profile = load_facts(), Profile()
    asked = [(v.batter, (d,)) for _, v in demo_batters(facts) for d in facts.diets] + [
        (v.batter, d) for _, v in demo_batters(facts) for d in TOGETHER
    ]
    bare: list[float] = []
    plain = model.minimise

    def clocked(*args: Any) -> Any:
        start = time.perf_counter()
        found = plain(*args)
        bare[-1] += 1000 * (time.perf_counter() - start)
        return found

    for what, count, wanted in (("first answer", 1, "under 100 ms"), ("five answers", 5, "under 500 ms")):
        whole: list[float] = []
        bare.clear()
        model.minimise = clocked
        for base, diets in asked:
            bare.append(0.0)
            whole += timed(1, lambda b=base, d=diets, n=count: adapt(b, Wishes(diets=d, alternatives=n), facts, profile))
        model.minimise = plain
        show(f"{what}, {len(asked)} cases of the grid", whole, wanted)
        show("  of it inside the bare solver", list(bare))
        print(f"  our own share: {100 * (1 - sum(bare) / sum(whole)):.0f} % of the time")
    ratios = []
    for base, diets in asked[:: len(asked) // 24]:
        job = Job(
            adapt(base, Wishes(), facts, profile).base.batter,
            adapt(base, Wishes(), facts, profile).base,
            Wishes(diets=diets),
            facts,
            profile,
            None,
        )
        quick, full = job.program.solve(), job.program.solve(thorough=True)
        if quick and full and full.objective > 0.05:
            ratios.append(quick.objective / full.objective)
    print(
        f"narrowed against the full program, {len(ratios)} cases: objective {statistics.median(ratios):.3f} times in the median, {max(ratios):.2f} at most"
    )


def ablation() -> None:
    """The same grid by one-for-one rules of thumb: how far they drift, and that the solver does not."""
    facts, profile = load_facts(), Profile()
    drift: dict[str, list[tuple[float, float]]] = {"one for one by volume": [], "solved": []}
    weak = {"one for one by volume": 0, "solved": 0}
    asked = [(d,) for d in ("vegan", "egg_free", "dairy_free", "gluten_free", "low_carb")] + list(TOGETHER)
    for _, version in demo_batters(facts):
        before = analyse(version.batter, facts, profile, {})
        for diets in asked:
            found = adapt(version.batter, Wishes(diets=diets), facts, profile)
            if not found.answers or not found.answers[0].changes or before.water.spread_cm is None:
                continue
            after = {
                "one for one by volume": analyse(one_for_one(version.batter, diets, facts, profile), facts, profile, {}),
                "solved": found.answers[0].analysis,
            }
            for way, a in after.items():
                spread = abs((a.water.spread_cm or 5.0) - before.water.spread_cm)
                lift = abs(a.lift.co2_ml_per_100g - before.lift.co2_ml_per_100g) / max(before.lift.co2_ml_per_100g, 15)
                drift[way].append((spread, lift))
                weak[way] += a.setting.verdict == "weak"
    print(f"\n{'drift from the base over the grid':<34}{'spread, median':>16}{'95 %':>8}{'lift, median':>14}{'95 %':>8}{'weak':>7}")
    for way, pairs in drift.items():
        spreads, lifts = sorted(p[0] for p in pairs), sorted(p[1] for p in pairs)
        at = int(0.95 * (len(pairs) - 1))
        print(
            f"{way:<34}{statistics.median(spreads):>13.2f} cm{spreads[at]:>5.1f} cm{100 * statistics.median(lifts):>12.0f} %{100 * lifts[at]:>6.0f} %{weak[way]:>4}/{len(pairs)}"
        )
    print()


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
    first = max(len(gzip.compress(p.read_bytes(), 6)) for p in assets.glob("*.js"))
    print(
        f"compressed script: {script / 1000:.0f} kB in all (under 350), {first / 1000:.0f} kB of it at first; {style / 1000:.0f} kB of style"
    )


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


# Every frame between two paintings while amounts are typed and answers are changed, so that ribbons, marks and pictures are drawn anew.
FRAMES = """
async (steps) => {
  const field = document.querySelector("input[aria-label='whole milk, grams']");
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const frames = [], long = [];
  new PerformanceObserver((list) => long.push(...list.getEntries().map((e) => e.duration))).observe({ type: "longtask" });
  let last = performance.now(), on = true;
  const tick = (now) => { frames.push(now - last); last = now; if (on) requestAnimationFrame(tick); };
  requestAnimationFrame(tick);
  for (let n = 0; n < steps; n++) {
    if (n % 3 === 0) {
      set.call(field, String(250 + n));
      field.dispatchEvent(new Event("input", { bubbles: true }));
    } else {
      const answers = [...document.querySelectorAll("fieldset[aria-label='Answers'] button")];
      answers[n % answers.length]?.click();
    }
    await new Promise((done) => setTimeout(done, 120 + 200 * (n % 4)));
  }
  on = false;
  return { frames, long };
}
"""


def frames(page: Page) -> None:
    page.evaluate(FRAMES, 6)  # the first drawing of each part is no redrawing
    found = page.evaluate(FRAMES, 40)
    show("a frame while ribbons redraw", found["frames"][2:], f"none over 50 ms; long tasks: {len(found['long'])}")
    print(f"  the longest {max(found['frames'][2:]):.0f} ms; script at a stretch at most {max(found['long'], default=0):.0f} ms")


# From the touch, or the key, to the list as it then stands.
UNTIL_LISTED = """
async ([act, list, wanted]) => {
  const start = performance.now();
  const listed = () => document.querySelector(list)?.innerText.toLowerCase().includes(wanted) && !document.querySelector(list).closest("[aria-busy='true']");
  if (act.startsWith("/")) document.querySelector(`nav a[href='${act}']`).click();
  else {
    const field = document.querySelector("input[type='search']");
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(field, act);
    field.dispatchEvent(new Event("input", { bubbles: true }));
  }
  for (let n = 0; !listed() && n < 600; n++) await new Promise(requestAnimationFrame);
  return performance.now() - start;
}
"""
BATTERS, PACKS = 1000, 1700


def large_house() -> None:
    """A Book of 5,000 versions and a Larder of 2,000 ingredients: opened, searched and sieved, over the wire and on the screen."""
    facts = load_facts()
    rng = random.Random(7)
    with tempfile.TemporaryDirectory() as folder, chromium() as browser:
        path = Path(folder) / "book.sqlite3"
        database = Database(path)
        book, larder, demo = Book(database), Larder(database), demo_batters(facts)
        for n in range(BATTERS):
            name, version = demo[n % len(demo)]
            first = book.add(f"{name} no. {n}", NewVersion(batter=version.batter, note=f"from hut {n % 97}"))
            for k in range(4):
                book.save(first.batter_id, NewVersion(batter=version.batter, parent=first.id, note=f"try {k}"))
        for n in range(PACKS):
            starch = rng.randint(40, 75)
            parts = {"carbohydrate_g": starch, "fat_g": 2, "protein_g": 10, "fibre_g": 6, "kcal": 4 * (starch + 10) + 18 + 12}
            name = f"{rng.choice(('hill', 'mill', 'brook', 'lane'))} flour no. {n}"
            larder.put_pack(Label(id=f"own_{n}", name=name, kind="flour", saturates_g=0.5, sugars_g=2, salt_g=0.1, **parts))
        database.close()
        with server(path) as house:

            def asked(where: str) -> Callable[[], object]:
                return lambda: urllib.request.urlopen(house.url + where, timeout=30).read()

            for what, where in (
                ("Book of 5,000 versions, opened", "api/book"),
                ("  searched", "api/book?q=dome"),
                ("  sieved for a diet", "api/book?diet=egg_free"),
                ("  sieved for what is in", "api/book?larder=true"),
                ("Larder of 2,000, opened", "api/larder"),
                ("  searched, misspelt", "api/larder?q=mil%20flouer"),
                ("found anything", "api/find?q=rye"),
            ):
                asked(where)()
                show(what, timed(20, asked(where)), "under 200 ms")
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(house.url)
            page.locator("nav").first.wait_for()
            for place, words, region in (
                ("/book", ("dome", "crepe", "rye"), "Batters"),
                ("/larder", ("mill", "oat", "psylium"), "Ingredients"),
            ):
                drawn, found = [], []
                for _ in range(8):
                    page.goto(f"{house.url}kitchen")
                    page.get_by_role("heading", name="Kitchen").wait_for()
                    drawn.append(page.evaluate(UNTIL_LISTED, [place, f"section[aria-label='{region}'] ul", " "]))
                    for word in words:
                        shown = {"crepe": "crêpe", "psylium": "psyllium"}.get(word, word)
                        found.append(page.evaluate(UNTIL_LISTED, [word, f"section[aria-label='{region}'] li", shown]))
                show(f"{region}: touch to list, in the browser", drawn, "under 200 ms")
                show(f"{region}: key to found, in the browser", found, "under 200 ms")


def in_the_browser() -> None:
    with tempfile.TemporaryDirectory() as folder, server(Path(folder) / "book.sqlite3") as house, chromium() as browser:
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        start = time.perf_counter()
        page.goto(house.url)
        page.locator("section[aria-label='You will make'] li").first.wait_for()
        print(f"first page to first answer: {1000 * (time.perf_counter() - start):.0f} ms, the server's first solve in it")
        times = []
        for n in range(60):
            times.append(page.evaluate(KEY_TO_MARK, 240 + 2 * n))
            page.wait_for_timeout((90, 150, 260, 400)[n % 4])  # typing on, and typing into a solve under way
        show("key press to moved marks, in the browser", times, "under 100 ms")
        frames(page)
        assert house.pid
        memory = re.search(r"VmRSS:\s+(\d+)", Path(f"/proc/{house.pid}/status").read_text())
        if memory:
            print(f"server after this: {int(memory[1]) / 1024:.0f} MB")


def at_the_stove() -> None:
    """The Stove: by itself, over a year of batches, and at the counter."""
    bench_faults.reading()
    bench_faults.taps()
    bench_stove.core()
    with tempfile.TemporaryDirectory() as folder:
        bench_stove.year(Path(folder))
        with server(Path(folder) / "year.sqlite3") as house:
            bench_stove.over_the_wire(house.url)
    with tempfile.TemporaryDirectory() as folder, server(Path(folder) / "book.sqlite3") as house, chromium() as browser:
        bench_stove.at_the_counter(browser.new_page(viewport={"width": 1280, "height": 800}), house)


if __name__ == "__main__":
    from . import bench_diagnosis, bench_service

    print(f"{'':<52}{'median':>9}{'95 %':>9}")
    core()
    solver()
    ablation()
    command_line()
    page_weight()
    in_the_browser()
    large_house()
    at_the_stove()
    bench_service.main()
    bench_diagnosis.main()
