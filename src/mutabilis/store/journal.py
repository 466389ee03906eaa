"""The journal in the database: what was reckoned of a batch at its start, who ate of it, and what is said of it after it is over."""

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.journal.predicted import Predicted
from mutabilis.core.journal.served import Served

from .book import now
from .database import Database

MOST_NOTES = 500
Key = Annotated[str, Field(max_length=60)]


class Said(BaseModel):
    """One thing said afterwards. `faults` with the loads that showed them; `answer` to a question; `remark` of somebody; `unsaid` takes an
    earlier one back; `taken` is the cause whose correction was carried to the Bench;
    `kept` says what became of something that was kept (`of` its event): used, or discarded. `trial` begins one, of a cause's change (`text`)
    between two `arms` over `pairs`; `tried` says which plate of its next pair was better (`of` the trial, `answer` 1, 2 or same)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: Annotated[str, Field(pattern=r"^[0-9a-z-]{8,40}$")]
    kind: Literal["faults", "answer", "remark", "taken", "kept", "trial", "tried", "unsaid"]
    faults: Annotated[tuple[Key, ...], Field(max_length=24)] = ()
    when: Literal["all", "first", "later", "some"] | None = None
    question: Key = ""
    answer: Annotated[str, Field(max_length=120)] = ""
    who: Annotated[str, Field(max_length=80)] = ""
    text: Annotated[str, Field(max_length=2000)] = ""
    cause: Key = ""
    version: Annotated[str, Field(max_length=40)] = ""
    of: Annotated[str, Field(max_length=40)] = ""
    arms: Annotated[tuple[Annotated[str, Field(max_length=200)], ...], Field(max_length=2)] = ()
    pairs: Annotated[int, Field(ge=1, le=40)] = 1

    @model_validator(mode="after")
    def _whole(self) -> "Said":
        if self.kind == "trial" and len(self.arms) != 2:
            raise ValueError("a trial has two arms")
        if self.kind == "tried" and self.answer not in ("1", "2", "same"):
            raise ValueError("a pair is told by 1, 2 or same")
        return self


class SaidOf(BaseModel):
    """What stands of all that was said of a batch."""

    faults: tuple[str, ...] | None = None
    when: str | None = None
    answers: dict[str, str] = {}
    remarks: tuple[Said, ...] = ()
    taken: Said | None = None
    gone: dict[str, str] = {}
    trial: Said | None = None
    tried: tuple[Said, ...] = ()
    last: str = ""


class Journal:
    """Notes over a database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def say(self, batch: str, said: Said) -> SaidOf:
        """Keep what is said of a batch, once by its id. NotKnown where there is no such batch; CannotBe where too much is said of it."""
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM batch WHERE id = :b", {"b": batch}).fetchone() is None:
                raise NotKnown(batch)
            if db.execute("SELECT count(*) FROM journal_note WHERE batch_id = :b", {"b": batch}).fetchone()[0] >= MOST_NOTES:
                raise CannotBe("more than can be said of one batch")
            db.execute(
                "INSERT INTO journal_note (id, batch_id, at, body) VALUES (:id, :b, :at, :body) ON CONFLICT (id) DO NOTHING",
                {"id": said.id, "b": batch, "at": now(), "body": said.model_dump_json()},
            )
        return self.told(batch)

    def notes(self, batch: str) -> tuple[Said, ...]:
        """All that was ever said of a batch, what was taken back as well."""
        with self._database.read() as db:
            rows = db.execute("SELECT body FROM journal_note WHERE batch_id = :b ORDER BY n", {"b": batch}).fetchall()
        return tuple(Said.model_validate_json(r["body"]) for r in rows)

    def told(self, batch: str) -> SaidOf:
        """What stands of all that was said of a batch."""
        return _standing(self.notes(batch))

    def told_of_all(self) -> dict[str, SaidOf]:
        """What stands of all that was said, by batch; those of which nothing was said are left out."""
        with self._database.read() as db:
            rows = db.execute("SELECT batch_id, body FROM journal_note ORDER BY n").fetchall()
        by: dict[str, list[Said]] = {}
        for r in rows:
            by.setdefault(r["batch_id"], []).append(Said.model_validate_json(r["body"]))
        return {batch: _standing(notes) for batch, notes in by.items()}

    def freeze(self, batch: str, predicted: Predicted) -> None:
        """Keep what is reckoned of a batch at its start; what was kept before stays."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO batch_frozen (batch_id, body) VALUES (:b, :body) ON CONFLICT (batch_id) DO NOTHING",
                {"b": batch, "body": predicted.model_dump_json()},
            )

    def frozen(self, batch: str) -> Predicted | None:
        """What was reckoned of a batch at its start; None for one that is older than this."""
        with self._database.read() as db:
            row = db.execute("SELECT body FROM batch_frozen WHERE batch_id = :b", {"b": batch}).fetchone()
        return None if row is None else Predicted.model_validate_json(row["body"])

    def serve(self, batch: str, served: Sequence[Served]) -> None:
        """Keep who ate of a batch, in place of what was kept before."""
        with self._database.write() as db:
            db.execute("DELETE FROM served WHERE batch_id = :b", {"b": batch})
            db.executemany(
                "INSERT INTO served (batch_id, load, guest, at, name, needs, pieces) VALUES (?, ?, ?, ?, ?, ?, ?)",
                [(batch, x.load, n, x.at, x.name, x.needs, x.pieces) for n, x in enumerate(served)],
            )

    def served(self, batch: str) -> tuple[Served, ...]:
        """Who ate of a batch, by its loads."""
        with self._database.read() as db:
            rows = db.execute("SELECT load, at, name, needs, pieces FROM served WHERE batch_id = :b ORDER BY load, guest", {"b": batch})
            return tuple(Served.model_validate(dict(r)) for r in rows.fetchall())

    def served_of_all(self) -> dict[str, tuple[Served, ...]]:
        """Who ate of which batch, by batch."""
        with self._database.read() as db:
            rows = db.execute("SELECT batch_id, load, at, name, needs, pieces FROM served ORDER BY batch_id, load, guest").fetchall()
        by: dict[str, list[Served]] = {}
        for r in rows:
            by.setdefault(r["batch_id"], []).append(
                Served(load=r["load"], at=r["at"], name=r["name"], needs=r["needs"], pieces=r["pieces"])
            )
        return {batch: tuple(ate) for batch, ate in by.items()}

    def frozen_of_all(self) -> dict[str, Predicted]:
        """What was reckoned at the start of each batch, by batch."""
        with self._database.read() as db:
            rows = db.execute("SELECT batch_id, body FROM batch_frozen").fetchall()
        return {r["batch_id"]: Predicted.model_validate_json(r["body"]) for r in rows}

    def forget_names(self, before: float) -> int:
        """Take the names of guests out of whatever is older than `before` [s since 1970]: what they may not eat, and how many they were, stays.
        How many were forgotten."""
        day = datetime.fromtimestamp(before, UTC).isoformat(timespec="seconds")
        with self._database.write() as db:
            gone = db.execute("UPDATE served SET name = NULL WHERE at < :t AND name IS NOT NULL", {"t": before}).rowcount
            gone += db.execute("UPDATE batch SET whom = '' WHERE finished_at < :t AND whom <> ''", {"t": before}).rowcount
            gone += db.execute(
                "UPDATE journal_note SET body = json_set(body, '$.who', '') WHERE at < :day AND json_extract(body, '$.who') <> ''",
                {"day": day},
            ).rowcount
        return gone


def _standing(notes: Sequence[Said]) -> SaidOf:
    gone = {n.of for n in notes if n.kind == "unsaid"}
    stand = [n for n in notes if n.kind != "unsaid" and n.id not in gone]
    faults = next((n for n in reversed(stand) if n.kind == "faults"), None)
    trial = next((n for n in reversed(stand) if n.kind == "trial"), None)
    return SaidOf(
        faults=faults.faults if faults else None,
        when=faults.when if faults else None,
        answers={n.question: n.answer for n in stand if n.kind == "answer"},
        remarks=tuple(n for n in stand if n.kind == "remark"),
        taken=next((n for n in reversed(stand) if n.kind == "taken"), None),
        gone={n.of: n.answer for n in stand if n.kind == "kept"},
        trial=trial,
        tried=tuple(n for n in stand if n.kind == "tried" and trial is not None and n.of == trial.id),
        last=stand[-1].id if stand else "",
    )
