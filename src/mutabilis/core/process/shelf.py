"""What is still on the shelf: portions are taken off it until each line is used up, to the gram."""

from collections.abc import Iterable

from .parts import Portion
from .sorting import Item

WHITE, YOLK = "egg_white", "egg_yolk"


class Shelf:
    """The lines of a batter, and what of each was taken [g]."""

    def __init__(self, items: Iterable[Item]) -> None:
        self.items = {x.at: x for x in items}
        self.left = {x.at: x.grams for x in items}

    def take(self, x: Item, grams: float | None = None, part: str = "") -> tuple[Portion, ...]:
        """So many grams [g] of a line, or all that is left of it; () where nothing is left. `part` names a part of it, such as the white."""
        left = self.left[x.at]
        given = left if grams is None else min(grams, left)
        if given <= 0:
            return ()
        self.left[x.at] = left - given if grams is not None else 0.0
        return (Portion(line=x.at, ingredient=part or x.i.id, grams=given, share=given / x.grams),)

    def take_all(self, items: Iterable[Item]) -> tuple[Portion, ...]:
        """All that is left of each."""
        return tuple(p for x in items for p in self.take(x, part=YOLK if 0 < x.white < 1 else ""))

    def white(self, x: Item) -> tuple[Portion, ...]:
        """The white of a line of whole eggs, or a line that foams whole."""
        return self.take(x, x.white * x.grams, WHITE) if x.white < 1 else self.take(x)
