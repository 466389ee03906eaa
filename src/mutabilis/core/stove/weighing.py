"""What the readings of a scale mean: how much was poured, whether it stands, and what is wrong with it."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from .tables import ScaleTable

Status = Literal["ok", "unplugged", "overload"]
Trouble = Literal["", "unplugged", "overload", "frozen", "jumped", "lifted", "less", "elsewhere"]
WORDS: dict[Trouble, str] = {
    "": "",
    "unplugged": "The scale does not answer. What was poured before stands; plug it in again, or go on with spoons and cups.",
    "overload": "More than the scale can carry. Take something off it.",
    "frozen": "The scale shows the same and sends nothing new. Touch its plate, or plug it in again.",
    "jumped": "The scale jumped by more than a hand pours. Wait until it stands, and look whether that is right before you take it.",
    "lifted": "The bowl was lifted, or the tare was pressed. Put the bowl back; if it stands there, say so.",
    "elsewhere": "The scale is in use for another batch. Put this bowl on it and say so, and it counts here.",
    "less": "There is less in the bowl than before. If it was spooned out, take it as it is.",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One reading of a scale: its running number, when [s], what it shows [g], and how it is."""

    n: int
    at: float
    grams: float
    status: Status = "ok"


@dataclass(frozen=True, slots=True, kw_only=True)
class Pour:
    """What the last readings mean for the line being weighed: what was poured [g] (None where nobody can tell), whether it stands, and what
    is wrong. `gross` is what the scale shows [g]."""

    poured: float | None
    gross: float | None
    stands: bool
    trouble: Trouble
    words: str

    def inside(self, missing: float, tolerance: float) -> bool:
        """Whether it stands within the tolerance [g] of what is still missing [g], and nothing is wrong: the next may follow by itself."""
        return self.poured is not None and self.stands and self.trouble == "" and abs(self.poured - missing) <= tolerance


def weigh(readings: Sequence[Reading], zero: float, now: float, facts: ScaleTable) -> Pour:
    """What the readings (the oldest first, some seconds of them) say at `now` [s], counted from `zero` [g].

    Nothing is guessed: where the scale is gone, frozen or empty, no amount is given.
    """
    if not readings:
        return _none("unplugged", None)
    last = readings[-1]
    if last.status == "unplugged":
        return _none("unplugged", None)
    if now - last.at > facts.frozen_s:
        return _none("frozen", last.grams)
    if last.status == "overload":
        return _none("overload", None)
    recent = [r for r in readings if last.at - r.at <= facts.settled_s + 1e-9 and r.status == "ok"]
    held = readings[0].at <= last.at - facts.settled_s + facts.apart_s
    stands = held and max(r.grams for r in recent) - min(r.grams for r in recent) <= facts.settled_g + 1e-9
    poured = last.grams - zero
    slack = 2 * facts.settled_g + facts.resolution_g
    if zero > 20 and last.grams < facts.lifted_share * zero:
        return _none("lifted", last.grams)
    if poured < -slack:
        return Pour(poured=poured, gross=last.grams, stands=stands, trouble="less", words=WORDS["less"])
    jumped = _jumped([r for r in readings if r.status == "ok"], facts)
    trouble: Trouble = "jumped" if jumped else ""
    return Pour(poured=poured, gross=last.grams, stands=stands and not jumped, trouble=trouble, words=WORDS[trouble])


def elsewhere(gross: float | None) -> Pour:
    """What is said where the scale counts for another batch."""
    return _none("elsewhere", gross)


def _jumped(readings: Sequence[Reading], facts: ScaleTable) -> bool:
    """Whether more came, or went, within a moment than a hand pours; a scale takes a moment to settle."""
    start = 0
    for n, r in enumerate(readings):
        while r.at - readings[start].at > facts.jump_s + 1e-9:
            start += 1
        if any(abs(r.grams - x.grams) > facts.jump_g for x in readings[start:n]):
            return True
    return False


def _none(trouble: Trouble, gross: float | None) -> Pour:
    return Pour(poured=None, gross=gross, stands=False, trouble=trouble, words=WORDS[trouble])
