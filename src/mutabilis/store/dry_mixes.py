"""Bags of dry mix in the database: made of a version, kept until a day, used up batch by batch."""

import sqlite3
from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.batter.batter import Batter
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.stove.batch import FromMix

from .book import new_id, now
from .database import Database

Grams = Annotated[float, Field(gt=0, le=1_000_000, allow_inf_nan=False)]


class Bag(BaseModel):
    """What a bag holds, as it was made: its name, the batter of its version in the size of one batch, grams of mix for that batch [g], how
    much was made [g], what its label says, and the pack of each ingredient that was in use then ("" or left out where nobody named one)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    name: Annotated[str, Field(max_length=120)]
    batter: Batter
    batch_g: Grams
    made_g: Grams
    label: Annotated[tuple[Annotated[str, Field(max_length=1000)], ...], Field(max_length=20)] = ()
    packs: dict[Annotated[str, Field(max_length=80)], Annotated[str, Field(max_length=120)]] = {}


class KeptBag(BaseModel):
    """A bag on the shelf: when it was made, until which day it keeps, what is left [g]."""

    id: str
    version_id: str
    bag: Bag
    made: str
    use_by: str
    left_g: float
    away: bool


class DryMixes:
    """The bags over a database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def all(self, away: bool = False) -> tuple[KeptBag, ...]:
        """The bags on the shelf, or those put away; what must be used first stands first."""
        with self._database.read() as db:
            where = "away_at IS NOT NULL" if away else "away_at IS NULL"
            return tuple(_kept(r) for r in db.execute(f"SELECT * FROM dry_mix WHERE {where} ORDER BY use_by, made_at, id"))

    def one(self, id_: str) -> KeptBag:
        """A bag; NotKnown where there is none."""
        with self._database.read() as db:
            row = db.execute("SELECT * FROM dry_mix WHERE id = :id", {"id": id_}).fetchone()
        if row is None:
            raise NotKnown(id_)
        return _kept(row)

    def make(self, id_: str | None, version_id: str, bag: Bag, use_by: date) -> KeptBag:
        """A bag was made; sent twice with one id it is one. NotKnown where the version is not there."""
        made = id_ or new_id()
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM version WHERE id = :v", {"v": version_id}).fetchone() is None:
                raise NotKnown(version_id)
            db.execute(
                "INSERT INTO dry_mix (id, version_id, body, made_at, use_by, left_g) VALUES (:id, :v, :body, :at, :by, :left) ON CONFLICT (id) DO NOTHING",
                {
                    "id": made, "v": version_id, "body": bag.model_dump_json(), "at": now(), "by": use_by.isoformat(), "left": bag.made_g,
                },
            )  # fmt: skip
        return self.one(made)

    def change(self, id_: str, left_g: float | None = None, away: bool | None = None) -> KeptBag:
        """What is left of a bag, corrected by hand [g]; or the bag put away, or taken out again."""
        with self._database.write() as db:
            if left_g is not None:
                db.execute("UPDATE dry_mix SET left_g = :left WHERE id = :id", {"id": id_, "left": left_g})
            if away is not None:
                db.execute("UPDATE dry_mix SET away_at = :at WHERE id = :id", {"id": id_, "at": now() if away else None})
        return self.one(id_)


def take(db: sqlite3.Connection, batch: str, mix: FromMix) -> None:
    """Take what a new batch needs off its bag, within the caller's transaction. NotKnown where there is no such bag; CannotBe where it
    does not hold so much."""
    row = db.execute("SELECT left_g, body FROM dry_mix WHERE id = :id", {"id": mix.id}).fetchone()
    if row is None:
        raise NotKnown(mix.id)
    if row["left_g"] + 0.5 < mix.grams:
        raise CannotBe(f"only {row['left_g']:.0f} g of this mix are left")
    name = Bag.model_validate_json(row["body"]).name
    db.execute(
        "INSERT INTO batch_mix VALUES (:batch, :mix, :name, :grams)", {"batch": batch, "mix": mix.id, "name": name, "grams": mix.grams}
    )
    db.execute("UPDATE dry_mix SET left_g = max(0.0, left_g - :grams) WHERE id = :id", {"id": mix.id, "grams": mix.grams})


def _kept(r: sqlite3.Row) -> KeptBag:
    return KeptBag(
        id=r["id"], version_id=r["version_id"], bag=Bag.model_validate_json(r["body"]), made=r["made_at"], use_by=r["use_by"], left_g=r["left_g"],
        away=r["away_at"] is not None,
    )  # fmt: skip
