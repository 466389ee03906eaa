"""What is made the evening before and keeps cold until the morning: the dishes beside the batters, in one pot for all their pieces, and
what has to drink. Both are ready when the service begins, so that they take no hands from it; a dish comes to the table with the plates."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..analysis.analysis import Analysis, analyse
from ..measures.profile import Profile
from ..process.facts import ProcessFacts
from ..process.parts import SideWork
from ..process.process import process
from ..words import listed
from .acts import Act
from .evening import Analysed, batches, pieces_of
from .hours import spoken
from .live import Happening, done_of
from .plan import Plan
from .wishes import Service

OUT_S = 600  # a dish leaves the cold so long before its first plate; a judgement


@dataclass(frozen=True, slots=True, kw_only=True)
class Ahead:
    """One thing for the evening: a dish or a soaking, of which batter, for whom, how much it yields [g], what is done in words, the minutes of
    hands and of waiting, how it keeps, when it is wanted [s], and what may not get in."""

    kind: Literal["side", "soak"]
    id: str
    name: str
    of: str
    guests: tuple[str, ...]
    free_of: tuple[str, ...]
    grams: float
    text: str
    hands_min: float
    wait_min: float
    keeps: str
    wanted: int
    cautions: tuple[str, ...]


def made_ahead(
    service: Service, plan: Plan, minds: Mapping[str, frozenset[str]], analysed: Analysed, facts: ProcessFacts, profile: Profile
) -> tuple[Ahead, ...]:
    """The evening's pots and cups, those for whom something may not get in first. A batter with no piece in the plan asks for nothing."""
    names = {g.id: g.said for g in service.guests}
    said = {o.id: o.said for o in service.batters}
    found: list[Ahead] = []
    for batter in plan.batters_used:
        a = analysed(batter)
        plates = [p.served for p in plan.plates if any(batter == plan.serves.get(g) for g in p.guests)]
        if a is None or not plates or not (pieces := pieces_of(plan, batter)):
            continue
        made = process(_times(a, batches(a, pieces), facts, profile), facts)
        guests = tuple(names.get(g, g) for g in dict.fromkeys(g for x in plan.loads if x.batter == batter for g in x.guests))
        of, free_of = said.get(batter, batter), tuple(sorted(minds.get(batter, ())))
        for n, side in enumerate(made.sides):
            found.append(_side(side, f"{batter}/{n}", of, guests, free_of, min(plates), facts))
        mix = min((b.mix for b in plan.bowls if b.batter == batter), default=service.start)
        for o in made.operations:
            if o.kind == "soak" and not o.side:
                found.append(
                    Ahead(
                        kind="soak", id=f"{batter}/{o.id}", name=o.title, of=of, guests=guests, free_of=free_of, grams=sum(p.grams for p in o.portions), text=o.text, hands_min=o.hands_min, wait_min=o.wait_min,
                        keeps=f"Covered and cold until it goes in; within {facts.safety.keep.batter_cold_hours:.0f} hours.", wanted=mix, cautions=o.cautions,
                    )
                )  # fmt: skip
    return tuple(sorted(found, key=lambda x: (not x.free_of, x.kind, x.id)))


def side_acts(ahead: Sequence[Ahead], happened: Sequence[Happening]) -> tuple[Act, ...]:
    """The dishes as acts of the morning: each out of the cold before its first plate."""
    done = done_of(happened)
    return tuple(
        Act(
            do="side", of=x.id, at=x.wanted - OUT_S, to=x.wanted - OUT_S, who="", words=f"Bring out the {x.name[:1].lower()}{x.name[1:]}",
            why=f"With {x.of}, for {listed([*x.guests[:3]])}{' and others' if len(x.guests) > 3 else ''}, from {spoken(x.wanted)}.", done=("side", x.id) in done,
        )
        for x in ahead
        if x.kind == "side"
    )  # fmt: skip


def _side(side: SideWork, id_: str, of: str, guests: tuple[str, ...], free_of: tuple[str, ...], first: int, facts: ProcessFacts) -> Ahead:
    making = side.operations[1:]
    days = f"{side.days:.0f} day" + ("s" if side.days != 1 else "")
    return Ahead(
        kind="side", id=id_, name=side.name, of=of, guests=guests, free_of=free_of, grams=side.yield_g, text=" ".join(o.text for o in making), hands_min=side.hands_min, wait_min=side.wait_min,
        keeps=f"Cold within {facts.safety.between.hours:.0f} hours, covered; it keeps {days}.", wanted=first, cautions=tuple(c for o in making for c in o.cautions),
    )  # fmt: skip


def _times(a: Analysis, times: float, facts: ProcessFacts, profile: Profile) -> Analysis:
    """The batter for all its pieces, plate and all."""
    lines = tuple(
        line.model_copy(update={"grams": times * line.grams, "low": times * line.low, "high": times * line.high}) for line in a.batter.lines
    )
    return analyse(a.batter.model_copy(update={"lines": lines}), facts, profile, {})
