"""Sentences of a view in the kitchen's own degrees and figures. Only what the core has said is rewritten, never a cook's own words."""

from dataclasses import fields, is_dataclass, replace
from typing import Any, TypeVar

from mutabilis.core.measures.profile import Profile

V = TypeVar("V")
SAID = frozenset(
    {"text", "words", "heat_words", "care", "smoke", "smaller", "over", "why", "done_when", "back", "caution", "cautions", "signs", "late", "technique", "worse", "steps", "knob", "reason", "reasons", "fact", "measure", "ranged", "faults", "leftovers", "largest", "figures", "arms", "values"}
)  # fmt: skip
OWN = frozenset({"batter", "lines", "line", "kept"})  # what a cook wrote stands under these


def in_kitchen(view: V, profile: Profile) -> V:
    """A view, its sentences as this kitchen reads them."""
    if (profile.heat == "celsius" and profile.decimal == "point") or not is_dataclass(view):
        return view
    changed: dict[str, Any] = {}
    for f in fields(view):
        value = getattr(view, f.name)
        new = value if f.name in OWN and not is_dataclass(value) else _said(value, profile, f.name in SAID)
        if new is not value:
            changed[f.name] = new
    return replace(view, **changed) if changed else view  # type: ignore[type-var]


def _said(value: Any, profile: Profile, sentence: bool) -> Any:
    if isinstance(value, str):
        return profile.told(value) if sentence else value
    if isinstance(value, tuple):
        told = tuple(_said(x, profile, sentence) for x in value)
        return told if any(a is not b for a, b in zip(told, value, strict=True)) else value
    if isinstance(value, dict):
        new = {k: _said(v, profile, sentence) for k, v in value.items()}
        return new if any(new[k] is not v for k, v in value.items()) else value
    return in_kitchen(value, profile) if is_dataclass(value) else value
