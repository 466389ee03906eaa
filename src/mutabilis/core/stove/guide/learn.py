"""How it came out, what can be kept, and what it taught."""

from functools import cached_property

from ...food.learning import Lesson
from ..keeping import THIRSTY, Keeping, keeping, side_keeping
from .clocks import Clocks

GOOD_STARS = 4


class Learning(Clocks):
    """How it came out, what can be kept, and what it taught."""

    @property
    def good(self) -> bool:
        """Whether it came out good: by the cook's stars, else where nothing was seen to be wrong."""
        return self.state.stars >= GOOD_STARS if self.state.stars is not None else not self.state.faults

    @cached_property
    def keeping(self) -> tuple[Keeping, ...]:
        """What can be kept, and until when."""
        thirsty = any(p.ingredient.absorption_g_per_g >= THIRSTY and p.grams > 0.1 * self.bowl.batter_g for p in self.bowl.portions)
        f = self.facts
        return (
            *keeping(self.to_be, thirsty, self.now, f.stove, f.safety),
            *side_keeping(self.plan_process.sides, self.now, f.stove, f.safety),
        )

    @cached_property
    def lessons(self) -> tuple[Lesson, ...]:
        """What this batch teaches: thirst, the offset of a test piece, the pace of its surface. Only what moved or grew surer by a twentieth."""
        found = []
        advice = self.judging.advice
        thirst = self.learned.get("absorption", {})
        for x in advice.learned if advice else ():
            offset = x.subject == "piece_offset"
            times = 1.0 if offset or x.subject not in thirst else thirst[x.subject].mean
            if x.after.sd < 0.95 * x.before.sd or abs(x.after.mean - x.before.mean) > 0.2 * x.before.sd:
                found.append(
                    Lesson(
                        kind="piece_offset" if offset else "absorption", subject=x.subject, batch=self.batch.id, before_mean=times * x.before.mean,
                        before_sd=times * x.before.sd, after_mean=times * x.after.mean, after_sd=times * x.after.sd,
                        pack="" if offset else self._pack_of(x.subject),
                    )
                )  # fmt: skip
        c = self.state.chosen
        if c is not None and any(load.turned or load.off for load in self.state.loads):
            before = self.pace_before(c.surface)
            if self.pace.sd < before.sd or abs(self.pace.mean - before.mean) > 0.2 * before.sd:
                found.append(
                    Lesson(
                        kind="pace", subject=c.surface.id, batch=self.batch.id, before_mean=before.mean, before_sd=before.sd, after_mean=self.pace.mean,
                        after_sd=self.pace.sd,
                    )
                )  # fmt: skip
        if c is not None and any(load.fill for load in self.state.loads) and self.takes_ml(c.surface) is not None:
            before, after = self.fill_before(c.surface), self.fill_of(c.surface)
            if after.sd < 0.95 * before.sd or abs(after.mean - before.mean) > 0.2 * before.sd:
                found.append(
                    Lesson(
                        kind="fill",
                        subject=c.surface.id,
                        batch=self.batch.id,
                        before_mean=before.mean,
                        before_sd=before.sd,
                        after_mean=after.mean,
                        after_sd=after.sd,
                    )
                )
        return tuple(found)

    def _pack_of(self, ingredient: str) -> str:
        """The pack of an ingredient that was named last in this batch."""
        lines = {x.at for x in self.state.lines if x.ingredient == ingredient}
        named = [e.pack for e in self.batch.events if e.kind == "poured" and e.line in lines and e.pack]
        return named[-1] if named else ""
