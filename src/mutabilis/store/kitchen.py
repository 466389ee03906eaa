"""A kitchen's own files beside the shipped facts: its diets, its packs' labels, what was read on them, and its settings.

    diets/*.toml    own diets, as the shipped ones are written
    labels/*.toml   own ingredients, one label a file
    packs.toml      [in_use] ingredient = "pack"; [[reading]] who looked, when, which pack, what it said
    profile.toml    cups, spoons, eggs and the schools this kitchen follows

A file with a mistake is left out and named; the rest still works.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, TypeVar

from pydantic import ValidationError

from mutabilis.core.adapt.own_packs import usages_for
from mutabilis.core.diets.packs import PackReading, as_written, standing
from mutabilis.core.facts import AllFacts
from mutabilis.core.food.pack_labels import Label, infer
from mutabilis.core.measures.profile import Profile
from mutabilis.data import load_facts

from .diet_files import with_rules
from .own_files import toml_of

T = TypeVar("T")


@dataclass(frozen=True, slots=True, kw_only=True)
class Kitchen:
    """The facts with the kitchen's own beside them, its profile, and the pack readings that stand."""

    facts: AllFacts
    profile: Profile = field(default_factory=Profile)
    readings: dict[str, PackReading] = field(default_factory=dict)


def load_kitchen(folder: Path | None, diets: bool = True) -> Kitchen:
    """The shipped facts with what the folder adds; a folder that is not there adds nothing. `diets` False leaves its diets to whoever
    keeps them up to date."""
    facts = load_facts()
    if folder is None or not folder.is_dir():
        return Kitchen(facts=facts)
    faults: list[str] = []
    labels = [label for path in sorted(folder.glob("labels/*.toml")) if (label := _read(path, Label.model_validate, faults)) is not None]
    own, usages = [], []
    for label in labels:
        if label.id in facts.ingredients:
            faults.append(f"{label.id}: a shipped ingredient has this id; give yours another")
        else:
            own.append(infer(label)[0])
            usages += usages_for(label, facts.craft)
    facts = facts.with_own(own, (), usages)
    facts = with_rules(facts, folder / "diets") if diets else facts
    profile = (_read(folder / "profile.toml", Profile.model_validate, faults) if (folder / "profile.toml").is_file() else None) or Profile()
    packs = _read(folder / "packs.toml", _packs, faults) if (folder / "packs.toml").is_file() else None
    readings = {k: r for k, r in (packs or {}).items() if k in facts.ingredients}
    faults += [f"packs.toml: no ingredient “{k}”" for k in (packs or {}) if k not in facts.ingredients]
    return Kitchen(facts=facts.with_faults(faults), profile=profile, readings=readings)


def _packs(table: dict[str, Any]) -> dict[str, PackReading]:
    in_use = {str(k): str(v) for k, v in table.get("in_use", {}).items()}
    return standing((PackReading.model_validate(as_written(row)) for row in table.get("reading", [])), in_use)


def _read(path: Path, into: Callable[[dict[str, Any]], T], faults: list[str]) -> T | None:
    try:
        return into(toml_of(path))
    except ValidationError as error:
        first = error.errors()[0]
        faults.append(f"{path.name}: {'.'.join(str(p) for p in first['loc'])}: {first['msg']}")
    except (ValueError, OSError, AttributeError, TypeError) as error:
        faults.append(str(error) if str(error).startswith(path.name) else f"{path.name}: {error}")
    return None
