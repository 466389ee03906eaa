"""A service planned from a terminal: wishes as JSON in, a plan out, or a plan checked."""

import json
import sys
import time
from argparse import Namespace
from collections.abc import Callable
from pathlib import Path
from typing import Any

from mutabilis.core.errors import CannotBe
from mutabilis.core.service.hours import spoken
from mutabilis.core.service.plan import Plan
from mutabilis.core.service.wishes import Service


def run(args: Namespace, told_of: Callable[[str], Any], fail: Callable[[str], Exception]) -> int:
    """0 for a plan, 1 for one with conflicts or for faults found by a check, 2 for wishes that cannot be planned."""
    from pydantic import ValidationError

    from mutabilis.core.service.check import faults
    from mutabilis.core.service.inputs import read_service
    from mutabilis.data import load_service

    rules = load_service()
    try:
        service = read_service(_with_moments(told_of(args.file), args.database), rules)
        if args.check is None:
            return _print(_planned(service, args), args.json)
        try:
            plan = Plan.model_validate(told_of(args.check))
        except ValidationError as error:
            first = error.errors()[0]
            raise CannotBe(f"{args.check}: {' '.join(str(x) for x in first['loc'])}: {first['msg']}") from None
    except CannotBe as error:
        if args.json:
            print(json.dumps(Plan(status="bad_input", error=str(error)).told(), ensure_ascii=False, indent=1))
        raise fail(str(error)) from None
    found = faults(service, plan, rules)
    if args.json:
        print(json.dumps({"faults": list(found)}, ensure_ascii=False, indent=1))
    else:
        print("\n".join(found) if found else "This plan keeps every rule.")
    return 1 if found else 0


def _planned(service: Service, args: Namespace) -> Plan:
    from mutabilis.core.service.planning import last, plans
    from mutabilis.core.service.solve import Effort, ready, workers_for
    from mutabilis.data import load_service

    ready()  # loading the solver takes longer than a small plan; the seconds count from when it is there
    end = time.monotonic() + args.seconds
    return last(plans(service, load_service(), Effort(left=lambda: end - time.monotonic(), workers=workers_for(service))))


def _with_moments(told: Any, book: Path | None) -> Any:
    """The wishes with the moments of every batter that gives its lines, or a version of a book, in place of them."""
    rows = told.get("batters") if isinstance(told, dict) else None
    if not isinstance(rows, list) or not any(isinstance(r, dict) and ("lines" in r or "version" in r) for r in rows):
        return told
    from mutabilis.core.analysis.analysis import analyse
    from mutabilis.core.batter.batter import Batter
    from mutabilis.core.heat.pieces import surfaces_for
    from mutabilis.core.measures.profile import Profile
    from mutabilis.core.process.process import process
    from mutabilis.core.reading.reading import read_lines
    from mutabilis.core.service.moments import offer_of
    from mutabilis.data import load_facts, load_service

    facts, found = load_facts(), []
    for r in rows:
        if isinstance(r, dict) and "version" in r:
            found.append(_of_version(r, book))
            continue
        if not (isinstance(r, dict) and isinstance(r.get("lines"), list) and all(isinstance(x, str) for x in r["lines"])):
            found.append(r)
            continue
        id, form = str(r.get("id", "")), r.get("form", "griddle")
        if form not in facts.forms:
            raise CannotBe(f"batters {id}: “{form}” is no form")
        batter = Batter(lines=read_lines("\n".join(r["lines"]), facts, Profile()), form=form)
        a = analyse(batter, facts, Profile())
        surface = next(iter(surfaces_for(form, facts.surfaces, batter.tray)), None)
        if surface is None:
            raise CannotBe(f"batters {id}: there is no surface for {form}")
        offer = offer_of(id, str(r.get("name", "")) or id, a, process(a, facts), surface, facts, load_service())
        given = {k: v for k, v in r.items() if k != "lines"}
        found.append({**offer.model_dump(), **given})
    return {**told, "batters": found}


def _of_version(r: dict[str, Any], book: Path | None) -> dict[str, Any]:
    """A batter that is named by its version: as the kitchen of that book makes it, with what was read of its packs."""
    from mutabilis.api.context import Context
    from mutabilis.core.errors import NotKnown
    from mutabilis.data import load_facts
    from mutabilis.store.database import Database, StoreError

    id = str(r.get("id", ""))
    if book is None or not book.is_file():
        raise CannotBe(f"batters {id}: a version is read from a book; name it with --database")
    try:
        here = Context(load_facts(), Database(book))
        version = here.book.version(str(r["version"]))
    except NotKnown:
        raise CannotBe(f"batters {id}: there is no version “{str(r['version'])[:40]}” in {book}") from None
    except StoreError as error:
        raise CannotBe(str(error)) from None
    offer = here.morning_kitchen.offer(version)
    if offer is None:
        raise CannotBe(f"batters {id}: {version.name} cannot be made as it stands")
    return {**offer.model_dump(), **{k: v for k, v in r.items() if k != "version"}}


def _print(plan: Plan, as_json: bool) -> int:
    if as_json:
        print(json.dumps(plan.told(), ensure_ascii=False, indent=1))
    else:
        rows = [(t.at, t.who, f"{t.do} {t.of}") for t in plan.tasks] + [(p.served, "", f"serve table {p.table}") for p in plan.plates]
        for at, who, what in sorted(rows):
            sys.stdout.write(f"{spoken(at):>8}  {who:<10} {what}\n")
        for c in plan.conflicts:
            sys.stdout.write(f"! {c.words}\n")
    return 0 if plan.status == "ok" else 1
