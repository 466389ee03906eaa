"""The database: opening it, its migrations, and one transaction at a time."""

import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import files
from pathlib import Path


class StoreError(Exception):
    """The store cannot do what was asked; its text is plain words for the user."""


class Database:
    """SQLite in WAL mode, one connection a thread. Every write is one transaction, on disk before it is acknowledged."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self._local = threading.local()
        with _plain(path):
            migrate(self.connection())

    def connection(self) -> sqlite3.Connection:
        """This thread's connection."""
        connection: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if connection is None:
            connection = _open(self.path)
            self._local.connection = connection
        return connection

    @contextmanager
    def read(self) -> Iterator[sqlite3.Connection]:
        """Reading; a locked or damaged file is told as StoreError."""
        with _plain(self.path):
            yield self.connection()

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """One transaction: all of it or nothing."""
        with _plain(self.path):
            connection = self.connection()
            connection.execute("BEGIN IMMEDIATE")
            try:
                yield connection
                connection.execute("COMMIT")
            except BaseException:
                if connection.in_transaction:
                    connection.execute("ROLLBACK")
                raise

    def close(self) -> None:
        """Close this thread's connection."""
        connection = getattr(self._local, "connection", None)
        if connection is not None:
            connection.close()
            self._local.connection = None


@contextmanager
def _plain(path: Path) -> Iterator[None]:
    try:
        yield
    except sqlite3.OperationalError as error:
        text = str(error)
        if "locked" in text or "busy" in text:
            raise StoreError("Another program holds the book; nothing was changed. Close it and try again.") from error
        if "readonly" in text or "read-only" in text:
            raise StoreError("The book cannot be written to (it is read-only); nothing was changed.") from error
        if "full" in text:
            raise StoreError("The disk is full; nothing was changed.") from error
        raise StoreError(f"The book {path.name} cannot be used: {text}.") from error
    except sqlite3.DatabaseError as error:
        if isinstance(error, sqlite3.IntegrityError):
            raise
        raise StoreError(f"{path.name} is not a book, or it is damaged: {error}.") from error


def _open(path: Path) -> sqlite3.Connection:
    connection = sqlite3.connect(path, timeout=2.0, isolation_level=None, check_same_thread=False)
    connection.row_factory = sqlite3.Row
    connection.execute("PRAGMA foreign_keys = ON")
    connection.execute("PRAGMA synchronous = FULL")
    return connection


def migrations() -> list[tuple[int, str]]:
    """All migrations, as (number, SQL), in order."""
    folder = files(__package__).joinpath("migrations")
    names = sorted(p.name for p in folder.iterdir() if p.name.endswith(".sql"))
    return [(int(name.split("_")[0]), folder.joinpath(name).read_text(encoding="utf-8")) for name in names]


def migrate(connection: sqlite3.Connection) -> int:
    """Bring a database to the newest schema, each migration in one transaction; returns how many were applied.

    StoreError where the database was written by a newer version.
    """
    steps = migrations()
    current = int(connection.execute("PRAGMA user_version").fetchone()[0])
    if current > steps[-1][0]:
        raise StoreError("This book was written by a newer version of Mutabilis; it was left as it is.")
    pending = [(number, sql) for number, sql in steps if number > current]
    if pending and connection.execute("PRAGMA journal_mode").fetchone()[0] != "wal":
        connection.execute("PRAGMA journal_mode = WAL")
    for number, sql in pending:
        # executescript would commit at once; BEGIN and COMMIT inside the script keep it one transaction.
        try:
            connection.executescript(f"BEGIN IMMEDIATE;\n{sql}\nPRAGMA user_version = {number};\nCOMMIT;")
        except sqlite3.Error:
            if connection.in_transaction:
                connection.execute("ROLLBACK")
            raise
    return len(pending)
