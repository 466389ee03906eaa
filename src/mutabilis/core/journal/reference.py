"""What a batch is measured by, and what of its correction goes into the next one."""

from collections.abc import Mapping, Sequence

from ..batter.batter import Batter, BatterLine
from ..book.versions import PROVEN, Version
from ..diagnosis.corrections import Correction
from ..food.ingredients import Ingredient
from ..stove.batch import Batch
from ..stove.fold import fold


def reference_of(batch: Batch, versions: Sequence[Version], good: Mapping[str, int]) -> tuple[Batter, str, bool]:
    """The last version that was proven before the batch (good twice and more, counted in `good` by version), else the parent of its own, else
    its own plan as it was written; in words, and whether it is proven. Its size does not matter, since every figure is a ratio."""

    chosen, words, proven = choose(batch.version_id, versions, good)
    return in_the_size_of(batch, chosen.batter if chosen else None), words, proven


def choose(version_id: str, versions: Sequence[Version], good: Mapping[str, int]) -> tuple[Version | None, str, bool]:
    """Which version a batch of `version_id` is measured by, in words, and whether it is proven; None: its own plan."""
    proven = next((v for v in reversed(versions) if good.get(v.id, 0) >= PROVEN), None)
    if proven is not None:
        return proven, f"version {proven.number}, which is proven", True
    own = next((v for v in versions if v.id == version_id), None)
    parent = next((v for v in versions if own is not None and v.id == own.parent), None)
    return (parent, f"version {parent.number}, which it came from", False) if parent is not None else (None, "its own plan", False)


def in_the_size_of(batch: Batch, batter: Batter | None) -> Batter:
    """A version as a measure of a batch: in its form, at its rest, mixed as it was; its own plan where there is none."""
    if batter is None:
        return batch.plan
    return batter.model_copy(update={"form": batch.plan.form, "rest_min": batch.plan.rest_min, "blender": batch.plan.blender})


def corrected(was: Batter, batch: Batch, fixed: Correction, known: Mapping[str, Ingredient]) -> Batter:
    """The version with one correction in it: what the correction moves is set to what was poured and so much more or less, brought back to the
    size of the version; every other line stays as it is."""
    moved = dict(fixed.also) | ({fixed.ingredient: fixed.grams} if fixed.ingredient is not None and fixed.grams is not None else {})
    poured: dict[str, float] = {}
    for x in fold(batch.plan, batch.events).lines:
        poured[x.ingredient] = poured.get(x.ingredient, 0.0) + (x.poured or x.planned)
    factor = sum(x.grams for x in was.lines if x.counts) / (sum(x.grams for x in batch.plan.lines if x.counts) or 1.0)
    wanted = {i: round(max(0.0, poured.get(i, 0.0) + g) * factor, 1) for i, g in moved.items()}
    lines: list[BatterLine] = []
    for line in was.lines:
        grams = wanted.pop(line.ingredient, None) if line.counts and line.ingredient else None
        lines.append(line if grams is None else line.model_copy(update={"grams": grams, "low": grams, "high": grams}))
    lines += [BatterLine(text=f"{g:g} g {known[i].short}", ingredient=i, grams=g, low=g, high=g) for i, g in wanted.items() if g > 0]
    return was.model_copy(update={"lines": tuple(lines)})
