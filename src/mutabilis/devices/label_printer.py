"""A label printer: the protocol, and the simulated one that keeps what it printed."""

from dataclasses import dataclass, field
from typing import Protocol


@dataclass(frozen=True, slots=True)
class Label:
    """A label for what is kept: lines of text, the largest first."""

    lines: tuple[str, ...]


class LabelPrinter(Protocol):
    """A printer of labels."""

    def put(self, label: Label) -> str:
        """Print one; "" where it was printed, else what is wrong in plain words."""


@dataclass
class SimulatedPrinter:
    """Prints on a roll of so many labels, and keeps the last of them to be looked at."""

    left: int = 24
    printed: list[Label] = field(default_factory=list)

    def put(self, label: Label) -> str:
        """Print one, if there is a label left."""
        if self.left <= 0:
            return "The label printer is out of labels; the sheet can be printed instead."
        self.left -= 1
        self.printed = [*self.printed[-11:], label]
        return ""
