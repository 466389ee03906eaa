"""What goes into the bowl, in what order and how much of it is still to come."""

from functools import cached_property

from ...balances.holdback import HoldBack, hold_back
from ...food.kitchen_measures import measure
from ..events import By
from ..fold import LineState
from ..parts import WeighLine
from .batter import InHand

ORDER = ("soak", "dry", "wet", "foam", "late")


class Weighing(InHand):
    """What goes into the bowl, in what order and how much of it is still to come."""

    @cached_property
    def held(self) -> HoldBack | None:
        """What to hold back of the liquid, by the way it is measured; the plan's, so that the mark does not move under the pour."""
        return hold_back(self.planned.bowl, "scale" if self.with_scale else "cups")

    @cached_property
    def lines(self) -> tuple[WeighLine, ...]:
        """What goes into the bowl, in the order in which it is weighed; the liquid that is held back comes last of the wet."""
        uses = {at: use for use, places in self.plan_method.uses for at in places}
        held = self._held_at()
        found = [self._weigh(x, uses.get(x.at, "dry"), held) for x in self.state.lines if self._weighed(x)]
        return tuple(sorted(found, key=lambda x: (ORDER.index(x.use) if x.use in ORDER else 9, x.at == held, x.at)))

    def _weighed(self, x: LineState) -> bool:
        where = self.plan.lines[x.at].where if x.at < len(self.plan.lines) else "batter"
        return bool(x.ingredient) and where == "batter" and (x.target > 0 or x.poured > 0 or x.none_left)

    def _held_at(self) -> int | None:
        if self.held is None or self.held.hold_g < 1:
            return None
        lines = [x for x in self.state.lines if x.ingredient == self.held.ingredient and x.target > 0]
        return max(lines, key=lambda x: x.target).at if lines else None

    def _weigh(self, x: LineState, use: str, held_at: int | None) -> WeighLine:
        i = self.facts.ingredients[x.ingredient]
        stove = self.facts.stove
        held = (
            min(self.held.hold_g, x.target)
            if self.held and x.at == held_at and not x.done
            else max(0.0, x.target - x.poured)
            if x.held
            else 0.0
        )
        missing = max(0.0, x.target - x.poured - held) if not x.settled else 0.0
        tolerance = stove.tolerance_g(i, x.target)
        by: By = "measure" if not self.with_scale else "spoon" if stove.by_spoon(missing or x.target) else "scale"
        over = x.poured - x.target if x.poured > x.target + tolerance and x.target > 0 and not self._chosen_over(x) else 0.0
        note = ""
        if i.group == "egg" and not x.settled:
            note = "Eggs as they are: the liquid follows what they weigh."
        elif held >= 1 and not x.settled:
            amount = self._measured(x.ingredient, held) if not self.with_scale else ""
            note = f"{amount or f'{held:.0f} g'} of it stay in the jug until the bowl is judged."
        words, measured = measure(i, missing or x.target, self.profile), missing
        if i.group == "egg" and i.unit_g and missing > 0:
            n = max(1, round(missing / i.unit_g))
            words, measured = f"{n} {i.unit_name}{'s' if n > 1 else ''}", n * i.unit_g
        return WeighLine(
            at=x.at, ingredient=x.ingredient, name=i.short, use=use, target=x.target, poured=x.poured, missing=missing, tolerance=tolerance, by=by, words=words, held=held, settled=x.settled, none_left=x.none_left, over=over, slot=x.slot,
            auto=i.group != "egg" and x.slot == x.pours, measured_g=measured, note=note,
        )  # fmt: skip

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
        return next((x for x in open_ if x.at == self.state.taring), open_[0] if open_ else None)
