"""The Stove over the wire: a whole batch, two screens, the live counter, a clock that is set back, labels, and what was learned."""

import asyncio
import json
import math
import secrets
import time
from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise

import pytest

from mutabilis.api.clock import Clock
from mutabilis.api.context import Context
from mutabilis.api.counter import ScaleHand, Watcher, stream
from mutabilis.core.heat.chart import heat_map
from mutabilis.store.stove import Stove as StoveStore


@pytest.fixture
def counter(client):
    return Counter(client)


class Counter:
    """A cook at the counter."""

    def __init__(self, client):
        self.client = client
        self.context: Context = client.app.state.context
        self.version = client.get("/api/start").json()["version"]

    def start(self, diets=("vegetarian",), pieces=16, **more):
        body = {"version": self.version["id"], "diets": list(diets), "size": {"by": "pieces", "amount": pieces}, **more}
        self.batch = self.client.post("/api/stove/batches", json=body).json()
        return self.batch

    def say(self, *events, status=200):
        made = [{"id": secrets.token_hex(8), "at": time.time(), **e} for e in events]
        response = self.client.post(f"/api/stove/batches/{self.batch['id']}/events", json={"events": made})
        assert response.status_code == status, response.text
        if status == 200:
            self.batch = response.json()
        return response.json()

    def look(self):
        self.batch = self.client.get(f"/api/stove/batches/{self.batch['id']}").json()
        return self.batch

    def line(self, at=None):
        at = self.batch["weighing"]["current"] if at is None else at
        found = [x for x in self.batch["weighing"]["lines"] if x["at"] == at]
        return next((x for x in found if x["part"] == self.batch["weighing"]["part"]), found[0])

    def weigh_all(self, eggs=1.1):
        self.say({"kind": "tared", "line": self.batch["weighing"]["current"], "gross": 400})
        gross = 400.0
        while self.batch["weighing"]["current"] is not None:
            x = self.line()
            grams = x["missing"] * (eggs if x["ingredient"] == "egg" else 1)
            gross += grams
            self.say(
                {
                    "kind": "poured",
                    "line": x["at"],
                    "slot": x["slot"],
                    "grams": grams,
                    "gross": gross,
                    "by": x["by"],
                    "part": x["part"],
                    "done": x["last"],
                    "held": x["last"] and x["holds"],
                }
            )

    def cook(self):
        option = self.batch["cooking"]["options"][0]
        self.say(
            {"kind": "surface_chosen", "surface": option["surface"], "celsius": 185, "grease": "film",
             "fat": "sunflower_oil", "portion_ml": option["piece"]["portion_ml"], "per_load": option["piece"]["per_load"]},
        )  # fmt: skip


def test_a_whole_batch_from_start_to_the_log(counter):
    b = counter.start(whom="the night table", first_at=time.time() + 3600)
    assert b["ready"]["clockwork"]["late_s"] == 0 and b["stage"] == "ready" and b["ready"]["prep"][0]["key"] == "warm_up"
    milk = next(x["target"] for x in b["weighing"]["lines"] if x["ingredient"] == "whole_milk")
    counter.weigh_all()
    b = counter.batch
    follows = next(x for x in b["weighing"]["lines"] if x["ingredient"] == "whole_milk")
    assert follows["target"] < milk and follows["held"] >= 1 and "eggs" in b["weighing"]["why"]  # the eggs were heavy: less milk
    counter.say(
        *(
            {"kind": "step_done", "key": m["key"], "wets": m["wets"], "leavens": m["leavens"], "at": time.time() - 600}
            for m in b["mixing"]["steps"]
        )
    )
    counter.say({"kind": "judged", "way": "spread", "value": 10.4})
    advice = counter.batch["judging"]["advice"]
    assert advice["add_g"] > 0 and advice["ingredient"] == "whole_milk" and 0.9 < counter.batch["resting"]["lift_now"] < 1
    counter.cook()
    counter.say({"kind": "load_on", "load": 0, "pieces": 12, "at": time.time() - 200})
    assert [t["key"] for t in counter.batch["timers"]] == ["turn:0"]
    counter.say({"kind": "turned", "load": 0}, {"kind": "off", "load": 0, "good": 11})
    counter.say(
        {"kind": "rated", "stars": 5},
        {"kind": "kept", "what": "pieces_cold", "amount": 3, "until": time.time() + 9000},
        {"kind": "finished"},
    )
    stove = counter.client.get("/api/stove").json()
    assert stove["batches"] == [] and stove["log"][0]["pieces"] == 11 and stove["total"] == 1
    family = counter.client.get(f"/api/batters/{b['batter_id']}").json()
    assert family["versions"][0]["standing"] == "made"
    learned = {(x["kind"], x["subject"]): x for x in counter.client.get("/api/learned").json()}
    flour = learned["absorption", "all_purpose_flour"]
    assert flour["now"]["value"] > flour["first"]["value"] and flour["told"][-1]["batch"] == b["id"] and ("pace", "griddle") in learned
    known = counter.client.get("/api/larder/all_purpose_flour").json()
    assert flour["now"]["value"] == pytest.approx(100 * known["table_absorption"] * known["learned"]["after_mean"])
    assert known["ingredient"]["absorption_g_per_g"] == pytest.approx(flour["now"]["value"] / 100)
    counter.client.post("/api/learned/forget", json={"kind": "absorption", "subject": "all_purpose_flour"})
    assert counter.client.get("/api/larder/all_purpose_flour").json()["ingredient"]["absorption_g_per_g"] == known["table_absorption"]


def test_labels_say_what_is_in_and_until_when(counter):
    counter.start(whom="the two who came late")
    assert counter.client.get(f"/api/stove/batches/{counter.batch['id']}/labels.pdf").status_code == 422  # nothing was kept yet
    counter.say({"kind": "kept", "what": "pieces_cold", "amount": 4, "until": time.time() + 86_400})
    sheet = counter.client.get(f"/api/stove/batches/{counter.batch['id']}/labels.pdf")
    assert sheet.content[:5] == b"%PDF-" and sheet.headers["content-type"] == "application/pdf"
    panel = counter.client.post(f"/api/stove/batches/{counter.batch['id']}/labels").json()
    text = " ".join(panel["printed"][-1])
    assert (
        "Ridge rye cakes" in text
        and "egg" in text
        and "milk" in text
        and "wheat" in text
        and "use by" in text
        and panel["labels_left"] == 23
    )
    counter.context.hub.printer.left = 0
    refused = counter.client.post(f"/api/stove/batches/{counter.batch['id']}/labels")
    assert refused.status_code == 503 and "out of labels" in refused.json()["error"]


def test_two_browsers_that_press_next_at_once_are_one_step(counter):
    counter.start()
    counter.say({"kind": "tared", "line": counter.batch["weighing"]["current"], "gross": 0})
    x = counter.line()
    press = {"kind": "poured", "line": x["at"], "slot": x["slot"], "grams": x["missing"], "gross": x["missing"]}
    counter.say(press)
    after = counter.batch["weighing"]["current"]
    counter.say(press)  # the other browser, with an id of its own
    assert counter.line(x["at"])["poured"] == pytest.approx(x["missing"]) and counter.batch["weighing"]["current"] == after


def test_what_is_not_safe_for_its_guests_is_never_said_to_be(counter):
    b = counter.start(diets=("vegan", "gluten_free"))
    assert (
        b["table"]["verdict"] == "conflicts"
        and {g["verdict"] for g in b["table"]["guests"]} == {"conflicts"}
        and all(g["reason"] for g in b["table"]["guests"])
    )
    fats = {f["id"]: f["verdict"] for f in b["cooking"]["fats"]}
    assert fats["butter"] == "conflicts" and fats["sunflower_oil"] == "fits"
    assert b["cooking"]["fats"][0]["verdict"] == "fits"  # what the guests can have is offered first


def test_offers_over_the_wire(counter):
    counter.start()
    x = counter.line()
    counter.say({"kind": "poured", "line": x["at"], "slot": 0, "grams": x["missing"] * 1.3})
    path = f"/api/stove/batches/{counter.batch['id']}/offers"
    over = counter.client.get(path, params={"line": x["at"]}).json()
    assert {o["key"] for o in over} >= {"carry_on", "raise"} and counter.batch["weighing"]["current"] == x["at"]
    none = counter.client.get(path, params={"line": 3, "why": "none_left"}).json()
    assert none[-1]["key"] == "without"
    assert counter.client.get(path, params={"line": 200}).status_code == 422


def test_the_chart_and_the_piece_wait_for_a_surface(counter, facts):
    counter.start()
    for what in ("piece", "chart"):
        assert counter.client.get(f"/api/stove/batches/{counter.batch['id']}/{what}").status_code == 404
    counter.cook()
    piece = counter.client.get(f"/api/stove/batches/{counter.batch['id']}/piece").json()
    assert piece["frames"][0]["profile_c"] == [20.0] * 25 and piece["frames"][-1]["at_s"] == piece["done_s"]
    chart = counter.client.get(f"/api/stove/batches/{counter.batch['id']}/chart").json()
    assert chart["map"]["heats_c"] == list(heat_map(facts.heat, "griddle", "film").heats_c)


# ---- the live counter


def test_the_scale_is_heard_and_what_stands_inside_is_ready_to_be_taken(counter):
    counter.start()
    touch = lambda act, grams=0: counter.client.post("/api/devices/scale", json={"act": act, "grams": grams})  # noqa: E731
    touch("pour", 412)
    hub = counter.context.hub
    now = [hub.steady()]
    hub.steady = lambda: now[0]

    def wait(seconds):
        for _ in range(int(seconds * 20)):
            now[0] += 0.05
            beat = watcher.look()
        return beat

    watcher = Watcher(counter.context, counter.batch["id"])
    wait(3)
    counter.say({"kind": "tared", "line": counter.batch["weighing"]["current"], "gross": 412})
    x = counter.line()
    touch("pour", x["missing"] / 2)
    beat = wait(3)
    assert beat.pour.stands and not beat.inside and beat.line == x["at"]  # a pour that pauses moves nothing on
    touch("pour", x["missing"] / 2)
    beat = wait(3)
    assert beat.inside and beat.pour.poured == pytest.approx(x["missing"], abs=1.5)
    counter.say({"kind": "poured", "line": x["at"], "slot": beat.slot, "grams": beat.pour.poured, "gross": beat.pour.gross})
    beat = wait(0.2)
    assert (
        beat.line == counter.batch["weighing"]["current"] != x["at"] and not beat.inside and abs(beat.pour.poured) <= 1
    )  # tared by itself
    touch("unplug")
    beat = wait(0.3)
    assert beat.pour.trouble == "unplugged" and beat.pour.poured is None
    touch("plug")
    assert wait(3).pour.trouble == ""
    assert json.loads(counter.client.get("/api/devices").text)["on_g"] > 440


def test_a_surface_that_runs_hot_is_told_once_it_should_be_hot(counter):
    counter.start()
    counter.cook()
    counter.say({"kind": "heat_on", "at": time.time() - 1200})
    hub = counter.context.hub
    now = [hub.steady()]
    hub.steady = lambda: now[0]
    counter.client.post("/api/devices/surface", json={"off_by_c": 25})
    watcher = Watcher(counter.context, counter.batch["id"])
    hub.surface_c()
    now[0] += 2000
    beat = watcher.look()
    assert beat.surface_c == 185 + 25 and "25 °C too hot" in beat.heat_words and "down on the knob" in beat.heat_words
    counter.client.post("/api/devices/surface", json={"off_by_c": 0})
    now[0] += 2000
    assert watcher.look().heat_words == ""


def test_a_message_comes_whenever_something_moves_and_each_second(counter):
    counter.start()

    class Browser:
        left = 40

        async def is_disconnected(self):
            self.left -= 1
            return self.left < 0

    async def listen():
        response = await stream(Browser(), counter.context, counter.batch["id"])
        return [json.loads(part.removeprefix("data: ")) async for part in response.body_iterator]

    with ThreadPoolExecutor(1) as aside:  # the browser of other tests may run a loop in this thread
        beats = aside.submit(asyncio.run, listen()).result()
    assert len(beats) >= 2 and beats[0]["counts"][counter.batch["id"]] == 0
    assert all(b["now"] >= a["now"] for a, b in pairwise(beats))


def test_a_restarted_server_knows_the_batch_and_what_is_on_the_scale(counter, facts):
    counter.start()
    counter.client.post("/api/devices/scale", json={"act": "pour", "grams": 555})
    counter.say({"kind": "tared", "line": counter.batch["weighing"]["current"], "gross": 555})
    again = Context(facts, counter.context.database)
    assert again.hub.scale.on_g == pytest.approx(555, abs=0.5)
    assert again.stove.batch(counter.batch["id"]).events[-1].kind == "tared"


# ---- the clock


def test_a_clock_that_is_set_back_moves_no_timer_and_is_told():
    wall, steady = [10_000.0], [50.0]
    clock = Clock(0, lambda: wall[0], lambda: steady[0])
    assert clock.now() == 10_000 and clock.words() == ""
    wall[0], steady[0] = wall[0] - 2400 + 10, steady[0] + 10
    assert clock.now() == 10_010 and "back by 40 minutes" in clock.words()
    wall[0] += 2400 + 3600
    assert clock.now() == 10_010 and "forward" in clock.words()
    # Restarted while the wall is behind the book: no event is from the future.
    assert Clock(20_000, lambda: wall[0], lambda: steady[0]).now() == 20_000


def test_an_event_of_the_future_happened_now_and_one_of_the_past_when_it_did(counter):
    counter.start()
    counter.say({"kind": "prep_started", "key": "melt", "at": 4e9})
    melt = next(p for p in counter.batch["ready"]["prep"] if p["key"] == "melt")
    assert melt["started"] <= counter.batch["now"]
    earlier = time.time() - 60  # a queue that was kept while the network was gone
    counter.say({"kind": "prep_started", "key": "warm_up", "at": earlier})
    assert next(p for p in counter.batch["ready"]["prep"] if p["key"] == "warm_up")["started"] == pytest.approx(earlier)


def test_the_scale_never_counts_one_pour_for_two_batches(counter):
    a = counter.start()
    counter.say({"kind": "tared", "line": a["weighing"]["current"], "gross": 0})
    b = counter.start()
    counter.say({"kind": "tared", "line": b["weighing"]["current"], "gross": 0})
    mine, other = (Watcher(counter.context, x["id"]).look() for x in (b, a))
    assert mine.pour.trouble != "elsewhere" and other.pour.trouble == "elsewhere" and other.pour.poured is None and not other.inside


def test_an_event_that_would_spoil_its_batch_is_refused(counter):
    counter.start()
    counter.say({"kind": "retargeted", "targets": [{"line": 9, "ingredient": "moon_dust", "grams": 3}]}, status=404)
    counter.say({"kind": "prep_started", "key": "melt", "at": 0})
    melt = next(p for p in counter.batch["ready"]["prep"] if p["key"] == "melt")
    assert melt["started"] >= counter.batch["started"] - 3601


def test_what_cannot_be_is_refused_in_plain_words(counter):
    counter.start()
    for bad in ({"kind": "poured", "line": 0, "slot": 0, "grams": 1e9}, {"kind": "danced"}, {"kind": "judged", "way": "ear", "value": 3}):
        assert counter.say(bad, status=422)["error"]
    assert counter.batch["count"] == 0
    empty = counter.client.post("/api/book", json={"name": "Nothing", "version": {"batter": {"lines": [{"text": "?"}]}}})
    if empty.status_code == 200:
        version = empty.json()["id"]
        refused = counter.client.post("/api/stove/batches", json={"version": version})
        assert refused.status_code == 422 and "weighed out" in refused.json()["error"]
    assert counter.client.post("/api/stove/batches", json={"version": "nowhere"}).status_code == 404


def test_surfaces_are_the_kitchens_own(counter):
    mine = counter.client.get("/api/surfaces").json()[0] | {"name": "Long plate", "width": 90}
    put = counter.client.put("/api/surfaces", json={"surface": mine}).json()
    assert next(s for s in put if s["id"] == mine["id"])["name"] == "Long plate" and len(put) == 5
    wider = counter.start()["cooking"]["options"][0]
    assert wider["surface"]["width"] == 90
    away = counter.client.put("/api/surfaces", json={"surface": mine, "away": True}).json()
    assert mine["id"] not in {s["id"] for s in away}
    assert math.isclose(counter.client.get("/api/surfaces").json()[0]["usual_c"], away[0]["usual_c"])


def test_a_pour_is_taken_with_no_screen_open_once_and_never_again_after_it_was_taken_back(counter):
    """The server minds the scale: what stands within its tolerance is written down, whoever looks."""
    counter.start()
    touch = lambda act, grams=0: counter.client.post("/api/devices/scale", json={"act": act, "grams": grams})  # noqa: E731
    hub, hand = counter.context.hub, ScaleHand(counter.context)
    touch("pour", 412)
    now = [hub.steady()]
    hub.steady = lambda: now[0]

    def wait(seconds):
        taken = 0
        for _ in range(int(seconds * 20)):
            now[0] += 0.05
            taken += hand.look()
        return taken

    assert wait(2) == 0  # nothing was tared, so nothing is counted
    counter.say({"kind": "tared", "line": counter.batch["weighing"]["current"], "gross": 412})
    x = counter.line()
    touch("pour", x["missing"])
    assert wait(3) == 0  # the weighing has not begun
    counter.say({"kind": "went", "stage": "weigh"})
    assert wait(1) == 1
    counter.look()
    taken = next(line for line in counter.batch["weighing"]["lines"] if line["at"] == x["at"])
    assert taken["settled"] and taken["poured"] == pytest.approx(x["missing"], abs=1.5) and counter.batch["weighing"]["current"] != x["at"]
    # A screen that saw the same pour names the same slot: it counts once.
    counter.say({"kind": "poured", "line": x["at"], "slot": 0, "grams": x["missing"]})
    assert next(line for line in counter.batch["weighing"]["lines"] if line["at"] == x["at"])["poured"] == taken["poured"]
    counter.say({"kind": "undone", "event": counter.batch["undo"]})
    assert wait(3) == 0 and not next(line for line in counter.batch["weighing"]["lines"] if line["at"] == x["at"])["settled"]


def test_how_many_events_a_batch_has_is_known_after_a_restart(counter, tmp_path):
    counter.start()
    counter.say({"kind": "went", "stage": "weigh"})
    known = counter.context.stove.counts
    assert known[counter.batch["id"]] == counter.batch["count"] > 0
    assert StoveStore(counter.context.database).counts == known


def test_a_line_that_went_over_is_answered_by_the_cook_and_never_by_the_scale(counter):
    """What stands still on the scale while an answer is chosen is no pour of nought."""
    counter.start()
    counter.say({"kind": "went", "stage": "weigh"}, {"kind": "tared", "line": counter.batch["weighing"]["current"], "gross": 0})
    x = counter.line()
    over = 1.4 * x["missing"]
    counter.client.post("/api/devices/scale", json={"act": "pour", "grams": over})
    counter.say({"kind": "poured", "line": x["at"], "part": x["part"], "slot": x["slot"], "grams": over, "gross": over, "done": x["last"]})
    assert counter.line()["over"] > 0 and not counter.line()["auto"]
    hub, hand = counter.context.hub, ScaleHand(counter.context)
    now = [hub.steady()]
    hub.steady = lambda: now[0]
    for _ in range(80):
        now[0] += 0.05
        assert not hand.look()
    assert counter.look()["weighing"]["current"] == x["at"]


def test_a_scoop_is_looked_at_before_it_is_poured(counter):
    counter.start()
    url = f"/api/stove/batches/{counter.batch['id']}/lies"
    small, large = (counter.client.get(url, params={"surface": "griddle", "portion_ml": ml}).json() for ml in (30, 120))
    assert large["piece"]["diameter_cm"] == pytest.approx(small["piece"]["diameter_cm"] * 4**0.4, rel=1e-3)
    assert small["piece"]["per_load"] > large["piece"]["per_load"] >= 1
    assert counter.client.get(url, params={"surface": "moon", "portion_ml": 60}).status_code == 404
    assert counter.client.get(url, params={"surface": "griddle", "portion_ml": 0}).status_code == 422


def test_a_kitchen_in_fahrenheit_is_told_so_and_a_cooks_own_words_stay(counter):
    profile = counter.client.get("/api/profile").json()
    counter.client.put("/api/profile", json={**profile, "heat": "fahrenheit", "ladle_ml": 90})
    counter.start()
    counter.say({"kind": "noted", "text": "baked at 180 °C"})
    view = counter.look()
    heat = next(p for p in view["ready"]["prep"] if p["key"] == "heat")
    assert "375 °F" in heat["text"] and "°C" not in heat["text"] and view["finishing"]["note"] == "baked at 180 °C"
    assert view["cooking"]["scoops"][0] == {"label": "the ladle", "ml": 90}


def test_what_is_read_or_ruled_under_way_is_told_at_once(client):
    """Nothing that was worked out a moment ago outlives a pack that is read, a reading taken back, or a diet that is written anew."""
    lines = client.post("/api/read", json={"text": "200 g oat flour\n300 g water\n2 eggs\n20 g sugar"}).json()
    version = client.post("/api/batters", json={"name": "Read", "version": {"batter": {"lines": lines, "form": "griddle"}}}).json()
    rule = {"key": "house", "label": "House", "deny": [{"ingredient": ["salt"], "reason": "not here"}]}
    client.put("/api/diets/house", json={"rule": rule})
    one = client.post("/api/stove/batches", json={"version": version["id"], "diets": ["gluten_free", "house"]}).json()["id"]

    def told():
        return [g["verdict"] for g in client.get(f"/api/stove/batches/{one}").json()["table"]["guests"]]

    assert told() == ["cannot_vouch", "fits"]
    says = {"ingredient": "oat_flour", "by": "Ottilie", "on": "2026-11-25", "says": ["certified_gluten_free"]}
    reading = client.post("/api/readings/answers", json=says).json()["id"]
    assert told() == ["fits", "fits"]
    client.delete(f"/api/readings/{reading}")
    assert told() == ["cannot_vouch", "fits"]
    rule["deny"][0]["ingredient"] = ["sugar"]
    client.put("/api/diets/house", json={"rule": rule})
    assert told() == ["cannot_vouch", "conflicts"]
