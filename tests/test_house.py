"""The house keeps its own rules: facts that agree, locks without addresses, a core that knows no clock."""

import ast
import json
import re
import subprocess
import sys
import tomllib
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
CORE = sorted((ROOT / "src/mutabilis/core").rglob("*.py"))


def test_the_facts_agree():
    done = subprocess.run([sys.executable, "scripts/check_facts.py"], cwd=ROOT, capture_output=True, text=True)
    assert done.returncode == 0, done.stdout


def test_the_table_is_wide_and_every_row_says_whence(facts):
    rows = list(facts.ingredients.values())
    assert len(rows) >= 220
    assert all(re.match(r"^[SIL]:.{3,}", r.source) and r.confidence for r in rows)
    assert all(re.match(r"^S:\d{5}", r.source) for r in rows if r.source.startswith("S:"))


def test_every_alias_leads_to_its_ingredient(facts):
    """Over a thousand names: each resolves to the thing it stands under, and no name stands under two."""
    table = tomllib.loads((ROOT / "src/mutabilis/data/names.toml").read_text(encoding="utf-8"))
    seen: dict[str, str] = {}
    wrong = []
    for ingredient, names in table["aliases"].items():
        for name in names:
            found = facts.names.resolve(name)
            if not found.parts or found.parts[0][0] != ingredient:
                wrong.append((name, ingredient, found.parts))
            assert seen.setdefault(name, ingredient) == ingredient, f"{name} stands under {seen[name]} and {ingredient}"
    assert not wrong and len(seen) > 900


@pytest.mark.parametrize(
    ("uk", "us"),
    [
        ("plain flour", "all-purpose flour"),
        ("wholemeal flour", "whole wheat flour"),
        ("cornflour", "cornstarch"),
        ("bicarbonate of soda", "baking soda"),
        ("icing sugar", "powdered sugar"),
        ("caster sugar", "superfine sugar"),
        ("courgette", "zucchini"),
        ("aubergine", "eggplant"),
        ("rapeseed oil", "canola oil"),
        ("strong flour", "bread flour"),
        ("treacle", "molasses"),
        ("semi-skimmed milk", "2 % milk"),
        ("soya milk", "soy milk"),
        ("gram flour", "chickpea flour"),
        ("linseed", "flaxseed ground"),
        ("spring onion", "scallion"),
        ("desiccated coconut", "shredded coconut"),
        ("yoghurt", "yogurt"),
        ("oat fibre", "oat fiber"),
    ],
)
def test_both_sides_of_the_ocean_mean_the_same(uk, us, facts):
    assert facts.names.resolve(uk).parts and facts.names.resolve(uk).parts == facts.names.resolve(us).parts


def test_the_core_knows_no_clock_no_chance_and_no_files():
    forbidden = {"time", "datetime", "random", "secrets", "pathlib", "socket", "sqlite3", "urllib", "fastapi", "uvicorn"}
    for path in CORE:
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            names = (
                [a.name for a in node.names]
                if isinstance(node, ast.Import)
                else [node.module or ""]
                if isinstance(node, ast.ImportFrom)
                else []
            )
            assert not {n.split(".")[0] for n in names} & forbidden, path
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
                assert node.func.id != "open", path


def test_every_public_thing_in_the_core_says_what_it_is():
    bare = []
    for path in CORE:
        tree = ast.parse(path.read_text(encoding="utf-8"))
        if path.name != "__init__.py" and not ast.get_docstring(tree):
            bare.append(path.name)
        holders = [tree, *(n for n in tree.body if isinstance(n, ast.ClassDef) and not n.name.startswith("_"))]
        for node in (n for holder in holders for n in holder.body):
            if isinstance(node, (ast.FunctionDef, ast.ClassDef)) and not node.name.startswith("_") and not ast.get_docstring(node):
                bare.append(f"{path.name}: {node.name}")
    assert not bare


def test_examples_in_docstrings_hold():
    done = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", "--doctest-modules", "src/mutabilis/core", "-o", "addopts="],
        cwd=ROOT,
        capture_output=True,
        text=True,
    )
    assert done.returncode == 0, done.stdout[-1500:]
    assert int(re.search(r"(\d+) passed", done.stdout)[1]) >= 10


def test_locks_hold_hashes_and_no_address():
    npm = json.loads((ROOT / "web/package-lock.json").read_text())
    packages = {k: v for k, v in npm["packages"].items() if k and not v.get("link")}
    assert packages and all("resolved" not in v and (v.get("integrity") or v.get("inBundle")) for v in packages.values())
    python = (ROOT / "requirements.lock").read_text()
    assert "--hash=sha256:" in python and not re.search(r"https?://|--index-url|--find-links", python)


def test_pictures_are_few_and_linked():
    pictures = sorted(p.name for p in (ROOT / "docs/screenshots").glob("*.png"))
    readme = (ROOT / "README.md").read_text(encoding="utf-8")
    assert 0 < len(pictures) < 20 and all(f"docs/screenshots/{p}" in readme for p in pictures)
    assert "make demo" in readme and "make test" in readme


def test_nothing_is_fetched_from_outside():
    page = (ROOT / "web/index.html").read_text() + "".join(p.read_text() for p in (ROOT / "web/src").rglob("*.css"))
    assert not re.search(r"https?://|//cdn", page)


def test_the_picture_of_the_house_is_current():
    """Rooms and arrows are those of the code, whatever the lines now count: where it differs, run `python -m scripts.house`."""
    from scripts.house import PICTURE, draw, layers

    bare = lambda text: re.sub(r"[\d.]+", "", text)  # noqa: E731
    assert bare(PICTURE.read_text(encoding="utf-8")) == bare(draw())
    rooms = {f"core.{p.stem}" for p in (ROOT / "src/mutabilis/core").iterdir() if p.name not in ("__init__.py", "__pycache__")}
    assert {r for row in layers() for r in row if r.startswith("core.")} == rooms


WALLS = {"kit": {"kit", "pure", "api"}, "pure": {"pure"}, "api": {"api", "pure"}, "app": {"app", "kit", "pure", "api"}}


def test_the_front_end_keeps_its_walls():
    """Places never import places, kit never imports places or the app, and what works without a screen imports nothing but itself and types."""
    web = ROOT / "web/src"
    wrong = []
    for path in [*web.rglob("*.ts"), *web.rglob("*.tsx")]:
        room, *rest = path.relative_to(web).parts
        if room in ("main.tsx", "app.css"):
            continue
        for kind, spec in re.findall(r'import (type )?[^;]*?from "(\.[^"]+)"', path.read_text(encoding="utf-8")):
            target, *inner = (path.parent / spec).resolve().relative_to(web.resolve()).parts
            if room == "places":
                fine = target in ("app", "kit", "pure", "api") or (target == "places" and inner[0] == rest[0])
            else:
                fine = target in WALLS[room] or (room == "pure" and kind)
            if not fine:
                wrong.append(f"{path.relative_to(web)} → {spec}")
    assert not wrong
