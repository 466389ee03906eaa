"""The database: opening it, its migrations, and one transaction at a time."""

import os
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from importlib.resources import files
from pathlib import Path

APPLICATION_ID = 0x4D757461  # "Muta": what tells our book from another program's database
GRACE_S = 5.0  # how long the end of a server waits for work under way
_OURS = {"batter", "version", "version_line"}  # tables of a book that is older than its mark


class StoreError(Exception):
    """The store cannot do what was asked; its text is plain words for the user."""


class NoBackup(StoreError):
    """A file that was given is no whole backup of ours; nothing was changed."""


class Database:
    """SQLite in WAL mode, one connection a thread. Every write is one transaction, on disk before it is acknowledged; a write inside a
    write is part of it.

    A book that is damaged is opened for reading alone; `damage` then says what was found.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self.damage = ""
        self._local = threading.local()
        self._all: list[sqlite3.Connection] = []
        self._quiet = threading.Condition()
        self._at_work = 0
        with _plain(path):
            _make_private(path)
            self._check()
            if not self.damage:
                self._migrate()

    def _check(self) -> None:
        """Refuse what is no book; look a book over."""
        connection = self.connection()
        mark = int(connection.execute("PRAGMA application_id").fetchone()[0])
        tables = {row[0] for row in connection.execute("SELECT name FROM sqlite_schema WHERE type = 'table'")}
        if mark not in (0, APPLICATION_ID) or (mark == 0 and tables and not tables >= _OURS):
            raise StoreError(f"{self.path.name} is the database of another program; it was left as it is.")
        found = [str(row[0]) for row in connection.execute("PRAGMA quick_check(3)")]
        if found != ["ok"]:
            self.damage = "; ".join(" ".join(f.split()) for f in found)[:300]

    def _migrate(self) -> None:
        from .copies import keep_copy

        connection = self.connection()
        current = int(connection.execute("PRAGMA user_version").fetchone()[0])
        if 0 < current < migrations()[-1][0]:
            keep_copy(self, "before an upgrade")
        migrate(connection)
        if int(connection.execute("PRAGMA application_id").fetchone()[0]) != APPLICATION_ID:
            connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")

    def connection(self) -> sqlite3.Connection:
        """This thread's connection."""
        connection: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if connection is None:
            connection = _open(self.path)
            self._local.connection = connection
            with self._quiet:
                self._all.append(connection)
        return connection

    @contextmanager
    def read(self) -> Iterator[sqlite3.Connection]:
        """Reading; a locked or damaged file is told as StoreError."""
        with _plain(self.path), self._working():
            yield self.connection()

    @contextmanager
    def _working(self) -> Iterator[None]:
        """Somebody is at work: the book is not closed under them."""
        with self._quiet:
            self._at_work += 1
        try:
            yield
        finally:
            with self._quiet:
                self._at_work -= 1
                self._quiet.notify_all()

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """One transaction: all of it or nothing. Inside another of this thread it joins that one."""
        if self.damage:
            raise StoreError(
                "The book is damaged and was opened for reading alone; nothing was changed. Export what can be read, in Kitchen."
            )
        with _plain(self.path), self._working():
            connection = self.connection()
            if connection.in_transaction:
                yield connection
                return
            connection.execute("BEGIN IMMEDIATE")
            try:
                yield connection
                connection.execute("COMMIT")
            except BaseException:
                if connection.in_transaction:
                    connection.execute("ROLLBACK")
                raise

    def fold_in(self) -> None:
        """Bring what was written lately into the one file, as far as nobody is reading it."""
        with suppress(sqlite3.Error):
            self.connection().execute("PRAGMA wal_checkpoint(PASSIVE)")

    def close(self) -> None:
        """Close this thread's connection. The last one folds all that was written into the one file."""
        connection: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if connection is not None:
            with self._quiet:
                self._all = [c for c in self._all if c is not connection]
            connection.close()
            self._local.connection = None

    def close_all(self) -> None:
        """Close every thread's connection, for the end of a server, once nobody is at work any more."""
        with self._quiet:
            if not self._quiet.wait_for(lambda: self._at_work == 0, GRACE_S):
                return  # a connection that is in use is never closed under its user; what was written is safe in the log beside the book
            connections, self._all = self._all, []
        for connection in connections:
            with suppress(sqlite3.Error):
                connection.close()
        self._local = threading.local()


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


def _make_private(path: Path) -> None:
    """A book is its owner's alone, from its first byte; what SQLite puts beside it takes over its rights."""
    if not path.exists():
        with suppress(FileExistsError):
            os.close(os.open(path, os.O_RDWR | os.O_CREAT | os.O_EXCL, 0o600))
    elif path.is_file() and path.stat().st_uid == os.getuid() and path.stat().st_mode & 0o077:
        with suppress(OSError):
            path.chmod(0o600)


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
    if connection.execute("PRAGMA journal_mode").fetchone()[0] != "wal":
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
