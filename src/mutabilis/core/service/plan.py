"""A plan of a morning as it stands: loads, bowls, plates, tasks, and what could not be had."""

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from .hours import Hour

Status = Literal["ok", "conflict", "bad_input"]
Rule = Literal["contains", "nothing_fits", "no_station", "met", "dead", "station", "hands", "hold", "life", "late"]


class _Row(BaseModel):
    model_config = ConfigDict(frozen=True, extra="ignore", defer_build=True)


class Load(_Row):
    """Pieces of one batter put on together; `turn` is None where nothing is turned, `ready` when they can be plated. `guests`: whose, and how many."""

    id: str
    batter: str
    bowl: str
    station: str
    pieces: int
    tables: tuple[str, ...]
    guests: dict[str, int]
    on: Hour
    turn: Hour | None
    off: Hour
    ready: Hour


class Bowl(_Row):
    """A bowl of one batter: when it is mixed, and from when to when it can be poured."""

    id: str
    batter: str
    mix: Hour
    usable_from: Hour
    usable_to: Hour


class Plated(_Row):
    """The plates of one table: when they were wanted and when they are served."""

    table: str
    wanted: Hour
    served: Hour
    guests: tuple[str, ...]


class Task(_Row):
    """What a pair of hands does from one second to another. `of`: the batter, bowl, load, table or surface."""

    at: Hour
    to: Hour
    who: str
    do: str
    of: str


class Change(_Row):
    """What one touch would change in the wishes: a guest's hour, batter or form, or one more pair of hands."""

    guest: str | None = None
    at: Hour | None = None
    batter: str | None = None
    helper: tuple[str, ...] = ()


class Remedy(_Row):
    """A way out of a conflict, in words and as the changes it makes."""

    words: str
    changes: tuple[Change, ...]


class Conflict(_Row):
    """What cannot be had, by which rule, when, in words, and what would settle it."""

    guests: tuple[str, ...]
    stations: tuple[str, ...]
    rule: Rule
    begins: Hour = Field(serialization_alias="from", validation_alias="from")
    ends: Hour = Field(serialization_alias="to", validation_alias="to")
    words: str
    remedies: tuple[Remedy, ...]


class Proven(_Row):
    """Whether nothing better can be had for the loads as they were cut."""

    late_guests: bool = False
    late: bool = False
    waiting: bool = False


class Bound(_Row):
    """What cannot be undercut for these loads."""

    late_guests: int = 0
    late_guest_s: int = 0
    held_beyond_free_s: int = 0


class Plan(_Row):
    """The whole morning. `serves`: which batter each guest gets; `unserved`: who gets nothing, each named by a conflict."""

    status: Status = "ok"
    error: str | None = None
    proven: Proven = Proven()
    late_guests: int = 0
    late_guest_s: int = 0
    held_beyond_free_s: int = 0
    bound: Bound = Bound()
    batters_used: tuple[str, ...] = ()
    serves: dict[str, str] = {}
    unserved: tuple[str, ...] = ()
    bowls: tuple[Bowl, ...] = ()
    plates: tuple[Plated, ...] = ()
    loads: tuple[Load, ...] = ()
    tasks: tuple[Task, ...] = ()
    conflicts: tuple[Conflict, ...] = ()

    def told(self) -> dict[str, Any]:
        """As JSON under stable keys, hours as "07:30:15"."""
        return self.model_dump(mode="json", by_alias=True)

    @property
    def value(self) -> tuple[int, ...]:
        """What is compared between plans, the first first: guests unserved, guests late, their seconds, waiting, batters, bowls."""
        return (len(self.unserved), self.late_guests, self.late_guest_s, self.held_beyond_free_s, len(self.batters_used), len(self.bowls))
