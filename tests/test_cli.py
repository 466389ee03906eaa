"""The command line as a script uses it: real processes, stable keys, plain errors."""

import json
import subprocess
import sys

import pytest

from tests.conftest import RIDGE

LEDGER_KEYS = {
    "lines", "unresolved", "batter_g", "water", "lift", "set", "sweetness_g", "fat_g", "sodium_mg", "browning", "nutrition", "diets", "allergens", "warnings",
}  # fmt: skip
INSIDE = {
    "water": {
        "total_g",
        "bound_g",
        "hydration_pct",
        "solids_fraction",
        "yield_stress_pa",
        "spread_cm",
        "class",
        "missing_g",
    },
    "lift": {
        "co2_ml",
        "co2_ml_per_100g",
        "residual_alkali_meq_per_100g",
        "excess_acid_meq_per_100g",
        "air_ml",
        "verdict",
    },
    "set": {"egg_equivalents", "per_100g", "egg_share", "verdict"},
    "nutrition": {
        "kcal",
        "protein_g",
        "fat_g",
        "sat_fat_g",
        "carb_g",
        "fibre_g",
        "sugars_g",
        "polyols_g",
        "net_carb_g",
    },
    "diets": {"vegan", "vegetarian", "egg_free", "dairy_free", "gluten_free", "nut_free", "low_carb"},
    "allergens": {"contains", "may_contain"},
}


def run(*args, stdin=""):
    return subprocess.run(
        [sys.executable, "-m", "mutabilis.cli", *args], input=stdin, capture_output=True, text=True, timeout=60
    )


def check_ledger(ledger):
    assert set(ledger) >= LEDGER_KEYS
    for key, wanted in INSIDE.items():
        assert set(ledger[key]) >= wanted, key
    for line in ledger["lines"]:
        assert set(line) >= {"text", "ingredient", "name", "grams", "grams_low", "grams_high", "confidence", "note"}
    for judged in ledger["diets"].values():
        assert judged["verdict"] in ("fits", "conflicts", "cannot_vouch")
        assert all(set(r) >= {"line", "reason"} for r in judged["reasons"])


def test_ledger(tmp_path):
    path = tmp_path / "ridge.txt"
    path.write_text(f"# the night cakes\n\n{RIDGE}\n1 cup moon dust\n", encoding="utf-8")
    done = run("ledger", str(path), "--form", "griddle", "--rest", "5", "--json")
    ledger = json.loads(done.stdout)
    assert done.returncode == 0
    check_ledger(ledger)
    assert ledger["unresolved"] == ["1 cup moon dust"]
    assert ledger["diets"]["nut_free"]["verdict"] == "cannot_vouch"
    assert ledger["batter_g"] == pytest.approx(760)


def test_adapt():
    done = run("adapt", "-", "--diet", "vegan", "--diet", "gluten-free", "--alternatives", "2", "--json", stdin=RIDGE)
    found = json.loads(done.stdout)
    assert done.returncode == 0 and found["infeasible"] is None and len(found["alternatives"]) == 2
    check_ledger(found["base"])
    for answer in found["alternatives"]:
        check_ledger(answer["ledger"])
        assert (
            answer["ledger"]["diets"]["vegan"]["verdict"]
            == answer["ledger"]["diets"]["gluten_free"]["verdict"]
            == "fits"
        )
        assert all(set(x) >= {"ingredient", "name", "grams", "measure"} for x in answer["lines"])
        assert all(set(c) == {"from", "to", "reason"} for c in answer["changes"])
        assert answer["cautions"] and 0 < answer["score"] <= 1


def test_infeasible_has_reasons_and_the_nearest():
    found = json.loads(
        run(
            "adapt",
            "-",
            "--diet",
            "egg_free",
            "--json",
            stdin="60 g coconut flour\n5 eggs\n200 ml coconut drink\n1 tsp baking powder\n",
        ).stdout
    )
    assert found["alternatives"] == [] and found["infeasible"]["reasons"] and found["infeasible"]["nearest"]["lines"]


def test_a_readable_table_without_json():
    ledger, adapted = (
        run("ledger", "-", stdin=RIDGE).stdout,
        run("adapt", "-", "--diet", "vegan", "--max-net-carb", "60", "--servings", "5", stdin=RIDGE).stdout,
    )
    assert "Flow" in ledger and "CONFLICTS" in ledger and "760 g" in ledger
    assert "→" in adapted and "soda" not in ledger.lower().split("warn")[0][:50]


@pytest.mark.parametrize(
    "args",
    [("ledger", "/nowhere.txt"), ("ledger", "/"), ("adapt", "-", "--diet", "moon"), ("ledger", "-", "--form", "bun"), ("ledger", "-", "--rest", "-1"), ("adapt", "-", "--servings", "nan"), ("nothing",), ()],
)  # fmt: skip
def test_what_cannot_be_read_is_one_line_and_status_two(args):
    done = run(*args)
    assert done.returncode == 2 and done.stdout == ""
    assert len(done.stderr.strip().splitlines()) == 1 and "Traceback" not in done.stderr


def test_a_binary_or_endless_file_is_told(tmp_path):
    path = tmp_path / "noise"
    path.write_bytes(b"\xff\xfe\x00\x01" * 10)
    assert "UTF-8" in run("ledger", str(path)).stderr
    path.write_bytes(b"1 g salt\n" * 60_000)
    assert "larger" in run("ledger", str(path)).stderr
