"""The window of the rest, and the lift that is left."""

from functools import cached_property

from ..resting import Window, lift_left, past_window, window
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

    @property
    def late(self) -> str:
        """What is left of a batter that has passed its window, and what to do; "" before that, and once nothing of it is left to cook."""
        wet = self.state.wet_at
        if wet is None or self.state.finished is not None or self.state.stage not in ("rest", "last", "cook"):
            return ""
        minutes = (self.now - wet) / 60
        left = self.lift_now if self.lift_now is not None else 1.0
        if self.state.leavened_at is None and any(p.ingredient.group == "leavener" for p in self.bowl.portions):
            return ""  # its leavening is still dry, and keeps
        room = self.facts.stove.time.room_most_min
        powder = self.facts.ingredients["baking_powder"]
        return past_window(self.bowl, self.rest, minutes, left, room, powder, self.facts.safety.words("hold"))
