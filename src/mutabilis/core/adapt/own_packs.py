"""How a kitchen's own pack is used as a swap."""

from ..food.pack_labels import Kind, Label
from .craft import Craft, Usage

# What a pack of a kind is used like, where it stands in for something: the shipped ingredient nearest to it in craft.
_LIKE: dict[Kind, tuple[str, ...]] = {
    "flour": ("sorghum_flour_gf", "almond_flour"), "drink": ("oat_drink", "soy_drink"), "spread": ("plant_butter", "plant_spread"),
    "powder": ("pea_protein", "soy_protein_isolate"),
}  # fmt: skip


def usages_for(label: Label, craft: Craft) -> list[Usage]:
    """How an own pack is used as a swap: as the shipped ingredients of its kind are, and nothing odd about it, since it is at hand."""
    found: dict[str, Usage] = {}
    for like in _LIKE[label.kind]:
        for usage in craft.usages:
            if usage.ingredient == like:
                old = found.get(usage.role)
                replaces = {**usage.replaces, **(old.replaces if old else {})}
                found[usage.role] = usage.model_copy(
                    update={"ingredient": label.id, "oddness": 0.0, "replaces": replaces, "why": "own pack"}
                )
    return list(found.values())
