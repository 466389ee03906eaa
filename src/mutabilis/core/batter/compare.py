"""Two batters beside each other: what changed, line by line, and in one line of words."""

from dataclasses import dataclass

from ..food.ingredients import KINDS
from .batter import Batter, BatterLine
from .facts import BatterFacts

SAME = 0.02  # a change under a fiftieth is none


@dataclass(frozen=True, slots=True, kw_only=True)
class Pair:
    """One row of a comparison: grams on either side [g], None where the thing is not there; the kind of work it does."""

    name: str
    kind: str
    left: float | None
    right: float | None
    changed: bool


def pairs(left: Batter, right: Batter, facts: BatterFacts) -> tuple[Pair, ...]:
    """Every ingredient of either side once, in the order of the left and then of the right."""
    a, b = _grams(left), _grams(right)
    found = []
    for key in dict.fromkeys((*a, *b)):
        x, y = a.get(key), b.get(key)
        found.append(
            Pair(
                name=_name(key, facts),
                kind=_kind(key, facts),
                left=x,
                right=y,
                changed=x is None or y is None or abs(x - y) > SAME * max(x, y),
            )
        )
    return tuple(found)


def changed(before: Batter, after: Batter, facts: BatterFacts, most: int = 3) -> str:
    """What changed, in one line: "whole egg → ground flaxseed; butter 35 → 28 g"; "nothing" where nothing did.

    Whole sizes are told as a size: a doubled batter is "2 times as much".
    """
    factor = _size(before, after)
    if factor is not None:
        told = [f"{factor:.3g} times as much"]
    else:
        found = pairs(before, after, facts)
        gone = [(p.kind, p.name) for p in found if p.right is None]
        new = [(p.kind, p.name) for p in found if p.left is None]
        told = _replaced(gone, new)
        told += [f"{p.name} {_g(p.left)} → {_g(p.right)} g" for p in found if p.changed and p.left is not None and p.right is not None]
    if before.form != after.form:
        told.insert(0, f"as a {facts.forms[after.form].label}")
    if before.rest_min != after.rest_min and after.rest_min is not None:
        told.append(f"rests {after.rest_min:.0f} min")
    if not told:
        return "nothing"
    more = f"; {len(told) - most} more" if len(told) > most else ""
    return "; ".join(told[:most]) + more


def _replaced(gone: list[tuple[str, str]], new: list[tuple[str, str]]) -> list[str]:
    """What went beside what came of the same kind: "butter → rapeseed oil"; what has no like is told by itself."""
    told: list[str] = []
    for kind in dict.fromkeys(k for k, _ in (*gone, *new)):
        out, into = ([name for k, name in side if k == kind] for side in (gone, new))
        if out and into:
            told.append(f"{' and '.join(out)} → {' and '.join(into)}")
        else:
            told += [f"without {name}" for name in out] + [f"with {name}" for name in into]
    return told


def _size(before: Batter, after: Batter) -> float | None:
    """The factor between two sizes of one batter; None where it is not one batter, or one size."""
    a, b = _grams(before), _grams(after)
    if set(a) != set(b) or not a or min(a.values()) <= 0:
        return None
    ratios = [b[k] / a[k] for k in a]
    factor = sum(b.values()) / sum(a.values())
    return factor if abs(factor - 1) > SAME and max(ratios) - min(ratios) <= 0.01 * factor else None


def _grams(batter: Batter) -> dict[str, float]:
    found: dict[str, float] = {}
    for line in batter.lines:
        key = _key(line)
        found[key] = found.get(key, 0.0) + line.grams
    return found


def _key(line: BatterLine) -> str:
    place = "plate " if line.where == "plate" else ""
    return f"{place}{line.ingredient}" if line.ingredient else line.quoted(60)


def _name(key: str, facts: BatterFacts) -> str:
    i = facts.ingredients.get(key.removeprefix("plate "))
    if i is None:
        return key
    return f"{i.short} (on the plate)" if key.startswith("plate ") else i.short


def _kind(key: str, facts: BatterFacts) -> str:
    i = facts.ingredients.get(key.removeprefix("plate "))
    if i is None:
        return "unread"
    return f"plate {i.group}" if key.startswith("plate ") else KINDS.get(i.group, i.group)


def _g(grams: float | None) -> str:
    grams = grams or 0.0
    return f"{grams:.0f}" if grams >= 10 else f"{grams:.1f}".removesuffix(".0")
