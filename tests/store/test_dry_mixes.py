"""Bags of dry mix in a book: made once, used up once by each batch, corrected by hand, carried to another book."""

from datetime import date

import pytest

from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.book.versions import NewVersion
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.stove.batch import FromMix
from mutabilis.store.book import Book
from mutabilis.store.database import Database
from mutabilis.store.dry_mixes import Bag, DryMixes
from mutabilis.store.records import dump, load
from mutabilis.store.stove import Stove

BATTER = Batter(lines=(BatterLine(text="200 g flour", ingredient="all_purpose_flour", grams=200, low=199, high=201),))


@pytest.fixture
def book(tmp_path):
    return Database(tmp_path / "book.sqlite3")


def bag_in(database, made_g=1000.0):
    version = Book(database).add("Hearth", NewVersion(batter=BATTER))
    kept = DryMixes(database).make(
        "a" * 16, version.id, Bag(name="Hearth", batter=BATTER, batch_g=250, made_g=made_g, label=("x",)), date(2026, 3, 2)
    )
    return version, kept


def started(database, version, id_, grams, bag="a" * 16):
    return Stove(database).start(id_, version.id, BATTER, (), "", None, "two_bowls", 1000.0, FromMix(id=bag, grams=grams))


def test_a_bag_keeps_its_day_and_is_made_once(book):
    version, kept = bag_in(book)
    assert (kept.use_by, kept.left_g) == ("2026-03-02", 1000)
    again = DryMixes(book).make("a" * 16, version.id, kept.bag, date(2027, 1, 6))
    assert again == kept and len(DryMixes(book).all()) == 1
    with pytest.raises(NotKnown):
        DryMixes(book).make(None, "nowhere", kept.bag, date(2026, 1, 6))


def test_a_batch_takes_its_share_once_and_never_more_than_there_is(book):
    version, _ = bag_in(book)
    for _ in range(2):  # sent twice
        assert started(book, version, "b" * 16, 250).mix == FromMix(id="a" * 16, grams=250, name="Hearth")
    assert DryMixes(book).one("a" * 16).left_g == 750
    with pytest.raises(CannotBe, match="750 g"):
        started(book, version, "c" * 16, 900)
    with pytest.raises(NotKnown):
        started(book, version, "d" * 16, 10, bag="e" * 16)
    assert DryMixes(book).one("a" * 16).left_g == 750 and len(Stove(book).under_way()) == 1, "what was refused left nothing behind"


def test_it_is_corrected_put_away_and_taken_out_again(book):
    bag_in(book)
    mixes = DryMixes(book)
    assert mixes.change("a" * 16, left_g=40).left_g == 40
    assert mixes.change("a" * 16, away=True).away and mixes.all() == () and len(mixes.all(away=True)) == 1
    assert not mixes.change("a" * 16, away=False).away and mixes.all()[0].left_g == 40
    with pytest.raises(NotKnown):
        mixes.change("z", left_g=1)


def test_bags_and_what_was_made_of_them_travel(book, tmp_path):
    version, _ = bag_in(book)
    started(book, version, "b" * 16, 250)
    records, _ = dump(book)
    other = Database(tmp_path / "other.sqlite3")
    Book(other).keep(Book(book).sheet(version.batter_id))
    with other.write() as db:
        assert load(db, records, of_versions=True) >= 3
        assert load(db, records, of_versions=True) == 0
    assert DryMixes(other).one("a" * 16) == DryMixes(book).one("a" * 16)
    assert Stove(other).batch("b" * 16).mix == FromMix(id="a" * 16, grams=250, name="Hearth")
