"""Everything of a kitchen beside its batters, as plain records by table: out to our own JSON, and back as it was. Mornings stay here: they
hold guests who are to be forgotten."""

import base64
import json
import sqlite3
from collections.abc import Callable, Mapping, Sequence

from pydantic import ValidationError

from mutabilis.core.batter.batter import Batter
from mutabilis.core.diets.packs import PackReading
from mutabilis.core.errors import CannotBe
from mutabilis.core.food.learning import Lesson
from mutabilis.core.food.pack_labels import Label
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.journal.predicted import Predicted
from mutabilis.core.measures.profile import Profile
from mutabilis.core.stove.events import EVENT

from .database import Database
from .dry_mixes import Bag
from .journal import Said

Value = str | int | float | None
Row = dict[str, Value]
Records = dict[str, tuple[Row, ...]]
LARGEST_TEXT = 1_000_000  # characters
MOST_ROWS = 500_000


PICTURES = ("whole", "small")  # columns of bytes: told in base 64
NUMBERED = ("journal_note", "photo")  # by their own book, in the order in which they came


def _jpeg(text: str) -> bytes:
    data = base64.b64decode(text, validate=True)
    if not data.startswith(b"\xff\xd8"):
        raise ValueError("no photo")
    return data


def _profile(text: str, row: Row) -> object:
    return Profile.model_validate_json(text) if row["key"] == "profile" else json.loads(text)


# Tables in an order in which each finds what it points at, with the column that holds a document and what that document must be.
_TABLES: dict[str, tuple[str, Callable[[str, Row], object]] | None] = {
    "own_pack": ("label", lambda text, _: Label.model_validate_json(text)),
    "pack_reading": ("body", lambda text, _: PackReading.model_validate_json(text)),
    "larder_item": None,
    "made": None,
    "batch": ("plan", lambda text, _: Batter.model_validate_json(text)),
    "dry_mix": ("body", lambda text, _: Bag.model_validate_json(text)),
    "batch_mix": None,
    "batch_cook": None,
    "batch_event": ("body", lambda text, _: EVENT.validate_json(text)),
    "batch_frozen": ("body", lambda text, _: Predicted.model_validate_json(text)),
    "served": None,
    "journal_note": ("body", lambda text, _: Said.model_validate_json(text)),
    "photo": ("whole", lambda text, row: (_jpeg(text), _jpeg(str(row.get("small"))))),
    "pack_used": None,
    "lesson": ("body", lambda text, _: Lesson.model_validate_json(text)),
    "surface": ("body", lambda text, _: Surface.model_validate_json(text)),
    "draft": ("body", lambda text, _: json.loads(text)),
    "setting": ("value", _profile),
    "prepared_word": None,
}


def dump(database: Database) -> tuple[Records, int]:
    """All records, and how many tables could not be read: of a damaged book the rest is still worth having."""
    found: Records = {}
    lost = 0
    for table in _TABLES:
        try:
            with database.read() as db:
                rows = (dict(row) for row in db.execute(f"SELECT * FROM {table} ORDER BY 1, 2"))
                found[table] = tuple(
                    {k: base64.b64encode(v).decode() if isinstance(v, bytes) else v for k, v in row.items()} for row in rows
                )
        except Exception as error:
            if not database.damage:
                raise error
            lost += 1
    return found, lost


# What points at versions, and so comes after the batters.
OF_BATCHES = ("batch_cook", "batch_event", "batch_frozen", "served", "journal_note", "photo", "lesson")
OF_VERSIONS = ("made", "batch", "dry_mix", "batch_mix", *OF_BATCHES)


def load(db: sqlite3.Connection, records: Mapping[str, Sequence[Row]], of_versions: bool) -> int:
    """Put the records that point at versions, or all others, in beside what is here, within the caller's transaction; how many were new. What is here stays as it is; a batch of a
    version that is not here, and what hangs on it, is passed over. CannotBe where a record cannot be one of ours."""
    for table in records:
        if table not in _TABLES:
            raise CannotBe(f"it holds records of “{table[:40]}”, which no book has")
    if sum(map(len, records.values())) > MOST_ROWS:
        raise CannotBe("it holds more than any book")
    new = 0
    for table, document in _TABLES.items():
        if (table in OF_VERSIONS) is not of_versions:
            continue
        columns = [row["name"] for row in db.execute(f"PRAGMA table_info({table})")]
        for row in records.get(table, ()):
            _look_over(table, row, columns, document)
            if _has_home(db, table, row):
                new += _insert(db, table, row, columns)
    return new


def _look_over(table: str, row: Row, columns: Sequence[str], document: tuple[str, Callable[[str, Row], object]] | None) -> None:
    if not set(row) <= set(columns):
        raise CannotBe(f"a record of “{table}” has a field that is not known")
    for name, value in row.items():
        if isinstance(value, bool) or (isinstance(value, int) and not -(2**63) <= value < 2**63):
            raise CannotBe(f"a number in “{table}” is out of reach ({name})")
        if isinstance(value, str) and len(value) > LARGEST_TEXT:
            raise CannotBe(f"a text in “{table}” is far too long ({name})")
    if document is not None:
        column, check = document
        try:
            check(str(row.get(column)), row)
        except (ValidationError, ValueError, LookupError, RecursionError) as error:
            raise CannotBe(f"a record of “{table}” is not what it should be") from error


def _has_home(db: sqlite3.Connection, table: str, row: Row) -> bool:
    """Whether what a record points at is here."""
    if table == "batch_mix":
        held = db.execute("SELECT 1 FROM batch, dry_mix WHERE batch.id = ? AND dry_mix.id = ?", (row.get("batch_id"), row.get("mix_id")))
        return held.fetchone() is not None
    if table in ("made", "batch", "dry_mix"):
        return db.execute("SELECT 1 FROM version WHERE id = ?", (row.get("version_id"),)).fetchone() is not None
    if table in OF_BATCHES:
        return db.execute("SELECT 1 FROM batch WHERE id = ?", (row.get("batch_id"),)).fetchone() is not None
    return True


def _insert(db: sqlite3.Connection, table: str, row: Row, columns: Sequence[str]) -> int:
    if table == "lesson":  # numbered by its own book: the number is kept only where it is free
        same = "SELECT 1 FROM lesson WHERE batch_id = :batch_id AND kind = :kind AND subject = :subject AND at = :at"
        if db.execute(same, {k: row.get(k) for k in ("batch_id", "kind", "subject", "at")}).fetchone():
            return 0
        if db.execute("SELECT 1 FROM lesson WHERE id = ?", (row.get("id"),)).fetchone():
            row = {**row, "id": None}
    names = [c for c in columns if c in row and not (table in NUMBERED and c == "n")]
    values = {k: _jpeg(str(v)) if table == "photo" and k in PICTURES else v for k, v in row.items()}
    try:
        done = db.execute(
            f"INSERT INTO {table} ({', '.join(names)}) VALUES ({', '.join(f':{n}' for n in names)}) ON CONFLICT DO NOTHING", values
        )
    except (sqlite3.Error, OverflowError) as error:
        raise CannotBe(f"a record of “{table}” cannot be kept: {error}") from error
    return max(done.rowcount, 0)
