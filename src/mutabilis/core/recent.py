"""What was worked out a moment ago, for whoever asks for it again."""

from collections.abc import Callable, Hashable
from threading import Lock
from typing import Any, TypeVar

T = TypeVar("T")


class Recent:
    """The latest results, by what was asked: the first word of a key says what they are. One that was made of other things (other facts, other readings of packs) is none."""

    def __init__(self, most: int = 40) -> None:
        self._most, self._lock = most, Lock()
        self._known: dict[Hashable, tuple[tuple[object, ...], Any]] = {}

    def once(self, key: Hashable, of: tuple[object, ...], work: Callable[[], T]) -> T:
        """What `work` makes, or what it made lately for the same key `of` the very same things. Asked from several threads at once it may be
        made twice; it is never another's."""
        with self._lock:
            known = self._known.pop(key, None)
            if known is not None and all(a is b for a, b in zip(known[0], of, strict=True)):
                self._known[key] = known  # the latest again
                told: T = known[1]
                return told
        made = work()
        with self._lock:
            self._known[key] = of, made
            while len(self._known) > self._most:
                del self._known[next(iter(self._known))]
        return made
