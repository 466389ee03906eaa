"""The Larder in the database: what this kitchen knows of ingredients, its own packs, and what was read on packs."""

import sqlite3
from collections.abc import Iterable

from pydantic import BaseModel, ConfigDict

from mutabilis.core.diets.packs import PackReading
from mutabilis.core.errors import NotKnown
from mutabilis.core.food.larder import Item, Pack
from mutabilis.core.food.pack_labels import Label

from .book import new_id, now
from .database import Database

_OF_PACK = ("lot", "best_before", "opened")
_COLUMNS = ("stock_g", "pack", "pack_g", "price", "cup_g", "tbsp_g", "tsp_g", "cup_ml", "tbsp_ml", "tsp_ml", "absorption")


class KeptReading(BaseModel):
    """A pack reading with the id under which it can be withdrawn."""

    model_config = ConfigDict(frozen=True)

    id: str
    reading: PackReading


class Larder:
    """The Larder over a database. `revision` counts what was written, so that facts made from it can be kept until it moves."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self.revision = 0

    def items(self) -> dict[str, Item]:
        """Everything known, by ingredient."""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT i.*, nullif(p.lot, '') AS lot, p.best_before, p.opened FROM larder_item AS i"
                " LEFT JOIN pack_used AS p ON p.ingredient = i.ingredient AND p.emptied IS NULL ORDER BY i.ingredient"
            ).fetchall()
        return {r["ingredient"]: Item(ingredient=r["ingredient"], **{k: r[k] for k in (*_COLUMNS, *_OF_PACK)}) for r in rows}

    def put(self, items: Iterable[Item]) -> None:
        """Keep what is known of some ingredients in place of what was, all of them or none."""
        with self._database.write() as db:
            for item in items:
                db.execute(
                    f"INSERT INTO larder_item (ingredient, {', '.join(_COLUMNS)}, updated_at)"
                    f" VALUES (:ingredient, {', '.join(f':{c}' for c in _COLUMNS)}, :at)"
                    f" ON CONFLICT (ingredient) DO UPDATE SET {', '.join(f'{c} = excluded.{c}' for c in _COLUMNS)}, updated_at = excluded.updated_at",
                    {**item.model_dump(exclude=set(_OF_PACK)), "at": now()},
                )
                _use(db, item)
        self.revision += 1

    def pack_called(self, ingredient: str, words: str) -> Pack | None:
        """The pack of an ingredient by what it was called at a pour; None where there is none of that name."""
        with self._database.read() as db:
            rows = db.execute("SELECT * FROM pack_used WHERE ingredient = :i", {"i": ingredient}).fetchall()
        return next((p for r in rows if (p := Pack.model_validate(dict(r))).words == words), None)

    def packs(self, archived: bool = False) -> tuple[Label, ...]:
        """Own packs by their labels: those in use, or those put away."""
        with self._database.read() as db:
            rows = db.execute(f"SELECT label FROM own_pack WHERE archived_at IS {'NOT ' if archived else ''}NULL ORDER BY id").fetchall()
        return tuple(Label.model_validate_json(r["label"]) for r in rows)

    def put_pack(self, label: Label) -> None:
        """Keep an own pack, in place of the label it had."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO own_pack (id, label, archived_at, updated_at) VALUES (:id, :label, NULL, :at)"
                " ON CONFLICT (id) DO UPDATE SET label = excluded.label, archived_at = NULL, updated_at = excluded.updated_at",
                {"id": label.id, "label": label.model_dump_json(), "at": now()},
            )
        self.revision += 1

    def archive_pack(self, id_: str, away: bool) -> None:
        """Put an own pack away, or take it out again; NotKnown where there is none."""
        with self._database.write() as db:
            done = db.execute("UPDATE own_pack SET archived_at = :at WHERE id = :id", {"at": now() if away else None, "id": id_})
            if done.rowcount == 0:
                raise NotKnown(id_)
        self.revision += 1

    def readings(self) -> tuple[KeptReading, ...]:
        """What was read on packs and was not withdrawn, the oldest first."""
        with self._database.read() as db:
            rows = db.execute("SELECT id, body FROM pack_reading WHERE withdrawn_at IS NULL ORDER BY at, rowid").fetchall()
        return tuple(KeptReading(id=r["id"], reading=PackReading.model_validate_json(r["body"])) for r in rows)

    def add_reading(self, reading: PackReading) -> str:
        """Keep a reading; its id."""
        id_ = new_id()
        with self._database.write() as db:
            db.execute(
                "INSERT INTO pack_reading (id, ingredient, body, at, withdrawn_at) VALUES (:id, :ingredient, :body, :at, NULL)",
                {"id": id_, "ingredient": reading.ingredient, "body": reading.model_dump_json(), "at": now()},
            )
        self.revision += 1
        return id_

    def withdraw_reading(self, id_: str, back: bool = False) -> None:
        """Take a reading back, or let it stand again; NotKnown where there is none."""
        with self._database.write() as db:
            done = db.execute("UPDATE pack_reading SET withdrawn_at = :at WHERE id = :id", {"at": None if back else now(), "id": id_})
            if done.rowcount == 0:
                raise NotKnown(id_)
        self.revision += 1


def _use(db: sqlite3.Connection, item: Item) -> None:
    """Write down the pack in use; another that was in use until now is emptied today. One that is used again is not."""
    pack = item.in_use
    db.execute(
        "UPDATE pack_used SET emptied = :on WHERE ingredient = :ingredient AND emptied IS NULL AND NOT (product = :product AND lot = :lot)",
        {"on": now()[:10], "ingredient": item.ingredient, "product": pack.product if pack else "", "lot": pack.lot if pack else ""},
    )
    if pack is not None:
        db.execute(
            "INSERT INTO pack_used (ingredient, product, lot, best_before, opened, emptied) VALUES (:ingredient, :product, :lot, :best_before, :opened, NULL)"
            " ON CONFLICT (ingredient, product, lot) DO UPDATE SET best_before = excluded.best_before, opened = excluded.opened, emptied = NULL",
            pack.model_dump(exclude={"emptied"}),
        )
