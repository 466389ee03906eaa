"""Planning from a terminal: JSON in, JSON out, exit codes that a script can go by."""

import json
import subprocess

from tests import terminal
from tests.core.service.making import service

PLAN_KEYS = {
    "status", "error", "proven", "late_guests", "late_guest_s", "held_beyond_free_s", "bound", "batters_used", "serves", "unserved", "bowls", "plates", "loads", "tasks", "conflicts",
}  # fmt: skip
ROWS = {
    "bowls": {"id", "batter", "mix", "usable_from", "usable_to"},
    "plates": {"table", "wanted", "served", "guests"},
    "loads": {"id", "batter", "bowl", "station", "pieces", "tables", "guests", "on", "turn", "off", "ready"},
    "tasks": {"at", "to", "who", "do", "of"},
    "conflicts": {"guests", "stations", "rule", "from", "to", "words", "remedies"},
}


def run(*args: str, told: object = None) -> subprocess.CompletedProcess[str]:
    text = told if isinstance(told, str) else json.dumps(told)
    return terminal.run("plan", *args, stdin=text)


def test_a_plan_comes_with_every_key_and_passes_its_own_check(tmp_path):
    told = service(6, 1, 2)
    done = run("-", "--json", "--seconds", "1", told=told)
    plan = json.loads(done.stdout)
    assert (done.returncode, plan["status"], plan["unserved"]) == (0, "ok", [])
    assert set(plan) == PLAN_KEYS and all(set(row) == keys for part, keys in ROWS.items() for row in plan[part])
    wishes, kept = tmp_path / "wishes.json", tmp_path / "plan.json"
    wishes.write_text(json.dumps(told))
    kept.write_text(done.stdout)
    assert run(str(wishes), "--check", str(kept)).returncode == 0
    plan["loads"][0]["pieces"] += 1
    kept.write_text(json.dumps(plan))
    checked = run(str(wishes), "--check", str(kept), "--json")
    assert checked.returncode == 1 and any(plan["loads"][0]["id"] in f for f in json.loads(checked.stdout)["faults"])


def test_a_conflict_is_status_one_with_the_best_plan_for_the_rest():
    told = service(3, 1, 2)
    told["guests"].append({"id": "ada", "name": "Ada", "at": "07:30", "pieces": 1, "batter": "lamp_waffle", "avoid": ["gluten"]})
    done = run("-", "--json", told=told)
    plan = json.loads(done.stdout)
    assert (done.returncode, plan["status"], plan["unserved"]) == (1, "conflict", ["ada"])
    assert "not for Ada (allergy)" in plan["conflicts"][0]["words"] and len(plan["plates"]) >= 1


def test_wishes_that_cannot_be_planned_are_one_line_and_status_two(tmp_path):
    for told, said in (
        ("{", "not JSON"), ("[]", "one JSON object"), ('{"start": NaN}', "no number"), ({**service(2, 1, 1), "stations": []}, "no surface"), ("[" * 30000, "not JSON"),
    ):  # fmt: skip
        done = run("-", "--json", told=told)
        assert done.returncode == 2 and len(done.stderr.splitlines()) == 1 and said in done.stderr
        assert "JSON" in said or "number" in said or json.loads(done.stdout)["status"] == "bad_input"
    assert run(str(tmp_path / "gone.json")).returncode == 2
    assert run("-", "--seconds", "-1", told=service(2, 1, 1)).returncode == 2


def test_a_batter_may_be_given_by_its_lines_and_gets_its_moments():
    told = service(1, 1, 1)
    lines = ["200 g plain flour", "300 g oat drink", "30 g sugar", "10 g baking powder", "30 g oil"]
    told["batters"] = [{"id": "oat_cake", "form": "griddle", "lines": lines}]
    told["guests"] = [{"id": "a", "at": "07:30", "pieces": 3, "needs": ["vegan"]}]
    done = run("-", "--json", told=told)
    plan = json.loads(done.stdout)
    assert done.returncode == 0 and 60 < seconds(plan["loads"][0]["off"]) - seconds(plan["loads"][0]["on"]) < 400
    told["guests"][0]["needs"] = ["gluten_free"]
    assert run("-", told=told).returncode == 1


def seconds(hour: str) -> int:
    h, m, s = hour.split(":")
    return int(h) * 3600 + int(m) * 60 + int(s)


def test_a_batter_may_be_a_version_of_a_book(tmp_path, facts):
    from mutabilis.demo import fill
    from mutabilis.store.book import Book
    from mutabilis.store.database import Database

    database = Database(tmp_path / "book.sqlite3")
    book = Book(database)
    fill(book, facts)
    entry = next(e for e in book.entries() if "buttermilk" in e.name)
    database.close()
    told = service(1, 1, 1)
    told["batters"] = [{"id": "first_light", "version": entry.versions[0].id}]
    told["guests"] = [{"id": "a", "at": "07:30", "pieces": 3}]
    done = run("-", "--json", "--database", str(tmp_path / "book.sqlite3"), told=told)
    assert done.returncode == 0 and json.loads(done.stdout)["serves"] == {"a": "first_light"}
    assert "name it with --database" in run("-", told=told).stderr
    told["batters"][0]["version"] = "0000000000000000"
    assert "there is no version" in run("-", "--database", str(tmp_path / "book.sqlite3"), told=told).stderr
