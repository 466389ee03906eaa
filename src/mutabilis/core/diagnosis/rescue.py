"""What of a correction can still be done to the batch in hand: more of something, another heat, a smaller scoop; what is in comes out no more."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from ..food.ingredients import Ingredient
from ..stove.events import Target
from ..stove.fold import LineState, State
from .corrections import Correction, sum_words

Does = Literal["add", "heat", "portion", "nothing"]
LEAST_G = 0.05  # below this nothing is added
EMPTY = 0.05  # of the bowl: what is left of it is not worth putting right
SMALLEST_ML, LARGEST_ML = 5.0, 5000.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Rescue:
    """What is done now: lines by what they are to weigh in all [g], or a heat [°C], or a scoop [mL]; in words. `nothing` where it is for the
    next batch, with the reason."""

    does: Does
    targets: tuple[Target, ...] = ()
    celsius: float | None = None
    portion_ml: float | None = None
    words: str


def rescue(
    fixed: Correction, state: State, share_left: float, known: Mapping[str, Ingredient], may_add: Callable[[str], bool]
) -> Rescue:  # fmt: skip
    """A correction of the whole bowl, for the `share_left` of it [0 to 1] that is not cooked yet: of what it adds, as much as that share takes.
    What is not poured yet can also become less. What is not in the batter is added only where the guests may have it (`may_add`)."""
    if share_left <= EMPTY:
        return Rescue(does="nothing", words="The bowl is as good as empty.")
    if fixed.change == "heat" and fixed.to is not None and state.chosen is not None:
        return Rescue(does="heat", celsius=fixed.to, words=fixed.words)
    if fixed.change == "portion" and fixed.to is not None and state.chosen is not None and SMALLEST_ML <= fixed.to <= LARGEST_ML:
        return Rescue(does="portion", portion_ml=fixed.to, words=fixed.words)
    if fixed.grams is None or fixed.ingredient is None:
        return Rescue(does="nothing", words="This bowl stays as it is.")
    moves = {i: g * share_left for i, g in {fixed.ingredient: fixed.grams, **fixed.also}.items() if abs(g) * share_left >= LEAST_G}
    targets: list[Target] = []
    for id, grams in moves.items():
        line = _line(state.lines, id)
        if line is None:
            if grams < 0:
                return _stays(known[id])
            if not may_add(id):
                return Rescue(does="nothing", words=f"It is not known that these guests may have {known[id].short}.")
            targets.append(Target(line=len(state.lines) + sum(t.line >= len(state.lines) for t in targets), ingredient=id, grams=grams))
            continue
        base = line.poured if line.settled else max(line.poured, line.target)
        if grams < 0 and (line.settled or base + grams < line.poured):
            return _stays(known[id])
        targets.append(Target(line=line.at, ingredient=id, grams=round(max(0.0, base + grams), 2)))
    if not targets:
        return Rescue(does="nothing", words="What is left of the bowl needs too little to be weighed.")
    words = sum_words(moves, known)
    if share_left < 1:
        words += " That is for what is left of the bowl."
    return Rescue(does="add", targets=tuple(targets), words=words)


def _line(lines: tuple[LineState, ...], ingredient: str) -> LineState | None:
    """The line of an ingredient that takes most."""
    return max((x for x in lines if x.ingredient == ingredient), key=lambda x: x.target, default=None)


def _stays(i: Ingredient) -> Rescue:
    return Rescue(does="nothing", words=f"What is in of the {i.short} cannot be taken out.")
