"""What a finished batch is remembered by in lists and over time: its faults, the packs that went into it, what of it is kept, and its figures.
Reckoned once, when it is over."""

from collections.abc import Mapping

from pydantic import BaseModel, ConfigDict

from ..measures.profile import Profile
from ..stove.batch import Batch
from ..stove.events import Kept
from ..stove.facts import StoveFacts
from ..stove.fold import fold
from .entry import entry
from .predicted import Predicted
from .shelf import flour_of, held_and_asked
from .trends import FOLLOWED, value_of


class Packed(BaseModel):
    """An ingredient that went into a batch and the pack it was out of; "" where nobody named one. An ingredient out of two packs stands twice."""

    model_config = ConfigDict(frozen=True, extra="ignore", defer_build=True)

    ingredient: str
    pack: str = ""


class Summary(BaseModel):
    """What a batch comes to beside its pieces: `figures` by their keys (those that are followed; `held_g` and `asked_g` of the liquid), the
    surface it was cooked on, and the flour there was most of."""

    model_config = ConfigDict(frozen=True, extra="ignore", defer_build=True)

    faults: tuple[str, ...] = ()
    packs: tuple[Packed, ...] = ()
    kept: tuple[Kept, ...] = ()
    figures: Mapping[str, float] = {}
    surface: str = ""
    flour: str = ""

    def pack_of(self, ingredient: str) -> str:
        """The pack of an ingredient that was named last; "" where none was."""
        return next((p.pack for p in reversed(self.packs) if p.ingredient == ingredient and p.pack), "")


def summary(batch: Batch, facts: StoveFacts, profile: Profile, frozen: Predicted | None = None) -> Summary:
    """A batch by its events and by what was reckoned of it at its start."""
    s = fold(batch.plan, batch.events)
    e = entry(batch, facts, profile, frozen)
    figures = {key: v for key, _, _ in FOLLOWED if (v := value_of(key, batch, e, facts.ingredients)) is not None}
    cup = held_and_asked(batch, frozen, facts.ingredients)
    if cup is not None:
        figures |= {"held_g": cup[0], "asked_g": cup[1], "held": 100 * cup[1] / cup[0]}
    if frozen is not None and frozen.cost is not None and s.made > 0:
        figures["cost"] = frozen.cost / s.made
    return Summary(
        faults=s.faults, packs=packs_of(batch), kept=s.kept, figures={k: round(v, 3) for k, v in figures.items()},
        surface=s.chosen.surface.name if s.chosen else "", flour=flour_of(batch, facts.ingredients),
    )  # fmt: skip


def packs_of(batch: Batch) -> tuple[Packed, ...]:
    """Every ingredient that was poured into a batch, greased its surface or was laid on its pieces, with its packs. A pour that was taken back
    counts as well: for a trace, what may have gone in did."""
    named = {n: x.ingredient or "" for n, x in enumerate(batch.plan.lines)}
    for e in batch.events:
        if e.kind == "retargeted":
            named |= {x.line: x.ingredient for x in e.targets if x.line not in named}  # what was added has a line of its own
    found: dict[tuple[str, str], None] = {}
    for e in batch.events:
        if e.kind == "poured" and e.grams > 0:
            found[named.get(e.line, ""), e.pack or ""] = None
        elif e.kind == "surface_chosen" and e.fat:
            found[e.fat, e.pack or ""] = None
    for line in batch.plan.lines:
        if line.where == "plate" and line.ingredient:
            found[line.ingredient, ""] = None  # laid on at the table: of which pack, nobody wrote down
    return tuple(Packed(ingredient=i, pack=p) for i, p in found if i)
