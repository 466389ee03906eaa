"""What the server answers when things are not as they should be: its own faults, odd requests, hostile files, lines without end."""

import copy
import json
import logging
import sqlite3
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing

import pytest
from fastapi.testclient import TestClient

from mutabilis.api.app import create_app
from mutabilis.core.journal.served import Served
from mutabilis.core.reading.reading import LONGEST_LINE, MOST_LINES, read_lines
from mutabilis.store.database import Database
from mutabilis.store.journal import Said
from tests.pictures import picture


def send(client, data, name="book.json"):
    return client.post("/api/import", params={"filename": name}, content=data)


def test_a_fault_of_the_program_is_told_as_one(client, monkeypatch, caplog):
    for error in (KeyError("x"), ValueError("y"), ZeroDivisionError()):
        monkeypatch.setattr("mutabilis.api.bench.analyse", lambda *_, error=error, **__: (_ for _ in ()).throw(error))
        with caplog.at_level(logging.ERROR, "mutabilis"):
            answer = client.post("/api/analyse", json={"batter": {"lines": []}})
        assert answer.status_code == 500 and answer.headers["content-security-policy"] and answer.headers["cache-control"] == "no-store"
        number = answer.json()["error"].rstrip(".").split()[-1]
        assert number in caplog.text and type(error).__name__ in caplog.text


def test_odd_requests_are_answered_plainly(client):
    put = client.put("/api/health")
    assert put.status_code == 405 and "GET" in put.headers["allow"]
    assert client.head("/bench").status_code == 200 and client.head("/bench").content == b""
    assert client.get("/api/start").headers["cache-control"] == "no-store"
    assert client.get("/moon", headers={"accept": "text/html"}).status_code == 404
    assert b"<div id=" in client.get("/moon", headers={"accept": "text/html"}).content
    assert client.get("/api/moon", headers={"accept": "text/html"}).json()["error"]
    for host in ("evil.example", "127.0.0.1.evil.example", "127.0.0.1:", "127.0.0.1:99999999", "localhost:8o", "127.0.0.1 "):
        assert client.get("/api/health", headers={"host": host}).status_code == 421, host
    assert client.get("/api/health", headers={"host": "localhost:8765"}).status_code == 200


def everything(client):
    return json.loads(client.get("/api/everything").content)


def hostile(book):
    """Copies of a whole book, each with one thing in it that no book of ours has."""
    one = copy.deepcopy(book["batters"][0])
    one["id"], one["made"] = "f" * 16, []
    for n, v in enumerate(one["versions"]):
        v["id"], v["batter_id"], v["parent"] = f"{n:016x}", one["id"], None
    for change in (
        lambda b: b.update(versions=[]),
        lambda b: b["versions"][0].update(parent="e" * 16),
        lambda b: b["versions"][0].update(parent=b["versions"][0]["id"]),
        lambda b: b["versions"].append(copy.deepcopy(b["versions"][0])),
        lambda b: b["versions"][0].update(number=2**70),
        lambda b: b["versions"][0].update(number=0),
        lambda b: b.update(name="x" * 5000),
        lambda b: b.update(name=" "),
        lambda b: b.update(form="pie"),
        lambda b: b["versions"][0]["batter"].update(form="pie"),
        lambda b: b["versions"][0]["batter"]["lines"][0].update(grams=1e300),
        lambda b: b["versions"][0]["batter"].update(lines=b["versions"][0]["batter"]["lines"] * 300),
        lambda b: b.update(made=[{"id": "a", "version_id": "nowhere", "at": "", "good": True, "note": ""}]),
    ):
        bad = copy.deepcopy(one)
        change(bad)
        yield {"mutabilis": 1, "batters": [bad]}
    for records in (
        {"moon": [{"a": 1}]},
        {"draft": [{"key": "bench", "body": "{", "updated_at": ""}]},
        {"draft": [{"key": "x", "body": "{}", "updated_at": "", "evil": 1}]},
        {"surface": [{"id": "x", "body": "{}", "archived_at": None, "updated_at": ""}]},
        {"setting": [{"key": "profile", "value": '{"cup_ml": -1}'}]},
        {"made": [{"id": "m", "version_id": book["batters"][0]["versions"][0]["id"], "at": "", "good": 2**66, "note": ""}]},
    ):
        yield {"mutabilis": 1, "batters": [one], "records": records}


def test_a_hostile_book_changes_nothing_at_all(client):
    before = client.get("/api/everything").content
    for bad in hostile(json.loads(before)):
        answer = send(client, json.dumps(bad).encode())
        assert answer.status_code == 422 and "Nothing was changed" in answer.json()["error"], answer.text[:300]
        assert client.get("/api/everything").content == before
    assert client.get("/api/book").status_code == 200


def test_a_child_before_its_parent_is_kept_in_its_place(client):
    one = copy.deepcopy(everything(client)["batters"][0])
    first = one["versions"][0]
    one["id"], one["made"] = "d" * 16, []
    parent = {**first, "id": "1" * 16, "batter_id": one["id"], "parent": None, "number": 2}
    child = {**first, "id": "2" * 16, "batter_id": one["id"], "parent": "1" * 16, "number": 1}
    one["versions"] = [child, parent]
    assert send(client, json.dumps({"mutabilis": 1, "batters": [one]}).encode()).json()["kept"] == 1
    assert [v["parent"] for v in client.get(f"/api/batters/{one['id']}").json()["versions"]] == ["1" * 16, None]


def test_our_own_json_carries_every_table(client, facts, tmp_path):
    """A batch with events, a reading, a surface, a draft, a word, a withdrawn making: out, into an empty book, and every row the same."""
    version = client.get("/api/start").json()["version"]
    batch = client.post("/api/stove/batches", json={"version": version["id"]}).json()["id"]
    event = {"kind": "scale_used", "on": True, "id": "a" * 16, "at": time.time()}
    assert client.post(f"/api/stove/batches/{batch}/events", json={"events": [event]}).status_code == 200
    line = client.post("/api/read", json={"text": "200 g flour, zorbled"}).json()[0]
    assert (
        client.post("/api/answer", json={"line": line, "told": {"kind": "word", "about": "zorbled", "choice": "prepared"}}).json()["unread"]
        == []
    )
    client.put("/api/draft", json={"a": [1, "é"]})
    surface = {**client.get("/api/surfaces").json()[0], "name": "Other"}
    client.put("/api/surfaces", json={"surface": surface, "away": False})
    client.put("/api/profile", json={**client.get("/api/profile").json(), "cup_ml": 250})
    client.post(
        "/api/readings/answers", json={"ingredient": "oat_flour", "by": "Ottilie", "on": "2026-11-25", "says": ["certified_gluten_free"]}
    )
    said = {"id": "aaaaaaaa", "kind": "remark", "who": "Ada", "text": "Good."}
    here = client.app.state.context
    here.journal.say(batch, Said(**said))
    here.journal.serve(batch, [Served(load=0, at=time.time(), name="Ada", pieces=2)])
    assert client.post(f"/api/journal/batches/{batch}/photos", content=picture()).status_code == 200
    data = client.get("/api/everything").content
    (tmp_path / "other").mkdir()
    with TestClient(create_app(facts, Database(tmp_path / "other/b.sqlite3")), base_url="http://127.0.0.1") as other:
        assert send(other, data).status_code == 200
        assert everything(other) == json.loads(data)

    def rows(path):
        with closing(sqlite3.connect(path)) as db:
            names = [r[0] for r in db.execute("SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'version_search%'")]
            return {n: sorted(map(repr, db.execute(f"SELECT * FROM {n}").fetchall())) for n in names}

    mine, theirs = rows(tmp_path / "book.sqlite3"), rows(tmp_path / "other/b.sqlite3")
    assert mine == theirs and all(
        mine[t]
        for t in (
            "batch_event",
            "draft",
            "surface",
            "prepared_word",
            "pack_reading",
            "setting",
            "photo",
            "served",
            "journal_note",
            "batch_frozen",
            "pack_used",
        )
    )


def test_a_restore_through_the_page_is_taken_back_by_its_own_copy(client):
    before = everything(client)
    data = client.get("/api/backup").content
    lines = client.post("/api/read", json={"text": "200 g flour"}).json()
    client.post("/api/batters", json={"name": "Late", "version": {"batter": {"lines": lines}}})
    refused = client.post("/api/restore", content=b"no book")
    assert refused.status_code == 422 and refused.json()["error"].startswith("The file cannot be read as a book")
    assert len(everything(client)["batters"]) == len(before["batters"]) + 1
    told = client.post("/api/restore", content=data).json()
    assert everything(client) == before
    assert client.post("/api/restore", params={"name": told["before"]}).status_code == 200
    assert "Late" in [b["name"] for b in everything(client)["batters"]]


@pytest.mark.parametrize("piece", [" ", "1/2 ", "(", "a/", "cup and ", "gluten-free ", "½", "or ", "x, ", "1 cup minus ", "to "])
def test_a_line_without_end_is_soon_read(piece, facts, profile):
    """Time grows with the size and no faster: a hundred times the letters are refused, not read."""
    text = "1 cup " + piece * (LONGEST_LINE // len(piece) - 3) + "flour"
    started = time.perf_counter()
    read_lines("\n".join([text] * 20), facts, profile)
    assert time.perf_counter() - started < 5
    (far,) = read_lines("1 cup " + "ab" * 40_000, facts, profile)
    assert "longer" in far.problem
    assert len(read_lines("1 egg\n" * 1000, facts, profile)) == MOST_LINES
    (spaced,) = read_lines("1 cup" + " " * 400 + "flour", facts, profile)
    assert spaced.ingredient == "all_purpose_flour"


def test_heavy_work_holds_nothing_up(client):
    batter = client.get("/api/start").json()["version"]["batter"]
    heavy = {"batter": batter, "wishes": {"diets": ["vegan", "gluten_free", "nut_free"], "alternatives": 5}}
    with ThreadPoolExecutor(6) as pool:
        slow = [pool.submit(client.post, "/api/adapt", json=heavy) for _ in range(4)]
        waits = []
        while not all(s.done() for s in slow):
            begun = time.perf_counter()
            assert client.get("/api/health").status_code == 200
            waits.append(time.perf_counter() - begun)
        assert all(s.result().status_code == 200 for s in slow)
    assert sorted(waits)[len(waits) // 2] < 1.0


@pytest.mark.parametrize(
    "page",
    [
        "<div>" * 200_000,
        "<!" * 500_000,
        "<a " * 300_000,
        "<script " + 'a="' * 300_000,
        '<script type="application/ld+json">' + "<!--" * 300_000,
    ],
)
def test_no_page_takes_its_time(client, page):
    begun = time.perf_counter()
    assert send(client, f"<html>{page}".encode(), "p.html").status_code == 422
    assert time.perf_counter() - begun < 10
