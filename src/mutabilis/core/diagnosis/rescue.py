"""What of a correction can still be done to the batch in hand: more of something, another heat, a smaller scoop; what is in comes out no more."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from ..diets.verdicts import judge_ingredient
from ..food.ingredients import Ingredient
from ..stove.events import SCOOP_ML, Target
from ..stove.fold import LineState, State
from ..stove.guide.guide import Guide
from .corrections import Correction, sum_words

Does = Literal["add", "heat", "portion", "nothing"]
LEAST_G = 0.05  # below this nothing is added
EMPTY = 0.05  # of the bowl: what is left of it is not worth putting right


@dataclass(frozen=True, slots=True, kw_only=True)
class Rescue:
    """What is done now: lines by what they are to weigh in all [g], or a heat [°C], or a scoop [mL]; in words. `nothing` where it is for the
    next batch, with the reason."""

    does: Does
    targets: tuple[Target, ...] = ()
    celsius: float | None = None
    portion_ml: float | None = None
    words: str


def rescue(fixed: Correction, g: Guide) -> Rescue:
    """What of a correction can be done to a batch in hand. What is not in its batter is added only where all its guests may have it, as far as the
    ingredient and its pack tell."""
    known = g.facts.ingredients
    rules = [g.facts.diets[k] for k in g.batch.diets if k in g.facts.diets]
    aside = frozenset(n for n, x in enumerate(g.plan.lines) if x.where != "batter")

    def may_add(id: str) -> bool:
        return all(judge_ingredient(known[id], rule, g.profile, (g.readings or {}).get(id))[0] == "fits" for rule in rules)

    return rescued(fixed, g.state, g.share_left, known, may_add, aside)


def rescued(
    fixed: Correction, state: State, share_left: float, known: Mapping[str, Ingredient], may_add: Callable[[str], bool],
    aside: frozenset[int] = frozenset(),
) -> Rescue:  # fmt: skip
    """A correction of the whole bowl, for the `share_left` of it [0 to 1] that is not cooked yet: of what it adds, as much as that share takes.
    What is not poured yet can also become less. Lines that lie `aside` are on the plate or in another dish."""
    if share_left <= EMPTY:
        return Rescue(does="nothing", words="The bowl is as good as empty.")
    if fixed.change == "heat" and fixed.to is not None and state.chosen is not None:
        return Rescue(does="heat", celsius=fixed.to, words=fixed.words)
    if fixed.change == "portion" and fixed.to is not None and state.chosen is not None and SCOOP_ML[0] <= fixed.to <= SCOOP_ML[1]:
        return Rescue(does="portion", portion_ml=fixed.to, words=fixed.words)
    if fixed.grams is None or fixed.ingredient is None:
        return Rescue(does="nothing", words="This bowl stays as it is.")
    moves = {i: g * share_left for i, g in {fixed.ingredient: fixed.grams, **fixed.also}.items() if abs(g) * share_left >= LEAST_G}
    targets: list[Target] = []
    for id, grams in moves.items():
        line = _line(state.lines, id, aside)
        if line is None:
            if grams < 0:
                return _stays(known[id])
            if not may_add(id):
                return Rescue(does="nothing", words=f"It is not known that these guests may have {known[id].short}.")
            targets.append(Target(line=len(state.lines) + sum(t.line >= len(state.lines) for t in targets), ingredient=id, grams=grams))
            continue
        if grams > 0 and line.none_left:
            return Rescue(does="nothing", words=f"There is no more {known[id].short}.")
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


def _line(lines: tuple[LineState, ...], ingredient: str, aside: frozenset[int]) -> LineState | None:
    """The line of the bowl that takes most of an ingredient."""
    return max((x for x in lines if x.ingredient == ingredient and x.at not in aside), key=lambda x: x.target, default=None)


def _stays(i: Ingredient) -> Rescue:
    return Rescue(does="nothing", words=f"What is in of the {i.short} cannot be taken out.")
