"""Photographs of batches in the book: each once by what is in it, taken away and put back, and what they weigh in all."""

import hashlib

from pydantic import BaseModel, ConfigDict

from mutabilis.core.errors import CannotBe, NotKnown

from .book import now
from .database import Database

MOST = 40  # of one batch


class Kept(BaseModel):
    """A photograph by its id, its batch, when it was put in, and its size [px]."""

    model_config = ConfigDict(frozen=True)

    id: str
    batch: str
    at: str
    width: int
    height: int


class Photos:
    """Photographs over a database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def put(self, batch: str, whole: bytes, small: bytes, width: int, height: int) -> str:
        """Keep a photograph of a batch; its id is the hash of what is in it, so that one put in twice is one. One that was taken away is back."""
        id_ = hashlib.sha256(whole).hexdigest()[:32]
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM batch WHERE id = :b", {"b": batch}).fetchone() is None:
                raise NotKnown(batch)
            have = db.execute(
                "SELECT count(*) FROM photo WHERE batch_id = :b AND removed_at IS NULL AND id <> :id", {"b": batch, "id": id_}
            )
            if have.fetchone()[0] >= MOST:
                raise CannotBe(f"{MOST} photos are as many as one batch can have")
            db.execute(
                "INSERT INTO photo (id, batch_id, at, width, height, whole, small) VALUES (:id, :b, :at, :w, :h, :whole, :small)"
                " ON CONFLICT (batch_id, id) DO UPDATE SET removed_at = NULL",
                {"id": id_, "b": batch, "at": now(), "w": width, "h": height, "whole": whole, "small": small},
            )
        return id_

    def away(self, batch: str, id_: str, back: bool = False) -> None:
        """Take a photograph away, or put it back. NotKnown where there is none."""
        with self._database.write() as db:
            gone = db.execute(
                "UPDATE photo SET removed_at = :at WHERE batch_id = :b AND id = :id", {"at": None if back else now(), "b": batch, "id": id_}
            )
            if gone.rowcount == 0:
                raise NotKnown(id_)

    def of(self, batch: str) -> tuple[Kept, ...]:
        """The photographs of a batch, the oldest first."""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT id, batch_id AS batch, at, width, height FROM photo WHERE batch_id = :b AND removed_at IS NULL ORDER BY n",
                {"b": batch},
            ).fetchall()
        return tuple(Kept.model_validate(dict(r)) for r in rows)

    def newest(self, versions: tuple[str, ...]) -> dict[str, Kept]:
        """The newest photograph of each version that has one."""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT p.id, p.batch_id AS batch, p.at, p.width, p.height, t.version_id AS version FROM photo AS p JOIN batch AS t ON t.id = p.batch_id"
                " WHERE p.removed_at IS NULL ORDER BY p.n"
            ).fetchall()
        return {
            r["version"]: Kept.model_validate({k: r[k] for k in ("id", "batch", "at", "width", "height")})
            for r in rows
            if r["version"] in versions
        }

    def data(self, id_: str, small: bool) -> bytes:
        """A photograph as JPEG. NotKnown where there is none."""
        with self._database.read() as db:
            row = db.execute(f"SELECT {'small' if small else 'whole'} AS data FROM photo WHERE id = :id", {"id": id_}).fetchone()
        if row is None:
            raise NotKnown(id_)
        return bytes(row["data"])

    def weight(self) -> tuple[int, int]:
        """How many photographs there are, and their bytes in all; those taken away are let go of after a day."""
        with self._database.read() as db:
            row = db.execute("SELECT count(*) AS n, coalesce(sum(length(whole) + length(small)), 0) AS bytes FROM photo").fetchone()
        return int(row["n"]), int(row["bytes"])

    def outlived(self, before: float) -> int:
        """Take away the photographs of batches that were finished before a moment [s since 1970]; how many."""
        with self._database.write() as db:
            return db.execute(
                "UPDATE photo SET removed_at = :now WHERE removed_at IS NULL AND batch_id IN (SELECT id FROM batch WHERE finished_at < :t)",
                {"now": now(), "t": before},
            ).rowcount

    def let_go(self, before: str) -> int:
        """Let go of what was taken away before a moment (ISO 8601, UTC): it can no longer be put back. How many."""
        with self._database.write() as db:
            return db.execute("DELETE FROM photo WHERE removed_at < :at", {"at": before}).rowcount
