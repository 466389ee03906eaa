"""Words that this kitchen said are preparation, each for the one food of which it said so."""

from .book import now
from .database import Database


class KitchenWords:
    """The words over a database. `revision` counts what was written."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self.revision = 0

    def all(self) -> frozenset[tuple[str, str]]:
        """(word, ingredient) of every word."""
        with self._database.read() as db:
            return frozenset((r["word"], r["ingredient"]) for r in db.execute("SELECT word, ingredient FROM prepared_word"))

    def put(self, word: str, ingredient: str) -> None:
        """Remember a word for one food."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO prepared_word (word, ingredient, at) VALUES (:word, :ingredient, :at) ON CONFLICT DO NOTHING",
                {"word": word, "ingredient": ingredient, "at": now()},
            )
        self.revision += 1

    def drop(self, word: str, ingredient: str) -> None:
        """Forget a word; nothing happens where it was not known."""
        with self._database.write() as db:
            db.execute(
                "DELETE FROM prepared_word WHERE word = :word AND ingredient = :ingredient", {"word": word, "ingredient": ingredient}
            )
        self.revision += 1
