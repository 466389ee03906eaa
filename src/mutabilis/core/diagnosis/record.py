"""What is known of a batch that came out wrong, as the Stove recorded it or a file tells it."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..batter.batter import Batter

Minutes = Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)]
Secs = Annotated[float, Field(ge=0, le=36_000, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=0, le=400, allow_inf_nan=False)]
Key = Annotated[str, Field(min_length=1, max_length=60)]


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)


class Happened(_Part):
    """What the clock, the thermometer and the hands say; None where it was not recorded."""

    wet_to_first_min: Minutes | None = None
    wet_to_last_min: Minutes | None = None
    foam_to_last_min: Minutes | None = None
    set_c: Degrees | None = None
    read_c: Degrees | None = None
    heat_on_min: Minutes | None = None
    heat_up_min: Minutes | None = None
    gap_s: Secs | None = None
    recover_s: Secs | None = None
    turned_s: Secs | None = None
    off_s: Secs | None = None
    thickness_mm: Annotated[float, Field(gt=0.2, le=80, allow_inf_nan=False)] | None = None
    grease: Literal["none", "film", "generous"] | None = None
    loads_since_wiped: Annotated[int, Field(ge=0, le=1000)] | None = None
    mix_s: Secs | None = None
    held: Literal["rack", "pile", "covered", "oven"] | None = None
    fruit: Literal["fresh", "frozen", "thawed", "drained"] | None = None
    stirred: bool | None = None
    order_off: bool | None = None


class Spread(_Part):
    """The bowl on a plate: how far 60 mL ran [cm], so many minutes after the wetting."""

    way: Literal["spread", "plate", "test", "eye"] = "spread"
    cm: Annotated[float, Field(gt=2, le=40, allow_inf_nan=False)]
    minutes: Minutes


class PackAge(_Part):
    """How long a pack has been open."""

    opened_days: Annotated[float, Field(ge=0, le=20_000, allow_inf_nan=False)] | None = None


class Record(_Part):
    """A batch: the batter as it was meant, what was poured in its place [g] by the place of the line, the reference it is measured by, what
    happened, what was judged, the packs, the faults that were seen and in which loads, and the answers given so far."""

    batter: Batter
    reference: Batter | None = None
    reference_is: Literal["proven", "parent"] = "parent"
    poured: dict[int, Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]] = {}
    by: Literal["scale", "measure"] | None = None
    events: Happened = Happened()
    judged: Annotated[tuple[Spread, ...], Field(max_length=40)] = ()
    packs: dict[Key, PackAge] = {}
    faults: Annotated[tuple[Key, ...], Field(min_length=1, max_length=24)]
    when: Literal["all", "first", "later", "some"] | None = None
    answers: dict[Key, Annotated[str, Field(max_length=120)]] = {}

    @property
    def as_poured(self) -> Batter:
        """The batter as it stood in the bowl."""
        lines = [
            line.model_copy(update={"grams": self.poured[at], "low": self.poured[at], "high": self.poured[at]})
            if at in self.poured
            else line
            for at, line in enumerate(self.batter.lines)
        ]
        return self.batter.model_copy(update={"lines": tuple(lines)})
