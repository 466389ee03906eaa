"""What needs time first, counted back from the first piece."""

import hashlib
from functools import cached_property

from ..events import Event, Poured, PrepDone, PrepStarted, StepDone
from ..ready import Clockwork, Prep, count_back, preparations
from .cook import CookingOn
from .weigh import BAG


class Preparing(CookingOn):
    """What needs time first, counted back from the first piece."""

    @cached_property
    def clockwork(self) -> Clockwork | None:
        """The work counted back from the first piece, where one was named."""
        if self.state.first_at is None:
            return None
        seconds = self._first_reckoned()
        lines = sum(1 for x in self.state.lines if self._weighed(x))
        return count_back(
            self.plan_process, self.state.first_at, self.now, self.plan_process.rest_min, seconds, lines, self.facts.stove.time
        )

    @cached_property
    def preparations(self) -> tuple[Prep, ...]:
        """What needs time first."""
        return preparations(self.process, self.state, self.clockwork)


def follows(e: Event, g: Preparing) -> list[Event]:
    """What follows from a preparation that was begun, the dry mix weighed, or from a pour into one: what it takes is in its vessel, so that nothing asks for it
    again; and once all of it was poured, its clock runs."""
    found: list[Event] = []
    if isinstance(e, PrepStarted | PrepDone) or (isinstance(e, StepDone) and e.key == BAG):
        for x in g.lines:
            if x.part == e.key and not x.settled:
                name = hashlib.sha256(f"prepared {e.id} {x.at}".encode()).hexdigest()[:16]
                found.append(
                    Poured(id=name, at=e.at, because=e.id, line=x.at, part=x.part, slot=x.slot, grams=x.missing, by="measure", done=x.last, held=x.holds and x.last)
                )  # fmt: skip
    elif isinstance(e, Poured) and e.part is not None:
        waits = any(p.key == e.part and p.started is None and p.done is None for p in g.preparations)
        if waits and all(x.settled for x in g.lines if x.part == e.part):
            found.append(PrepStarted(id=hashlib.sha256(f"begun {e.id}".encode()).hexdigest()[:16], at=e.at, because=e.id, key=e.part))
    return found
