"""Every clock that runs."""

from functools import cached_property

from ..parts import Timer
from .judge import JudgingBowl


class Clocks(JudgingBowl):
    """Every clock that runs."""

    @cached_property
    def timers(self) -> tuple[Timer, ...]:
        """Every clock that runs for this batch, the next due first."""
        if self.state.finished is not None:
            return ()
        found = [
            Timer(key=f"prep:{p.key}", label=p.title, started=p.started, due=p.due)
            for p in self.preparations
            if p.started
            and p.due
            and p.done is None
            and (p.key == "heat" or p.side or self.state.wet_at is None)  # in the bowl, it waits no longer
        ]
        s = self.state
        if s.rest_started is not None and s.rest_ended is None:
            since = s.wet_at if s.wet_at is not None else s.rest_started
            found.append(Timer(key="rest", label="Rest", started=s.rest_started, due=max(s.rest_started, since + 60 * self.rest.best_min)))
        lift = self.plan_process.moments.leavening
        if s.leavened_at is not None and lift is not None and lift.at != "dry" and lift.lasts_min is not None and self.open_bowl:
            found.append(Timer(key="lift", label="Lift lasts", started=s.leavened_at, due=s.leavened_at + 60 * lift.lasts_min))
        foam, folded = self.plan_process.moments.foam, s.steps.get("fold")
        if foam is not None and folded is not None and self.open_bowl:
            found.append(Timer(key="foam", label="Foam halves", started=folded, due=folded + 60 * foam.half_min))
        if s.heat_on is not None and s.chosen is not None and not s.loads:
            found.append(
                Timer(
                    key="heat", label=f"{s.chosen.surface.name} hot", started=s.heat_on, due=s.heat_on + 60 * s.chosen.surface.heat_up_min
                )
            )
        now = self.run
        if now is not None:
            for load in s.loads:
                if load.off is not None:
                    continue
                what = "Test piece" if load.test else f"Load {load.n + 1}"
                own = self._reckoned_for(load)
                turn, done = now.turn_s, now.done_s
                if load.test and own is not None:
                    turn, done = (own.turn_s * now.pace if own.turn_s else None), (own.done_s or now.done_s) * now.pace
                if turn and load.turned is None:
                    found.append(Timer(key=f"turn:{load.n}", label=f"{what}: turn", started=load.on, due=load.on + turn))
                else:
                    begun = load.turned if load.turned is not None else load.on
                    rest = done - (turn or 0.0) if load.turned is not None else done
                    found.append(Timer(key=f"off:{load.n}", label=f"{what}: off", started=begun, due=begun + max(5.0, rest)))
            off = [load.off for load in s.loads if load.off is not None]
            if (
                off
                and len(off) == len(s.loads)
                and now.loads_left > 0
                and s.chosen is not None
                and self.now < max(off) + s.chosen.surface.recover_s
            ):
                found.append(
                    Timer(
                        key="recover",
                        label=f"{s.chosen.surface.name} back to its heat",
                        started=max(off),
                        due=max(off) + s.chosen.surface.recover_s,
                    )
                )
        return tuple(sorted(found, key=lambda t: t.due))

    @property
    def open_bowl(self) -> bool:
        """Whether there is batter left to be poured."""
        return self.run is None or self.run.loads_left > 0
