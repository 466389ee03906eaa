"""Words that a kitchen said are preparation: for one food each, once, and still there when the book is opened again."""

from mutabilis.store.database import Database
from mutabilis.store.words import KitchenWords


def test_a_word_is_kept_for_one_food_and_forgotten_for_that_one(tmp_path):
    words = KitchenWords(Database(tmp_path / "b.sqlite3"))
    assert words.all() == frozenset() and words.revision == 0
    for word, food in (("zorbled", "raisin"), ("zorbled", "raisin"), ("zorbled", "egg"), ("'; DROP TABLE prepared_word; --", "egg")):
        words.put(word, food)
    assert words.all() == {("zorbled", "raisin"), ("zorbled", "egg"), ("'; DROP TABLE prepared_word; --", "egg")}
    words.drop("zorbled", "egg")
    words.drop("never said", "egg")  # nothing happens
    assert words.all() == {("zorbled", "raisin"), ("'; DROP TABLE prepared_word; --", "egg")}
    assert words.revision == 6  # whoever keeps them in mind looks again


def test_words_outlive_the_program(tmp_path):
    first = Database(tmp_path / "b.sqlite3")
    KitchenWords(first).put("bloomed", "gelatine")
    first.close_all()
    again = Database(tmp_path / "b.sqlite3")
    assert KitchenWords(again).all() == {("bloomed", "gelatine")}
    again.close_all()
