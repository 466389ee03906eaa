"""Sentences of a view in the kitchen's own degrees. Only what the core has said is rewritten, never a cook's own words."""

from dataclasses import fields, is_dataclass, replace
from typing import Any, TypeVar

from mutabilis.core.measures.degrees import HeatScale, told

V = TypeVar("V")
SAID = frozenset(
    {"text", "words", "heat_words", "care", "smoke", "smaller", "over", "why", "done_when", "back", "caution", "cautions", "signs", "late", "technique", "worse", "steps", "knob"}
)  # fmt: skip
OWN = frozenset({"batter", "lines", "line", "kept"})  # what a cook wrote stands under these


def in_degrees(view: V, scale: HeatScale) -> V:
    """A view, its sentences in the kitchen's scale."""
    if scale == "celsius" or not is_dataclass(view):
        return view
    changed: dict[str, Any] = {}
    for f in fields(view):
        value = getattr(view, f.name)
        new = value if f.name in OWN and not is_dataclass(value) else _said(value, scale, f.name in SAID)
        if new is not value:
            changed[f.name] = new
    return replace(view, **changed) if changed else view  # type: ignore[type-var]


def _said(value: Any, scale: HeatScale, sentence: bool) -> Any:
    if isinstance(value, str):
        return told(value, scale) if sentence and "°C" in value else value
    if isinstance(value, tuple):
        new = tuple(_said(x, scale, sentence) for x in value)
        return new if any(a is not b for a, b in zip(new, value, strict=True)) else value
    return in_degrees(value, scale) if is_dataclass(value) else value
