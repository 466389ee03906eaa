"""A morning over HTTP: guests by the line, a plan that follows, what happens on the day, files, and guests who are forgotten."""

from datetime import datetime
from types import SimpleNamespace

import pytest
from icalendar import Calendar

from mutabilis.core.service.hours import seconds
from mutabilis.core.stove.fold import fold
from tests.ui.steps import until

DAY = "2030-05-14"


@pytest.fixture
def at(client):
    """Sets the server's clock to an hour of the day."""

    def set_to(hour: str, day: str = DAY) -> None:
        moment = datetime.fromisoformat(f"{day}T{hour}").timestamp()
        client.app.state.context.clock = SimpleNamespace(now=lambda: moment, words=lambda: "", off_by_s=0.0)

    set_to("20:00", "2030-05-13")
    return set_to


def planned_out(here):
    """Waits until nothing better is looked for any more."""
    until(lambda: here.planner.busy(DAY), lambda busy: not busy, 90)


def put_down(client, text, day=DAY):
    done = client.post(f"/api/morning/{day}/guests", json={"text": text})
    assert done.status_code == 200, done.text
    return done.json()


def test_guests_are_put_down_planned_for_and_taken_out(client, at):
    told = put_down(client, "Ada, 07:30, coeliac, 3 cakes\nBo, 07:30, 3 cakes\nCleo, 07:30, kiwi")
    view = told["morning"]
    assert [u["line"] for u in told["unread"]] == ["Cleo, 07:30, kiwi"] and [g["name"] for g in view["guests"]] == ["Ada", "Bo"]
    assert view["plan"]["status"] == "ok" and all(g["gets"] and g["fits"] for g in view["guests"])
    ada = next(o for o in view["offers"] if o["id"] == view["plan"]["serves"]["ada"])
    assert ada["adapted"] and "gluten" not in ada["contains"] and "wheat" not in ada["contains"]
    assert view["acts"][0]["words"].startswith("Weigh out") and view["mixes"] and view["buy"]
    bag = view["mixes"][0]
    assert bag["grams"] > 50 and "gluten" in bag["free_of"] and len(bag["inside"]) > 1 and bag["branches"][0]["add"].startswith("Add to ")
    assert client.delete(f"/api/morning/{DAY}/guests/ada").json()["plan"]["serves"].keys() == {"bo"}
    changed = client.put(f"/api/morning/{DAY}/guests/bo", json={"text": "Bo, 08:00, vegan, 2 cakes"}).json()["morning"]
    assert [(g["at"], g["pieces"], g["needs"][0]["what"]) for g in changed["guests"]] == [("08:00", 2, "vegan")]
    assert client.delete(f"/api/morning/{DAY}/guests/nobody").status_code == 404
    assert client.get("/api/morning/2030-13-40").status_code == 422


def test_guests_come_again_the_next_day_until_they_are_forgotten(client, at):
    client.post(f"/api/morning/{DAY}/guests", json={"text": "Ada, 07:30, egg allergy", "forget": "2030-05-20"})
    assert [g["name"] for g in client.get("/api/morning/2030-05-15").json()["guests"]] == ["Ada"]
    assert client.get("/api/morning/2030-05-21").json()["guests"] == []
    here = client.app.state.context
    assert here.mornings.forget("2030-05-20") == 0 and here.mornings.forget("2030-05-21") == 1
    with here.database.read() as db:
        kept = "".join(str(tuple(r)) for t in ("morning", "happening") for r in db.execute(f"SELECT * FROM {t}"))
    assert "Ada" not in kept and "ada" not in kept and "egg" not in kept


def test_on_the_day_a_guest_is_late_a_surface_dies_and_everything_can_be_taken_back(client, at):
    view = put_down(client, "Ada, 07:30, 3 cakes\nBo, 08:30, 3 cakes\nTable two, 08:30, 2 cakes")["morning"]
    first = view["acts"][0]
    at("05:00")
    event = {"id": "aaaaaaaa", "at": "05:00", "kind": "done", "do": first["do"], "of": first["of"]}
    done = client.post(f"/api/morning/{DAY}/happened", json=event).json()
    assert done["acts"][0]["done"] and done["can_undo"] == "aaaaaaaa"
    assert client.post(f"/api/morning/{DAY}/happened", json=event).json()["acts"][0]["done"]  # sent twice, kept once
    late = client.post(
        f"/api/morning/{DAY}/happened", json={"id": "bbbbbbbb", "at": "05:01", "kind": "late", "of": "ada", "to": "07:45"}
    ).json()
    assert late["said"] == "Ada eats at another hour; nobody else is touched."
    assert next(p for p in late["plan"]["plates"] if "ada" in p["guests"])["served"] >= "07:45:00"
    back = client.post(f"/api/morning/{DAY}/happened", json={"id": "cccccccc", "at": "05:02", "kind": "undone", "of": "bbbbbbbb"}).json()
    assert next(g for g in back["guests"] if g["id"] == "ada")["at"] == "07:30"
    used = {x["station"] for x in back["plan"]["loads"]}
    dead = client.post(
        f"/api/morning/{DAY}/happened", json={"id": "dddddddd", "at": "05:03", "kind": "dead", "of": used.copy().pop()}
    ).json()
    alive = {s["id"] for s in dead["stations"] if not s["dead"]}
    assert {x["station"] for x in dead["plan"]["loads"]} <= alive
    more = client.post(f"/api/morning/{DAY}/came", json={"id": "eeeeeeee", "text": "Dan, 08:30, vegan, 1 cakes"}).json()
    assert not more["unread"] and "dan" in more["morning"]["plan"]["serves"]
    assert client.post(f"/api/morning/{DAY}/came", json={"id": "ffffffff", "text": "Eve, 08:30, kiwi"}).json()["unread"]


def test_what_lies_on_the_fire_does_not_move(client, at):
    view = put_down(client, "Ada, 07:30, 5 cakes\nBo, 08:30, 5 cakes")["morning"]
    on = view["plan"]["loads"][0]
    at(on["on"])
    later = client.post(
        f"/api/morning/{DAY}/happened", json={"id": "gggggggg", "at": on["on"], "kind": "late", "of": "bo", "to": "08:50"}
    ).json()
    again = next(x for x in later["plan"]["loads"] if x["id"] == on["id"])
    assert (again["on"], again["station"], again["pieces"]) == (on["on"], on["station"], on["pieces"])


def test_a_conflict_is_settled_by_one_of_its_remedies(client, at):
    view = put_down(client, "\n".join(f"G{n}, 07:30, 2 waffles" for n in range(5)))["morning"]
    assert view["plan"]["status"] == "conflict"
    here = client.app.state.context
    planned_out(here)
    view = client.get(f"/api/morning/{DAY}").json()
    (conflict, *_) = view["plan"]["conflicts"]
    assert "too many at 07:30" in conflict["words"] and conflict["remedies"]
    late = view["plan"]["late_guests"] + len(view["plan"]["unserved"])
    settled = client.post(f"/api/morning/{DAY}/remedy", json={"changes": conflict["remedies"][0]["changes"]}).json()
    planned_out(here)
    settled = client.get(f"/api/morning/{DAY}").json()
    assert settled["plan"]["late_guests"] + len(settled["plan"]["unserved"]) < late


def test_the_plan_leaves_as_calendar_table_and_whole(client, at):
    view = put_down(client, "=Ada, 07:30, 3 cakes")["morning"]
    calendar = Calendar.from_ical(client.get(f"/api/morning/{DAY}/plan.ics").content)
    events = list(calendar.walk("VEVENT"))
    assert len(events) == len(view["acts"]) and events[0]["summary"] == view["acts"][0]["words"]
    start = events[0]["dtstart"].dt
    assert start.hour * 3600 + start.minute * 60 + start.second == view["acts"][0]["at"]
    table = client.get(f"/api/morning/{DAY}/plan.csv").text.splitlines()
    assert table[0] == "at,to,who,do,of,words" and len(table) == len(view["acts"]) + 1 and not any(",=" in row for row in table)
    assert client.get(f"/api/morning/{DAY}/plan.json").json()["status"] == "ok"
    assert client.get("/api/morning/2031-01-01/plan.ics").status_code == 404


def test_a_killed_planner_leaves_the_last_plan_and_says_so(client, at):
    put_down(client, "Ada, 07:30, 3 cakes")
    here = client.app.state.context
    here.planner.stop()
    here.planner.ask(DAY, here.morning_kitchen.service(here.mornings.day(DAY)), lambda plan: True)
    here.planner._at_work[DAY].kill()
    planned_out(here)
    view = client.get(f"/api/morning/{DAY}").json()
    assert view["plan"]["status"] == "ok" and view["trouble"] in ("", "Planning stopped before it found anything; the last plan stays.")


def test_a_morning_that_is_over_is_not_planned_again(client, at):
    put_down(client, "Ada, 07:30, 3 cakes")
    at("12:00")
    view = client.post(f"/api/morning/{DAY}/plan").json()
    assert "over" in view["trouble"] and view["plan"]["status"] == "ok" and seconds(view["plan"]["plates"][0]["served"]) == seconds("07:30")


def test_batters_with_the_same_dry_lines_branch_from_one_mix(client, at):
    """The same flour, sugar and powder, with milk or with oat drink: one bag for both."""
    dry = "200 g plain flour\n20 g sugar\n10 g baking powder\n2 g salt\n"
    for name, wet in (("Milk cakes", "240 g milk\n2 eggs\n30 g oil"), ("Oat cakes", "300 g oat drink\n40 g oil")):
        lines = client.post("/api/read", json={"text": dry + wet}).json()
        client.post("/api/batters", json={"name": name, "version": {"batter": {"lines": lines, "form": "griddle"}}})
    here = client.app.state.context
    both = [e.versions[0].id for e in here.book.entries() if e.name in ("Milk cakes", "Oat cakes")]
    m = here.mornings.day(DAY)
    here.mornings.wish(DAY, m.wished.model_copy(update={"versions": tuple(both)}))
    ids = {e.name: e.versions[0].id for e in here.book.entries()}
    view = put_down(client, "Ada, 07:30, 6 cakes\nBo, 07:30, vegan, 6 cakes")["morning"]
    taken = [{"guest": "ada", "batter": ids["Milk cakes"]}, {"guest": "bo", "batter": ids["Oat cakes"]}]
    view = client.post(f"/api/morning/{DAY}/remedy", json={"changes": taken}).json()
    (bag,) = view["mixes"]
    assert {b["name"] for b in bag["branches"]} == {"Milk cakes", "Oat cakes"} and "oat drink" in " ".join(
        b["add"] for b in bag["branches"]
    )
    sheet = client.get(f"/api/morning/{DAY}/labels.pdf")
    assert sheet.headers["content-type"] == "application/pdf" and sheet.content[:4] == b"%PDF" and len(sheet.content) > 2000


def test_a_load_that_is_put_on_at_the_stove_is_the_same_load_here(client, at):
    """A batch of the version that the plan makes, on the day: its mixing, its first load and its turn are done here as well."""
    view = put_down(client, "Ada, 07:30, 3 cakes")["morning"]
    here = client.app.state.context
    version = view["plan"]["batters_used"][0]
    at("07:00")
    batch = client.post("/api/stove/batches", json={"version": version}).json()["id"]
    now = here.clock.now()
    events = [{"kind": "step_done", "key": "mix", "wets": True}, {"kind": "load_on", "load": 0, "pieces": 3}, {"kind": "turned", "load": 0}]
    sent = [{"id": f"{n + 1:016x}", "at": now, **e} for n, e in enumerate(events)]
    assert client.post(f"/api/stove/batches/{batch}/events", json={"events": sent}).status_code == 200
    acts = client.get(f"/api/morning/{DAY}").json()["acts"]
    assert {a["do"]: a["done"] for a in acts} == {"weigh": True, "mix": True, "pour": True, "turn": True, "off": False, "plate": False}


def test_a_load_that_is_ticked_here_is_put_on_turned_and_taken_off_at_the_stove(client, at):
    view = put_down(client, "Ada, 07:30, 3 cakes")["morning"]
    here = client.app.state.context
    at("07:00")
    batch = client.post("/api/stove/batches", json={"version": view["plan"]["batters_used"][0]}).json()["id"]
    load = view["plan"]["loads"][0]["id"]
    done = 0

    def tick(**what):
        nonlocal done
        done += 1
        body = {"id": f"tick-{done:08d}", "at": "07:20", **what}
        for _ in range(2):  # a touch that is sent twice counts once
            assert client.post(f"/api/morning/{DAY}/happened", json=body).status_code == 200
        return body["id"], fold(here.stove.batch(batch).plan, here.stove.batch(batch).events).loads

    assert tick(kind="done", do="pour", of=load)[1] == ()  # nothing was chosen to cook on yet: the Stove's own cook begins it
    chosen = {
        "kind": "surface_chosen",
        "surface": here.facts.surfaces[0].model_dump(mode="json"),
        "celsius": 190,
        "portion_ml": 60,
        "per_load": 6,
    }
    sent = [{"id": "00000000000000aa", "at": here.clock.now(), **chosen}]
    assert client.post(f"/api/stove/batches/{batch}/events", json={"events": sent}).status_code == 200
    poured, loads = tick(kind="done", do="pour", of=load)
    assert [(x.pieces, x.turned) for x in loads] == [(3, None)]
    assert tick(kind="undone", of=poured)[1] == ()
    tick(kind="done", do="pour", of=load)
    assert tick(kind="done", do="turn", of=load)[1][0].turned is not None
    off, loads = tick(kind="done", do="off", of=load)
    assert loads[0].good == 3
    over = [{"id": "00000000000000bb", "at": here.clock.now(), "kind": "finished"}]
    client.post(f"/api/stove/batches/{batch}/events", json={"events": over})
    assert [(x.load, x.name, x.pieces) for x in here.journal.served(batch)] == [(0, "Ada", 3)]  # who ate follows from the plan
    client.post(
        f"/api/stove/batches/{batch}/events",
        json={"events": [{"id": "00000000000000cc", "at": here.clock.now(), "kind": "undone", "event": "00000000000000bb"}]},
    )
    assert tick(kind="undone", of=off)[1][0].off is None
    assert tick(kind="undone", of="tick-99999999")[1][0].off is None and tick(kind="done", do="turn", of="nothing")[1][0].turned is not None


def test_a_dish_beside_and_a_soaking_are_made_the_evening_before_for_all_pieces(client, at):
    text = "200 g plain flour\n10 g baking powder\n2 g salt\n300 g oat drink\n30 g oil\n14 g ground flaxseed\n\nFor the blueberry compote:\n200 g blueberries\n30 g sugar\n"
    lines = client.post("/api/read", json={"text": text}).json()
    client.post("/api/batters", json={"name": "Berry cakes", "version": {"batter": {"lines": lines, "form": "griddle"}}})
    here = client.app.state.context
    (version,) = [e.versions[0].id for e in here.book.entries() if e.name == "Berry cakes"]
    here.mornings.wish(DAY, here.mornings.day(DAY).wished.model_copy(update={"versions": (version,)}))
    one, two = (put_down(client, f"{name}, 07:30, vegan, 6 cakes")["morning"]["ahead"] for name in ("Ada", "Bo"))
    assert {x["kind"] for x in one} == {"side", "soak"} and all(x["keeps"] for x in one)
    for kind in ("side", "soak"):
        (a,), (b,) = ([x for x in found if x["kind"] == kind] for found in (one, two))
        assert b["grams"] == pytest.approx(2 * a["grams"]) and set(b["guests"]) == {"Ada", "Bo"}
    side = next(x for x in two if x["kind"] == "side")
    assert 0.6 < side["grams"] / (230 * 12 / here.morning_kitchen.analysed(version).yields.pieces) < 1
    act = next(a for a in client.get(f"/api/morning/{DAY}").json()["acts"] if a["do"] == "side")
    first = min(p["served"] for p in client.get(f"/api/morning/{DAY}").json()["plan"]["plates"])
    assert act["at"] == seconds(first) - 600 and "compote" in act["words"]
    at("07:21")
    done = client.post(
        f"/api/morning/{DAY}/happened", json={"id": "side-0000001", "at": "07:21", "kind": "done", "do": "side", "of": act["of"]}
    )
    assert next(a for a in done.json()["acts"] if a["do"] == "side")["done"]
    assert "compote" in client.get(f"/api/morning/{DAY}/plan.csv").text
