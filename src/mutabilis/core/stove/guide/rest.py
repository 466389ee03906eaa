"""The window of the rest, and the lift that is left."""

from functools import cached_property

from ..resting import Window, lift_left, window
from .weigh import Weighing


class Resting(Weighing):
    """The window of the rest, and the lift that is left."""

    @cached_property
    def rest(self) -> Window:
        """The window of the rest."""
        return window(self.bowl, self.plan.blender, self.facts.stove.time)

    @property
    def lift_now(self) -> float | None:
        """The share of the lift that is left now; None where its clock does not run."""
        since = self.state.leavened_at
        return None if since is None else lift_left(self.bowl, (self.now - since) / 60)
