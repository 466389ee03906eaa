"""Batters and versions in the database."""

import json
import secrets
import sqlite3
from datetime import UTC, datetime

from mutabilis.core.batter import Batter, BatterLine
from mutabilis.core.book import BatterEntry, NewVersion, Version, VersionLine

from .database import Database


class Book:
    """The Book over a database. Unknown ids raise KeyError."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def entries(self) -> tuple[BatterEntry, ...]:
        """All batters with their versions, by name."""
        with self._database.read() as db:
            batters = db.execute("SELECT id, name, form FROM batter ORDER BY name COLLATE NOCASE, id").fetchall()
            rows = db.execute("SELECT id, batter_id, number, parent_id, note, saved_at FROM version ORDER BY batter_id, number").fetchall()
            diets = _diets(db)
        versions: dict[str, list[VersionLine]] = {}
        for r in rows:
            line = VersionLine(
                id=r["id"],
                number=r["number"],
                parent=r["parent_id"],
                diets=diets.get(r["id"], ()),
                note=r["note"],
                saved=r["saved_at"],
            )
            versions.setdefault(r["batter_id"], []).append(line)
        return tuple(BatterEntry(id=b["id"], name=b["name"], form=b["form"], versions=tuple(versions.get(b["id"], ()))) for b in batters)

    def version(self, id_: str) -> Version:
        """One version with its lines."""
        with self._database.read() as db:
            row = db.execute(
                "SELECT v.*, b.name FROM version AS v JOIN batter AS b ON b.id = v.batter_id WHERE v.id = :id",
                {"id": id_},
            ).fetchone()
            if row is None:
                raise KeyError(id_)
            lines = db.execute("SELECT * FROM version_line WHERE version_id = :id ORDER BY position", {"id": id_}).fetchall()
            diets = _diets(db, id_)
        batter = Batter(lines=tuple(_line(r) for r in lines), form=row["form"], rest_min=row["rest_min"], servings=row["servings"])
        return Version(
            id=row["id"], batter_id=row["batter_id"], name=row["name"], number=row["number"], parent=row["parent_id"],
            diets=diets.get(id_, ()), note=row["note"], saved=row["saved_at"], batter=batter,
        )  # fmt: skip

    def add(self, name: str, first: NewVersion) -> Version:
        """A new batter with its first version."""
        id_ = _new_id()
        with self._database.write() as db:
            db.execute(
                "INSERT INTO batter (id, name, form, created_at) VALUES (:id, :name, :form, :at)",
                {"id": id_, "name": name, "form": first.batter.form, "at": _now()},
            )
            version_id = _insert(db, id_, first)
        return self.version(version_id)

    def save(self, batter_id: str, new: NewVersion) -> Version:
        """A further version of a batter. KeyError where the batter, or the parent within it, is not there."""
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM batter WHERE id = :id", {"id": batter_id}).fetchone() is None:
                raise KeyError(batter_id)
            if new.parent is not None:
                parent = db.execute("SELECT batter_id FROM version WHERE id = :id", {"id": new.parent}).fetchone()
                if parent is None or parent["batter_id"] != batter_id:
                    raise KeyError(new.parent)
            version_id = _insert(db, batter_id, new)
        return self.version(version_id)


def _insert(db: sqlite3.Connection, batter_id: str, new: NewVersion) -> str:
    id_ = _new_id()
    number = db.execute("SELECT coalesce(max(number), 0) + 1 FROM version WHERE batter_id = :id", {"id": batter_id}).fetchone()[0]
    b = new.batter
    db.execute(
        "INSERT INTO version (id, batter_id, number, parent_id, form, rest_min, servings, note, saved_at)"
        " VALUES (:id, :batter, :number, :parent, :form, :rest, :servings, :note, :at)",
        {"id": id_, "batter": batter_id, "number": number, "parent": new.parent, "form": b.form, "rest": b.rest_min, "servings": b.servings, "note": new.note, "at": _now()},
    )  # fmt: skip
    db.executemany("INSERT INTO version_diet VALUES (?, ?, ?)", [(id_, at, diet) for at, diet in enumerate(new.diets)])
    db.executemany(
        "INSERT INTO version_line VALUES (:v, :at, :text, :ingredient, :grams, :low, :high, :confidence, :note, :problem, :where, :optional, :alternative, :alternative_text, :states)",
        [{**line.model_dump(exclude={"states"}), "states": json.dumps(line.states), "v": id_, "at": at} for at, line in enumerate(b.lines)],
    )
    return id_


def _line(r: sqlite3.Row) -> BatterLine:
    keys = (
        "text",
        "ingredient",
        "grams",
        "low",
        "high",
        "confidence",
        "note",
        "problem",
        "alternative",
        "alternative_text",
    )
    return BatterLine(**{k: r[k] for k in keys}, where=r["place"], optional=bool(r["optional"]), states=tuple(json.loads(r["states"])))


def _diets(db: sqlite3.Connection, version_id: str | None = None) -> dict[str, tuple[str, ...]]:
    sql = "SELECT version_id, diet FROM version_diet" + (" WHERE version_id = :id" if version_id else "") + " ORDER BY version_id, position"
    found: dict[str, tuple[str, ...]] = {}
    for row in db.execute(sql, {"id": version_id} if version_id else {}):
        found[row["version_id"]] = (*found.get(row["version_id"], ()), row["diet"])
    return found


def _new_id() -> str:
    return secrets.token_hex(8)


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")
