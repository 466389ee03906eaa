"""Keeping: how long what is left can be kept, and how it comes back. Proposed on the careful side; the local code decides."""

from collections.abc import Iterable
from dataclasses import dataclass

from ..analysis.analysis import Analysis
from ..balances.lift import FOAM_HALF_MIN, yeasted
from ..process.parts import SideWork
from ..safety import Safety
from .tables import StoveTables

THIRSTY, EGGS = 1.5, 0.5  # absorption [g/g], and share of the set from eggs, from which pieces lose their texture in the freezer


@dataclass(frozen=True, slots=True, kw_only=True)
class Keeping:
    """One way to keep: what, until when at the most [s since 1970], how it comes back, and a caution; `advised` False where it is better
    not done."""

    key: str
    label: str
    of: str
    until: float
    back: str
    caution: str
    advised: bool


def keeping(a: Analysis, thirsty: bool, now: float, facts: StoveTables, safety: Safety) -> tuple[Keeping, ...]:
    """What can be kept of this batter from `now` [s since 1970], and until when. A batter whose lift does not last is not advised."""
    perishable = "egg" in a.contains or "milk" in a.contains
    found = []
    for row in facts.keep:
        caution, advised = safety.words("hold"), True
        if row.of == "batter":
            if a.lift.air_ml > 0:
                caution, advised = f"Its foam is half gone after {FOAM_HALF_MIN:.0f} minutes: better cooked now. {caution}", False
            elif yeasted(a.bowl):
                caution = f"The yeast goes on in the cold: leave it room to rise, and expect it sourer. {safety.words('perishable') if perishable else ''} {caution}".replace(
                    "  ", " "
                )
            elif a.lift.latest_min is not None and a.lift.latest_min < 120:
                caution, advised = f"Its lift is mostly gone after {a.lift.latest_min:.0f} minutes: better cooked now. {caution}", False
            elif perishable:
                caution = f"{safety.words('perishable')} {caution}"
        elif row.key == "pieces_frozen" and (thirsty or a.setting.egg_share > EGGS):
            caution, advised = f"Egg-rich or thirsty pieces lose their texture in the freezer. {caution}", False
        back = safety.filled(row.back[a.batter.form] if a.batter.form in row.back else row.back["all"])
        found.append(
            Keeping(key=row.key, label=row.label, of=row.of, until=now + 3600 * row.hours, back=back, caution=caution, advised=advised)
        )
    return tuple(found)


def side_keeping(sides: Iterable[SideWork], now: float, facts: StoveTables, safety: Safety) -> tuple[Keeping, ...]:
    """How what is left of the dishes beside the batter can be kept from `now` [s since 1970]."""
    return tuple(
        Keeping(
            key=f"side_{n}", label=facts.side_keep.label.format(name=x.name.lower()), of="side", until=now + 24 * 3600 * x.days, back=safety.filled(facts.side_keep.back),
            caution=safety.words("hold"), advised=True,
        )
        for n, x in enumerate(sides, 1)
    )  # fmt: skip
