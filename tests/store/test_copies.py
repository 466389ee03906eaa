"""One server on a book, one file at its end, copies that come back whole, and a damaged book that is still read."""

import json
import os
import signal
import socket
import sqlite3
import stat
import subprocess
import sys
import time
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing

import pytest

from mutabilis.core.book.versions import NewVersion
from mutabilis.store import copies
from mutabilis.store.book import Book
from mutabilis.store.database import APPLICATION_ID, Database, StoreError, migrations
from mutabilis.store.drafts import Drafts
from mutabilis.store.lock import BookLock
from tests.conftest import PLAIN, RIDGE


def command(*words, **more):
    return subprocess.run([sys.executable, "-m", "mutabilis.cli", *map(str, words)], capture_output=True, text=True, timeout=60, **more)


def started(book, *words):
    """A server on a book, and its address."""
    process = subprocess.Popen(
        [sys.executable, "-m", "mutabilis.cli", "serve", "--database", str(book), "--port", "0", *words],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
        env={**os.environ, "PYTHONUNBUFFERED": "1"},
    )
    said = process.stdout.readline()
    assert "http://127.0.0.1:" in said, said + process.stderr.read()
    address = said.split("at ")[1].split()[0]
    for _ in range(200):
        try:
            urllib.request.urlopen(f"{address}api/health", timeout=2).close()
            return process, address
        except OSError:
            time.sleep(0.05)
    raise AssertionError("the server did not come up")


def ended(process, how=signal.SIGTERM):
    process.send_signal(how)
    process.wait(15)
    process.stdout.close()
    process.stderr.close()


def tables(path):
    """Every row of every table."""
    with closing(sqlite3.connect(path)) as db:
        names = [r[0] for r in db.execute("SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'version_search_%'")]
        return {n: sorted(map(repr, db.execute(f"SELECT * FROM {n}").fetchall())) for n in names if n != "kitchen_file"}


@pytest.fixture
def filled(tmp_path, batter):
    database = Database(tmp_path / "book.sqlite3")
    first = Book(database).add("Ridge", NewVersion(batter=batter(RIDGE + "\n50 g butter or oil\n20 g zorbled oats")))
    Book(database).made(first.id, True, "good")
    Drafts(database).put("bench", {"a": 1})
    yield database
    database.close()


def test_a_book_is_its_owners_alone_and_bears_its_mark(filled):
    assert stat.S_IMODE(filled.path.stat().st_mode) == 0o600
    assert filled.connection().execute("PRAGMA application_id").fetchone()[0] == APPLICATION_ID
    other = filled.path.with_name("other.sqlite3")
    with closing(sqlite3.connect(other)) as db:
        db.execute("CREATE TABLE notes (a)")
        db.commit()
    before = other.read_bytes()
    with pytest.raises(StoreError, match="another program"):
        Database(other)
    assert other.read_bytes() == before


def test_one_server_a_book_and_one_file_at_its_end(tmp_path):
    book = tmp_path / "book.sqlite3"
    for how in (signal.SIGTERM, signal.SIGINT):
        process, address = started(book)
        other = command(*(("serve", "--port", "0") if how == signal.SIGTERM else ("restore", book)), "--database", book)
        assert other.returncode == 2 and (address if how == signal.SIGTERM else "open already") in other.stderr and other.stdout == ""
        request = urllib.request.Request(f"{address}api/draft", b'{"n": 1}', {"content-type": "application/json"}, method="PUT")
        urllib.request.urlopen(request).close()
        ended(process, how)
        assert [p.name for p in tmp_path.iterdir() if p.is_file()] == ["book.sqlite3"]
        with closing(Database(book)) as kept:
            assert Drafts(kept).get("bench") == {"n": 1}


def test_a_server_told_to_end_answers_what_it_was_asked_and_lets_its_streams_go(tmp_path):
    process, address = started(tmp_path / "book.sqlite3")
    batter = {"lines": [{"text": "x", "ingredient": "all_purpose_flour", "grams": 200}, {"text": "y", "ingredient": "egg", "grams": 100}]}
    body = json.dumps({"batter": batter, "wishes": {"diets": ["vegan", "gluten_free"], "alternatives": 5}}).encode()
    asked = urllib.request.Request(f"{address}api/adapt", body, {"content-type": "application/json"})
    with urllib.request.urlopen(f"{address}api/stove/stream") as stream, ThreadPoolExecutor(1) as beside:
        stream.readline()
        answer = beside.submit(urllib.request.urlopen, asked, timeout=30)
        time.sleep(0.1)
        process.send_signal(signal.SIGTERM)
        assert answer.result().status == 200
        stream.read()  # to its end
    assert process.wait(15) == 0
    ended(process)


def test_a_killed_server_leaves_no_lock_behind(tmp_path):
    book = tmp_path / "book.sqlite3"
    process, _ = started(book)
    ended(process, signal.SIGKILL)
    process, _ = started(book)
    ended(process)


def test_a_taken_port_is_told_and_not_walked_away_from(tmp_path):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        done = command("serve", "--database", tmp_path / "b.sqlite3", "--port", port)
    assert done.returncode == 2 and f"port {port} is taken" in done.stderr and "http" not in done.stdout


def test_a_lock_is_let_go_and_says_where_it_is_held(tmp_path):
    book = tmp_path / "b.sqlite3"
    with BookLock(book, "it runs at the counter"), pytest.raises(StoreError, match="at the counter"), BookLock(book):
        pass
    with BookLock(book):
        pass
    assert not list(tmp_path.iterdir())


def test_a_backup_comes_back_whole_own_files_and_all(filled, tmp_path, batter):
    (tmp_path / "diets").mkdir()
    (tmp_path / "diets/house.toml").write_text('key = "house"\nlabel = "House"\nallow = ["egg"]\n', encoding="utf-8")
    was = tables(filled.path)
    done = command("backup", "--database", filled.path, tmp_path / "out.sqlite3")
    assert done.returncode == 0 and stat.S_IMODE((tmp_path / "out.sqlite3").stat().st_mode) == 0o600
    Book(filled).add("More", NewVersion(batter=batter(PLAIN)))
    filled.close()
    (tmp_path / "diets/house.toml").unlink()
    done = command("restore", "--database", filled.path, tmp_path / "out.sqlite3")
    assert done.returncode == 0, done.stderr
    assert tables(filled.path) == was and (tmp_path / "diets/house.toml").is_file()
    (before,) = copies.copies(filled.path)  # what was there is kept too
    assert before.why == "before a restore" and len(tables(copies.folder_of(filled.path) / before.name)["batter"]) == 2
    assert Book(Database(filled.path)).entries()[0].name == "Ridge"


def test_what_is_no_whole_backup_changes_nothing(filled, tmp_path):
    filled.close()
    whole = tmp_path / "whole.sqlite3"
    copies.write_backup(filled.path, whole)
    torn = bytearray(whole.read_bytes())
    torn[4096 * 3 : 4096 * 8] = os.urandom(4096 * 5)
    before = filled.path.read_bytes()
    for name, data in (("torn", bytes(torn)), ("text", b"Dear cook, " * 900), ("empty", b""), ("short", whole.read_bytes()[:5000])):
        path = tmp_path / name
        path.write_bytes(data)
        with pytest.raises(StoreError):
            copies.restore(filled.path, path)
        assert filled.path.read_bytes() == before, name
    with pytest.raises(StoreError, match="no file"):
        copies.restore(filled.path, tmp_path / "nowhere")


def test_seven_copies_are_kept_and_one_a_day(filled):
    assert copies.keep_daily(filled) is not None and copies.keep_daily(filled) is None
    folder = copies.folder_of(filled.path)
    for n in range(10):
        (folder / f"202001{n + 10}T000000Z of the day.sqlite3").write_bytes(b"x")
    copies.keep_copy(filled, "asked for")
    kept = copies.copies(filled.path)
    assert len(kept) == 7 and {kept[0].why, kept[1].why} == {"asked for", "of the day"} and kept[0].at > kept[-1].at


def test_a_copy_is_made_before_an_upgrade(tmp_path):
    path = tmp_path / "old.sqlite3"
    with closing(sqlite3.connect(path)) as old:
        for number, sql in migrations()[:-1]:
            old.executescript(f"{sql}\nPRAGMA user_version = {number};")
    Database(path).close()
    assert [c.why for c in copies.copies(path)] == ["before an upgrade"]


def test_a_damaged_book_is_opened_for_reading_alone(filled, tmp_path, facts):
    from fastapi.testclient import TestClient

    from mutabilis.api.app import create_app

    for n in range(40):
        Drafts(filled).put(f"k{n}", {"n": "x" * 3000})
    filled.close()
    with closing(sqlite3.connect(filled.path)) as db:
        root = db.execute("SELECT rootpage FROM sqlite_schema WHERE name = 'draft'").fetchone()[0]
        size = db.execute("PRAGMA page_size").fetchone()[0]
    with filled.path.open("r+b") as file:
        file.seek((root - 1) * size + 8)
        file.write(b"\xff" * 400)
    broken = Database(filled.path)
    assert broken.damage
    with pytest.raises(StoreError, match="damaged"):
        Drafts(broken).put("bench", {})
    with TestClient(create_app(facts, broken), base_url="http://127.0.0.1") as client:
        saved = json.loads(client.get("/api/salvage").content)
        assert [b["name"] for b in saved["batters"]] == ["Ridge"] and client.get("/api/copies").json()["damage"]
        assert client.put("/api/draft", json={"a": 1}).status_code == 503


@pytest.mark.parametrize("way", ["fifo", "huge", "nested", "folder", "latin"])
def test_an_own_file_that_is_none_is_left_out_and_named(tmp_path, way):
    from mutabilis.store.kitchen import load_kitchen

    folder = tmp_path / "diets"
    folder.mkdir()
    (folder / "good.toml").write_text('key = "good"\nlabel = "Good one"\nallow = ["egg"]\n', encoding="utf-8")
    bad = folder / "bad.toml"
    if way == "fifo":
        os.mkfifo(bad)
    elif way == "folder":
        bad.mkdir()
    else:
        bad.write_bytes({"huge": b"#" * 5_000_000, "nested": b"a = " + b"[" * 60_000, "latin": b'key = "\xff\xfe"'}[way])
    found = load_kitchen(tmp_path).facts
    assert "good" in found.diets and len(found.faults) == 1 and "bad.toml" in found.faults[0]
