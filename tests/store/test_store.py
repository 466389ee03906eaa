"""Nothing acknowledged is lost, nothing saved ever changes, and an old book opens."""

import os
import signal
import sqlite3
import subprocess
import sys
import textwrap
from pathlib import Path

import pytest

from mutabilis.core.book.versions import NewVersion
from mutabilis.core.errors import NotKnown
from mutabilis.core.measures.profile import Profile
from mutabilis.demo import fill
from mutabilis.store.book import Book
from mutabilis.store.database import Database, StoreError, migrations
from mutabilis.store.drafts import Drafts, Settings
from tests.conftest import PLAIN, RIDGE


@pytest.fixture
def database(tmp_path):
    return Database(tmp_path / "book.sqlite3")


def test_versions_have_parents_and_never_change(database, batter):
    book = Book(database)
    first = book.add("Ridge", NewVersion(batter=batter(RIDGE + "\n1 cup milk or oat drink\n50 g moon dust"), note="the first"))
    second = book.save(
        first.batter_id,
        NewVersion(batter=batter(PLAIN, "waffle", servings=3), parent=first.id, diets=("vegan", "nut_free")),
    )
    assert (first.number, second.number, second.parent, second.diets) == (1, 2, first.id, ("vegan", "nut_free"))
    assert book.version(first.id) == first and book.version(second.id).batter == batter(PLAIN, "waffle", servings=3)
    for sql in (
        "UPDATE version SET note = 'x'",
        "DELETE FROM version",
        "UPDATE version_line SET grams = 1",
        "DELETE FROM version_line",
    ):
        with pytest.raises(sqlite3.IntegrityError, match="never"):
            database.connection().execute(sql)
    assert [len(e.versions) for e in book.entries()] == [2]


def test_unknown_ids(database, batter):
    book = Book(database)
    first = book.add("One", NewVersion(batter=batter(PLAIN)))
    other = book.add("Two", NewVersion(batter=batter(PLAIN)))
    with pytest.raises(NotKnown):
        book.version("nothing")
    with pytest.raises(NotKnown):
        book.save("nothing", NewVersion(batter=batter(PLAIN)))
    with pytest.raises(NotKnown):  # a parent out of another family
        book.save(first.batter_id, NewVersion(batter=batter(PLAIN), parent=other.id))
    assert [len(e.versions) for e in book.entries()] == [1, 1]


def test_drafts_and_settings(database):
    drafts, settings = Drafts(database), Settings(database)
    assert drafts.get("bench") is None and settings.profile() == Profile()
    drafts.put("bench", {"a": [1, "é"]})
    drafts.put("bench", {"a": 2})
    settings.set_profile(Profile(cup_ml=250))
    assert drafts.get("bench") == {"a": 2} and settings.profile().cup_ml == 250
    with pytest.raises(ValueError, match="large"):
        drafts.put("bench", "x" * 500_000)
    drafts.drop("bench")
    assert drafts.get("bench") is None


def test_a_book_of_every_older_migration_opens_and_upgrades(tmp_path):
    steps = migrations()
    for last in range(len(steps)):
        path = tmp_path / f"{last}.sqlite3"
        old = sqlite3.connect(path)
        for number, sql in steps[:last]:
            old.executescript(f"{sql}\nPRAGMA user_version = {number};")
        if last:
            old.execute("INSERT INTO batter (id, name, form, created_at) VALUES ('b', 'Old cakes', 'griddle', '2025-01-01')")
            old.execute(
                "INSERT INTO version (id, batter_id, number, form, note, saved_at) VALUES ('v', 'b', 1, 'griddle', '', '2025-01-01')"
            )
        old.commit()
        old.close()
        database = Database(path)
        assert database.connection().execute("PRAGMA user_version").fetchone()[0] == steps[-1][0]
        assert [e.name for e in Book(database).entries()] == (["Old cakes"] if last else [])
        Drafts(database).put("bench", {})


def test_a_migration_that_fails_leaves_the_book_as_it_was(tmp_path, monkeypatch):
    path = tmp_path / "book.sqlite3"
    Database(path).close()
    steps = migrations()
    monkeypatch.setattr(
        "mutabilis.store.database.migrations",
        lambda: [*steps, (99, "CREATE TABLE half (a TEXT) STRICT; CREATE TABLE batter (b TEXT);")],
    )
    with pytest.raises(StoreError):
        Database(path)
    db = sqlite3.connect(path)
    assert db.execute("PRAGMA user_version").fetchone()[0] == steps[-1][0]
    assert not db.execute("SELECT 1 FROM sqlite_schema WHERE name = 'half'").fetchone()


def test_a_newer_or_foreign_file_is_left_alone(tmp_path):
    path = tmp_path / "newer.sqlite3"
    newer = sqlite3.connect(path)
    newer.execute("PRAGMA user_version = 999")
    newer.close()
    with pytest.raises(StoreError, match="newer"):
        Database(path)
    (tmp_path / "letter.sqlite3").write_text("Dear cook, " * 500)
    with pytest.raises(StoreError, match="not a book"):
        Database(tmp_path / "letter.sqlite3")


def test_tables_are_strict_and_the_log_is_ahead(database):
    db = database.connection()
    assert db.execute("PRAGMA journal_mode").fetchone()[0] == "wal" and db.execute("PRAGMA foreign_keys").fetchone()[0] == 1
    tables = [
        r["sql"]
        for r in db.execute(
            "SELECT sql FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT LIKE 'version_search%'"
        )
    ]
    assert tables and all(sql.rstrip().endswith("STRICT") for sql in tables)


def test_a_locked_book_is_told_and_nothing_is_lost(database, batter):
    book = Book(database)
    book.add("Ridge", NewVersion(batter=batter(PLAIN)))
    holder = sqlite3.connect(database.path, isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    with pytest.raises(StoreError, match="Another program"):
        book.add("More", NewVersion(batter=batter(PLAIN)))
    assert [e.name for e in book.entries()] == ["Ridge"]  # reading goes on
    holder.execute("ROLLBACK")
    book.add("More", NewVersion(batter=batter(PLAIN)))


def test_a_read_only_book_is_told(database, batter):
    database.connection().execute("PRAGMA query_only = ON")
    with pytest.raises(StoreError, match="read-only"):
        Book(database).add("Ridge", NewVersion(batter=batter(PLAIN)))
    database.connection().execute("PRAGMA query_only = OFF")
    Book(database).add("Ridge", NewVersion(batter=batter(PLAIN)))


@pytest.mark.skipif(sys.platform == "win32", reason="signals")
def test_a_kill_between_writes_loses_nothing_acknowledged(tmp_path, facts):
    """A writer says each number only once it is saved, and is killed without warning; every number said is there."""
    path = tmp_path / "book.sqlite3"
    fill(Book(Database(path)), facts)
    writer = textwrap.dedent(
        """
        import sys
        from pathlib import Path
        from mutabilis.store.database import Database
        from mutabilis.store.drafts import Drafts
        drafts = Drafts(Database(Path(sys.argv[1])))
        for n in range(10**6):
            drafts.put(f"k{n}", {"n": n})
            print(n, flush=True)
        """
    )
    for after in (1, 7, 25):
        process = subprocess.Popen([sys.executable, "-c", writer, str(path)], stdout=subprocess.PIPE, text=True)
        said = -1
        for line in process.stdout:
            said = int(line)
            if said >= after:
                break
        os.kill(process.pid, signal.SIGKILL)
        process.wait()
        process.stdout.close()
        database = Database(Path(path))
        assert [Drafts(database).get(f"k{n}") for n in range(said + 1)] == [{"n": n} for n in range(said + 1)]
        assert database.connection().execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        assert len(Book(database).entries()) >= 6
