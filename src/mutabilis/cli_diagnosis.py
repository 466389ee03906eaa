"""A batch that came out wrong, told from a terminal: what happened as JSON in, causes and one correction each out."""

import json
from argparse import Namespace
from collections.abc import Callable, Mapping
from dataclasses import asdict
from typing import Any

from mutabilis.core.diagnosis.diagnose import Diagnosis, diagnose
from mutabilis.core.diagnosis.record import Record
from mutabilis.core.errors import CannotBe


def run(args: Namespace, told: Any, fail: Callable[[str], Exception]) -> int:
    """0 with a diagnosis, also a thin one; 2 with one line for what cannot be read."""
    from mutabilis.core.measures.profile import Profile
    from mutabilis.data import load_diagnosis, load_facts

    facts = load_facts()
    try:
        found = diagnose(_record(told), facts, Profile(), load_diagnosis())
    except CannotBe as error:
        raise fail(str(error)) from None
    if args.json:
        print(json.dumps(as_json(found), ensure_ascii=False, indent=1))
    else:
        _print(found)
    return 0


def _record(told: Any) -> Record:
    """The record, its lines read; CannotBe names the first thing that cannot be used."""
    from pydantic import ValidationError

    from mutabilis.core.batter.batter import Batter
    from mutabilis.core.measures.profile import Profile
    from mutabilis.core.reading.reading import read_lines
    from mutabilis.data import load_facts

    if not isinstance(told, Mapping):
        raise CannotBe("a batch is one JSON object with form, lines and faults")
    facts = load_facts()
    form = told.get("form", "griddle")
    if form not in facts.forms:
        raise CannotBe(f"“{str(form)[:40]}” is no form")

    def batter(key: str) -> Batter | None:
        lines = told.get(key)
        if lines is None:
            return None
        if not isinstance(lines, list) or not lines or not all(isinstance(x, str) for x in lines) or len(lines) > 200:
            raise CannotBe(f"{key}: a list of one to 200 lines of text")
        found = read_lines("\n".join(" ".join(x.split()) for x in lines), facts, Profile())
        for line in found:
            if line.unresolved:
                raise CannotBe(f"{key}: {line.quoted(60)} cannot be read: {line.problem or 'not an ingredient that is known'}")
        return Batter(lines=found, form=form, rest_min=told.get("rest_min"))

    made = batter("lines")
    if made is None:
        raise CannotBe("lines: is missing")
    if not told.get("faults"):
        raise CannotBe("faults: name at least one")
    rest = {k: v for k, v in told.items() if k not in ("form", "lines", "reference", "rest_min")}
    try:
        return Record.model_validate({**rest, "batter": made, "reference": batter("reference")})
    except ValidationError as error:
        first = error.errors()[0]
        text = str(first["msg"]).removeprefix("Input ").removeprefix("Value error, ")
        raise CannotBe(f"{' '.join(str(x) for x in first['loc'])}: {text[:1].lower()}{text[1:]}") from None


def as_json(found: Diagnosis) -> dict[str, Any]:
    """A diagnosis under stable keys."""
    made = asdict(found)
    for cause in made["causes"]:
        fixed = cause["correction"]
        cause["correction"] = {k: (list(v) if isinstance(v, tuple) else v) for k, v in fixed.items()}
    return made


def _print(found: Diagnosis) -> None:
    if found.thin:
        print("The evidence is thin.")
    for s in found.causes:
        print(f"{100 * s.p:3.0f} %  {s.name}. {s.correction.words}")
        for e in s.evidence[:3]:
            print(f"       {'+' if e.weight > 0 else '−'} {e.text}")
    print(f"{100 * found.none_of_these:3.0f} %  none of these")
    if found.question:
        print(f"? {found.question.text} ({', '.join(found.question.answers)})")
