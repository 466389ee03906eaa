"""Families in the Book: nothing lost, nothing twice, found again by name, ingredient and note."""

import sqlite3

import pytest

from mutabilis.core.book.versions import NewVersion
from mutabilis.core.diets.packs import PackReading
from mutabilis.core.errors import NotKnown
from mutabilis.core.food.larder import Item
from mutabilis.core.food.pack_labels import Label
from mutabilis.store.book import Book, new_id
from mutabilis.store.database import Database, migrations
from mutabilis.store.larder import Larder
from tests.conftest import CREPE, PLAIN, RIDGE


@pytest.fixture
def book(tmp_path):
    return Book(Database(tmp_path / "book.sqlite3"))


def test_a_whole_batter_is_kept_and_a_save_sent_twice_is_one(book, batter):
    whole = batter(PLAIN + "\n20 g honey, to serve", rest_min=0.0, rest_c=4.5, blender=True, portion_ml=75.0, servings=3, flat=True)
    new = NewVersion(batter=whole, id=new_id(), diets=("vegan",), note="x")
    first = book.add("One", new)
    assert book.add("One", new) == first and first.batter == whole and book.count() == 1
    child = NewVersion(batter=whole, id=new_id(), parent=first.id)
    assert book.save(first.batter_id, child) == book.save(first.batter_id, child)
    assert len(book.sheet(first.batter_id).versions) == 2


def test_search_finds_names_ingredients_and_notes_as_they_are_typed(book, batter):
    ridge = book.add("Ridge rye cakes", NewVersion(batter=batter(RIDGE), note="for the night observers"))
    crepe = book.add("Meridian crêpes", NewVersion(batter=batter(CREPE, "crepe")))
    assert book.newest("crepe") == book.newest("MERID") == [crepe.batter_id]
    assert book.newest("observ") == book.newest("rye") == book.newest("yogurt brown") == [ridge.batter_id]
    assert set(book.newest("egg")) == {ridge.batter_id, crepe.batter_id} and book.newest("moon") == []
    for odd in ('"', "*", "a AND", "NEAR(", "col:x", "-", "'; DROP TABLE batter", "x" * 5000, "\x00"):
        assert isinstance(book.newest(odd), list)
    book.rename(ridge.batter_id, "Valley cakes")
    assert book.newest("valley") == [ridge.batter_id] and book.newest("ridge") == []
    assert book.newest(form="crepe") == [crepe.batter_id]


def test_put_away_is_not_lost(book, batter):
    one = book.add("One", NewVersion(batter=batter(PLAIN)))
    book.archive(one.batter_id, True)
    assert book.newest() == [] and book.newest(archived=True) == [one.batter_id] and book.version(one.id) == one
    book.archive(one.batter_id, False)
    assert book.newest() == [one.batter_id]
    with pytest.raises(NotKnown):
        book.archive("nobody", True)
    with pytest.raises(sqlite3.IntegrityError):
        book._database.connection().execute("DELETE FROM version")


def test_good_twice_is_proven_and_can_be_taken_back(book, batter):
    v = book.add("One", NewVersion(batter=batter(PLAIN)))

    def standing():
        return book.entries([v.batter_id])[0].versions[0].standing

    assert standing() == "untested"
    twice = new_id()
    first = book.made(v.id, True, "good", twice)
    assert book.made(v.id, True, "good", twice) == first and standing() == "made"
    book.made(v.id, False, "flat")
    second = book.made(v.id, True, "")
    assert standing() == "proven"
    book.withdraw(second.id)
    assert standing() == "made" and len(book.sheet(v.batter_id).made) == 2
    book.withdraw(second.id, back=True)
    assert standing() == "proven"
    with pytest.raises(NotKnown):
        book.made("nobody", True, "")


def test_a_batter_moves_to_another_book_whole(book, batter, tmp_path):
    first = book.add("One", NewVersion(batter=batter(PLAIN)))
    book.save(first.batter_id, NewVersion(batter=batter(RIDGE), parent=first.id, diets=("vegan",), note="n"))
    book.made(first.id, True, "")
    sheet = book.sheet(first.batter_id)
    other = Book(Database(tmp_path / "other.sqlite3"))
    assert other.keep(sheet) == (sheet.id, True) and other.keep(sheet) == (sheet.id, False)
    assert other.sheet(sheet.id) == sheet and other.newest("rye") == [sheet.id]


def test_the_first_sieve_never_lets_through_what_is_denied(book, batter):
    vegan = book.add("V", NewVersion(batter=batter("200 g flour\n300 g oat drink\n20 g butter, to serve")))
    dairy = book.add("D", NewVersion(batter=batter("200 g flour\n300 g milk")))
    unread = book.add("U", NewVersion(batter=batter("200 g flour\n5 g moon dust")))
    both = [vegan.batter_id, dairy.batter_id, unread.batter_id]
    assert book.without(both, ["whole_milk", "butter"]) == {vegan.batter_id: [vegan.id]}


def test_an_old_book_gains_its_search(tmp_path, batter):
    """A book written before the search was there finds its batters after the migration."""
    path = tmp_path / "old.sqlite3"
    db = sqlite3.connect(path)
    for number, sql in migrations():
        if number <= 2:
            db.executescript(sql)
            db.execute(f"PRAGMA user_version = {number}")
    db.execute("INSERT INTO batter VALUES ('b', 'Old rye', 'griddle', 'x')")
    db.execute("INSERT INTO version VALUES ('v', 'b', 1, NULL, 'griddle', NULL, NULL, 'a note', 'x')")
    db.execute(
        "INSERT INTO version_line VALUES ('v', 0, '100 g rye flour', 'rye_flour_medium', 100, 99, 101, 'high', '', '', 'batter', 0, NULL, NULL, '[]')"
    )
    db.commit()
    db.close()
    book = Book(Database(path))
    assert book.newest("flour") == book.newest("old") == book.newest("note") == ["b"] and book.version("v").batter.rest_c == 21


def test_the_larder_remembers_and_takes_back(tmp_path):
    larder = Larder(Database(tmp_path / "l.sqlite3"))
    flour = Item(ingredient="oat_flour", stock_g=500, pack="blue bag", pack_g=400, price=2.0, cup_g=98, absorption=1.9)
    larder.put([flour, Item(ingredient="egg")])
    larder.put([flour.model_copy(update={"stock_g": 0.0})])
    assert larder.items()["oat_flour"].stock_g == 0 and larder.items()["oat_flour"].price_per_kg == pytest.approx(5.0)
    with pytest.raises(sqlite3.IntegrityError):
        larder.put(
            [
                flour.model_copy(update={"price": 9.0}),
                Item.model_construct(
                    ingredient="x" * 90, **dict.fromkeys(("stock_g", "pack", "pack_g", "price", "cup_g", "tbsp_g", "absorption"))
                ),
            ]
        )
    assert larder.items()["oat_flour"].price == 2.0  # all of it or nothing
    label = Label(
        id="own_x",
        name="X",
        kind="drink",
        kcal=40,
        fat_g=1,
        saturates_g=0,
        carbohydrate_g=6,
        sugars_g=3,
        fibre_g=1,
        protein_g=1,
        salt_g=0.1,
    )
    larder.put_pack(label)
    larder.archive_pack("own_x", True)
    assert larder.packs() == () and larder.packs(archived=True) == (label,)
    larder.archive_pack("own_x", False)
    id_ = larder.add_reading(
        PackReading(ingredient="oat_flour", pack="blue bag", by="Ilsabet", on="2026-01-02", certified_gluten_free=True)
    )
    larder.withdraw_reading(id_)
    assert larder.readings() == ()
    larder.withdraw_reading(id_, back=True)
    assert [r.id for r in larder.readings()] == [id_] and larder.revision == 8
    with pytest.raises(NotKnown):
        larder.withdraw_reading("nobody")
