"""A batch at a moment: its plan, its events, the batter that it will be."""

from collections.abc import Mapping
from functools import cached_property

from ...analysis.analysis import Analysis, analyse
from ...balances.holdback import Way as Measured
from ...batter.batter import Batter
from ...batter.bowl import Bowl
from ...diets.packs import PackReading
from ...food.kitchen_measures import measure
from ...food.learning import Normal
from ...measures.profile import Profile
from ...process.parts import Process, Ways
from ...process.process import process
from ...recent import Recent
from ..batch import Batch
from ..facts import StoveFacts
from ..fold import State, fold, will_be


class InHand:
    """A batch at a moment: its plan, its events, the batter that it will be."""

    def __init__(
        self, batch: Batch, now: float, facts: StoveFacts, profile: Profile, readings: Mapping[str, PackReading] | None = None,
        learned: Mapping[str, Mapping[str, Normal]] | None = None, recent: Recent | None = None,
    ) -> None:  # fmt: skip
        self.batch, self.now, self.facts, self.profile, self.readings = batch, now, facts, profile, readings
        self.learned = learned or {}
        self.recent = recent or Recent()  # one touch asks for the same batch several times
        self.plan = batch.plan
        self.state: State = fold(batch.plan, batch.events, batch.first_at)
        self.with_scale = self.state.with_scale

    @cached_property
    def planned(self) -> Analysis:
        """The plan, analysed for its guests."""
        return self._analysed(self.plan)

    @cached_property
    def to_be(self) -> Analysis:
        """The batter that it will be, analysed: what is in, and what is still to come."""
        return self._analysed(will_be(self.plan, self.state, self.facts.ingredients))

    @cached_property
    def bowl(self) -> Bowl:
        """The bowl that it will be."""
        return self.to_be.bowl

    def _analysed(self, batter: Batter) -> Analysis:
        def work() -> Analysis:
            rules = {k: self.facts.diets[k] for k in self.batch.diets if k in self.facts.diets}
            return analyse(batter, self.facts, self.profile, rules, self.readings)

        return self.recent.once(("analysis", batter, self.batch.diets, self.profile), (self.facts, self.readings), work)

    @cached_property
    def process(self) -> Process:
        """The plan of making the batter that it will be."""
        return self._process(self.to_be)

    @cached_property
    def plan_process(self) -> Process:
        """The plan of making it as it was planned: what goes where does not move under the pour."""
        return self._process(self.planned)

    def _process(self, a: Analysis) -> Process:
        ways = Ways(order=self.batch.order, leavening=self.state.moment, bag=self.batch.mix is not None)
        surface = self.state.chosen.surface if self.state.chosen else None
        measured: Measured = "scale" if self.with_scale else "cups"
        key = "process", a.batter, self.batch.diets, self.profile, ways, measured, surface
        return self.recent.once(key, (self.facts, self.readings), lambda: process(a, self.facts, ways, measured, surface))

    def _measured(self, ingredient: str, grams: float) -> str:
        """An amount in the kitchen's own measures; "" where it has none."""
        return measure(self.facts.ingredients[ingredient], grams, self.profile)
