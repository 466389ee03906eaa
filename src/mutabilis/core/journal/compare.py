"""Batches beside each other: first the inputs that differ by more than a cook would notice, and what that proves."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..batter.main_liquid import thins
from ..food.ingredients import Ingredient
from ..stove.batch import Batch
from ..stove.fold import fold
from .entry import Entry

NOTICED: Mapping[str, float] = {"liquid": 0.02, "rest": 0.25, "heat": 8.0}  # shares; of heat degrees
ALIKE = "the batter"


@dataclass(frozen=True, slots=True, kw_only=True)
class Differs:
    """One input by its name, its value in each batch (words), and whether a cook would notice the difference."""

    name: str
    values: tuple[str, ...]
    noticed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Inputs:
    """What went into a batch: grams of liquid to a gram of flour, minutes of rest, heat [°C], the other lines [g to 100 g of flour], and packs."""

    liquid: float | None
    rest: float | None
    heat: float | None
    grams: Mapping[str, float]
    packs: Mapping[str, str]


def inputs_of(batch: Batch, known: Mapping[str, Ingredient]) -> Inputs:
    """The inputs of a batch from its events; what nobody recorded is None."""
    s = fold(batch.plan, batch.events)
    grams: dict[str, float] = {}
    for x in s.lines:
        if x.poured > 0:
            grams[x.ingredient] = grams.get(x.ingredient, 0.0) + x.poured
    packs = {
        batch.plan.lines[e.line].ingredient or "": e.pack
        for e in batch.events
        if e.kind == "poured" and e.pack and e.line < len(batch.plan.lines)
    }
    flour = sum(g for i, g in grams.items() if known[i].is_flour)
    liquid = {i: g for i, g in grams.items() if thins(known[i])}
    first = min((x.on for x in s.loads), default=None)
    return Inputs(
        liquid=sum(liquid.values()) / flour if flour > 0 and liquid else None,
        rest=(first - s.wet_at) / 60 if s.wet_at is not None and first is not None else None,
        heat=s.read_c or s.celsius,
        grams={i: round(100 * g / flour, 2) for i, g in grams.items() if i not in liquid and flour > 0},
        packs=packs,
    )


def differences(batches: Sequence[Inputs], names: Mapping[str, str]) -> tuple[Differs, ...]:
    """The inputs that were recorded of more than one batch, those that differ first."""
    found: list[Differs] = []
    for key, unit, places in (("liquid", "g to a gram of flour", 2), ("rest", "min", 0), ("heat", "°C", 0)):
        values = [getattr(b, key) for b in batches]
        known = [v for v in values if v is not None]
        if len(known) < 2:
            continue
        spread = max(known) - min(known)
        noticed = spread > NOTICED[key] if key == "heat" else spread > NOTICED[key] * max(map(abs, known))
        found.append(
            Differs(name=key, values=tuple("not recorded" if v is None else f"{v:.{places}f} {unit}" for v in values), noticed=noticed)
        )
    for id in dict.fromkeys(i for b in batches for i in b.grams):
        amounts = [b.grams.get(id, 0.0) for b in batches]
        if max(amounts) - min(amounts) > NOTICED["liquid"] * max(amounts):
            found.append(
                Differs(
                    name=names.get(id, id), values=tuple(f"{g:.0f} g to 100 g of flour" if g else "none" for g in amounts), noticed=True
                )
            )
    for id in dict.fromkeys(i for b in batches for i in b.packs):
        packs = [b.packs.get(id, "") for b in batches]
        if len(set(packs)) > 1:
            found.append(Differs(name=f"pack of {names.get(id, id)}", values=tuple(p or "not recorded" for p in packs), noticed=all(packs)))
    return tuple(sorted(found, key=lambda d: not d.noticed))


@dataclass(frozen=True, slots=True, kw_only=True)
class Pair:
    """What was reckoned and what was found."""

    reckoned: float
    found: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Beside:
    """One figure by its name and unit, for each batch; None where it was not recorded."""

    name: str
    unit: str
    values: tuple[Pair | None, ...]


def beside(entries: Sequence[Entry]) -> tuple[Beside, ...]:
    """What was reckoned beside what was found, over all batches of which it was recorded; grams of single lines are among what differs."""
    rows = [{r.key: r for r in e.rows if not r.key.startswith("line ")} for e in entries]
    found = []
    for key in dict.fromkeys(k for by in rows for k in by):
        one = next(by[key] for by in rows if key in by)
        values = tuple(Pair(reckoned=by[key].meant, found=by[key].happened) if key in by else None for by in rows)
        found.append(Beside(name=one.name, unit=one.unit, values=values))
    return tuple(found)


def proves(found: Sequence[Differs]) -> str:
    """What such a comparison can prove, in a sentence.

    >>> proves([])
    'Nothing that was recorded differs: what came out otherwise came by chance, or by something nobody wrote down.'
    """
    n = sum(d.noticed for d in found)
    if n == 0:
        return "Nothing that was recorded differs: what came out otherwise came by chance, or by something nobody wrote down."
    if n == 1:
        return (
            f"One thing changed: {next(d.name for d in found if d.noticed)}. It may be the reason; a pair made side by side would show it."
        )
    return f"{n} things changed; this comparison proves none of them."
