"""How a balance is drawn and told: the fixed ends of its track, what a cook notices, and the words for more and less of it."""

from collections.abc import Mapping

from pydantic import BaseModel, ConfigDict

from .entry import Band

LEAST = 0.1  # a share is taken of no less than this


class Telling(BaseModel):
    """One balance: from which difference [its mark's unit], or which share of the larger, a cook notices; the words for more and for less;
    the ends of its track where its form has no band."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    noticed: float = 0.0
    share: float = 0.0
    more: str
    less: str
    scale: Band | None = None

    def notices(self, a: float | None, b: float | None) -> bool:
        """Whether a cook would notice that the mark moved from `a` to `b`."""
        if a is None or b is None:
            return a is not b
        return abs(a - b) > (self.noticed or self.share * max(abs(a), abs(b), LEAST))


class Tellings(BaseModel):
    """All of them, and how far past its band a track reaches, as a share of the band's width."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    beyond: float
    balances: dict[str, Telling]

    @classmethod
    def from_table(cls, table: Mapping[str, object]) -> "Tellings":
        """Built from the parsed file."""
        return cls.model_validate({"beyond": table["beyond"], "balances": {k: v for k, v in table.items() if k != "beyond"}})

    def noticeable(self, key: str, a: float | None, b: float | None) -> bool:
        """Whether a cook would notice that the mark of a balance moved from `a` to `b`; of one that is not told, never."""
        telling = self.balances.get(key)
        return telling is not None and telling.notices(a, b)

    def said(self, key: str, before: float | None, after: float | None) -> str:
        """What a cook says of the move: "holds less", or "as before"."""
        telling = self.balances.get(key)
        if telling is None or before is None or after is None or not telling.notices(before, after):
            return "as before"
        return telling.more if after > before else telling.less

    def ends(self, key: str, band: Band | None) -> Band | None:
        """The ends of a balance's track: the same for every batter of a form; None for a balance that has none."""
        telling = self.balances.get(key)
        if band is not None:
            past = self.beyond * (band.high - band.low)
            low = band.low - past
            return Band(max(0.0, low) if band.low >= 0 else low, band.high + past)
        return telling.scale if telling else None
