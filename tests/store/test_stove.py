"""Batches in the database: nothing acknowledged is lost by a kill, nothing is rewritten, nothing counted twice."""

import os
import signal
import sqlite3
import threading
import time

import pytest

from mutabilis.core.book.versions import NewVersion
from mutabilis.core.errors import NotKnown
from mutabilis.core.food.learning import Lesson
from mutabilis.core.stove.fold import fold
from mutabilis.data import load_facts
from mutabilis.store.book import Book
from mutabilis.store.database import Database
from mutabilis.store.stove import Closing, Stove
from tests.conftest import PLAIN
from tests.core.stove.making import event
from tests.sizes import many

KILLS = many(60)
SURFACE = load_facts().surfaces[0]


@pytest.fixture
def house(tmp_path, batter):
    database = Database(tmp_path / "book.sqlite3")
    version = Book(database).add("Ridge", NewVersion(batter=batter(PLAIN)))
    return database, Stove(database), version


def begin(stove, version, id_="a" * 16):
    return stove.start(id_, version.id, version.batter, ("vegan",), "walkers", None, "two_bowls", 1000.0)


def keep(batch, fresh):
    return (), None


def test_a_batch_is_what_was_started_and_sent_twice_it_is_one(house):
    _, stove, version = house
    a, again = begin(stove, version), begin(stove, version)
    b = begin(stove, version, "b" * 16)
    assert a == again and a.plan == version.batter and a.diets == ("vegan",) and (a.mark, b.mark) == (0, 1)
    assert [x.id for x in stove.under_way()] == [b.id, a.id] or {x.id for x in stove.under_way()} == {a.id, b.id}
    with pytest.raises(NotKnown):
        stove.start(None, "nowhere", version.batter, (), "", None, "two_bowls", 1.0)
    with pytest.raises(NotKnown):
        stove.append("c" * 16, [event("finished")], 1.0, keep)


def test_events_are_appended_once_in_order_and_never_rewritten(house):
    database, stove, version = house
    batch = begin(stove, version)
    one, two = event("poured", line=0, slot=0, grams=100), event("poured", line=1, slot=0, grams=5)
    stove.append(batch.id, [one, two, one], 1001.0, keep)
    stove.append(batch.id, [two, one], 1002.0, keep)
    assert [e.id for e in stove.batch(batch.id).events] == [one.id, two.id] and stove.counts[batch.id] == 2
    for sql in ("UPDATE batch_event SET body = '{}'", "DELETE FROM batch_event", "UPDATE batch SET plan = '{}'"):
        with pytest.raises(sqlite3.IntegrityError, match="never"):
            database.connection().execute(sql)


def test_what_follows_comes_with_its_cause_or_not_at_all(house):
    _, stove, version = house
    batch = begin(stove, version)
    cause = event("poured", line=0, slot=0, grams=100)
    effect = event("retargeted", targets=[], because=cause.id)

    def breaks(batch, fresh):
        raise RuntimeError("on the way")

    with pytest.raises(RuntimeError):
        stove.append(batch.id, [cause], 1001.0, breaks)
    assert stove.batch(batch.id).events == ()
    for _ in range(2):
        stove.append(batch.id, [cause], 1001.0, lambda b, f: ((effect,), None))
    assert [e.id for e in stove.batch(batch.id).events] == [cause.id, effect.id]


def test_finished_it_is_in_the_log_and_the_book_and_teaches_until_it_is_taken_up_again(house):
    database, stove, version = house
    batch, book = begin(stove, version), Book(database)
    lesson = Lesson(
        kind="absorption", subject="all_purpose_flour", batch=batch.id, before_mean=1, before_sd=0.05, after_mean=1.1, after_sd=0.04
    )
    done = event("finished", 2000)

    def closes(batch, fresh):
        s = fold(batch.plan, batch.events)
        return (), None if s.finished is None else Closing(
            finished=s.finished, pieces=9, planned=10.4, stars=5, note="light", good=True, lessons=(lesson,)
        )

    for _ in range(2):
        assert stove.append(batch.id, [done], 2000.0, closes).finished == 2000
    log, total = stove.log()
    assert total == 1 and (log[0].name, log[0].pieces, log[0].stars, log[0].note) == ("Ridge", 9, 5, "light") and stove.under_way() == ()
    assert [x.after_mean for x in stove.lessons()] == [1.1]
    assert [m.good for m in book.sheet(version.batter_id).made] == [True]
    stove.append(batch.id, [event("undone", event=done.id)], 2001.0, closes)
    assert stove.log() == ((), 0) and stove.lessons() == () and book.sheet(version.batter_id).made == () and len(stove.under_way()) == 1
    stove.append(batch.id, [event("finished", 2002)], 2002.0, closes)
    assert len(stove.lessons()) == 1 and len(book.sheet(version.batter_id).made) == 1


def test_a_batch_that_was_given_up_made_nothing(house):
    database, stove, version = house
    batch = begin(stove, version)
    stove.append(
        batch.id,
        [event("finished", 2000)],
        2000.0,
        lambda b, f: ((), Closing(finished=2000, pieces=0, planned=10.4, stars=None, note="", good=True, lessons=())),
    )
    assert stove.log()[1] == 1 and Book(database).sheet(version.batter_id).made == ()


def test_the_scale_counts_for_the_batch_that_was_last_put_on_it(house):
    database, stove, version = house
    a, b = begin(stove, version), begin(stove, version, "b" * 16)
    assert stove.weighing is None
    stove.append(a.id, [event("tared", line=0, gross=400)], 1001.0, keep)
    stove.append(b.id, [event("poured", line=0, slot=0, grams=5)], 1002.0, keep)  # by a spoon: not on the scale
    assert stove.weighing == a.id
    stove.append(b.id, [event("poured", line=1, slot=0, grams=50, gross=450)], 1003.0, keep)
    assert stove.weighing == b.id and Stove(database).weighing == b.id


def test_what_was_learned_can_be_forgotten_and_remembered(house):
    _, stove, version = house
    batch = begin(stove, version)
    lesson = Lesson(kind="pace", subject="griddle", batch=batch.id, before_mean=0, before_sd=0.25, after_mean=0.1, after_sd=0.1)
    stove.append(
        batch.id,
        [event("finished", 2000)],
        2000.0,
        lambda b, f: ((), Closing(finished=2000, pieces=1, planned=1, stars=None, note="", good=True, lessons=(lesson,))),
    )
    before = stove.revision
    assert stove.forget("pace", "griddle") == 1 and stove.lessons() == () and stove.revision > before
    assert stove.forget("pace", "griddle", back=True) == 1 and len(stove.lessons()) == 1
    assert stove.forget("pace", "oven") == 0


def test_surfaces_are_kept_changed_and_put_away(house):
    _, stove, _ = house
    assert stove.surfaces() == ((), frozenset())
    mine = SURFACE.model_copy(update={"width": 70.0})
    stove.put_surface(mine)
    assert stove.surfaces() == ((mine,), frozenset())
    stove.put_surface(mine, away=True)
    assert stove.surfaces() == ((), frozenset({mine.id}))


def test_no_acknowledged_event_is_lost_by_a_kill(house):
    """A child appends and says so on a pipe; it is killed without warning, hundreds of times, between reading and step."""
    database, stove, version = house
    batch = begin(stove, version)
    database.close()
    acknowledged: list[str] = []
    for n in range(KILLS):
        read, write = os.pipe()
        child = os.fork()
        if child == 0:
            os.close(read)
            mine = Stove(Database(database.path))
            for k in range(10_000):
                e = event("poured", id=f"{n * 10_000 + k:016x}", line=k % 3, slot=n * 10_000 % 9000 + k % 900, grams=1)
                mine.append(batch.id, [e], 1000.0, keep)
                os.write(write, e.id.encode())
            os._exit(0)
        os.close(write)
        told = os.read(read, 16)  # at least one was acknowledged
        time.sleep((n % 7) * 0.0015)
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        while part := os.read(read, 4096):
            told += part
        os.close(read)
        acknowledged += [told[i : i + 16].decode() for i in range(0, len(told) - 15, 16)]
        if n % 20 == 19:
            _all_there(database.path, batch.id, acknowledged)
    found = _all_there(database.path, batch.id, acknowledged)
    assert len(acknowledged) >= KILLS and len(found) == len(set(found))
    assert database.connection().execute("PRAGMA integrity_check").fetchone()[0] == "ok"


def _all_there(path, batch_id, acknowledged):
    again = Database(path)
    found = [e.id for e in Stove(again).batch(batch_id).events]
    again.close()
    assert set(acknowledged) <= set(found)
    return found


def test_many_hands_at_once_lose_nothing_and_repeat_nothing(house):
    """Six screens append to one batch at the same time, each its own events and a share of the others'."""
    database, stove, version = house
    batch = begin(stove, version)
    mine = [[event("poured", line=h, slot=k, grams=1) for k in range(12)] for h in range(6)]
    failed: list[BaseException] = []

    def work(hand: int) -> None:
        try:
            own = Stove(database)
            for k, e in enumerate(mine[hand]):
                own.append(batch.id, [e, mine[(hand + 1) % 6][k]], 1001.0, keep)
        except BaseException as error:  # told to the test, whatever it is
            failed.append(error)
        finally:
            database.close()

    threads = [threading.Thread(target=work, args=(h,)) for h in range(6)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert not failed
    found = [e.id for e in stove.batch(batch.id).events]
    assert sorted(found) == sorted(e.id for hand in mine for e in hand)
    seqs = [r["seq"] for r in database.connection().execute("SELECT seq FROM batch_event WHERE batch_id = ? ORDER BY seq", (batch.id,))]
    assert seqs == list(range(len(found)))
    assert fold(version.batter, stove.batch(batch.id).events).bowl_g == 12 * min(6, len(version.batter.lines))


def test_the_log_is_paged_the_latest_first(house):
    _, stove, version = house
    for n in range(7):
        b = begin(stove, version, f"{n:016x}")
        stove.append(
            b.id,
            [event("finished", 2000 + n)],
            2000.0 + n,
            lambda b, f, n=n: ((), Closing(finished=2000.0 + n, pieces=n, planned=10.0, stars=None, note="", good=True, lessons=())),
        )
    first, total = stove.log(0, 3)
    second, _ = stove.log(3, 3)
    assert total == 7 and [x.pieces for x in (*first, *second)] == [6, 5, 4, 3, 2, 1]


def test_a_book_of_before_the_stove_opens_with_all_that_was_in_it(tmp_path, batter):
    """A database that stopped at the migration before is brought on, and what it held is there."""
    path = tmp_path / "old.sqlite3"
    database = Database(path)
    version = Book(database).add("Ridge", NewVersion(batter=batter(PLAIN)))
    db = database.connection()
    for table in ("batch_event", "lesson", "batch", "surface"):
        db.execute(f"DROP TABLE {table}")
    db.execute("PRAGMA user_version = 5")
    database.close()
    again = Database(path)
    stove = Stove(again)
    assert Book(again).version(version.id) == version and stove.under_way() == () and stove.log() == ((), 0)
    assert begin(stove, version).plan == version.batter
