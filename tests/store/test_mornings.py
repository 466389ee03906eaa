"""Mornings and the journal in the database: a plan of old wishes is not kept, what happened is kept once, what was said stays."""

import sqlite3

import pytest

from mutabilis.core.batter.batter import Batter
from mutabilis.core.book.versions import NewVersion
from mutabilis.core.errors import NotKnown
from mutabilis.core.service.live import Happening
from mutabilis.core.service.plan import Plan
from mutabilis.store.book import Book
from mutabilis.store.database import Database
from mutabilis.store.journal import Journal, Said
from mutabilis.store.mornings import KeptGuest, Mornings, Wished
from mutabilis.store.stove import Stove

ADA = KeptGuest.model_validate(
    {"guest": {"id": "ada", "at": "07:30", "pieces": 2, "needs": [{"what": "egg", "grade": "allergy"}]}, "forget": "2030-02-01"}
)


@pytest.fixture
def database(tmp_path):
    one = Database(tmp_path / "book.sqlite3")
    yield one
    one.close()


@pytest.fixture
def mornings(database):
    return Mornings(database)


def test_a_plan_for_wishes_that_have_changed_is_not_kept(mornings):
    first = mornings.wish("2030-01-01", Wished(guests=(ADA,)))
    second = mornings.wish("2030-01-01", Wished())
    assert (first.revision, second.revision) == (1, 2)
    assert not mornings.planned("2030-01-01", Plan(late_guests=3), first.revision) and mornings.day("2030-01-01").plan is None
    assert mornings.planned("2030-01-01", Plan(late_guests=1), second.revision)
    kept = mornings.day("2030-01-01").plan
    assert kept is not None and kept.late_guests == 1


def test_what_happened_is_kept_once_in_order_and_only_what_changes_the_rest_asks_for_a_new_plan(mornings):
    tick = Happening(id="event-0001", at=20_000, kind="done", do="mix", of="bowl_1")
    late = Happening(id="event-0002", at=20_010, kind="late", of="ada", to=28_000)
    mornings.happen("2030-01-01", tick)
    was = mornings.day("2030-01-01").revision
    assert mornings.happen("2030-01-01", tick).happened == (tick,) and mornings.day("2030-01-01").revision == was
    both = mornings.happen("2030-01-01", late)
    assert both.happened == (tick, late) and both.revision == was + 1


def test_the_guests_of_the_last_planned_day_come_again(mornings):
    mornings.wish("2030-01-01", Wished(guests=(ADA,)))
    mornings.wish("2030-01-05", Wished())
    assert mornings.day("2030-01-03").wished.guests == (ADA,) and mornings.day("2030-01-06").wished.guests == ()
    assert mornings.day("2029-12-31").wished.guests == ()


def test_what_was_said_of_a_batch_is_never_changed_and_what_was_said_last_stands(database):
    journal = Journal(database)
    with pytest.raises(NotKnown):
        journal.say("0" * 16, Said(id="said-0001", kind="remark", text="?"))
    version = Book(database).add("Cakes", NewVersion(batter=Batter(lines=())))
    t = Stove(database).start(None, version.id, version.batter, (), "", None, "two_bowls", 1000.0).id
    journal.say(t, Said(id="said-0001", kind="faults", faults=("dense",), when="all"))
    journal.say(t, Said(id="said-0002", kind="faults", faults=("flat",), when="first"))
    assert journal.say(t, Said(id="said-0002", kind="faults", faults=("pale",))).faults == ("flat",)  # sent twice
    back = journal.say(t, Said(id="said-0003", kind="unsaid", of="said-0002"))
    assert (back.faults, back.when, back.last) == (("dense",), "all", "said-0001")
    with pytest.raises(sqlite3.DatabaseError), database.write() as db:
        db.execute("UPDATE journal_note SET body = '{}'")
