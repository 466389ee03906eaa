"""The API: what it answers, what it refuses, and that a refusal changes nothing."""

import sqlite3

import pytest

from mutabilis.api.app import create_app
from mutabilis.store.database import Database


def test_opens_on_a_demo_adaptation_that_is_computed(client, ridge):
    start = client.get("/api/start").json()
    assert start["version"]["name"] == "Ridge rye cakes" and start["diets"] == ["vegan", "gluten_free"] and start["draft"] is None
    found = client.post("/api/adapt", json={"batter": ridge["batter"], "wishes": {"diets": start["diets"]}}).json()
    assert found["answers"][0]["batter"]["guests"]["diets"]["vegan"]["verdict"] == "fits"
    more = {
        **ridge["batter"],
        "lines": [{**x, "grams": 2 * x["grams"], "low": 2 * x["low"], "high": 2 * x["high"]} for x in ridge["batter"]["lines"]],
    }
    double = client.post("/api/adapt", json={"batter": more, "wishes": {"diets": start["diets"]}}).json()
    assert double["answers"][0]["batter"]["batter_g"] == pytest.approx(2 * found["answers"][0]["batter"]["batter_g"], rel=0.02)


def test_the_demo_has_every_form(client):
    forms = [e["form"] for e in client.get("/api/book").json()["batters"]]
    assert len(forms) >= 6 and forms.count("griddle") >= 2 and forms.count("waffle") >= 2 and {"crepe", "tray"} <= set(forms)


def test_analyse_and_read(client):
    lines = client.post("/api/read", json={"text": "200 g flour\n300 g milk\n50 g moon dust"}).json()
    view = client.post("/api/analyse", json={"batter": {"lines": lines, "form": "griddle"}, "diets": ["egg_free"]}).json()
    assert view["batter_g"] == 500 and view["guests"]["diets"]["egg_free"]["verdict"] == "cannot_vouch"
    assert {x["key"] for x in view["ledgers"]} >= {
        "flow",
        "lift",
        "acid",
        "set",
        "sweetness",
        "fat",
        "salt",
        "browning",
        "net_carb",
    }
    assert all(c["rule"] and c["name"] for x in view["ledgers"] for c in x["contributions"])


def test_a_version_is_saved_with_its_parent(client, ridge):
    body = {"batter": ridge["batter"], "parent": ridge["id"], "diets": ["vegan"], "note": "thinner"}
    saved = client.post(f"/api/batters/{ridge['batter_id']}/versions", json=body)
    assert saved.status_code == 201 and saved.json()["number"] == 2
    assert client.get(f"/api/versions/{saved.json()['id']}").json() == saved.json()


def test_the_draft_comes_back(client, ridge):
    assert client.put("/api/draft", json={"versionId": ridge["id"], "x": [1]}).status_code == 204
    assert client.get("/api/start").json()["draft"] == {"versionId": ridge["id"], "x": [1]}
    client.delete("/api/draft")
    assert client.get("/api/draft").json() is None


BAD = [
    ('{"lines": [{"text": "x", "ingredient": "sugar", "grams": -1}]}', 422, "below 0", "lines.0.grams"),
    ('{"lines": [{"text": "x", "ingredient": "sugar", "grams": NaN}]}', 422, "must be a number", "lines.0.grams"),
    ('{"lines": [{"text": "x", "ingredient": "sugar", "grams": 1e9}]}', 422, "more than a kitchen", "lines.0.grams"),
    ('{"lines": [{"text": "x", "ingredient": "sugar", "grams": ""}]}', 422, "must be a number", "lines.0.grams"),
    ('{"lines": [{"text": "x", "ingredient": "sugar", "grams": null}]}', 422, "must be a number", "lines.0.grams"),
    ('{"lines": [{"text": "x", "ingredient": "unobtainium", "grams": 1}]}', 422, "no ingredient", None),
    ('{"lines": [], "form": "bun"}', 422, "", "form"),
    ('{"lines": [], "servings": 0}', 422, "", "servings"),
    ("{lines", 400, "not JSON", None),
    ("", 422, "missing", None),
]


@pytest.mark.parametrize(("body", "status", "words", "field"), BAD, ids=[b[0][:60] or "empty" for b in BAD])
def test_bad_input_is_refused_with_a_reason(client, body, status, words, field):
    body = f'{{"batter": {body}}}' if body.endswith("}") else body
    answer = client.post("/api/analyse", content=body, headers={"content-type": "application/json"})
    assert answer.status_code == status, answer.text
    assert words in answer.json()["error"] and answer.json()["field"] == (field and f"batter.{field}")


def test_a_refused_write_changes_nothing(client, ridge):
    before = client.get("/api/book").json()
    path = f"/api/batters/{ridge['batter_id']}/versions"
    assert client.post(path, json={"batter": {"lines": [{"ingredient": "sugar", "grams": -1}]}}).status_code == 422
    assert client.post(path, json={"batter": {"lines": [{"ingredient": "moon", "grams": 1}]}}).status_code == 422
    assert client.post(path, json={"batter": ridge["batter"], "parent": "nobody"}).status_code == 404
    assert client.post("/api/batters/nobody/versions", json={"batter": ridge["batter"]}).status_code == 404
    assert client.post("/api/batters", json={"name": "", "version": {"batter": ridge["batter"]}}).status_code == 422
    assert client.get("/api/versions/nobody").status_code == client.get("/api/nothing").status_code == 404
    assert client.post("/api/adapt", json={"batter": ridge["batter"], "wishes": {"diets": ["moon"]}}).status_code == 422
    assert client.get("/api/book").json() == before


@pytest.mark.parametrize("host", ["evil.example", "127.0.0.1.evil.example", "", "127.0.0.1@evil.example"])
def test_another_host_is_refused(client, host):
    assert client.get("/api/start", headers={"host": host}).status_code == 421


def test_a_foreign_page_cannot_write(client):
    for headers in (
        {"origin": "http://evil.example"},
        {"origin": "null"},
        {"origin": "http://127.0.0.1:9"},
        {"sec-fetch-site": "cross-site"},
    ):
        assert client.put("/api/draft", json={}, headers=headers).status_code == 403
    assert client.put("/api/draft", json={}, headers={"origin": "http://127.0.0.1"}).status_code == 204


def test_a_huge_body_is_refused(client):
    assert client.post("/api/read", json={"text": "x" * 3_000_000}).status_code == 413
    assert client.post("/api/read", json={"text": "x" * 200_000}).status_code == 422


def test_every_answer_carries_the_policy(client):
    for path in ("/", "/api/start", "/api/nothing"):
        policy = client.get(path).headers["content-security-policy"]
        assert "default-src 'none'" in policy and "unsafe" not in policy


def test_a_locked_book_is_told(client, ridge):
    path = client.app.state.context.database.path
    holder = sqlite3.connect(path, isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    answer = client.put("/api/draft", json={"x": 1})
    assert answer.status_code == 503 and "Another program" in answer.json()["error"]
    assert client.get("/api/start").status_code == 200
    holder.execute("ROLLBACK")
    holder.close()
    assert client.put("/api/draft", json={"x": 1}).status_code == 204


HOSTILE = [
    "<script>alert(1)</script>",
    "\u202eflour g 200",
    "‮​﻿",
    "🥞" * 50,
    "'; DROP TABLE version; --",
    "a\x00b",
    "=cmd|' /C calc'!A0",
    "\ud7ff\uffff",
    "  ",
]


@pytest.mark.parametrize("text", HOSTILE)
def test_hostile_text_is_only_text(client, ridge, text):
    lines = client.post("/api/read", json={"text": f"50 g {text}\n200 g flour"})
    assert lines.status_code == 200 and lines.json()[-1]["ingredient"] == "all_purpose_flour"
    view = client.post("/api/analyse", json={"batter": {"lines": lines.json()}})
    assert view.status_code == 200
    note = f"note {text}"
    saved = client.post(f"/api/batters/{ridge['batter_id']}/versions", json={"batter": {"lines": lines.json()}, "note": note})
    assert saved.status_code == 201 and client.get(f"/api/versions/{saved.json()['id']}").json()["note"] == note
    assert client.get("/api/book").json()["total"] == 7


def test_a_deep_or_wide_body_is_refused_quietly(client):
    deep = "[" * 100_000 + "]" * 100_000
    assert client.put("/api/draft", content=deep, headers={"content-type": "application/json"}).status_code in (400, 413, 422)
    wide = {"batter": {"lines": [{"text": "x", "ingredient": "sugar", "grams": 1}] * 5000}}
    assert client.post("/api/analyse", json=wide).status_code == 422
    assert client.put("/api/draft", json={"x": "y" * 500_000}).status_code == 422
    assert client.get("/api/start").json()["draft"] is None


@pytest.mark.parametrize(
    "wishes",
    [
        {"servings": 0},
        {"servings": -1},
        {"alternatives": 6},
        {"caps": {"moon": 1}},
        {"caps": {"kcal": -1}},
        {"flow": "runny"},
        {"unknown": 1},
        {"steps": "inches"},
    ],
)
def test_wishes_that_cannot_be_are_refused(client, ridge, wishes):
    assert client.post("/api/adapt", json={"batter": ridge["batter"], "wishes": wishes}).status_code == 422


def test_all_wishes_pass_through(client, ridge):
    wishes = {
        "diets": ["egg_free"],
        "flow": "thicker",
        "caps": {"sugars_g": 20},
        "bans": ["aquafaba"],
        "pieces": 12,
        "steps": "kitchen",
        "alternatives": 2,
    }
    found = client.post("/api/adapt", json={"batter": ridge["batter"], "wishes": wishes}).json()
    answer = found["answers"][0]
    assert answer["technique"] and answer["confidence"] and answer["batter"]["pieces"]["hold_back"]["pour_g"] > 0
    assert "aquafaba" not in [x["line"]["ingredient"] for x in answer["batter"]["lines"]]


def test_the_schema_is_served_and_the_page_is_ours(client):
    schema = client.get("/api/openapi.json").json()
    assert {"/api/adapt", "/api/analyse", "/api/draft"} <= set(schema["paths"])
    page = client.get("/bench")
    assert page.status_code == 200 and page.headers["cache-control"] == "no-cache" and "Mutabilis" in page.text
    assert client.get("/docs").status_code == client.get("/assets/none.js").status_code == 404


def test_every_application_answers_by_the_same_routes(facts, tmp_path):
    """Built as the program is read: an application that built its own would answer its first request a second later."""
    one, two = (
        {r.path: r for r in create_app(facts, Database(tmp_path / f"{n}.sqlite3")).routes if r.path.startswith("/api/")} for n in (1, 2)
    )
    assert len(one) > 60
    assert all(two[path] is route for path, route in one.items() if path != "/api/openapi.json")
