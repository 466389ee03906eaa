"""The Journal over HTTP, on the demo's six weeks: entries, what is said afterwards, one change taken along, files, packs."""

import time
from contextlib import contextmanager

import pytest
from fastapi.testclient import TestClient

from mutabilis.api.app import create_app
from mutabilis.core.journal.served import Served
from mutabilis.core.stove.events import Poured
from mutabilis.demo.weeks import BATCHES
from mutabilis.store.database import Database


def faulty(client, fault):
    return client.get("/api/journal", params={"fault": fault}).json()["batches"]


def test_the_log_is_searched_by_words_and_by_fault(weeks):
    whole = weeks.get("/api/journal").json()
    assert whole["total"] == BATCHES == len(whole["batches"]) and len(whole["faults"]) == 24
    with_faults = [b for b in whole["batches"] if b["faults"]]
    assert with_faults and {b["id"] for b in faulty(weeks, with_faults[0]["faults"][0])} <= {b["id"] for b in with_faults}
    assert all("waffles" in b["name"] for b in weeks.get("/api/journal", params={"q": "waffles"}).json()["batches"])
    assert weeks.get("/api/journal", params={"q": "nothing of the kind"}).json()["batches"] == []


def test_what_is_said_afterwards_counts_and_can_be_taken_back(weeks):
    good = next(b for b in weeks.get("/api/journal").json()["batches"] if not b["faults"])
    url = f"/api/journal/batches/{good['id']}"
    assert weeks.get(url).json()["diagnosis"] is None
    said = weeks.post(f"{url}/said", json={"id": "aaaaaaaa", "kind": "faults", "faults": ["dense"], "when": "first"}).json()
    assert said["line"]["faults"] == ["dense"] and said["diagnosis"]["causes"]
    question = said["diagnosis"]["question"]
    if question:
        again = weeks.post(
            f"{url}/said", json={"id": "bbbbbbbb", "kind": "answer", "question": question["id"], "answer": question["answers"][0]}
        ).json()
        assert again["told"]["answers"] == {question["id"]: question["answers"][0]}
        assert again["diagnosis"]["question"] is None or again["diagnosis"]["question"]["id"] != question["id"]
    remark = weeks.post(f"{url}/said", json={"id": "cccccccc", "kind": "remark", "who": "Ada", "text": "Lovely."}).json()
    assert remark["told"]["remarks"][0]["text"] == "Lovely." and remark["told"]["last"] == "cccccccc"
    assert weeks.post(f"{url}/said", json={"id": "dddddddd", "kind": "unsaid", "of": "cccccccc"}).json()["told"]["remarks"] == []
    assert weeks.post(f"{url}/said", json={"id": "eeeeeeee", "kind": "faults", "faults": ["purple"]}).status_code == 422
    assert weeks.get("/api/journal/batches/0000000000000000").status_code == 404


def test_one_change_becomes_a_version_with_its_reason_and_moves_the_kitchens_priors(weeks):
    here = weeks.app.state.context
    line = next(b for b in weeks.get("/api/journal").json()["batches"] if "thick" in b["faults"])
    url = f"/api/journal/batches/{line['id']}"
    found = weeks.get(url).json()
    first = found["diagnosis"]["causes"][0]
    assert first["cause"] == "water_low" and first["correction"]["grams"] > 10
    made = weeks.post(f"{url}/take", json={"id": "0123456789abcdef", "cause": "water_low"}).json()
    assert made["parent"] == line["version_id"] and made["note"].startswith("Next time: ")
    assert (
        weeks.post(f"{url}/take", json={"id": "0123456789abcdef", "cause": "water_low"}).json()["id"] == made["id"]
    )  # sent twice, made once
    assert weeks.get(url).json()["told"]["taken"]["cause"] == "water_low"
    from mutabilis.api.journal import priors
    from mutabilis.api.log import read_log

    assert priors(read_log(here))["water_low"] == pytest.approx(0.07)  # only what came of it moves them
    assert weeks.post(f"{url}/take", json={"id": "fedcba9876543210", "cause": "nonsense"}).status_code == 422


def test_what_is_kept_stands_by_its_day_until_it_is_used_or_thrown_away(weeks):
    kept = weeks.get("/api/journal/kept").json()
    assert kept and [k["until"] for k in kept] == sorted(k["until"] for k in kept) and any(k["past"] for k in kept)
    one = kept[0]
    url = f"/api/journal/batches/{one['batch']}/said"
    weeks.post(url, json={"id": "kept-0001", "kind": "kept", "of": one["event"], "answer": "discarded"})
    assert one["event"] not in {k["event"] for k in weeks.get("/api/journal/kept").json()}
    weeks.post(url, json={"id": "kept-0002", "kind": "unsaid", "of": "kept-0001"})
    assert one["event"] in {k["event"] for k in weeks.get("/api/journal/kept").json()}


def test_a_fault_seen_twice_in_one_version_is_told_where_it_is_opened(weeks):
    lines = weeks.get("/api/journal").json()["batches"]
    two = [b for b in lines if b["version_id"] == lines[0]["version_id"]][:2]
    url = f"/api/journal/again/{lines[0]['version_id']}"
    for n, b in enumerate(two):
        before = {a["fault"]: a["times"] for a in weeks.get(url).json()}
        weeks.post(f"/api/journal/batches/{b['id']}/said", json={"id": f"again-{n:04d}", "kind": "faults", "faults": ["green"]})
        assert ("green" in before) is False
    assert next(a for a in weeks.get(url).json() if a["fault"] == "green") == {
        "fault": "green",
        "words": "green spots",
        "times": 2,
        "batch": two[0]["id"],
    }
    assert weeks.get("/api/journal/again/0000000000000000").json() == []


def test_trends_comparisons_and_files(weeks):
    lines = weeks.get("/api/journal").json()["batches"]
    batter = max({b["batter_id"] for b in lines}, key=lambda i: sum(b["batter_id"] == i for b in lines))
    trends = weeks.get(f"/api/journal/trends/{batter}").json()
    assert {"liquid", "stars"} <= {t["key"] for t in trends} and all(len(t["points"]) > 1 and t["words"] for t in trends)
    two = weeks.get("/api/journal/compare", params={"batch": [lines[0]["id"], lines[1]["id"]]}).json()
    assert len(two["batches"]) == 2 and two["words"]
    table = weeks.get("/api/journal/log.csv").text.splitlines()
    assert len(table) == BATCHES + 1 and table[0].startswith("day,batter,version")
    whole = weeks.get("/api/journal/log.json").json()
    assert len(whole) == BATCHES and whole[0]["batch"]["events"] and set(whole[0]) == {"batch", "notes", "frozen", "served"}


def pointed(found, under=""):
    """Every sentence in which a figure is written with a point; formulas, sources and what a cook or a solver wrote as a line apart."""
    if isinstance(found, dict):
        return [
            x
            for k, v in found.items()
            if k not in ("rule", "source", "line", "lines", "batter", "program") or (k == "batter" and "ledgers" in v)
            for x in pointed(v, k)
        ]
    if isinstance(found, list):
        return [x for v in found for x in pointed(v, under)]
    return (
        [(under, found)]
        if isinstance(found, str)
        and any(a.isdigit() and b == "." and c.isdigit() for a, b, c in zip(found, found[1:], found[2:], strict=False))
        else []
    )


def test_a_kitchen_that_writes_a_comma_reads_one_in_every_sentence(weeks):
    batter = weeks.get("/api/start").json()["version"]["batter"]
    faults = [b["id"] for b in weeks.get("/api/journal").json()["batches"] if b["faults"]]
    batters = {b["batter_id"] for b in weeks.get("/api/journal").json()["batches"]}

    def all_said():
        asked = [
            ("analyse", {"batter": batter, "diets": ["vegan"]}),
            ("adapt", {"batter": batter, "wishes": {"diets": ["low_carb"], "alternatives": 3}}),
        ]
        said = [weeks.post(f"/api/{url}", json=body).json() for url, body in asked]
        said += [weeks.get(f"/api/journal/batches/{b}").json() for b in faults]
        return said + [weeks.get(f"/api/journal/trends/{b}").json() for b in batters]

    with_points = len(pointed(all_said()))
    weeks.put("/api/profile", json={**weeks.get("/api/profile").json(), "decimal": "comma"})
    assert with_points > 30 and pointed(all_said()) == []


def test_what_is_reckoned_at_the_start_stays_whatever_is_learned_later(client):
    here = client.app.state.context
    version = client.get("/api/start").json()["version"]
    batch = client.post("/api/stove/batches", json={"version": version["id"]}).json()["id"]
    frozen = here.journal.frozen(batch)
    analysed = client.post("/api/analyse", json={"batter": version["batter"], "diets": []}).json()
    assert frozen.program and int(frozen.pieces) == analysed["pieces"]["yields"]["whole"]
    assert frozen.hold_g == pytest.approx(analysed["pieces"]["hold_back"]["hold_g"], rel=0.2) and frozen.turn_s and frozen.spread_cm
    flour = next(x["ingredient"] for x in version["batter"]["lines"] if "flour" in x["text"])
    item = client.get(f"/api/larder/{flour}").json()["item"]
    client.put(f"/api/larder/{flour}", json={**item, "absorption": 1.4})
    again = client.post("/api/stove/batches", json={"version": version["id"]}).json()["id"]
    assert here.journal.frozen(batch) == frozen and here.journal.frozen(again).spread_cm < frozen.spread_cm - 0.3


def test_who_ate_is_known_by_name_for_ninety_days_and_then_by_number_and_need(weeks):
    here = weeks.app.state.context
    line = weeks.get("/api/journal").json()["batches"][0]
    at = here.stove.batch(line["id"]).finished
    here.journal.serve(
        line["id"], [Served(load=0, at=at, name="Bram", pieces=2, needs="egg allergy"), Served(load=1, at=at, name="Ada", pieces=1)]
    )
    weeks.post(f"/api/journal/batches/{line['id']}/said", json={"id": "ffffffff", "kind": "remark", "who": "Bram", "text": "Good."})
    assert weeks.get(f"/api/journal/batches/{line['id']}").json()["ate"] == "Bram and Ada"
    ingredient = next(x.ingredient for x in here.stove.batch(line["id"]).plan.lines if x.counts)
    use = next(
        u
        for t in weeks.get("/api/journal/trace", params={"ingredient": ingredient, "pack": "no such"}).json().values()
        if isinstance(t, list)
        for u in t
        if u["batch"] == line["id"]
    )
    assert use["whom"] == "Bram and Ada"
    assert here.journal.forget_names(at - 1) == 0 or weeks.get(f"/api/journal/batches/{line['id']}").json()["ate"] == "Bram and Ada"
    here.journal.forget_names(time.time() + 60)
    found = weeks.get(f"/api/journal/batches/{line['id']}").json()
    assert (
        found["ate"] == "2 guests (egg allergy)"
        and found["told"]["remarks"][0]["who"] == ""
        and found["told"]["remarks"][0]["text"] == "Good."
    )
    assert all(b["whom"] == "" for b in weeks.get("/api/journal").json()["batches"])


def test_a_log_saved_whole_comes_back_as_it_was_and_keeps_the_good_lines(weeks, tmp_path, facts):
    first = weeks.get("/api/journal").json()["batches"][0]
    weeks.post(f"/api/journal/batches/{first['id']}/said", json={"id": "aaaaaaaa", "kind": "remark", "who": "Ada", "text": "Lovely."})
    whole = weeks.get("/api/journal/log.json").json()
    book = Database(tmp_path / "other.sqlite3")
    with closing_of(weeks.app.state.context.book, book) as sheets:
        app = create_app(facts, book, minds_scale=False)
        for sheet in sheets:
            app.state.context.book.keep(sheet)
        app.state.context.larder.put(weeks.app.state.context.items.values())  # which bags are in use makes what was learned less sure
        with TestClient(app, base_url="http://127.0.0.1") as other:
            first = whole[0]["batch"]
            strange = {**first["plan"], "lines": [{**first["plan"]["lines"][0], "ingredient": "unobtanium"}]}
            changes = ({"version_id": "0" * 16}, {"started": -5e12}, {"id": "../x"}, {"events": []}, {"plan": strange})
            bad = [*({**whole[0], "batch": {**first, "id": f"{n:016x}", **change}} for n, change in enumerate(changes)), {"nonsense": 1}, 7]
            told = other.post("/api/journal/log", json=[*whole, *bad]).json()
            assert (told["brought"], told["here_already"], told["left_in_all"]) == (len(whole), 0, len(bad))
            assert other.post("/api/journal/log", json=whole).json()["here_already"] == len(whole)
            assert other.get("/api/journal/log.json").json() == whole
            assert beliefs(other) == beliefs(weeks)
            for junk in ("{", '{"a": 1}', "[" * 5000):
                assert other.post("/api/journal/log", content=junk, headers={"content-type": "application/json"}).status_code == 422
    assert {r.split(",")[0] for r in weeks.get("/api/journal/log.pours.csv").text.splitlines()[1:]} <= {
        b["id"] for b in weeks.get("/api/journal").json()["batches"]
    }


def beliefs(client):
    return [
        (x["subject"], [(y["batch"], y["then"]["value"], y["then"]["doubt"]) for y in x["told"]]) for x in client.get("/api/learned").json()
    ]


@contextmanager
def closing_of(book, other):
    yield [book.sheet(b) for b in book.ids()]
    other.close_all()


def test_the_shelf_shows_what_was_held_back_and_what_to_measure_next(weeks):
    here = weeks.app.state.context
    version = weeks.get("/api/start").json()["version"]
    found = weeks.get(f"/api/journal/shelf/{version['batter_id']}").json()
    assert found["next"][0]["now_g"] > found["next"][0]["after_one_g"] > found["next"][0]["after_three_g"] > 0
    lines = [b for b in weeks.get("/api/journal").json()["batches"] if b["batter_id"] == version["batter_id"]]
    assert here.journal.frozen(lines[0]["id"]) is not None
    cups = weeks.get(f"/api/journal/shelf/{version['batter_id']}").json()["cups"]
    assert len(cups) == len(lines) and all(0 <= c["asked_g"] <= c["held_g"] for c in cups) and any(c["asked_g"] > 0 for c in cups)


def test_the_log_is_sieved_by_stars_days_and_packs(weeks):
    whole = weeks.get("/api/journal").json()["batches"]

    def shown(**sought):
        return [b["id"] for b in weeks.get("/api/journal", params=sought).json()["batches"]]

    good, other = shown(stars="good"), shown(stars="not_good")
    assert good and other and set(good) | set(other) | set(shown(stars="none")) == {b["id"] for b in whole} and not set(good) & set(other)
    day = whole[10]["day"]
    assert shown(since=day, until=day) == [b["id"] for b in whole if b["day"] == day]
    pack = next(e.pack for b in whole for e in weeks.app.state.context.stove.batch(b["id"]).events if e.kind == "poured" and e.pack)
    assert shown(q=pack) and set(shown(q=pack)) < {b["id"] for b in whole}
    assert weeks.get("/api/journal", params={"since": "yesterday"}).status_code == 422


def test_a_change_that_was_taken_along_is_followed_up(weeks):
    here = weeks.app.state.context
    line = next(b for b in weeks.get("/api/journal").json()["batches"] if "thick" in b["faults"])
    url = f"/api/journal/batches/{line['id']}"
    made = weeks.post(f"{url}/take", json={"id": "0123456789abcdef", "cause": "water_low"}).json()
    assert weeks.get(url).json()["helped"] is None
    for n in (1, 2):
        batch = weeks.post("/api/stove/batches", json={"version": made["id"]}).json()["id"]
        load = {"id": f"{n:015x}a", "at": time.time(), "kind": "load_on", "load": 0, "pieces": 2}
        off, end = (
            {"id": f"{n:015x}{k}", "at": time.time(), **e}
            for k, e in (("b", {"kind": "off", "load": 0, "good": 2}), ("c", {"kind": "finished"}))
        )
        assert weeks.post(f"/api/stove/batches/{batch}/events", json={"events": [load, off, end]}).status_code == 200
        found = weeks.get(url).json()["helped"]
        assert (found["since"], found["of_since"]) == (0, n) and 0 < found["p"] < 1 and "Too few to tell" in found["words"]
    assert here.journal.told(line["id"]).taken.version == made["id"]


def test_a_trial_draws_its_order_counts_its_pairs_and_says_what_they_prove(weeks):
    line = next(b for b in weeks.get("/api/journal").json()["batches"] if b["faults"])
    url = f"/api/journal/batches/{line['id']}"
    assert weeks.get(url).json()["trial"] is None
    begun = {"id": "trial-0001", "kind": "trial", "cause": "water_low", "text": "the liquid", "arms": ["as it is", "20 g more"], "pairs": 6}
    t = weeks.post(f"{url}/said", json=begun).json()["trial"]
    drawn = set()
    for n in range(6):
        drawn.add(t["first"])
        better = "1" if t["arms"][t["first"]] == "20 g more" else "2"
        t = weeks.post(f"{url}/said", json={"id": f"tried-000{n}", "kind": "tried", "of": "trial-0001", "answer": better}).json()["trial"]
    assert t["over"] and drawn == {0, 1} and "better in 6 and" in t["words"] and "3 of 100" in t["words"]
    back = weeks.post(f"{url}/said", json={"id": "unsaid-0001", "kind": "unsaid", "of": "tried-0005"}).json()["trial"]
    assert back["done"] == 5 and not back["over"]
    for bad in (
        {**begun, "id": "trial-0002", "arms": ["one"]},
        {"id": "tried-0009", "kind": "tried", "of": "trial-0001", "answer": "maybe"},
    ):
        assert weeks.post(f"{url}/said", json=bad).status_code == 422


def test_a_bowl_that_goes_wrong_is_explained_while_it_can_be_saved(client, ridge):
    batch = client.post("/api/stove/batches", json={"version": ridge["id"]}).json()["id"]
    here = client.app.state.context
    lines = here.stove.batch(batch).plan.lines
    at = max((n for n, x in enumerate(lines) if x.ingredient and "milk" in x.ingredient), key=lambda n: lines[n].grams)
    pours = [
        Poured(id=f"{n:016x}", at=here.clock.now(), line=n, slot=0, grams=x.grams * (0.6 if n == at else 1.0)).model_dump(mode="json")
        for n, x in enumerate(lines)
        if x.counts and x.grams > 0
    ]
    client.post(f"/api/stove/batches/{batch}/events", json={"events": pours})
    why = client.post(f"/api/journal/batches/{batch}/why", json={"faults": ["thick"]}).json()
    assert why["diagnosis"]["causes"][0]["cause"] == "water_low" and why["rescues"][0]["does"] == "add"
    assert client.post(f"/api/journal/batches/{batch}/why", json={"faults": ["purple"]}).status_code == 422
    assert client.post(f"/api/journal/batches/{batch}/why", json={"faults": []}).status_code == 422
    assert here.journal.notes(batch) == ()  # nothing of it is kept


def test_what_a_diagnosis_says_is_done_to_the_bowl_and_undone_like_any_step(client, ridge):
    here = client.app.state.context
    batch = client.post("/api/stove/batches", json={"version": ridge["id"]}).json()["id"]
    lines = here.stove.batch(batch).plan.lines
    at = max((n for n, x in enumerate(lines) if x.ingredient and "milk" in x.ingredient), key=lambda n: lines[n].grams)
    pours = [
        Poured(id=f"{n:016x}", at=here.clock.now(), line=n, slot=0, grams=x.grams * (0.6 if n == at else 1.0)).model_dump(mode="json")
        for n, x in enumerate(lines)
        if x.counts and x.grams > 0
    ]
    client.post(f"/api/stove/batches/{batch}/events", json={"events": pours})
    url, asked = f"/api/journal/batches/{batch}/do", {"faults": ["thick"], "cause": "water_low", "id": "00000000000000d0"}
    told = client.post(f"/api/journal/batches/{batch}/why", json={"faults": ["thick"]}).json()
    done = client.post(url, json=asked).json()
    line = next(x for x in done["weighing"]["lines"] if x["at"] == at)
    assert done["stage"] == "weigh" and line["missing"] == pytest.approx(told["diagnosis"]["causes"][0]["correction"]["grams"], abs=0.1)
    assert client.post(url, json=asked).json()["count"] == done["count"]  # sent twice, done once
    again = client.post(f"/api/journal/batches/{batch}/why", json={"faults": ["thick"]}).json()
    water = [s["correction"]["grams"] or 0.0 for s in again["diagnosis"]["causes"] if s["cause"] == "water_low"]
    assert all(abs(g) < 2 for g in water)  # what is still to be poured is not asked for again
    undo = {"id": "00000000000000d1", "at": here.clock.now(), "kind": "undone", "event": done["undo"]}
    back = client.post(f"/api/stove/batches/{batch}/events", json={"events": [undo]}).json()
    assert next(x for x in back["weighing"]["lines"] if x["at"] == at)["missing"] == 0 and back["stage"] != "weigh"
    assert client.post(url, json=asked | {"id": "00000000000000d2", "cause": "nonsense"}).status_code == 422
    client.post(
        f"/api/stove/batches/{batch}/events", json={"events": [{"id": "00000000000000d3", "at": here.clock.now(), "kind": "finished"}]}
    )
    assert client.post(url, json=asked | {"id": "00000000000000d4"}).status_code == 422  # it is over


def test_a_rescue_never_brings_in_what_the_guests_of_a_batch_may_not_have(client, ridge):
    """Powder that may hold wheat starch is no rescue for a batch of coeliac guests; for others it is."""
    here = client.app.state.context
    told = {}
    for diets in ((), ("gluten_free",)):
        batter = {**ridge["batter"], "lines": [x for x in ridge["batter"]["lines"] if "baking_powder" not in (x["ingredient"] or "")]}
        version = client.post(
            f"/api/batters/{ridge['batter_id']}/versions", json={"batter": batter, "parent": ridge["id"], "diets": [], "note": ""}
        ).json()
        batch = client.post("/api/stove/batches", json={"version": version["id"], "diets": diets}).json()["id"]
        lines = here.stove.batch(batch).plan.lines
        pours = [
            {"kind": "poured", "id": f"{n:016x}", "at": here.clock.now(), "line": n, "slot": 0, "grams": x.grams}
            for n, x in enumerate(lines)
            if x.grams > 0
        ]
        client.post(f"/api/stove/batches/{batch}/events", json={"events": pours})
        why = client.post(f"/api/journal/batches/{batch}/why", json={"faults": ["flat", "dense"]}).json()
        told[diets] = {s["cause"]: r for s, r in zip(why["diagnosis"]["causes"], why["rescues"], strict=True)}
    assert told[()]["lift_low"]["does"] == "add" and told[("gluten_free",)]["lift_low"]["does"] == "nothing"
    assert "may have baking powder" in told[("gluten_free",)]["lift_low"]["words"]
