"""What a morning is planned from: guests and what they may not eat, surfaces and what they have met, batters and their moments, hands."""

from typing import Annotated, Literal

from pydantic import AliasChoices, BaseModel, ConfigDict, Field, StringConstraints, field_validator, model_validator

from ..batter.batter import FormKey
from .hours import DAY, Hour

Id = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
Seconds = Annotated[int, Field(ge=0, le=6 * 3600)]
Grade = Literal["allergy", "intolerance", "preference"]
Skill = Annotated[str, StringConstraints(strip_whitespace=True, to_lower=True, min_length=1, max_length=40)]


class _Wish(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", populate_by_name=True, defer_build=True)


class Need(_Wish):
    """What a guest may not or does not want to meet: an allergen or a diet. Graded by what it would do; an allergy where nobody said."""

    what: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
    grade: Grade = "allergy"


class Guest(_Wish):
    """One guest, or several who are served as one: `pieces` at an hour. `batter` is what they get; else one of a `form` that suits them is chosen."""

    id: Id
    name: Annotated[str, Field(max_length=80)] = ""
    table: Id | None = None
    at: Hour
    pieces: Annotated[int, Field(ge=1, le=200)]
    batter: Id | None = None
    form: FormKey | None = None
    needs: tuple[Need, ...] = ()
    avoid: tuple[Need, ...] = ()

    @field_validator("table", mode="before")
    @classmethod
    def _number(cls, table: object) -> object:
        return str(table) if isinstance(table, int) and not isinstance(table, bool) else table

    @field_validator("needs", "avoid", mode="before")
    @classmethod
    def _by_name(cls, needs: object) -> object:
        return [{"what": n} if isinstance(n, str) else n for n in needs] if isinstance(needs, (list, tuple)) else needs

    @property
    def said(self) -> str:
        """What the guest is called."""
        return self.name or self.id

    @property
    def seat(self) -> str:
        """The table, or the guest alone."""
        return self.table or self.id

    @property
    def minds(self) -> tuple[Need, ...]:
        """Everything the guest needs or avoids."""
        return (*self.needs, *self.avoid)


class Station(_Wish):
    """A surface: how many pieces lie on it at once, seconds to heat up and to recover, and which allergens it has met. `dead_from`: it heats
    no more. `hot_from`: when it is hot, where that is not reckoned from the start."""

    id: Id
    name: Annotated[str, Field(max_length=80)] = ""
    kind: Id
    places: Annotated[int, Field(ge=1, le=200)]
    recover_s: Seconds = 0
    heat_up_s: Seconds = 0
    met: tuple[str, ...] = ()
    cleanable: bool = False
    clean_s: Annotated[int, Field(ge=15, le=3600)] | None = None
    dead: bool = False
    dead_from: Hour | None = None
    hot_from: Hour | None = None
    change_s: Seconds = 600

    @property
    def said(self) -> str:
        """What the surface is called."""
        return self.name or self.id.replace("_", " ")


class Offer(_Wish):
    """A batter that can be made: what it contains, which diets it fits, and its moments [s] from the second it is poured. `rest_s` and `life_s`
    count from when it is mixed; `hold_s` is how long a cooked piece is good on a warm rack."""

    id: Id
    name: Annotated[str, Field(max_length=80)] = ""
    form: FormKey
    contains: tuple[str, ...] = ()
    may_contain: tuple[str, ...] = ()
    fits: tuple[str, ...] = ()
    pour_s: Seconds = 15
    turn_at_s: Seconds | None = None
    turn_s: Seconds = 0
    done_s: Annotated[int, Field(ge=1, le=6 * 3600)]
    off_s: Seconds = 0
    hold_s: Seconds
    weigh_s: Seconds = 0
    mix_s: Seconds = 0
    rest_s: Seconds = 0
    life_s: Annotated[int, Field(ge=1, le=DAY)]
    oven_c: Annotated[float, Field(ge=60, le=350, allow_inf_nan=False)] | None = None
    dry_mix: str | None = None

    @property
    def said(self) -> str:
        """What the batter is called."""
        return self.name or self.id.replace("_", " ")

    @model_validator(mode="after")
    def _in_order(self) -> "Offer":
        if self.turn_at_s is not None and self.turn_at_s >= self.done_s:
            raise ValueError(f"{self.said}: a piece is turned before it is done")
        if self.life_s < self.rest_s:
            raise ValueError(f"{self.said}: the batter is past its life before it has rested")
        return self


class Person(_Wish):
    """A pair of hands: what they may do (weigh, mix, pour, turn, off, clean, plate, or all; what else they may is never asked of them here),
    and from when to when they are there."""

    id: Id
    name: Annotated[str, Field(max_length=80)] = ""
    may: tuple[Skill, ...] = ("all",)
    begins: Annotated[Hour | None, Field(validation_alias=AliasChoices("from", "begins"), serialization_alias="from")] = None
    ends: Annotated[Hour | None, Field(validation_alias=AliasChoices("to", "ends"), serialization_alias="to")] = None

    def can(self, do: str) -> bool:
        """Whether this is theirs to do."""
        return "all" in self.may or do in self.may


class UnderWay(_Wish):
    """A row of an earlier plan that has begun, as that plan had it: a load (`on`), a bowl (`mix`), a plate (`served`), or a thing done (`do`)."""

    model_config = ConfigDict(frozen=True, extra="ignore", populate_by_name=True, defer_build=True)

    id: Id | None = None
    batter: Id | None = None
    bowl: Id | None = None
    station: Id | None = None
    pieces: Annotated[int, Field(ge=1, le=200)] | None = None
    tables: tuple[str, ...] = ()
    guests: dict[str, int] = {}
    on: Hour | None = None
    mix: Hour | None = None
    usable_to: Hour | None = None
    table: str | None = None
    wanted: Hour | None = None
    served: Hour | None = None
    at: Hour | None = None
    to: Hour | None = None
    who: str | None = None
    do: str | None = None
    of: str | None = None

    @field_validator("table", mode="before")
    @classmethod
    def _number(cls, table: object) -> object:
        return str(table) if isinstance(table, int) and not isinstance(table, bool) else table

    @model_validator(mode="after")
    def _known(self) -> "UnderWay":
        if self.on is not None and not (self.batter and self.station and self.pieces):
            raise ValueError("a load under way names its batter, its station and its pieces")
        if self.on is None and self.mix is None and self.served is None and self.do is None:
            raise ValueError("what is under way is a load with “on”, a bowl with “mix”, a plate with “served” or a task with “do”")
        return self


class Service(_Wish):
    """One morning. `plate_s`: hands for one table's plates; `grace_s`: later than this is late; `free_hold_s`: this long on a rack harms
    nothing. `planned`: the loads of an earlier plan that have not begun; they move only where that serves somebody sooner."""

    start: Hour
    plate_s: Seconds = 15
    grace_s: Seconds = 120
    free_hold_s: Seconds = 300
    people: tuple[Person, ...] = (Person(id="cook"),)
    stations: tuple[Station, ...]
    batters: tuple[Offer, ...]
    guests: tuple[Guest, ...]
    now: Hour | None = None
    under_way: tuple[UnderWay, ...] = ()
    planned: tuple[UnderWay, ...] = ()

    @property
    def begin(self) -> int:
        """The first second at which anything new can begin."""
        return self.start if self.now is None else max(self.start, self.now)

    def offer(self, id: str) -> Offer:
        """A batter by its id; KeyError where there is none (`faults_of` has seen to it)."""
        return next(o for o in self.batters if o.id == id)

    def station(self, id: str) -> Station:
        """A surface by its id."""
        return next(s for s in self.stations if s.id == id)

    def guest(self, id: str) -> Guest:
        """A guest by their id."""
        return next(g for g in self.guests if g.id == id)
