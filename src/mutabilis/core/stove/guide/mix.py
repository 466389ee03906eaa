"""The steps of mixing, what comes last of all, and when the leavening goes in."""

from functools import cached_property

from ...batter.batter import Moment, Whites
from ...process.parts import STIRS, Operation
from ..parts import MixStep, MomentChoice
from ..resting import lift_left
from .prepare import Preparing

MIXES = STIRS | {"whip", "fold"}


class Mixing(Preparing):
    """The steps of mixing, what comes last of all, and when the leavening goes in."""

    @cached_property
    def mixing(self) -> tuple[MixStep, ...]:
        """The steps up to the bowl that is judged."""
        return tuple(x for x in self._steps if not self._late(x.key))

    @cached_property
    def last_steps(self) -> tuple[MixStep, ...]:
        """What comes after the rest: the leavening that was kept apart, and the foam that is folded in."""
        return tuple(x for x in self._steps if self._late(x.key))

    @cached_property
    def _steps(self) -> tuple[MixStep, ...]:
        ops = [o for o in self.process.operations if o.kind in MIXES]
        keys = [o.id for o in ops]
        wetter = next((k for k in ("blend", "together") if k in keys), next((k for k in reversed(keys) if k in ("dry", "wet")), None))
        return tuple(self._step(o, wetter) for o in ops)

    def _step(self, o: Operation, wetter: str | None) -> MixStep:
        wets = o.id == wetter
        early = self.moment == "dry" and self.leavened
        return MixStep(
            key=o.id, title=o.title, text=o.text, why=o.why, done_when=o.done_when, vessel=o.vessel, done=self.state.steps.get(o.id), wets=wets,
            leavens=o.id == "leaven" or (wets and early), peaks=self._peaks(o),
        )  # fmt: skip

    def _peaks(self, o: Operation) -> Whites | None:
        if o.kind != "whip":
            return None
        return "soft" if o.done_when == self.facts.process.whites.soft else "stiff"

    def _late(self, key: str) -> bool:
        """Whether a step comes after the bowl was judged."""
        places = [o.id for o in self.process.operations]
        return "judge" in places and places.index(key) > places.index("judge")

    @property
    def before_pour(self) -> MixStep | None:
        """What must be mixed before the line in turn can go in: the wet, before the dry is scattered over it in one bowl."""
        now = self.current
        if now is None:
            return None
        op = self.plan_process.op(now.part)
        if op is not None and op.kind == "bag":
            return self._step(op, None)
        waits = set(op.after) if op is not None else set()
        return next((x for x in self.mixing if x.key in waits and x.done is None), None)

    @cached_property
    def missing(self) -> tuple[str, ...]:
        """What is not in yet of what is mixed before the bowl is judged."""
        late = {x for o in self.process.operations if self._late(o.id) for x in o.takes} | {"weigh_late"}
        return tuple(dict.fromkeys(x.name for x in self.lines if not x.settled and x.part not in late))

    @property
    def leavened(self) -> bool:
        """Whether there is a leavening that can be wetted by itself."""
        return any(p.ingredient.group == "leavener" for p in self.bowl.portions)

    @property
    def moment(self) -> Moment:
        """When the leavening is wetted: as the cook chose, else as this batter wants it."""
        leavening = self.plan_process.moments.leavening
        return leavening.at if leavening is not None else "dry"

    @property
    def moment_open(self) -> bool:
        """Whether the moment can still be chosen: no leavening has gone into the bowl."""
        at = {p.line for p in self.bowl.portions if p.ingredient.group == "leavener"}
        return self.state.leavened_at is None and not any(x.poured > 0 for x in self.state.lines if x.at in at)

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
