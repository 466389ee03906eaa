"""The steps of mixing, and when the leavening goes in."""

from functools import cached_property

from ...recipe.method import Step
from ..events import Moment
from ..parts import MixStep, MomentChoice
from ..resting import lift_left
from .prepare import Preparing

MIXING = ("dry", "wet", "together", "blend", "foam", "leaven")


class Mixing(Preparing):
    """The steps of mixing, and when the leavening goes in."""

    @cached_property
    def mixing(self) -> tuple[MixStep, ...]:
        """The steps of the mixing, with the moment of the leavening as it was chosen."""
        steps = [s for s in self.made.steps if s.key in MIXING and s.key != "leaven"]
        keys = [s.key for s in steps]
        wetter = next((k for k in ("blend", "together") if k in keys), next((k for k in reversed(keys) if k in ("dry", "wet")), None))
        late = self.state.moment != "dry" and self.leavened
        found = [
            MixStep(step=s, done=self.state.steps.get(s.key), wets=s.key == wetter, leavens=s.key == wetter and not late and self.leavened)
            for s in steps
        ]
        if late:
            when = "when the surface is hot" if self.state.moment == "hot" else "as the very last thing, just before the first is poured"
            names = ", ".join(p.ingredient.short for p in self.bowl.portions if p.ingredient.group == "leavener")
            step = Step(
                key="leaven",
                title="Leaven",
                text=f"Stir in the {names}, loosened with a spoon of water, {when}.",
                why="Wetted late, it gives its gas in the pan.",
                minutes=None,
                lines=(),
            )
            found.append(MixStep(step=step, done=self.state.steps.get("leaven"), wets=False, leavens=True))
        return tuple(found)

    @property
    def leavened(self) -> bool:
        """Whether there is a leavening that can be wetted by itself."""
        return any(p.ingredient.group == "leavener" for p in self.bowl.portions)

    @cached_property
    def moments(self) -> tuple[MomentChoice, ...]:
        """The moments of the leavening, with the lift left at the first and the last piece; () where there is none."""
        if not self.leavened:
            return ()
        best = self.rest.best_min
        length = self.cooking_minutes or 15.0
        choices: tuple[tuple[Moment, str, float, str], ...] = (
            ("dry", "with the dry, and rested", best, "Simple; a part of the gas goes during the rest."),
            ("hot", "when the surface is hot", 2.0, "The rest costs no gas; it must be stirred in well, and toughens wheat a little."),
            ("last", "the last thing of all", 0.5, "All of the gas in the pan; there is no time left to lose."),
        )  # fmt: skip
        return tuple(
            MomentChoice(moment=m, label=label, first=lift_left(self.bowl, t), last=lift_left(self.bowl, t + length), why=why)
            for m, label, t, why in choices
        )
