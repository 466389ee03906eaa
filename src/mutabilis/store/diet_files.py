"""A kitchen's own diets as rule files in its folder: read, written whole, and put away rather than deleted."""

import contextlib
import json
import os
import threading
from dataclasses import replace
from pathlib import Path

from mutabilis.core.diets.rules import Clause, DietRule, check_rule, read_rule
from mutabilis.core.errors import CannotBe, NotKnown
from mutabilis.core.facts import AllFacts
from mutabilis.data import read_rules

from .own_files import text_of


class OwnDiets:
    """The rule files of a folder, beside the shipped diets, which they can never replace. `revision` counts what was written."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._lock = threading.Lock()
        self._paths: dict[str, Path] = {}
        self.revision = 0

    def over(self, facts: AllFacts) -> AllFacts:
        """The facts with the kitchen's own diets beside the shipped ones; files with a mistake are named in `faults`."""
        paths = {}
        for path in sorted(self._folder.glob("*.toml")) if self._folder.is_dir() else ():
            with contextlib.suppress(ValueError, OSError):  # a file that cannot be read is a fault, which with_rules names
                paths[read_rule(text_of(path), path.name).key] = path
        both = with_rules(facts, self._folder)
        self._paths = {key: path for key, path in paths.items() if key in both.diets and key not in facts.diets}
        return both

    def is_own(self, key: str) -> bool:
        """Whether a diet is the kitchen's own."""
        return key in self._paths

    def put(self, rule: DietRule, facts: AllFacts) -> None:
        """Save a diet as its file. ValueError where it takes another diet's name, names what is not there, or denies nothing."""
        if rule.key in facts.diets and not self.is_own(rule.key):
            raise CannotBe(f"“{rule.label}” is a shipped diet; give yours another name")
        if any(d.label.casefold() == rule.label.casefold() and d.key != rule.key for d in facts.diets.values()):
            raise CannotBe(f"there is a diet “{rule.label}” already; two of one name would be taken for each other")
        if not rule.deny and not rule.allow and not rule.limits:
            raise CannotBe("a diet that neither allows, denies nor limits anything would fit everything")
        text = written(rule)
        try:
            check_rule(rule, text, rule.key, facts.ingredients)
        except ValueError as error:
            raise CannotBe(str(error)) from error
        if read_rule(text, rule.key) != rule:
            raise CannotBe("this diet cannot be written down as it is")
        with self._lock:
            self._folder.mkdir(parents=True, exist_ok=True)
            path = self._paths.get(rule.key, self._folder / f"{rule.key}.toml")
            fresh = path.with_suffix(".new")
            with fresh.open("w", encoding="utf-8") as file:
                file.write(text)
                file.flush()
                os.fsync(file.fileno())
            fresh.replace(path)
            self.revision += 1

    def archive(self, key: str, facts: AllFacts) -> DietRule:
        """Put a diet away: its file stays, under another ending. NotKnown where it is not the kitchen's own."""
        with self._lock:
            if key not in self._paths:
                raise NotKnown(key)
            path = self._paths[key]
            path.replace(path.with_suffix(".toml.away"))
            self.revision += 1
        return facts.diets[key]

    def remove(self, key: str) -> None:
        """Take away the file of a diet that came in with a file which was then refused; NotKnown where there is none."""
        with self._lock:
            path = self._paths.get(key, self._folder / f"{key}.toml")
            if not path.is_file():
                raise NotKnown(key)
            path.unlink()
            self.revision += 1


def with_rules(facts: AllFacts, folder: Path) -> AllFacts:
    """The facts with a kitchen's own diets beside the shipped ones; a file with a mistake is named in `faults`, and a shipped
    diet is never replaced by an own file of the same key."""
    if not folder.is_dir():
        return facts
    own, faults = read_rules(folder, facts.ingredients, text_of)
    taken = [f"{rule.key}: a shipped diet has this key; give yours another" for key, rule in own.items() if key in facts.diets]
    fresh = facts.with_own((), (rule for key, rule in own.items() if key not in facts.diets))
    return replace(fresh, faults=(*facts.faults, *faults, *taken))


def written(rule: DietRule) -> str:
    """A rule as its file, TOML."""
    out = [f"key = {_text(rule.key)}", f"label = {_text(rule.label)}", f"order = {rule.order}", f"traces = {_text(rule.traces)}"]
    if rule.caution:
        out.append(f"caution = {_text(rule.caution)}")
    if rule.allow:
        out.append(f"allow = [{', '.join(map(_text, rule.allow))}]")
    for clause in rule.deny:
        out += ["", "[[deny]]", *_clause(clause)]
    for limit in rule.limits:
        out += ["", "[[limits]]", f"nutrient = {_text(limit.nutrient)}", f"most = {limit.most!r}", f"reason = {_text(limit.reason)}"]
    return "\n".join(out) + "\n"


def _clause(clause: Clause) -> list[str]:
    out = []
    for name, value in clause.model_dump(exclude_defaults=True).items():
        if isinstance(value, (list, tuple)):
            out.append(f"{name} = [{', '.join(_text(str(v)) for v in value)}]")
        elif isinstance(value, dict):
            inner = ", ".join(f"{k} = {str(v).lower() if isinstance(v, bool) else _text(v)}" for k, v in value.items())
            out.append(f"{name} = {{ {inner} }}")
        else:
            out.append(f"{name} = {str(value).lower() if isinstance(value, bool) else _text(str(value))}")
    return out


def _text(text: str) -> str:
    """A TOML basic string: JSON's escapes are a part of TOML's, save that a DEL must be escaped too."""
    return json.dumps(text, ensure_ascii=False).replace("\x7f", "\\u007f")
