"""What keeps a guest from harm: degrees, hours and the sentences that say them. The figures stand in `data/safety.toml`, each with its
source; nothing else in the program names one."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    source: Annotated[str, Field(min_length=10)]


class Heat(_Part):
    """A temperature [°C] and where it comes from."""

    celsius: float

    @property
    def both(self) -> str:
        """In both scales."""
        return f"{self.celsius:.0f} °C ({9 * self.celsius / 5 + 32:.0f} °F)"


class Between(_Part):
    """How long food may stand between cold and hot [h]."""

    hours: float


class Keep(_Part):
    """How long things are kept at the most [h]."""

    batter_cold_hours: float
    pieces_cold_hours: float
    pieces_frozen_hours: float


class Say(BaseModel):
    """The sentences, with their figures in braces."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    cook_through: str
    cooked: str
    cooked_flour: str
    end_sign: str
    hold: str
    perishable: str
    card: str


class Safety(BaseModel):
    """All of it: the safe centre, cold and hot holding, reheating, the time between, and how long things keep."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    centre: Heat
    cold: Heat
    hot: Heat
    reheat: Heat
    between: Between
    keep: Keep
    say: Say

    def words(self, key: str) -> str:
        """A sentence with its figures, by the name of its field in `Say`."""
        return self.filled(getattr(self.say, key))

    def filled(self, sentence: str) -> str:
        """A sentence of any table with the figures of this one in its braces."""
        return sentence.format(
            centre=self.centre.both, cold=f"{self.cold.celsius:.0f} °C", hot=f"{self.hot.celsius:.0f} °C", reheat=self.reheat.both, between=_hours(self.between.hours),
            batter_cold=_hours(self.keep.batter_cold_hours), pieces_cold=_hours(self.keep.pieces_cold_hours),
        )  # fmt: skip


def _hours(hours: float) -> str:
    """Hours as a cook says them.

    >>> _hours(2), _hours(24), _hours(72)
    ('two hours', 'a day', 'three days')
    """
    small = {1: "one", 2: "two", 3: "three", 4: "four", 5: "five", 6: "six"}
    if hours >= 24 and hours % 24 == 0:
        days = int(hours // 24)
        return "a day" if days == 1 else f"{small.get(days, days)} days"
    return "an hour" if hours == 1 else f"{small.get(int(hours), f'{hours:g}')} hours"
