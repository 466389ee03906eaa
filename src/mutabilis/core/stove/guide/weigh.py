"""What goes into which vessel, in what order, and how much of it is still to come."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from ...food.ingredients import Ingredient
from ...food.kitchen_measures import measure
from ...process.parts import HeldBack, Operation, Portion, VesselKey
from ...process.shelf import WHITE, YOLK
from ..events import By
from ..fold import LineState
from ..parts import VesselView, WeighLine
from .batter import InHand

BAG = "bag"  # what the plan calls the dry mix out of its bag: weighed at once, it is all of its lines
SHELF = ("surface", "plate", "held_cup", "saucepan", "oven_dish", "side_bowl")  # what goes there is not weighed out with the batter


@dataclass(frozen=True, slots=True)
class _Part:
    """A line's part on its way into one vessel: what it is to weigh now [g]."""

    line: LineState
    op: Operation
    portion: Portion
    grams: float
    poured: float
    main: bool


class Weighing(InHand):
    """What goes into which vessel, in what order, and how much of it is still to come."""

    @property
    def held(self) -> HeldBack | None:
        """What is held back of the liquid; the plan's, so that the mark does not move under the pour."""
        return self.plan_process.moments.held_back

    @cached_property
    def lines(self) -> tuple[WeighLine, ...]:
        """What goes into each vessel, in the order in which it is weighed."""
        return tuple(self._weigh(x, self._parts) for x in self._parts)

    @cached_property
    def _parts(self) -> list[_Part]:
        places: dict[int, list[tuple[Operation, Portion]]] = {}
        order: list[tuple[Operation, Portion]] = []
        known = {p.line for o in self.plan_process.operations for p in o.portions}
        # What was added since, or takes the place of something, goes where the plan of the batter as it will be puts it.
        for o in (*self.plan_process.operations, *self.process.operations):
            for p in o.portions:
                new = p.line not in known
                if (
                    o.vessel not in SHELF
                    and (new or o in self.plan_process.operations)
                    and (o.id, p.line) not in {(x.id, y.line) for x, y in order}
                ):
                    order.append((o, p))
                    places.setdefault(p.line, []).append((o, p))
        found: list[_Part] = []
        for o, p in order:
            x = self.state.lines[p.line] if p.line < len(self.state.lines) else None
            if x is None or not self._weighed(x):
                continue
            found.append(self._part(x, o, p, places[p.line]))
        seen = {f.line.at for f in found}
        for x in self.state.lines:  # poured, and now wanted nowhere
            if self._weighed(x) and x.at not in seen:
                portion = Portion(line=x.at, ingredient=x.ingredient, grams=x.target, share=1.0)
                op = Operation(id="weigh_dry", kind="weigh", vessel="bowl", title="", text="")
                found.append(self._part(x, op, portion, [(op, portion)]))
        return found

    def _part(self, x: LineState, o: Operation, p: Portion, places: list[tuple[Operation, Portion]]) -> _Part:
        """What of line `x` goes to operation `o` now. What the line has gained or lost since it was planned goes to its largest part."""
        held = self._held_of(x)
        if p.ingredient != x.ingredient:  # a part of an egg: always the same share of it
            return _Part(x, o, p, p.share * x.target, x.parts.get(o.id, 0.0), False)
        main_op, _ = max(places, key=lambda it: it[1].grams)
        if o.id != main_op.id:
            return _Part(x, o, p, min(p.grams, x.target), x.parts.get(o.id, 0.0), False)
        others = [(it, q) for it, q in places if it.id != o.id]
        elsewhere = sum(x.parts.get(it.id, 0.0) if it.id in x.closed or x.settled else min(q.grams, x.target) for it, q in others)
        inside = x.poured - sum(x.parts.get(it.id, 0.0) for it, _ in others)
        return _Part(x, o, p, max(0.0, x.target - held - elsewhere), max(0.0, inside), True)

    def _held_of(self, x: LineState) -> float:
        """What of a line is held back [g]: as planned until it is poured, then what is left of it. Nothing of what is added to put a bowl
        right, or once it is cooked from."""
        if self.held is None or x.at != self.held.line or x.reopened or self.state.loads:
            return 0.0
        if x.done:
            return max(0.0, x.target - x.poured) if x.held else 0.0
        return min(self.held.grams, x.target)

    def _weighed(self, x: LineState) -> bool:
        where = self.plan.lines[x.at].where if x.at < len(self.plan.lines) else "batter"
        return bool(x.ingredient) and where == "batter" and (x.target > 0 or x.poured > 0 or x.none_left)

    def _weigh(self, it: _Part, parts: Iterable[_Part]) -> WeighLine:
        x, i = it.line, self.facts.ingredients[it.portion.ingredient]
        stove = self.facts.stove
        held = self._held_of(x) if it.main else 0.0
        settled = x.settled or (it.op.id in x.closed and not (x.reopened and it.main))
        missing = 0.0 if settled else max(0.0, it.grams - it.poured)
        whole = it.grams + (held if it.main else 0.0)
        tolerance = stove.tolerance_g(i, it.grams or x.target)
        by: By = "measure" if not self.with_scale else "spoon" if stove.by_spoon(missing or it.grams) else "scale"
        over = x.poured - x.target if it.main and x.poured > x.target + tolerance and x.target > 0 and not self._chosen_over(x) else 0.0
        words, measured = self._said(i, missing or it.grams, missing)
        note = ""
        if i.group == "egg" and not settled:
            note = "Eggs as they are: the liquid follows what they weigh."
        elif held >= 1 and not settled:
            amount = self._measured(x.ingredient, held) if not self.with_scale else ""
            note = f"{amount or f'{held:.0f} g'} of it stay in a cup until the bowl is judged."
        others = [y for y in parts if y.line.at == x.at and y.op.id != it.op.id and y.op.id not in x.closed]
        return WeighLine(
            at=x.at, part=it.op.id, vessel=it.op.vessel, last=not others, holds=self._held_of(x) > 0, ingredient=x.ingredient, name=self._name(i, it), target=whole, poured=it.poured, missing=missing,
            tolerance=tolerance, by=by, words=words, held=held, settled=settled, none_left=x.none_left, over=over, slot=x.slot, auto=i.group != "egg" and x.slot == x.pours and not settled and over == 0, measured_g=measured,
            note=note, bagged=it.op.id == BAG,
        )  # fmt: skip

    def _said(self, i: Ingredient, grams: float, missing: float) -> tuple[str, float]:
        """An amount in the kitchen's own measures, eggs by their number; and what that comes to [g]."""
        if i.group == "egg" and i.unit_g and missing > 0:
            n = max(1, round(missing / i.unit_g))
            return f"{n} {i.unit_name}{'s' if n > 1 else ''}", n * i.unit_g
        return measure(i, grams, self.profile), missing

    def _name(self, i: Ingredient, it: _Part) -> str:
        names = {WHITE: "egg whites", YOLK: "egg yolks"}
        return names[i.id] if it.portion.ingredient != it.line.ingredient and i.id in names else i.short

    def _chosen_over(self, x: LineState) -> bool:
        """An over-pour that the cook has answered: there is a step of that name, and no more went in since."""
        return f"over_{x.at}_{x.slot}" in self.state.steps or self.facts.ingredients[x.ingredient].group == "egg"

    @cached_property
    def current(self) -> WeighLine | None:
        """The line on the scale: the one that was tared for, else the first that is not settled; one that went over is answered first."""
        for x in self.lines:
            if x.over > 0:
                return x
        open_ = [x for x in self.lines if not x.settled]
        tared = [x for x in open_ if x.at == self.state.taring and self.state.zero_part in (None, x.part)]
        return next(iter(tared or open_), None)

    @property
    def zero(self) -> float | None:
        """Where the scale stood at nought [g]; None where the vessel on it is another than the one that is weighed into now."""
        vessel = next((x.vessel for x in self.lines if x.part == self.state.zero_part), None)
        if self.current is not None and vessel is not None and vessel != self.current.vessel:
            return None
        return self.state.zero

    @cached_property
    def vessels(self) -> tuple[VesselView, ...]:
        """The vessels in the order in which they are filled, the cup of what is held back last."""
        found: dict[VesselKey, list[WeighLine]] = {}
        for x in self.lines:
            found.setdefault(x.vessel, []).append(x)
        names = self.facts.process.vessels
        shelf = [
            VesselView(
                key=v, name=names[v], grams=sum(x.poured for x in lines), names=_told(lines),
                settled=all(x.settled for x in lines), held=False,
            )
            for v, lines in found.items()
        ]  # fmt: skip
        held = next((x for x in self.lines if x.held >= 1), None)
        if held is not None:
            shelf.append(
                VesselView(
                    key="held_cup",
                    name=names["held_cup"],
                    grams=held.held,
                    names=(f"{held.held:.0f} g {held.name}, held back",),
                    settled=True,
                    held=True,
                )
            )
        return tuple(shelf)


def _told(lines: list[WeighLine]) -> tuple[str, ...]:
    """What a vessel takes, in words; what comes out of a bag as the one thing that it is."""
    mix = [x for x in lines if x.bagged]
    bag = (f"dry mix {sum(x.target for x in mix):.0f} g",) if mix else ()
    return (*bag, *(f"{x.name} {x.target - x.held:.0f} g" for x in lines if not x.bagged))
