"""The Stove in the database: batches, what happened to them, what they taught, and what the kitchen cooks on."""

import json
import sqlite3
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from mutabilis.core.batter.batter import Batter, Order
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.food.learning import Lesson
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.journal.summary import Summary
from mutabilis.core.stove.batch import COLOURS, Batch, FromMix
from mutabilis.core.stove.events import EVENT, Event, Poured, Tared

from .book import new_id, now
from .database import Database
from .dry_mixes import take

MOST_EVENTS = 20_000  # of one batch: more is not a morning's work but a loop


@dataclass(frozen=True, slots=True, kw_only=True)
class Closing:
    """What the events of a finished batch come to: when it was over [s since 1970], pieces made and planned, stars, note, whether it was good,
    what it taught, and what lists remember of it."""

    finished: float
    pieces: int
    planned: float
    stars: int | None
    note: str
    good: bool
    lessons: tuple[Lesson, ...]
    summary: Summary | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Logged:
    """A batch in the log, by what it came to. Moments are seconds since 1970; `summary` is None for one that is older than those."""

    id: str
    version_id: str
    batter_id: str
    name: str
    number: int
    whom: str
    mark: int
    started: float
    finished: float
    pieces: int
    planned: float
    stars: int | None
    note: str
    cook: str = ""
    summary: Summary | None = None


Reckon = Callable[[Batch, Sequence[Event]], tuple[Sequence[Event], Closing | None]]
_BATCH = (
    "SELECT t.*, v.number, v.batter_id, b.name, m.mix_id, m.grams AS mix_g, m.name AS mix_name, coalesce(c.name, '') AS cook"
    " FROM batch AS t JOIN version AS v ON v.id = t.version_id JOIN batter AS b ON b.id = v.batter_id LEFT JOIN batch_mix AS m ON m.batch_id = t.id"
    " LEFT JOIN batch_cook AS c ON c.batch_id = t.id"
)

_LOG = (
    "SELECT t.id, t.version_id, t.whom, t.mark, t.started_at, t.finished_at, t.pieces, t.planned, t.stars, t.note, coalesce(c.name, '') AS cook, v.number, v.batter_id, b.name,"
    " s.body AS summary FROM batch AS t JOIN version AS v ON v.id = t.version_id JOIN batter AS b ON b.id = v.batter_id"
    " LEFT JOIN batch_summary AS s ON s.batch_id = t.id LEFT JOIN batch_cook AS c ON c.batch_id = t.id"
)


class Stove:
    """Batches over a database. `revision` counts what was learned or put on the stove; `counts` the events of the batches under way; `weighing` is
    the batch that the scale counts for."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self.revision = 0
        self.counts = self._counted()
        self.weighing = self._on_the_scale()

    # ---- batches

    def start(
        self, id_: str | None, version_id: str, plan: Batter, diets: Sequence[str], whom: str, first_at: float | None, mixed: Order, at: float,
        mix: FromMix | None = None, cook: str = "",
    ) -> Batch:  # fmt: skip
        """A new batch; sent twice with one id it is one. What it takes of a bag of dry mix is taken off it once. NotKnown where the version or
        the bag is not there."""
        made = id_ or new_id()
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM version WHERE id = :v", {"v": version_id}).fetchone() is None:
                raise NotKnown(version_id)
            if db.execute("SELECT 1 FROM batch WHERE id = :id", {"id": made}).fetchone() is None:
                taken = {r["mark"] for r in db.execute("SELECT mark FROM batch WHERE finished_at IS NULL")}
                mark = next((n for n in range(COLOURS) if n not in taken), len(taken) % COLOURS)
                db.execute(
                    "INSERT INTO batch (id, version_id, plan, diets, whom, first_at, mixed, mark, started_at)"
                    " VALUES (:id, :v, :plan, :diets, :whom, :first, :mixed, :mark, :at)",
                    {
                        "id": made, "v": version_id, "plan": plan.model_dump_json(), "diets": json.dumps(list(diets)), "whom": whom, "first": first_at,
                        "mixed": mixed, "mark": mark, "at": at,
                    },
                )  # fmt: skip
                _cooked(db, made, cook)
                if mix is not None:
                    take(db, made, mix)
        self.counts[made] = self.counts.get(made, 0)
        return self.batch(made)

    def bring(self, batch: Batch, closing: Closing) -> bool:
        """A finished batch out of another book, as it was: False where it is here already. NotKnown where its version is not here; all of it or
        nothing."""
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM version WHERE id = :v", {"v": batch.version_id}).fetchone() is None:
                raise NotKnown(batch.version_id)
            if db.execute("SELECT 1 FROM batch WHERE id = :id", {"id": batch.id}).fetchone() is not None:
                return False
            db.execute(
                "INSERT INTO batch (id, version_id, plan, diets, whom, first_at, mixed, mark, started_at)"
                " VALUES (:id, :v, :plan, :diets, :whom, :first, :mixed, :mark, :at)",
                {
                    "id": batch.id, "v": batch.version_id, "plan": batch.plan.model_dump_json(), "diets": json.dumps(list(batch.diets)), "whom": batch.whom[:120],
                    "first": batch.first_at, "mixed": batch.order, "mark": batch.mark % COLOURS, "at": batch.started,
                },
            )  # fmt: skip
            _cooked(db, batch.id, batch.cook)
            db.executemany(
                "INSERT INTO batch_event (batch_id, seq, id, received_at, body) VALUES (?, ?, ?, ?, ?)",
                [(batch.id, n, e.id, e.at, e.model_dump_json()) for n, e in enumerate({e.id: e for e in batch.events}.values())],
            )
            _close(db, batch, closing)
        self.revision += 1
        return True

    def batch(self, id_: str) -> Batch:
        """A batch with all of its events; NotKnown where there is none."""
        with self._database.read() as db:
            return _whole(db, id_)

    def under_way(self) -> tuple[Batch, ...]:
        """The batches that are not finished, with their events, the newest first."""
        with self._database.read() as db:
            rows = db.execute(f"{_BATCH} WHERE t.finished_at IS NULL ORDER BY t.started_at DESC").fetchall()
            return tuple(_batch(r, _events(db, r["id"])) for r in rows)

    def log(self, offset: int = 0, limit: int = 50) -> tuple[tuple[Logged, ...], int]:
        """Finished batches, the latest first, and how many there are in all."""
        with self._database.read() as db:
            rows = db.execute(
                f"{_LOG} WHERE t.finished_at IS NOT NULL ORDER BY t.finished_at DESC LIMIT :limit OFFSET :offset",
                {"limit": limit, "offset": offset},
            ).fetchall()
            total = int(db.execute("SELECT count(*) FROM batch WHERE finished_at IS NOT NULL").fetchone()[0])
        return tuple(
            Logged(
                id=r["id"], version_id=r["version_id"], batter_id=r["batter_id"], name=r["name"], number=r["number"], whom=r["whom"], mark=r["mark"], started=r["started_at"], finished=r["finished_at"],
                pieces=r["pieces"] or 0, planned=r["planned"] or 0.0, stars=r["stars"], note=r["note"], cook=r["cook"],
                summary=Summary.model_validate_json(r["summary"]) if r["summary"] else None,
            )
            for r in rows
        ), total  # fmt: skip

    def summarise(self, id_: str, summary: Summary) -> None:
        """Keep what lists remember of a finished batch that is older than that."""
        with self._database.write() as db:
            _summarise(db, id_, summary)

    def append(self, id_: str, events: Sequence[Event], received: float, reckon: Reckon) -> Batch:
        """Append events, each once by its id, in the order given; then what `reckon` says follows from them, and what the batch then comes to.
        All in one transaction. NotKnown where there is no such batch; CannotBe where it has too many events."""
        with self._database.write() as db:
            batch = _whole(db, id_)
            known = {e.id for e in batch.events}
            fresh = list({e.id: e for e in events if e.id not in known}.values())
            if len(known) + len(fresh) > MOST_EVENTS:
                raise CannotBe("this batch has as many events as a batch can have")
            batch = batch.model_copy(update={"events": (*batch.events, *fresh)})
            follow, closing = reckon(batch, fresh)
            follow = [e for e in follow if e.id not in known and e.id not in {x.id for x in fresh}]
            batch = batch.model_copy(update={"events": (*batch.events, *follow)})
            db.executemany(
                "INSERT INTO batch_event (batch_id, seq, id, received_at, body) VALUES (?, ?, ?, ?, ?)",
                [(id_, len(known) + n, e.id, received, e.model_dump_json()) for n, e in enumerate([*fresh, *follow])],
            )
            closed = _close(db, batch, closing)
        self.counts[id_] = len(batch.events)
        if any(_weighs(e) for e in fresh):
            self.weighing = id_
        if closed:
            self.revision += 1
        return batch.model_copy(update={"finished": closing.finished if closing else None})

    def _counted(self) -> dict[str, int]:
        with self._database.read() as db:
            rows = db.execute(
                "SELECT t.id, count(e.id) AS n FROM batch AS t LEFT JOIN batch_event AS e ON e.batch_id = t.id"
                " WHERE t.finished_at IS NULL GROUP BY t.id"
            )
            return {r["id"]: int(r["n"]) for r in rows}

    def _on_the_scale(self) -> str | None:
        """The batch under way that was last on the scale."""
        last = [(max((e.at for e in b.events if _weighs(e)), default=0.0), b.id) for b in self.under_way()]
        return max(last, default=(0.0, ""))[1] or None

    def latest(self) -> float:
        """When the last event was received [s since 1970]; 0 where there is none."""
        with self._database.read() as db:
            row = db.execute(
                "SELECT max(received_at) FROM batch_event WHERE batch_id IN (SELECT id FROM batch ORDER BY started_at DESC LIMIT 8)"
            ).fetchone()
        return float(row[0] or 0.0)

    # ---- what was learned

    def lessons(self) -> tuple[Lesson, ...]:
        """What was learned and stands, the oldest first."""
        with self._database.read() as db:
            rows = db.execute("SELECT body FROM lesson WHERE withdrawn_at IS NULL ORDER BY id").fetchall()
        return tuple(Lesson.model_validate_json(r["body"]) for r in rows)

    def forget(self, kind: str, subject: str, back: bool = False) -> int:
        """Forget what was learned of a subject, or let what was last forgotten stand again; how many lessons that were."""
        with self._database.write() as db:
            if back:
                done = db.execute(
                    "UPDATE lesson SET withdrawn_at = NULL WHERE kind = :kind AND subject = :subject AND withdrawn_at ="
                    " (SELECT max(withdrawn_at) FROM lesson WHERE kind = :kind AND subject = :subject AND withdrawn_at LIKE 'forgotten %')",
                    {"kind": kind, "subject": subject},
                )
            else:
                done = db.execute(
                    "UPDATE lesson SET withdrawn_at = :at WHERE kind = :kind AND subject = :subject AND withdrawn_at IS NULL",
                    {"kind": kind, "subject": subject, "at": f"forgotten {now()}"},
                )
        self.revision += 1
        return done.rowcount

    # ---- what it is cooked on

    def surfaces(self) -> tuple[tuple[Surface, ...], frozenset[str]]:
        """The kitchen's own surfaces in use, and the ids of those put away."""
        with self._database.read() as db:
            rows = db.execute("SELECT id, body, archived_at FROM surface ORDER BY id").fetchall()
        own = tuple(Surface.model_validate_json(r["body"]) for r in rows if r["archived_at"] is None)
        return own, frozenset(r["id"] for r in rows if r["archived_at"] is not None)

    def put_surface(self, surface: Surface, away: bool = False) -> None:
        """Keep a surface in place of the one of its id, or put it away."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO surface (id, body, archived_at, updated_at) VALUES (:id, :body, :away, :at)"
                " ON CONFLICT (id) DO UPDATE SET body = excluded.body, archived_at = excluded.archived_at, updated_at = excluded.updated_at",
                {"id": surface.id, "body": surface.model_dump_json(), "away": now() if away else None, "at": now()},
            )
        self.revision += 1

    # ---- devices

    def device(self, name: str) -> dict[str, object]:
        """What a simulated device was left with; empty where it was never touched."""
        with self._database.read() as db:
            row = db.execute("SELECT value FROM setting WHERE key = :key", {"key": f"device:{name}"}).fetchone()
        return {} if row is None else dict(json.loads(row["value"]))

    def keep_device(self, name: str, saved: dict[str, object]) -> None:
        """Keep what a simulated device holds."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO setting (key, value) VALUES (:key, :value) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
                {"key": f"device:{name}", "value": json.dumps(saved)},
            )


def _cooked(db: sqlite3.Connection, id_: str, cook: str) -> None:
    if cook.strip():
        db.execute("INSERT INTO batch_cook (batch_id, name) VALUES (:id, :name)", {"id": id_, "name": cook.strip()[:60]})


def _summarise(db: sqlite3.Connection, id_: str, summary: Summary | None) -> None:
    db.execute("DELETE FROM batch_summary WHERE batch_id = :id", {"id": id_})
    if summary is not None:
        db.execute("INSERT INTO batch_summary (batch_id, body) VALUES (:id, :body)", {"id": id_, "body": summary.model_dump_json()})


def _weighs(e: Event) -> bool:
    return isinstance(e, Tared) or (isinstance(e, Poured) and e.gross is not None)


def _whole(db: sqlite3.Connection, id_: str) -> Batch:
    row = db.execute(f"{_BATCH} WHERE t.id = :id", {"id": id_}).fetchone()
    if row is None:
        raise NotKnown(id_)
    return _batch(row, _events(db, id_))


def _events(db: sqlite3.Connection, id_: str) -> tuple[Event, ...]:
    rows = db.execute("SELECT body FROM batch_event WHERE batch_id = :id ORDER BY seq", {"id": id_}).fetchall()
    return tuple(EVENT.validate_json(r["body"]) for r in rows)


def _batch(r: sqlite3.Row, events: tuple[Event, ...]) -> Batch:
    return Batch(
        id=r["id"], version_id=r["version_id"], batter_id=r["batter_id"], name=r["name"], number=r["number"], plan=Batter.model_validate_json(r["plan"]),
        diets=tuple(json.loads(r["diets"])), whom=r["whom"], first_at=r["first_at"], order=r["mixed"], mark=r["mark"], cook=r["cook"], started=r["started_at"],
        finished=r["finished_at"], events=events,
        mix=None if r["mix_id"] is None else FromMix(id=r["mix_id"], grams=r["mix_g"], name=r["mix_name"]),
    )  # fmt: skip


def _close(db: sqlite3.Connection, batch: Batch, closing: Closing | None) -> bool:
    """Write what a batch comes to; whether it was finished or taken up again by this."""
    was = db.execute("SELECT finished_at FROM batch WHERE id = :id", {"id": batch.id}).fetchone()["finished_at"]
    if closing is None and was is None:
        return False
    c = closing
    db.execute(
        "UPDATE batch SET finished_at = :finished, pieces = :pieces, planned = :planned, stars = :stars, note = :note WHERE id = :id",
        {
            "id": batch.id, "finished": c.finished if c else None, "pieces": c.pieces if c else None, "planned": c.planned if c else None,
            "stars": c.stars if c else None, "note": c.note if c else "",
        },
    )  # fmt: skip
    _summarise(db, batch.id, c.summary if c else None)
    made = c if c is not None and c.pieces > 0 else None  # a batch that was given up made nothing
    # That it was made, and how it came out, goes to the Book; taken up again, it is withdrawn.
    db.execute(
        "INSERT INTO made (id, version_id, at, good, note, withdrawn_at) VALUES (:id, :v, :at, :good, :note, :gone)"
        " ON CONFLICT (id) DO UPDATE SET good = excluded.good, note = excluded.note, withdrawn_at = excluded.withdrawn_at",
        {
            "id": batch.id,
            "v": batch.version_id,
            "at": now(),
            "good": int(made.good) if made else 0,
            "note": made.note if made else "",
            "gone": None if made else now(),
        },
    )
    if (c is None) == (was is None):
        return True
    if c is None:
        db.execute("UPDATE lesson SET withdrawn_at = :at WHERE batch_id = :id AND withdrawn_at IS NULL", {"id": batch.id, "at": now()})
        return True
    db.executemany(
        "INSERT INTO lesson (batch_id, kind, subject, body, at) VALUES (:batch, :kind, :subject, :body, :at)",
        [
            {
                "batch": batch.id,
                "kind": x.kind,
                "subject": x.subject,
                "at": now(),
                "body": x.model_copy(update={"at": now()}).model_dump_json(),
            }
            for x in c.lessons
        ],
    )
    return True
