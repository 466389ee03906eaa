"""The Book in the database: batters and their versions, what came of them, and the search over both. A version is written once."""

import json
import re
import secrets
import sqlite3
from collections.abc import Iterable, Sequence
from datetime import UTC, datetime
from typing import Any

from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.book.versions import BatterEntry, BatterSheet, Made, NewVersion, Version, VersionLine, standing_of
from mutabilis.core.errors import CannotBe, NotKnown

from .database import Database

WAYS = ("order", "leavening", "whites", "tray")
BESIDE = ("also", "maybe", "heard", "unread", "wished", "guessed", "side")
_LINE_KEYS = ("text", "ingredient", "grams", "low", "high", "confidence", "note", "problem", "alternative", "alternative_text")


class Book:
    """The Book over a database. Unknown ids raise NotKnown."""

    def __init__(self, database: Database) -> None:
        self._database = database

    # ---- reading

    def entries(self, ids: Sequence[str] | None = None) -> tuple[BatterEntry, ...]:
        """Batters with their versions: those asked for, in that order, or all by name."""
        with self._database.read() as db:
            some, args = _among("b.id", ids)
            batters = db.execute(
                f"SELECT id, name, form, archived_at FROM batter AS b WHERE {some} ORDER BY name COLLATE NOCASE, id", args
            ).fetchall()
            some, args = _among("v.batter_id", ids)
            rows = db.execute(
                f"SELECT v.id, v.batter_id, v.number, v.parent_id, v.note, v.saved_at FROM version AS v WHERE {some} ORDER BY v.batter_id, v.number",
                args,
            ).fetchall()
            diets = _diets(db, some, args)
            makings = _makings(db, some, args)
        versions: dict[str, list[VersionLine]] = {}
        for r in rows:
            line = VersionLine(
                id=r["id"], number=r["number"], parent=r["parent_id"], diets=diets.get(r["id"], ()), note=r["note"], saved=r["saved_at"],
                **makings.get(r["id"], {}),
            )  # fmt: skip
            versions.setdefault(r["batter_id"], []).append(line)
        found = {
            b["id"]: BatterEntry(
                id=b["id"], name=b["name"], form=b["form"], archived=b["archived_at"], versions=tuple(versions.get(b["id"], ()))
            )
            for b in batters
        }
        return tuple(found.values()) if ids is None else tuple(found[i] for i in ids if i in found)

    def newest(self, text: str = "", archived: bool = False, form: str | None = None) -> list[str]:
        """Ids of batters that hold every word of `text` (the best match first), or all of them, the latest saved first."""
        where = f"b.archived_at IS {'NOT ' if archived else ''}NULL" + (" AND b.form = :form" if form else "")
        words = re.findall(r"[^\W_]+", text)
        with self._database.read() as db:
            if text.strip() and not words:
                return []
            if words:
                wanted = " ".join(f'"{w}"*' for w in words[:20])
                # rank by bm25: a name counts for more than an ingredient, and that for more than a note.
                rows = db.execute(
                    "WITH s AS MATERIALIZED (SELECT batter_id, bm25(version_search, 0, 0, 10.0, 3.0, 1.0) AS score FROM version_search WHERE version_search MATCH :q)"
                    " SELECT s.batter_id AS id, min(s.score) AS score FROM s JOIN batter AS b ON b.id = s.batter_id"
                    f" WHERE {where} GROUP BY s.batter_id ORDER BY score, b.name COLLATE NOCASE",
                    {"q": wanted, "form": form},
                ).fetchall()
            else:
                rows = db.execute(
                    f"SELECT b.id FROM batter AS b WHERE {where}"
                    " ORDER BY (SELECT max(v.saved_at) FROM version AS v WHERE v.batter_id = b.id) DESC, b.name COLLATE NOCASE",
                    {"form": form},
                ).fetchall()
        return [r["id"] for r in rows]

    def without(self, batters: Sequence[str], denied: Iterable[str]) -> dict[str, list[str]]:
        """Versions, by batter, of which every line was read and holds nothing denied; the latest first. A first sieve: whoever asks
        for a diet lets the core judge what passes."""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT v.batter_id, v.id FROM version AS v WHERE v.batter_id IN (SELECT value FROM json_each(:batters))"
                " AND NOT EXISTS (SELECT 1 FROM version_line AS l WHERE l.version_id = v.id AND l.place = 'batter'"
                " AND (l.ingredient IS NULL OR l.problem <> '' OR l.ingredient IN (SELECT value FROM json_each(:denied))))"
                " AND EXISTS (SELECT 1 FROM version_line AS l WHERE l.version_id = v.id AND l.place = 'batter')"
                " ORDER BY v.number DESC",
                {"batters": json.dumps(list(batters)), "denied": json.dumps(list(denied))},
            ).fetchall()
        found: dict[str, list[str]] = {}
        for r in rows:
            found.setdefault(r["batter_id"], []).append(r["id"])
        return found

    def version(self, id_: str) -> Version:
        """One version with its lines."""
        found = self.versions([id_])
        if not found:
            raise NotKnown(id_)
        return found[0]

    def versions(self, ids: Sequence[str]) -> tuple[Version, ...]:
        """Versions with their lines, in the order asked for; those that are not there are left out."""
        return self._versions("v.id", ids)

    def sheet(self, batter_id: str) -> BatterSheet:
        """A batter with all of its versions and every time one was made."""
        with self._database.read() as db:
            row = db.execute("SELECT * FROM batter WHERE id = :id", {"id": batter_id}).fetchone()
            if row is None:
                raise NotKnown(batter_id)
            made = db.execute(
                "SELECT m.* FROM made AS m JOIN version AS v ON v.id = m.version_id"
                " WHERE v.batter_id = :id AND m.withdrawn_at IS NULL ORDER BY m.at, m.id",
                {"id": batter_id},
            ).fetchall()
        versions = sorted(self._versions("v.batter_id", [batter_id]), key=lambda v: v.number)
        return BatterSheet(
            id=row["id"],
            name=row["name"],
            form=row["form"],
            archived=row["archived_at"],
            created=row["created_at"],
            versions=tuple(versions),
            made=tuple(_made(r) for r in made),
        )

    def ids(self) -> list[str]:
        """The ids of all batters, by name."""
        with self._database.read() as db:
            return [r["id"] for r in db.execute("SELECT id FROM batter ORDER BY name COLLATE NOCASE, id")]

    def count(self) -> int:
        """How many batters there are, put away or not."""
        with self._database.read() as db:
            return int(db.execute("SELECT count(*) FROM batter").fetchone()[0])

    def _versions(self, column: str, ids: Sequence[str]) -> tuple[Version, ...]:
        some, args = _among(column, ids)
        with self._database.read() as db:
            rows = db.execute(
                f"SELECT v.*, b.name, f.version_id AS flat, w.body AS ways FROM version AS v JOIN batter AS b ON b.id = v.batter_id"
                " LEFT JOIN version_flat AS f ON f.version_id = v.id LEFT JOIN version_ways AS w ON w.version_id = v.id"
                f" WHERE {some}",
                args,
            ).fetchall()
            lines: dict[str, list[BatterLine]] = {}
            for r in db.execute(
                f"SELECT l.*, s.beside FROM version_line AS l JOIN version AS v ON v.id = l.version_id"
                f" LEFT JOIN version_line_beside AS s ON s.version_id = l.version_id AND s.position = l.position WHERE {some} ORDER BY l.version_id, l.position",
                args,
            ):
                lines.setdefault(r["version_id"], []).append(_line(r))
            diets = _diets(db, some, args)
        found = {
            r["id"]: Version(
                id=r["id"], batter_id=r["batter_id"], name=r["name"], number=r["number"], parent=r["parent_id"], diets=diets.get(r["id"], ()),
                note=r["note"], saved=r["saved_at"],
                batter=Batter(
                    lines=tuple(lines.get(r["id"], ())), form=r["form"], rest_min=r["rest_min"], servings=r["servings"], rest_c=r["rest_c"],
                    blender=bool(r["blender"]), portion_ml=r["portion_ml"], cup_ml=r["cup_ml"], tbsp_ml=r["tbsp_ml"], flat=r["flat"] is not None,
                    **json.loads(r["ways"] or "{}"),
                ),
            )
            for r in rows
        }  # fmt: skip
        return tuple(found[i] for i in ids if i in found) if column == "v.id" else tuple(found.values())

    # ---- writing

    def add(self, name: str, first: NewVersion) -> Version:
        """A new batter with its first version, which has no parent here; sent twice with one id, it is saved once."""
        id_ = new_id()
        with self._database.write() as db:
            known = _known(db, first.id)
            if known is None:
                _insert_batter(db, id_, name, first.batter.form)
                known = _insert(db, id_, first.model_copy(update={"parent": None}))
        return self.version(known)

    def save(self, batter_id: str, new: NewVersion) -> Version:
        """A further version of a batter. NotKnown where the batter, or the parent within it, is not there."""
        with self._database.write() as db:
            known = _known(db, new.id)
            if known is None:
                _need(db, batter_id)
                if new.parent is not None:
                    parent = db.execute("SELECT batter_id FROM version WHERE id = :id", {"id": new.parent}).fetchone()
                    if parent is None or parent["batter_id"] != batter_id:
                        raise NotKnown(new.parent)
                known = _insert(db, batter_id, new)
        return self.version(known)

    def keep(self, sheet: BatterSheet) -> tuple[str, bool]:
        """A batter as it came from another Book, versions and makings with their own ids and dates; the id it has here, and
        whether it was new. One that is here already is left as it is."""
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM batter WHERE id = :id", {"id": sheet.id}).fetchone() is not None:
                return sheet.id, False
            if any(_known(db, v.id) for v in sheet.versions):
                raise CannotBe("a version of this batter is here under another one")
            _insert_batter(db, sheet.id, sheet.name, sheet.form, sheet.archived, sheet.created)
            for v in sheet.from_the_first():
                _insert(db, sheet.id, NewVersion(batter=v.batter, id=v.id, parent=v.parent, diets=v.diets, note=v.note), v.number, v.saved)
            for m in sheet.made:
                db.execute(
                    "INSERT INTO made VALUES (:id, :version_id, :at, :good, :note, NULL) ON CONFLICT (id) DO NOTHING",
                    {**m.model_dump(), "good": int(m.good)},
                )
        return sheet.id, True

    def rename(self, batter_id: str, name: str) -> None:
        """Another name for a batter; its versions go with it."""
        with self._database.write() as db:
            _need(db, batter_id)
            db.execute("UPDATE batter SET name = :name WHERE id = :id", {"name": name, "id": batter_id})
            db.execute("UPDATE version_search SET name = :name WHERE batter_id = :id", {"name": name, "id": batter_id})

    def archive(self, batter_id: str, away: bool) -> None:
        """Put a batter away, or take it out again. Nothing is deleted."""
        with self._database.write() as db:
            _need(db, batter_id)
            db.execute("UPDATE batter SET archived_at = :at WHERE id = :id", {"at": now() if away else None, "id": batter_id})

    def made(self, version_id: str, good: bool, note: str, id_: str | None = None) -> Made:
        """Remember that a version was made, and what came of it; sent twice with one id, it counts once."""
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM version WHERE id = :id", {"id": version_id}).fetchone() is None:
                raise NotKnown(version_id)
            id_ = id_ or new_id()
            db.execute(
                "INSERT INTO made VALUES (:id, :version, :at, :good, :note, NULL) ON CONFLICT (id) DO NOTHING",
                {"id": id_, "version": version_id, "at": now(), "good": int(good), "note": note},
            )
            return _made(db.execute("SELECT * FROM made WHERE id = :id", {"id": id_}).fetchone())

    def withdraw(self, made_id: str, back: bool = False) -> None:
        """Take back that a version was made, or put it in again."""
        with self._database.write() as db:
            done = db.execute("UPDATE made SET withdrawn_at = :at WHERE id = :id", {"at": None if back else now(), "id": made_id})
            if done.rowcount == 0:
                raise NotKnown(made_id)


def _among(column: str, ids: Sequence[str] | None) -> tuple[str, dict[str, str]]:
    if ids is None:
        return "1", {}
    return f"{column} IN (SELECT value FROM json_each(:ids))", {"ids": json.dumps(list(ids))}


def _need(db: sqlite3.Connection, batter_id: str) -> None:
    if db.execute("SELECT 1 FROM batter WHERE id = :id", {"id": batter_id}).fetchone() is None:
        raise NotKnown(batter_id)


def _known(db: sqlite3.Connection, version_id: str | None) -> str | None:
    row = db.execute("SELECT id FROM version WHERE id = :id", {"id": version_id}).fetchone() if version_id else None
    return None if row is None else str(row["id"])


def _insert_batter(db: sqlite3.Connection, id_: str, name: str, form: str, archived: str | None = None, created: str = "") -> None:
    db.execute(
        "INSERT INTO batter (id, name, form, created_at, archived_at) VALUES (:id, :name, :form, :at, :archived)",
        {"id": id_, "name": name, "form": form, "at": created or now(), "archived": archived},
    )


def _insert(db: sqlite3.Connection, batter_id: str, new: NewVersion, number: int | None = None, saved: str | None = None) -> str:
    id_ = new.id or new_id()
    if number is None:
        number = db.execute("SELECT coalesce(max(number), 0) + 1 FROM version WHERE batter_id = :id", {"id": batter_id}).fetchone()[0]
    b = new.batter
    db.execute(
        "INSERT INTO version (id, batter_id, number, parent_id, form, rest_min, servings, note, saved_at, rest_c, blender, portion_ml, cup_ml, tbsp_ml)"
        " VALUES (:id, :batter, :number, :parent, :form, :rest, :servings, :note, :at, :rest_c, :blender, :portion, :cup, :tbsp)",
        {"id": id_, "batter": batter_id, "number": number, "parent": new.parent, "form": b.form, "rest": b.rest_min, "servings": b.servings, "note": new.note,
         "at": saved or now(), "rest_c": b.rest_c, "blender": int(b.blender), "portion": b.portion_ml,
         "cup": b.cup_ml, "tbsp": b.tbsp_ml},
    )  # fmt: skip
    if ways := b.model_dump(mode="json", include=set(WAYS), exclude_none=True):
        db.execute("INSERT INTO version_ways VALUES (?, ?)", (id_, json.dumps(ways)))
    if b.flat:
        db.execute("INSERT INTO version_flat VALUES (?)", (id_,))
    db.executemany("INSERT INTO version_diet VALUES (?, ?, ?)", [(id_, at, diet) for at, diet in enumerate(new.diets)])
    db.executemany(
        "INSERT INTO version_line VALUES (:v, :at, :text, :ingredient, :grams, :low, :high, :confidence, :note, :problem, :where, :optional, :alternative, :alternative_text, :states)",
        [
            {**line.model_dump(exclude={"states", *BESIDE}), "states": json.dumps(line.states), "v": id_, "at": at}
            for at, line in enumerate(b.lines)
        ],
    )
    db.executemany(
        "INSERT INTO version_line_beside VALUES (?, ?, ?)", [(id_, at, said) for at, line in enumerate(b.lines) if (said := _beside(line))]
    )
    db.execute(
        "INSERT INTO version_search (version_id, batter_id, name, ingredients, note)"
        " SELECT :id, :batter, b.name, :words, :note FROM batter AS b WHERE b.id = :batter",
        {
            "id": id_,
            "batter": batter_id,
            "note": new.note,
            "words": " ".join(f"{x.text} {(x.ingredient or '').replace('_', ' ')}" for x in b.lines),
        },
    )
    return id_


def _line(r: sqlite3.Row) -> BatterLine:
    return BatterLine(
        **{k: r[k] for k in _LINE_KEYS}, **json.loads(r["beside"] or "{}"), where=r["place"], optional=bool(r["optional"]),
        states=tuple(json.loads(r["states"])),
    )  # fmt: skip


def _beside(line: BatterLine) -> str:
    """What the line says beside its food, as JSON; only what there is, and nothing where there is none."""
    said = {k: v for k in BESIDE if (v := getattr(line, k))}
    return json.dumps(said, ensure_ascii=False) if said else ""


def _made(r: sqlite3.Row) -> Made:
    return Made(id=r["id"], version_id=r["version_id"], at=r["at"], good=bool(r["good"]), note=r["note"])


def _diets(db: sqlite3.Connection, some: str, args: dict[str, str]) -> dict[str, tuple[str, ...]]:
    found: dict[str, list[str]] = {}
    for row in db.execute(
        f"SELECT d.version_id, d.diet FROM version_diet AS d JOIN version AS v ON v.id = d.version_id WHERE {some} ORDER BY d.version_id, d.position",
        args,
    ):
        found.setdefault(row["version_id"], []).append(row["diet"])
    return {k: tuple(v) for k, v in found.items()}


def _makings(db: sqlite3.Connection, some: str, args: dict[str, str]) -> dict[str, dict[str, Any]]:
    """Of each version that was made: its standing, how often, when last and how many stars that was given."""
    found: dict[str, list[sqlite3.Row]] = {}
    for row in db.execute(
        "SELECT m.version_id, m.good, m.at, t.stars FROM made AS m JOIN version AS v ON v.id = m.version_id LEFT JOIN batch AS t ON t.id = m.id"
        f" WHERE m.withdrawn_at IS NULL AND {some} ORDER BY m.at",
        args,
    ):
        found.setdefault(row["version_id"], []).append(row)
    return {
        k: {
            "standing": standing_of([bool(r["good"]) for r in rows]),
            "made": len(rows),
            "last_made": rows[-1]["at"],
            "stars": rows[-1]["stars"],
        }
        for k, rows in found.items()
    }


def new_id() -> str:
    """A fresh id: sixteen hexadecimal digits."""
    return secrets.token_hex(8)


def now() -> str:
    """This moment, UTC, ISO 8601."""
    return datetime.now(UTC).isoformat(timespec="seconds")
