"""Whose hands do what: nobody does two things at once, nobody what is not theirs to do."""

from bisect import bisect_left, insort
from collections.abc import Iterable, Mapping, Sequence

from .hours import DAY
from .plan import Task
from .wishes import Person, Service


class Diary:
    """The busy seconds of one thing that can do one thing at a time."""

    def __init__(self, begins: int = 0, ends: int = 2 * DAY) -> None:
        self._busy: list[tuple[int, int]] = []
        self.begins, self.ends = begins, ends

    def free(self, at: int, to: int) -> bool:
        """Whether nothing stands between two seconds."""
        if at < self.begins or to > self.ends:
            return False
        n = bisect_left(self._busy, (to, -1))
        return n == 0 or self._busy[n - 1][1] <= at

    def take(self, at: int, to: int) -> None:
        """Keep the seconds."""
        if to > at:
            insort(self._busy, (at, to))

    def leave(self, at: int, to: int) -> None:
        """Give them back."""
        if to > at:
            self._busy.remove((at, to))


class Hands:
    """The people of a service and what each is busy with; those who may do little are asked first."""

    def __init__(self, service: Service) -> None:
        people = sorted(service.people, key=lambda p: ("all" in p.may, len(p.may)))
        self._people: list[tuple[Person, Diary]] = [(p, Diary(p.begins or 0, p.ends if p.ends is not None else 2 * DAY)) for p in people]

    def find(self, tasks: Iterable[tuple[str, int, int]]) -> list[tuple[Diary, int, int]] | None:
        """Free hands for tasks (what, from, to), which may fall together; None where there are none."""
        found: list[tuple[Diary, int, int]] = []
        for do, at, to in tasks:
            for person, diary in self._people:
                mine = any(d is diary and at < t and f < to for d, f, t in found)
                if person.can(do) and not mine and diary.free(at, to):
                    found.append((diary, at, to))
                    break
            else:
                return None
        return found

    def take(self, found: Iterable[tuple[Diary, int, int]]) -> None:
        """Keep what was found."""
        for diary, at, to in found:
            diary.take(at, to)

    def leave(self, found: Iterable[tuple[Diary, int, int]]) -> None:
        """Give it back."""
        for diary, at, to in found:
            diary.leave(at, to)


def alike(service: Service) -> bool:
    """Whether everybody may do everything all the morning: then counting hands is enough."""
    return all("all" in p.may and p.begins is None and p.ends is None for p in service.people)


def spread_out(tasks: Sequence[Task], service: Service, given: Mapping[tuple[str, str], str]) -> tuple[Task, ...] | None:
    """Each task with whose it is; None where somebody would be needed twice. What has been given stays where it was."""
    diaries = {p.id: Diary(p.begins or 0, p.ends if p.ends is not None else 2 * DAY) for p in service.people}
    people = sorted(service.people, key=lambda p: ("all" in p.may, len(p.may)))
    now = -1 if service.now is None else service.now
    done: list[Task] = []
    rest: list[Task] = []
    for t in tasks:
        who = given.get((t.do, t.of)) if t.do != "plate" else given.get((t.do, f"{t.of}@{t.to}"))
        if who in diaries and diaries[who].free(t.at, t.to):
            diaries[who].take(t.at, t.to)
            done.append(t.model_copy(update={"who": who}))
        else:
            rest.append(t)
    for t in rest:
        free = next((p for p in people if p.can(t.do) and diaries[p.id].free(t.at, t.to)), None)
        if free is None:
            if t.to > now:
                return None
            free = people[-1]  # it is over: who did it then is not asked any more
        else:
            diaries[free.id].take(t.at, t.to)
        done.append(t.model_copy(update={"who": free.id}))
    return tuple(sorted(done, key=lambda t: (t.at, t.to, t.do, t.of)))
