"""The Journal over HTTP, on the demo's six weeks: entries, what is said afterwards, one change taken along, files, packs."""

import time

import pytest

from mutabilis.api.stove import closing
from mutabilis.api.stove_views import guided
from mutabilis.core.stove.events import Poured
from mutabilis.demo.weeks import BATCHES, fill_weeks


@pytest.fixture
def weeks(client):
    here = client.app.state.context
    made = fill_weeks(here.book, here.stove, here.facts, time.time(), lambda batch, _: ((), closing(guided(batch, here))), BATCHES)
    assert made == BATCHES and fill_weeks(here.book, here.stove, here.facts, 0, lambda b, _: ((), None)) == 0  # a log that is there is left
    return client


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
    from mutabilis.api.journal import _priors

    assert _priors(here)["water_low"] > 0.07 > _priors(here)["water_high"]
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


def test_a_recall_over_six_weeks_finds_every_batch_of_its_lot(weeks):
    named = weeks.get("/api/journal/packs", params={"ingredient": "egg"}).json()
    assert len(named) > 3 and all("lot" in n for n in named)
    found = weeks.get("/api/journal/trace", params={"ingredient": "egg", "pack": named[1]}).json()
    here = weeks.app.state.context
    true = {
        x.id
        for x in here.stove.log(0, 100)[0]
        for e in here.stove.batch(x.id).events
        if e.kind == "poured" and e.pack == named[1]
    }  # fmt: skip
    assert {u["batch"] for u in found["certain"]} == true and found["possible"] and found["ruled_out"]
    assert not {u["batch"] for u in found["ruled_out"]} & true


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
    assert len(whole) == BATCHES and whole[0]["batch"]["events"] and set(whole[0]) == {"batch", "said", "line"}


def test_a_pack_is_named_by_the_larder_at_the_pour_and_traced(client, ridge):
    egg = next(x["ingredient"] for x in ridge["batter"]["lines"] if x["ingredient"] == "egg")
    assert client.put(f"/api/larder/{egg}", json={"ingredient": egg, "pack": "Hill eggs, lot 7"}).status_code == 204
    here = client.app.state.context
    batch = client.post("/api/stove/batches", json={"version": ridge["id"]}).json()["id"]
    at = next(n for n, x in enumerate(here.stove.batch(batch).plan.lines) if x.ingredient == egg)
    pour = Poured(id="0000000000000001", at=here.clock.now(), line=at, slot=0, grams=50.0, pack="made up by a screen")
    client.post(f"/api/stove/batches/{batch}/events", json={"events": [pour.model_dump(mode="json")]})
    kept = next(e for e in here.stove.batch(batch).events if e.kind == "poured")
    assert kept.pack == here.items[egg].pack == "Hill eggs, lot 7"
    client.post(
        f"/api/stove/batches/{batch}/events", json={"events": [{"id": "0000000000000002", "at": here.clock.now(), "kind": "finished"}]}
    )
    undone = [{"id": "0000000000000003", "at": here.clock.now(), "kind": "undone", "event": "0000000000000002"}]
    assert client.get("/api/journal", params={"fault": "thick"}).json()["batches"] == []
    seen = {"id": "0000000000000004", "at": here.clock.now(), "kind": "faults_seen", "faults": ["thick"]}
    over = {"id": "0000000000000005", "at": here.clock.now(), "kind": "finished"}
    client.post(f"/api/stove/batches/{batch}/events", json={"events": [*undone, seen, over]})
    assert [b["id"] for b in client.get("/api/journal", params={"fault": "thick"}).json()["batches"]] == [
        batch
    ]  # opened again, it ended otherwise
    found = client.get("/api/journal/trace", params={"ingredient": egg, "pack": str(here.items[egg].pack)}).json()
    assert [u["batch"] for u in found["certain"]] == [batch] and "safe" not in found["words"]


def pointed(found, under=""):
    """Every sentence in which a figure is written with a point; formulas, sources and what a cook or a solver wrote as a line apart."""
    if isinstance(found, dict):
        return [
            x
            for k, v in found.items()
            if k not in ("rule", "source", "line", "lines", "batter") or (k == "batter" and "ledgers" in v)
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
