"""What was worked out a moment ago, for whoever asks for it again."""

from collections.abc import Callable, Hashable
from typing import Any, TypeVar

T = TypeVar("T")


class Recent:
    """The latest results, by what was asked. One that was made of other things (other facts, other readings of packs) is none."""

    def __init__(self, most: int = 8) -> None:
        self._most = most
        self._known: dict[Hashable, tuple[tuple[object, ...], Any]] = {}

    def once(self, key: Hashable, of: tuple[object, ...], work: Callable[[], T]) -> T:
        """What `work` makes, or what it made lately for the same key `of` the very same things. Asked from several threads at once it may be
        made twice; it is never another's."""
        known = self._known.pop(key, None)
        if known is None or any(a is not b for a, b in zip(known[0], of, strict=True)):
            known = of, work()
        self._known[key] = known
        while len(self._known) > self._most:
            self._known.pop(next(iter(self._known)), None)
        made: T = known[1]
        return made
