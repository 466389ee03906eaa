"""What stands on the label of what is kept."""

from collections.abc import Callable

from ..analysis.sides import SideDish
from ..diets.allergens import in_words
from .guide.guide import Guide


def labels(g: Guide, day: Callable[[float], str]) -> tuple[tuple[str, ...], ...]:
    """A label for everything that was kept of a batch, line by line; `day` writes a moment [s since 1970] as this kitchen does. An allergen is
    named whoever it is for, and nothing is called free of anything."""
    rows = {k.key: k for k in g.keeping}
    whole = (g.to_be.plate.contains, g.to_be.plate.may_contain)
    sides = {f"side_{n}": (x.contains, x.may_contain) for n, x in enumerate(_made_sides(g), 1)}
    found = []
    for kept in g.state.kept:
        row = rows.get(kept.what)
        if row is None:
            continue
        contains, may = (", ".join(map(in_words, tokens)) for tokens in sides.get(kept.what, whole))
        unit = "pieces" if row.of == "pieces" else "g"
        found.append((
            g.batch.name,
            f"Made {day(g.state.finished or g.now)} · use by {day(kept.until)}",
            f"Contains: {contains or 'none of the listed allergens that is known'}",
            *((f"May contain: {may}",) if may else ()),
            f"{kept.amount:.0f} {unit}, {row.label}. {row.back}",
            "Known from the recipe and the packs as read; traces from the kitchen are not excluded.",
            *((f"For {g.batch.whom}",) if g.batch.whom else ()),
        ))  # fmt: skip
    return tuple(found)


def _made_sides(g: Guide) -> list[SideDish]:
    """The dishes beside the batter that were made, in the order in which they are kept."""
    by_name = {x.name: x for x in g.planned.sides}
    return [by_name[x.name] for x in g.plan_process.sides]
