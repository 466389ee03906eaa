"""Figures of what a careless or hostile hand sends: lines without end, a large file, and taps while heavy work runs."""

import json
import tempfile
import threading
import time
import urllib.request
from pathlib import Path

from tests.ui.house import server

from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import LONGEST_LINE, read_lines
from mutabilis.data import load_facts
from mutabilis.formats.finding import recipes

from .figures import show, timed

PIECES = (
    "1/2 cups and ",
    "(or ",
    "a/1 ",
    "- a ",
    "half a cup of ",
    "gluten-free vegan ",
    "zorbledfrast ",
    "butter with ",
    "½,",
    "to 2 cups ",
)


def reading() -> None:
    """The worst of 200 lines of 300 letters each, and a recipe file of a megabyte."""
    facts, profile = load_facts(), Profile()
    worst = []
    for piece in PIECES:
        line = ("1 cup " + piece * LONGEST_LINE)[: LONGEST_LINE - 1]
        varied = "\n".join(f"{n} {line[:-4]}" for n in range(1, 201))
        worst += timed(1, lambda text=varied: read_lines(text, facts, profile))
    show("reading 200 lines of 300 letters, ten kinds", worst, "worst under 5 s")
    page = json.dumps(
        [
            {"@type": "Recipe", "name": f"Cakes {n}", "recipeIngredient": [f"{n} g flour, sifted", "2 eggs", "240 ml milk"] * 8}
            for n in range(1, 2300)
        ]
    )
    show(f"a file of {len(page) / 1e6:.1f} MB read", timed(3, lambda: recipes(page.encode(), "a.json", facts, profile)))


def taps() -> None:
    """A tap at the Stove while four heavy adaptations are under way all the time."""
    with tempfile.TemporaryDirectory() as folder, server(Path(folder) / "b.sqlite3") as here:

        def call(path: str, body: object = None) -> object:
            data = None if body is None else json.dumps(body).encode()
            request = urllib.request.Request(f"{here.url}{path}", data, {"content-type": "application/json"})
            with urllib.request.urlopen(request, timeout=60) as answer:
                return json.loads(answer.read())

        version = call("api/start")["version"]  # type: ignore[index]
        batch = call("api/stove/batches", {"version": version["id"]})["id"]  # type: ignore[index]
        ending = threading.Event()

        def heavy() -> None:
            while not ending.is_set():
                call(
                    "api/adapt", {"batter": version["batter"], "wishes": {"diets": ["vegan", "gluten_free", "nut_free"], "alternatives": 5}}
                )

        def tap(n: int) -> None:
            event = {"kind": "noted", "text": f"tap {n}", "id": f"{n:016x}", "at": time.time()}
            call(f"api/stove/batches/{batch}/events", {"events": [event]})

        show("a tap, nothing else under way", [x for n in range(40) for x in timed(1, lambda n=n: tap(n))])
        threads = [threading.Thread(target=heavy) for _ in range(4)]
        for thread in threads:
            thread.start()
        show("a tap while four heavy adaptations run", [x for n in range(100, 160) for x in timed(1, lambda n=n: tap(n))])
        ending.set()
        for thread in threads:
            thread.join()
