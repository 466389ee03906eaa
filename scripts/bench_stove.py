"""Figures of the Stove: a heat run, what a batch shows, a year of batches, and from the scale to the eye."""

import json
import secrets
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import Page
from tests.core.stove.making import event
from tests.ui.counter import Hands

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.book.versions import NewVersion
from mutabilis.core.heat.chart import heat_map
from mutabilis.core.heat.cooking import cook
from mutabilis.core.journal.summary import Packed, Summary
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.fold import fold
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.core.stove.mending import Mender
from mutabilis.data import load_facts
from mutabilis.store.book import Book
from mutabilis.store.database import Database
from mutabilis.store.stove import Closing, Stove

from .figures import show, timed

BATCHES = 400
RIDGE = "160 g plain flour\n70 g rye flour\n270 g whole milk\n90 g plain yogurt\n2 eggs\n35 g butter\n22 g brown sugar\n10 g baking powder\n3 g salt"


def core() -> None:
    """The heat, the fold and the guide by themselves."""
    facts, profile = load_facts(), Profile()
    runs = [
        (form, mm, c)
        for form, mm, c in (
            ("griddle", 7, 190),
            ("griddle", 9, 185),
            ("griddle", 12, 175),
            ("waffle", 14, 190),
            ("crepe", 2, 205),
            ("tray", 18, 220),
        )
    ]
    times = [t for form, mm, c in runs for t in timed(12, lambda f=form, m=mm, k=c: cook(facts.heat, f, m, k))]  # type: ignore[misc]
    show("a heat run, six kinds of piece", times, "under 30 ms")
    show("the chart of heat and thickness", timed(1, lambda: heat_map.__wrapped__(facts.heat, "griddle", "film")))
    plan = Batter(lines=read_lines(RIDGE, facts, profile))
    events = _morning(plan)
    show(f"folding {len(events)} events", timed(40, lambda: fold(plan, events)))
    batch = Batch(
        id="b" * 16, version_id="v", batter_id="x", name="Ridge", number=1, plan=plan, diets=(), whom="", first_at=None, order="two_bowls", mark=0, started=0,
        events=tuple(events),
    )  # fmt: skip

    def guided() -> None:
        g = Guide(batch, 9000.0, facts, profile)
        _ = (g.lines, g.preparations, g.mixing, g.moments, g.judging, g.rest, g.timers, g.keeping)

    show("all that a batch shows", timed(40, guided))
    over = fold(plan, [event("poured", line=0, slot=0, grams=200)])
    show("the offers for an over-pour", timed(20, lambda: Mender(plan, over, facts, profile).over(0)))
    show("the offers where none is left", timed(6, lambda: Mender(plan, over, facts, profile).none_left(3)))
    analyse(plan, facts, profile, {})


def year(folder: Path) -> None:
    """A year of batches, and the Stove over them."""
    facts = load_facts()
    database = Database(folder / "year.sqlite3")
    book, stove = Book(database), Stove(database)
    plan = Batter(lines=read_lines(RIDGE, facts, Profile()))
    version = book.add("Ridge rye cakes", NewVersion(batter=plan))
    lots = [Packed(ingredient=x.ingredient or "", pack=f"lot {k}") for k in range(12) for x in plan.lines]
    figures = {"spread": 0.2, "liquid": 99.0, "heat": -3.0, "pieces": 97.0, "held_g": 30.0, "asked_g": 12.0}
    for n in range(BATCHES):
        batch = stove.start(secrets.token_hex(8), version.id, plan, (), f"table {n}", None, "two_bowls", 1000.0 * n)
        closing = (
            None
            if n >= BATCHES - 3
            else Closing(
                finished=1000.0 * n + 900,
                pieces=11,
                planned=12.8,
                stars=4,
                note="",
                good=True,
                lessons=(),
                summary=Summary(packs=tuple(lots[(n // 34) * len(plan.lines) :][: len(plan.lines)]), figures=figures),
            )
        )
        stove.append(batch.id, _morning(plan), 1.0, lambda b, f, c=closing: ((), c))
    total = database.connection().execute("SELECT count(*) FROM batch_event").fetchone()[0]
    print(f"a year: {BATCHES} batches, {total} events, 3 of them under way")
    database.close()


def over_the_wire(url: str) -> None:
    """The lists, over that year."""

    def ask(path: str) -> bytes:
        return bytes(urllib.request.urlopen(f"{url}api/{path}", timeout=30).read())

    batter = json.loads(ask("journal?limit=1"))["batches"][0]["batter_id"]
    for name, path in (
        ("the Stove of a year loads", "stove"),
        ("the Journal of a year opens", "journal"),
        ("a batch of it, and why", f"journal/batches/{json.loads(ask('journal?limit=1'))['batches'][0]['id']}"),
        ("its trends", f"journal/trends/{batter}"),
        ("a recall over all of it", "journal/trace?ingredient=egg&pack=lot%203"),
        ("a guest's way back", "journal/trace/back?guest=table%207"),
    ):
        ask(path)
        show(name, timed(20, lambda path=path: ask(path)), "under 200 ms")


def at_the_counter(page: Page, house: object) -> None:
    """From a touch of the scale's panel to the moved figure, and from a tap to the step it makes."""
    hands = Hands(house)
    hands.go("weigh")
    hands.pour(400)
    page.goto(f"{hands.house.url}stove/{hands.id}")
    page.get_by_role("button", name="The bowl is on").click()
    page.get_by_role("status", name="On the scale").wait_for()
    seen = page.evaluate(
        """async () => {
          const figure = document.querySelector('[aria-label="On the scale"]');
          const found = [];
          for (let n = 0; n < 30; n++) {
            const before = figure.textContent;
            const start = performance.now();
            const moved = new Promise((done) => {
              const watch = new MutationObserver(() => {
                if (figure.textContent !== before) { watch.disconnect(); requestAnimationFrame(() => done(performance.now() - start)); }
              });
              watch.observe(figure, { characterData: true, childList: true, subtree: true });
            });
            await fetch('/api/devices/scale', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ act: 'pour', grams: n % 2 ? -20 : 20 }) });
            found.push(await moved);
            await new Promise((r) => setTimeout(r, 1300));
          }
          return found;
        }"""
    )
    show("a pour to the moved figure on the screen", seen, "a reading within 100 ms")
    taps = []
    for _ in range(12):
        start = time.perf_counter()
        hands.say({"kind": "prep_started", "key": "melt"})
        taps.append(1000 * (time.perf_counter() - start))
    show("a tap to its answer over the wire", taps)


def _morning(plan: Batter) -> list[object]:
    lines = [
        event("poured", line=at, slot=n, grams=x.grams / 4, done=n == 3, gross=1.0) for at, x in enumerate(plan.lines) for n in range(4)
    ]
    steps = [event("step_done", key=k, wets=k == "together", leavens=k == "together") for k in ("dry", "wet", "together", "hands")]
    loads = [
        e
        for n in range(26)
        for e in (event("load_on", load=n, pieces=1), event("turned", load=n), event("off", load=n, good=1), event("cared", care="wiped"))
    ]
    return [
        event("went", stage="weigh"),
        *lines,
        *steps,
        event("judged", way="spread", value=11),
        event("rest_started"),
        event("rest_ended"),
        *loads,
    ]
