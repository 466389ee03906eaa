"""When the bowl is not as planned: too much was poured, there is none left, the eggs weigh otherwise. What can be done, and what each does
to the balances; nothing is chosen here."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..adapt.adapt import adapt
from ..adapt.rounding import settle, stress_of, to_step
from ..adapt.wishes import Wishes
from ..analysis.analysis import Analysis, analyse
from ..balances.entry import Ledger
from ..batter.batter import Batter
from ..batter.bowl import drinking_minutes
from ..batter.main_liquid import main_liquid, thins
from ..diets.packs import PackReading
from ..food.ingredients import LIQUIDS, Ingredient
from ..measures.profile import Profile
from ..roots import boundary
from .events import Target
from .facts import StoveFacts
from .fold import LineState, State, will_be

OfferKey = Literal["carry_on", "raise", "correct", "without", "instead"]
NEAR_CM, NEAR_LIFT = 0.15, 0.15  # what "keeps flow" [cm] and "keeps lift" [share] promise
MOST_TIMES = 2.0  # more than twice the batter is no mending
TOLD = ("flow", "lift", "set", "sweetness", "fat", "salt")


@dataclass(frozen=True, slots=True, kw_only=True)
class Moved:
    """A balance before and after, in the unit of its mark."""

    key: str
    label: str
    unit: str
    before: float | None
    after: float | None
    verdict: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """One way on: in words, the targets it sets, what it does to the balances, how many pieces it makes, and which of flow and lift
    it keeps."""

    key: OfferKey
    title: str
    text: str
    targets: tuple[Target, ...]
    moved: tuple[Moved, ...]
    pieces: float
    keeps: tuple[str, ...]


class Mender:
    """A plan, what is in the bowl, and what this kitchen knows. `plan` is the batter as it was to be."""

    def __init__(
        self, plan: Batter, state: State, facts: StoveFacts, profile: Profile, diets: tuple[str, ...] = (),
        readings: Mapping[str, PackReading] | None = None, larder: tuple[str, ...] | None = None,
    ) -> None:  # fmt: skip
        self.plan, self.state, self.facts, self.profile, self.diets = plan, state, facts, profile, diets
        self.readings, self.larder = readings, larder
        self.before = analyse(plan, facts, profile, {}, readings)
        bowl = self.before.bowl
        self.minutes = drinking_minutes(bowl.rest_min, bowl.pace, plan.blender)

    def over(self, at: int) -> tuple[Offer, ...]:
        """The ways on where line `at` has more in the bowl than its target; IndexError where there is no such line."""
        line = self.state.lines[at]
        offers = [self._offer("carry_on", "Carry on", "As it is; what it does is told here.", {})]
        if line.target > 0 and 1 < line.poured / line.target <= MOST_TIMES:
            offers.append(self._raise(line.poured / line.target))
        if (one := self._correct(at)) is not None:
            offers.append(one)
        return _best_first(offers)

    def none_left(self, at: int) -> tuple[Offer, ...]:
        """The ways on where there is no more of line `at`: another thing in its place, solved around what is in the bowl, or without.

        IndexError where there is no such line.
        """
        line = self.state.lines[at]
        poured: dict[str, float] = {}
        for x in self.state.lines:
            if x.poured > 0:
                poured[x.ingredient] = poured.get(x.ingredient, 0.0) + x.poured
        wishes = Wishes(
            diets=self.diets, poured={k: v for k, v in poured.items() if k != line.ingredient}, alternatives=2, larder=self.larder,
            locked={line.ingredient: line.poured} if line.poured > 0 else {}, bans=() if line.poured > 0 else (line.ingredient,),
        )  # fmt: skip
        found = adapt(self.plan, wishes, self.facts, self.profile, self.readings)
        if self.larder is not None and not found.answers:
            found = adapt(self.plan, wishes.model_copy(update={"larder": None}), self.facts, self.profile, self.readings)
        answers = found.answers
        if not answers and found.infeasible and found.infeasible.nearest and any(x.unresolved for x in self.plan.lines):
            answers = (found.infeasible.nearest,)  # a line that was not read stops no batch that is under way
        offers = []
        for answer in answers:
            targets = self._targets_for(answer.analysis.batter)
            new = [self.facts.ingredients[t.ingredient].short for t in targets.values() if t.line >= len(self.state.lines)]
            more = [t for t in targets.values() if t.line < len(self.state.lines)]
            title = f"{' and '.join(new)} instead" if new else "More of what is there"
            text = "; ".join(c.reason for c in answer.changes[:2]) or f"{len(more)} lines change a little."
            offers.append(self._offer("instead", title[:1].upper() + title[1:], text, targets))
        gone = {at: Target(line=at, ingredient=line.ingredient, grams=line.poured)}
        offers.append(self._settled("without", "Without it", "The liquid is set right again; nothing takes its place.", gone))
        return _best_first(offers)

    def follow(self, at: int) -> tuple[Target, ...]:
        """The new target of the liquid once the eggs of line `at` were weighed, so that it flows as planned; () where nothing moves."""
        line = self.state.lines[at]
        i = self.facts.ingredients.get(line.ingredient)
        if i is None or i.group != "egg" or abs(line.poured - line.target) < 1:
            return ()
        liquid = self._liquid(except_for=at)
        if liquid is None:
            return ()
        grams = self._settle(liquid, {})
        if grams is None or abs(grams - liquid.target) < 1:
            return ()
        return (Target(line=liquid.at, ingredient=liquid.ingredient, grams=max(grams, liquid.poured)),)

    # ---- the ways

    def _raise(self, factor: float) -> Offer:
        targets = {
            x.at: Target(line=x.at, ingredient=x.ingredient, grams=max(x.poured, x.target * factor))
            for x in self.state.lines
            if x.target > 0 and not x.none_left
        }
        again = sum(
            1 for x in self.state.lines if x.settled and x.poured > 0 and targets.get(x.at) and targets[x.at].grams > x.poured + 0.5
        )
        text = f"Everything {100 * (factor - 1):.0f} % more" + (f"; {again} of what is in gets a little more." if again else ".")
        return self._offer("raise", "Raise the rest", text, targets)

    def _correct(self, at: int) -> Offer | None:
        """The one other ingredient that brings the flow back with the least harm to the rest."""
        best: tuple[float, Offer] | None = None
        for x in self.state.lines:
            i = self.facts.ingredients.get(x.ingredient)
            if x.at == at or i is None or x.none_left or not (i.is_flour or thins(i)):
                continue
            grams = self._settle(x, {})
            if grams is None or grams < x.poured or abs(grams - max(x.target, x.poured)) < 0.5:
                continue
            change = grams - max(x.target, x.poured) if x.settled else grams - x.target
            words = f"{abs(change):.0f} g {'more' if change > 0 else 'less'} of the {i.short}: {grams:.0f} g in all."
            offer = self._offer(
                "correct", f"Correct with {i.short}", words, {x.at: Target(line=x.at, ingredient=x.ingredient, grams=grams)}
            )
            if "flow" in offer.keeps and (best is None or _harm(offer) < best[0]):
                best = (_harm(offer), offer)
        return best[1] if best else None

    def _settled(self, key: OfferKey, title: str, text: str, targets: dict[int, Target]) -> Offer:
        liquid = self._liquid(except_for=next(iter(targets)))
        grams = self._settle(liquid, targets) if liquid else None
        if liquid and grams is not None:
            targets = {**targets, liquid.at: Target(line=liquid.at, ingredient=liquid.ingredient, grams=max(grams, liquid.poured))}
        return self._offer(key, title, text, targets)

    def _offer(self, key: OfferKey, title: str, text: str, targets: dict[int, Target]) -> Offer:
        batter = self._with(targets)
        after = analyse(batter, self.facts, self.profile, {}, self.readings)
        moved = tuple(_moved(self.before.ledger(k), after.ledger(k)) for k in TOLD)
        return Offer(
            key=key,
            title=title,
            text=text,
            targets=tuple(targets.values()),
            moved=moved,
            pieces=after.yields.pieces,
            keeps=_keeps(self.before, after),
        )

    # ---- amounts

    def _with(self, targets: Mapping[int, Target]) -> Batter:
        lines = list(self.state.lines)
        for t in sorted(targets.values(), key=lambda t: t.line):
            if t.line == len(lines):
                lines.append(LineState(at=t.line, ingredient=t.ingredient, planned=0.0, target=t.grams))
            elif t.line < len(lines):
                old = lines[t.line]
                changed = {k: getattr(old, k) for k in LineState.__slots__}
                lines[t.line] = LineState(**{**changed, "target": t.grams, "done": old.done and t.grams <= old.poured + 1e-6})
        return will_be(self.plan, State(lines=tuple(lines)), self.facts.ingredients)

    def _liquid(self, except_for: int) -> LineState | None:
        """The main liquid that can still be changed, the one that pours best first."""
        known = self.facts.ingredients
        open_ = [x for x in self.state.lines if x.at != except_for and not x.none_left and x.ingredient in known]
        found = main_liquid((n, known[x.ingredient], x.target) for n, x in enumerate(open_))
        return None if found is None else open_[found]

    def _settle(self, line: LineState, targets: Mapping[int, Target]) -> float | None:
        """Grams of a line in all [g] that bring the yield stress back to the plan's, every other line as it will be; None where the plan
        does not flow, or nothing would bring it back."""
        tau = self.before.water.yield_stress_pa
        if tau is None:
            return None
        batter = self._with(targets)
        known = self.facts.ingredients
        places = [n for n, x in enumerate(batter.lines) if x.counts and (x.grams > 0 or n == line.at)]
        if line.at not in places:
            return None
        portions = [(known[batter.lines[n].ingredient or ""], batter.lines[n].grams) for n in places]
        where = places.index(line.at)
        i: Ingredient = portions[where][0]
        if i.group in LIQUIDS:
            return settle(portions, where, tau, self.minutes)
        return _thicken(portions, where, tau, self.minutes)

    def _targets_for(self, batter: Batter) -> dict[int, Target]:
        """The targets that turn the lines of this batch into another batter, new things appended."""
        wanted: dict[str, float] = {}
        for x in batter.lines:
            if x.counts and x.ingredient:
                wanted[x.ingredient] = wanted.get(x.ingredient, 0.0) + x.grams
        targets: dict[int, Target] = {}
        for line in self.state.lines:
            if not line.ingredient or (line.target <= 0 and line.poured <= 0):
                continue
            more = wanted.get(line.ingredient, 0.0)
            grams = max(line.poured, more if line.settled and not line.held else min(more, max(line.target, more)))
            wanted[line.ingredient] = max(0.0, more - grams)
            if abs(grams - line.target) > 0.05:
                targets[line.at] = Target(line=line.at, ingredient=line.ingredient, grams=round(grams, 3))
        at = len(self.state.lines)
        for id_, grams in wanted.items():
            if grams > 0.05 and all(x.ingredient != id_ for x in self.state.lines):
                targets[at] = Target(line=at, ingredient=id_, grams=round(grams, 3))
                at += 1
        return targets


def _best_first(offers: Sequence[Offer]) -> tuple[Offer, ...]:
    """What keeps flow and lift before what keeps one of them, and that before what keeps neither."""
    return tuple(sorted(offers, key=lambda o: -len(o.keeps)))


def _thicken(portions: list[tuple[Ingredient, float]], at: int, tau: float, minutes: float) -> float | None:
    """Grams of the drinker at `at` that bring the stress to `tau` [Pa]: more of it never thins."""
    i, now = portions[at]

    def stress(grams: float) -> float:
        return stress_of([*portions[:at], (i, grams), *portions[at + 1 :]], minutes)

    low, high = 0.0, 3 * now + 50
    if not stress(low) <= tau <= stress(high):
        return None
    return to_step(i, boundary(lambda grams: stress(grams) < tau, low, high)[0])


def _moved(before: Ledger, after: Ledger) -> Moved:
    return Moved(key=before.key, label=before.label, unit=before.mark_unit, before=before.mark, after=after.mark, verdict=after.verdict)


def _keeps(before: Analysis, after: Analysis) -> tuple[str, ...]:
    found = []
    a, b = before.water.spread_cm, after.water.spread_cm
    if a is not None and b is not None and abs(a - b) <= NEAR_CM:
        found.append("flow")
    x, y = (_lift(before), _lift(after))
    if abs(x - y) <= max(NEAR_LIFT * x, 3.0):
        found.append("lift")
    return tuple(found)


def _lift(a: Analysis) -> float:
    return a.ledger("lift").mark or 0.0


def _harm(offer: Offer) -> float:
    """How far the balances are moved, each as a share of what it was."""
    return sum(abs((m.after or 0.0) - (m.before or 0.0)) / max(abs(m.before or 0.0), 1e-6) for m in offer.moved if m.key != "flow")
