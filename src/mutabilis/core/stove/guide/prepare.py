"""What needs time first, counted back from the first piece."""

from functools import cached_property

from ..ready import Clockwork, Prep, count_back, preparations
from .cook import CookingOn


class Preparing(CookingOn):
    """What needs time first, counted back from the first piece."""

    @cached_property
    def clockwork(self) -> Clockwork | None:
        """The work counted back from the first piece, where one was named."""
        if self.state.first_at is None:
            return None
        seconds = self._first_reckoned() or 180.0
        lines = sum(1 for x in self.state.lines if self._weighed(x))
        return count_back(
            self.plan_method, self.state.first_at, self.now, self.planned.bowl.rest_min, seconds, lines, self.facts.stove.time
        )

    @cached_property
    def preparations(self) -> tuple[Prep, ...]:
        """What needs time first."""
        return preparations(self.made, self.state, self.clockwork)
