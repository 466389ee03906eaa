"""Errors with names: what is not there, and what cannot be. Anything else that is raised is a fault of the program and is told as one."""

from typing import TypeVar

_Key = TypeVar("_Key")
_Value = TypeVar("_Value")


class NotKnown(LookupError):
    """There is no such thing here; the text is its name."""


class CannotBe(ValueError):
    """What was asked cannot be done or kept; the text says why, in plain words."""


class Known(dict[_Key, _Value]):
    """A table of what is known: a name that is not in it raises `NotKnown`, not `KeyError`.

    >>> Known(flour=1)["flour"]
    1
    """

    def __missing__(self, key: _Key) -> _Value:
        raise NotKnown(key)
