"""Mornings in the database: wishes by day, the plan that stands, what happened; guests kept between days until they are forgotten."""

import json
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

from mutabilis.core.errors import CannotBe
from mutabilis.core.service.hours import Hour
from mutabilis.core.service.live import Happening
from mutabilis.core.service.plan import Plan
from mutabilis.core.service.wishes import Guest, Person

from .book import now
from .database import Database

Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
MOST_HAPPENINGS = 3000


class KeptGuest(BaseModel):
    """A guest, and the day after which they are forgotten."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    guest: Guest
    forget: Day


class Wished(BaseModel):
    """What is wished for a day: when the kitchen starts, who comes and who cooks, which batters may be made (all of the Book where none is
    named), which surfaces stay cold, and what surfaces have met beside what the Stove knows."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    start: Hour = 4 * 3600 + 40 * 60
    guests: Annotated[tuple[KeptGuest, ...], Field(max_length=300)] = ()
    people: Annotated[tuple[Person, ...], Field(max_length=20)] = (Person(id="you", name="You"),)
    versions: Annotated[tuple[str, ...], Field(max_length=60)] = ()
    cold: Annotated[tuple[str, ...], Field(max_length=60)] = ()
    met: dict[str, Annotated[tuple[str, ...], Field(max_length=20)]] = {}


class Morning(BaseModel):
    """A day as it is kept."""

    day: Day
    wished: Wished
    plan: Plan | None
    revision: int
    happened: tuple[Happening, ...]


class Mornings:
    """The mornings over a database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def day(self, day: str) -> Morning:
        """A day; one that nobody has planned yet starts with the guests of the last planned day before it who are not forgotten by then."""
        with self._database.read() as db:
            row = db.execute("SELECT * FROM morning WHERE day = :day", {"day": day}).fetchone()
            if row is None:
                last = db.execute("SELECT wishes FROM morning WHERE day < :day ORDER BY day DESC LIMIT 1", {"day": day}).fetchone()
                wished = Wished() if last is None else Wished.model_validate_json(last["wishes"])
                guests = tuple(g for g in wished.guests if g.forget >= day)
                return Morning(day=day, wished=wished.model_copy(update={"guests": guests}), plan=None, revision=0, happened=())
            events = db.execute("SELECT body FROM happening WHERE day = :day ORDER BY n", {"day": day}).fetchall()
        return Morning(
            day=day,
            wished=Wished.model_validate_json(row["wishes"]),
            plan=None if row["plan"] is None else Plan.model_validate_json(row["plan"]),
            revision=row["revision"],
            happened=tuple(Happening.model_validate_json(e["body"]) for e in events),
        )

    def wish(self, day: str, wished: Wished) -> Morning:
        """Keep what is wished for a day; the plan that stood stands until there is a better one."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO morning (day, wishes, revision, updated_at) VALUES (:day, :wishes, 1, :at)"
                " ON CONFLICT (day) DO UPDATE SET wishes = excluded.wishes, revision = revision + 1, updated_at = excluded.updated_at",
                {"day": day, "wishes": wished.model_dump_json(by_alias=True), "at": now()},
            )
        return self.day(day)

    def planned(self, day: str, plan: Plan, revision: int) -> bool:
        """Keep a plan, unless the wishes have changed since it was asked for."""
        with self._database.write() as db:
            done = db.execute(
                "UPDATE morning SET plan = :plan WHERE day = :day AND revision = :revision",
                {"day": day, "plan": json.dumps(plan.told()), "revision": revision},
            )
        return done.rowcount > 0

    def happen(self, day: str, event: Happening) -> Morning:
        """Keep what happened; sent twice, it is kept once. CannotBe where a day holds too much."""
        known = self.day(day)
        if len(known.happened) >= MOST_HAPPENINGS:
            raise CannotBe("so much does not happen in one morning")
        if known.revision == 0:
            self.wish(day, known.wished)
        with self._database.write() as db:
            db.execute(
                "INSERT INTO happening (id, day, body) VALUES (:id, :day, :body) ON CONFLICT (id) DO NOTHING",
                {"id": event.id, "day": day, "body": event.model_dump_json(by_alias=True)},
            )
            if event.kind not in ("done", "undone"):
                db.execute("UPDATE morning SET revision = revision + 1 WHERE day = :day", {"day": day})
        return self.day(day)

    def forget(self, today: str) -> int:
        """Take guests whose day has come out of every morning, with the plans and happenings that name them; how many."""
        gone = 0
        with self._database.write() as db:
            for row in db.execute("SELECT day, wishes FROM morning").fetchall():
                wished: dict[str, Any] = json.loads(row["wishes"])
                stay = [g for g in wished["guests"] if g["forget"] >= today]
                if len(stay) == len(wished["guests"]):
                    continue
                gone += len(wished["guests"]) - len(stay)
                db.execute(
                    "UPDATE morning SET wishes = :wishes, plan = NULL WHERE day = :day",
                    {"day": row["day"], "wishes": json.dumps({**wished, "guests": stay})},
                )
                db.execute("DELETE FROM happening WHERE day = :day", {"day": row["day"]})
        return gone
