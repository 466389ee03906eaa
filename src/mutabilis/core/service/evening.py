"""The evening before: bags of dry mix from which batters branch late, the clean ones first, and what the whole morning takes."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ..analysis.analysis import Analysis
from ..measures.profile import Profile
from ..process.dry_mix import dry_mix
from ..process.facts import ProcessFacts
from .plan import Plan
from .wishes import Service

Analysed = Callable[[str], Analysis | None]  # the analysed batter behind an offer
SAME_SHARE = 50  # shares of a mix are told apart in fiftieths: no finer than a spoon more or less


@dataclass(frozen=True, slots=True, kw_only=True)
class Branch:
    """A batter that comes out of a dry mix: its pieces, for whom, and what is added to how much of the mix on the day."""

    name: str
    pieces: int
    guests: tuple[str, ...]
    add: str


@dataclass(frozen=True, slots=True, kw_only=True)
class EveningMix:
    """One bag for the evening: how much of it [g], what goes in, what may not get in, and the batters that branch from it late."""

    grams: float
    inside: tuple[str, ...]
    free_of: tuple[str, ...]
    branches: tuple[Branch, ...]


@dataclass(slots=True)
class _Bag:
    grams: dict[str, float]
    free_of: set[str]
    branches: list[Branch]


def evening_mixes(
    service: Service, plan: Plan, minds: Mapping[str, frozenset[str]], analysed: Analysed, facts: ProcessFacts, profile: Profile
) -> tuple[EveningMix, ...]:
    """The bags of a plan in the order in which they are weighed; batters whose dry lines stand in the same proportions share one. `minds`
    says what the guests of each batter may not meet."""
    names = {g.id: g.said for g in service.guests}
    said = {o.id: o.said for o in service.batters}
    bags: dict[object, _Bag] = {}
    for batter in dict.fromkeys((*(t.of for t in plan.tasks if t.do == "weigh"), *plan.batters_used)):
        if batter not in said:
            continue
        guests = tuple(names.get(g, g) for g in dict.fromkeys(g for x in plan.loads if x.batter == batter for g in x.guests))
        pieces, a = pieces_of(plan, batter), analysed(batter)
        mix = dry_mix(a, facts, profile) if a is not None else None
        if a is None or mix is None:
            bags[batter] = _Bag(
                {}, set(minds.get(batter, ())), [Branch(name=said[batter], pieces=pieces, guests=guests, add="Weighed on the day.")]
            )
            continue
        times = batches(a, pieces)
        bag = bags.setdefault(
            tuple(sorted((x.ingredient, round(SAME_SHARE * x.grams / mix.grams)) for x in mix.inside)), _Bag({}, set(), [])
        )
        for x in mix.inside:
            bag.grams[x.name] = bag.grams.get(x.name, 0.0) + times * x.grams
        bag.free_of |= minds.get(batter, frozenset())
        added = "; ".join(f"{times * x.grams:.0f} g {x.name}" for x in mix.added)
        add = f"Add to {times * mix.grams:.0f} g of it: {added}." if added else "As it is."
        bag.branches.append(Branch(name=said[batter], pieces=pieces, guests=guests, add=add))
    return tuple(
        EveningMix(
            grams=sum(b.grams.values()),
            inside=tuple(f"{g:.0f} g {n}" if g >= 10 else f"{g:.1f} g {n}" for n, g in b.grams.items()),
            free_of=tuple(sorted(b.free_of)),
            branches=tuple(b.branches),
        )
        for b in bags.values()
    )


def labels_of(mixes: Sequence[EveningMix], day: str) -> tuple[tuple[str, ...], ...]:
    """A label for each bag, its lines the largest first: the batters that come out of it, how much it is and for which day, what may not get
    in, what each batter takes on the day, and what is in it."""
    return tuple(
        (
            ", ".join(dict.fromkeys(b.name for b in m.branches)),
            f"Dry mix, {m.grams:.0f} g, for {day}",
            f"Free of {', '.join(x.replace('_', ' ') for x in m.free_of)}: clean scoop"
            if m.free_of
            else "For guests who may eat all of it",
            *(f"{b.name}: {b.add}" for b in m.branches),
            f"In it: {', '.join(m.inside)}. Raw flour is not eaten.",
        )
        for m in mixes
        if m.grams > 0
    )


def takes(plan: Plan, analysed: Analysed) -> dict[str, float]:
    """What the plan's batters take in all [g by ingredient], water aside, the most of it first."""
    grams: dict[str, float] = {}
    for batter in plan.batters_used:
        a = analysed(batter)
        if a is None:
            continue
        times = batches(a, pieces_of(plan, batter))
        for line in a.batter.lines:
            if line.known and line.ingredient and line.ingredient != "water":
                grams[line.ingredient] = grams.get(line.ingredient, 0.0) + line.grams * times
    return dict(sorted(grams.items(), key=lambda x: (-x[1], x[0])))


def pieces_of(plan: Plan, batter: str) -> int:
    """How many pieces of a batter a plan makes."""
    return sum(x.pieces for x in plan.loads if x.batter == batter)


def batches(a: Analysis, pieces: int) -> float:
    """How many times a batter is made for so many pieces."""
    return pieces / a.yields.pieces if a.yields.pieces > 0 else 1.0
