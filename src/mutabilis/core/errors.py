"""Errors with names: what is not there, and what cannot be. Anything else that is raised is a fault of the program and is told as one."""


class NotKnown(KeyError):
    """There is no such thing here; the text is its name."""


class CannotBe(ValueError):
    """What was asked cannot be done or kept; the text says why, in plain words."""
