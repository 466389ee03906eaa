"""Copies of a book: one a day and one before each upgrade by themselves, a backup whenever it is asked for, and the way back.

A backup is a book like any other, in one file, with the kitchen's own files (diets, labels, packs, profile) in a table of its own.
"""

import os
import shutil
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from .database import APPLICATION_ID, NoBackup, StoreError, migrations
from .lock import BookLock

if TYPE_CHECKING:
    from .database import Database

KEPT = 7
LARGEST_OWN_FILE = 200_000  # bytes
MOST_OWN_FILES = 500
_OWN_FILES = ("diets/*.toml", "diets/*.toml.away", "labels/*.toml", "packs.toml", "profile.toml")


@dataclass(frozen=True, slots=True, kw_only=True)
class Copy:
    """A copy that is kept: its file's name, when it was made (ISO 8601, UTC), its size [bytes], and why it was made."""

    name: str
    at: str
    size: int
    why: str


def folder_of(book: Path) -> Path:
    """Where the copies of a book are kept, beside it."""
    return book.with_name(f"{book.name}.copies")


def copies(book: Path) -> tuple[Copy, ...]:
    """The copies that are kept, the newest first."""
    found = []
    with suppress(OSError):
        for path in folder_of(book).glob("*.sqlite3"):
            stamp, _, why = path.stem.partition(" ")
            found.append(Copy(name=path.name, at=_iso(stamp), size=path.stat().st_size, why=why))
    return tuple(sorted(found, key=lambda c: c.name, reverse=True))


def _iso(stamp: str) -> str:
    try:
        return datetime.strptime(stamp, "%Y%m%dT%H%M%SZ").replace(tzinfo=UTC).isoformat()
    except ValueError:
        return ""


def keep_copy(database: "Database", why: str) -> Path | None:
    """Make a copy of the book as it stands, and keep the last seven. None where the disk does not let it."""
    folder = folder_of(database.path)
    try:
        folder.mkdir(mode=0o700, exist_ok=True)
        path = _fresh(folder, why)
        write_backup(database.path, path)
    except (OSError, StoreError):
        return None
    for old in copies(database.path)[KEPT:]:
        with suppress(OSError):
            (folder / old.name).unlink()
    return path


def _fresh(folder: Path, why: str) -> Path:
    """A name for a copy that no other has, also within one second."""
    stamp = f"{datetime.now(UTC):%Y%m%dT%H%M%SZ}"
    paths = (folder / f"{stamp} {why}{f' {n}' if n > 1 else ''}.sqlite3" for n in range(1, 1000))
    return next(p for p in paths if not p.exists())


def keep_daily(database: "Database") -> Path | None:
    """A copy of the day, where there is none yet; None where there is, or where there is nothing to copy."""
    if database.damage or any(c.at[:10] == f"{datetime.now(UTC):%Y-%m-%d}" for c in copies(database.path)):
        return None
    return keep_copy(database, "of the day")


def write_backup(book: Path, to: Path) -> None:
    """A whole copy of a book, also while a server has it open: everything in it, and the kitchen's own files. StoreError in plain words;
    a file that is there already is only replaced once the copy is whole."""
    if not book.is_file():
        raise StoreError(f"There is no book {book.name}.")

    def taken(source: sqlite3.Connection, target: sqlite3.Connection) -> None:
        _need_book(source, book)
        source.backup(target)
        target.execute("PRAGMA journal_mode = DELETE")
        _take_own_files(target, book.parent)

    try:
        with _whole_copy(book, to, taken) as fresh:
            fresh.replace(to)
    except OSError as error:
        raise StoreError(f"The copy could not be written: {error.strerror or error}. Nothing was changed.") from error


@contextmanager
def _whole_copy(of: Path, to: Path, made: Callable[[sqlite3.Connection, sqlite3.Connection], None]) -> Iterator[Path]:
    """A fresh file beside `to`, filled by `made` (source, target) and on disk: what is not moved into its place is taken away."""
    fresh = to.with_name(f".{to.name}.{os.getpid()}.part")
    try:
        fresh.unlink(missing_ok=True)
        os.close(os.open(fresh, os.O_RDWR | os.O_CREAT | os.O_EXCL, 0o600))
        with (
            _told(of),
            closing(sqlite3.connect(f"{of.absolute().as_uri()}?mode=ro", uri=True, timeout=5)) as source,
            closing(sqlite3.connect(fresh)) as target,
        ):
            made(source, target)
        _on_disk(fresh)
        yield fresh
    finally:
        with suppress(OSError):
            fresh.unlink(missing_ok=True)


def restore(book: Path, backup: Path) -> Path | None:
    """Put a backup in the place of a book that no server has open. What was there is copied first; the path of that copy, None where there
    was nothing. StoreError where the file is no whole backup of ours; nothing was changed then."""
    look_over(backup)
    with BookLock(book, "a backup is being put back"):
        return _put_back(book, backup)


def _put_back(book: Path, backup: Path) -> Path | None:
    before = None
    if book.is_file():
        folder = folder_of(book)
        folder.mkdir(mode=0o700, exist_ok=True)
        before = _fresh(folder, "before a restore")
        try:
            write_backup(book, before)
        except StoreError:  # damaged beyond copying: kept byte for byte
            shutil.copyfile(book, before)

    def given(source: sqlite3.Connection, target: sqlite3.Connection) -> None:
        source.backup(target)
        _give_own_files(target, book.parent)

    try:
        with _whole_copy(backup, book, given) as fresh:
            for tail in ("-wal", "-shm"):
                book.with_name(book.name + tail).unlink(missing_ok=True)
            fresh.replace(book)
    except OSError as error:
        raise StoreError(f"The backup could not be put back: {error.strerror or error}.") from error
    return before


def look_over(backup: Path) -> None:
    """NoBackup, in one sentence, where a file is not a whole backup that this version can read."""
    if not backup.is_file():
        raise NoBackup(f"There is no file {backup.name}.")
    with _told(backup, NoBackup), closing(sqlite3.connect(f"{backup.absolute().as_uri()}?mode=ro", uri=True)) as db:
        _need_book(db, backup)
        if [row[0] for row in db.execute("PRAGMA integrity_check(1)")] != ["ok"]:
            raise NoBackup(f"{backup.name} is damaged; nothing was changed.")
        if int(db.execute("PRAGMA user_version").fetchone()[0]) > migrations()[-1][0]:
            raise NoBackup(f"{backup.name} was written by a newer version of Mutabilis; nothing was changed.")
        if db.execute(
            "SELECT 1 FROM sqlite_schema WHERE type IN ('trigger', 'view') AND name NOT LIKE '%stays' AND name NOT LIKE '%kept'"
        ).fetchone():
            raise NoBackup(f"{backup.name} holds what no book of ours does; nothing was changed.")


def put_into(database: "Database", backup: Path) -> Path | None:
    """Put a backup in the place of an open book, for its own server: the copy made of it before, None where the disk did not let it."""
    look_over(backup)
    before = keep_copy(database, "before a restore")
    with _told(backup), closing(sqlite3.connect(f"{backup.absolute().as_uri()}?mode=ro", uri=True)) as source:
        source.backup(database.connection())
    _give_own_files(database.connection(), database.path.parent)
    connection = database.connection()
    connection.execute("PRAGMA journal_mode = WAL")
    from .database import migrate

    migrate(connection)
    connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
    return before


def _need_book(db: sqlite3.Connection, path: Path) -> None:
    mark = int(db.execute("PRAGMA application_id").fetchone()[0])
    tables = {row[0] for row in db.execute("SELECT name FROM sqlite_schema WHERE type = 'table'")}
    if mark not in (0, APPLICATION_ID) or "version_line" not in tables:
        raise NoBackup(f"{path.name} is no book of Mutabilis; nothing was changed.")


@contextmanager
def _told(path: Path, kind: type[StoreError] = StoreError) -> Iterator[None]:
    try:
        yield
    except sqlite3.Error as error:
        raise kind(f"{path.name} cannot be read as a book: {error}. Nothing was changed.") from error


def _on_disk(path: Path) -> None:
    with path.open("rb") as file:
        os.fsync(file.fileno())


def _take_own_files(db: sqlite3.Connection, folder: Path) -> None:
    """The kitchen's own files, into a table of the copy."""
    db.execute("DROP TABLE IF EXISTS kitchen_file")
    db.execute("CREATE TABLE kitchen_file (name TEXT PRIMARY KEY, body TEXT NOT NULL) STRICT")
    paths = [p for pattern in _OWN_FILES for p in sorted(folder.glob(pattern))]
    for path in paths[:MOST_OWN_FILES]:
        with suppress(OSError, UnicodeDecodeError):
            if path.is_file() and path.stat().st_size <= LARGEST_OWN_FILE:
                row = (path.relative_to(folder).as_posix(), path.read_text(encoding="utf-8"))
                db.execute("INSERT INTO kitchen_file VALUES (?, ?)", row)
    db.commit()


def _give_own_files(db: sqlite3.Connection, folder: Path) -> None:
    """The kitchen's own files out of a copy, each whole or not at all; what is there and not in the copy stays."""
    if not db.execute("SELECT 1 FROM sqlite_schema WHERE name = 'kitchen_file'").fetchone():
        return
    for name, body in db.execute("SELECT name, body FROM kitchen_file LIMIT ?", (MOST_OWN_FILES,)).fetchall():
        path = folder / str(name)
        if not any(Path(str(name)).match(pattern) for pattern in _OWN_FILES) or ".." in Path(str(name)).parts or path.is_symlink():
            continue
        path.parent.mkdir(parents=True, exist_ok=True)
        fresh = path.with_name(f".{path.name}.part")
        fresh.write_text(str(body), encoding="utf-8")
        _on_disk(fresh)
        fresh.replace(path)
    db.execute("DROP TABLE kitchen_file")
    db.commit()
