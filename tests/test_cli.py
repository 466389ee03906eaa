"""The command line as a script uses it: stable keys, plain errors; the first as a real process."""

import json
import subprocess

import pytest

from mutabilis import __version__
from tests.conftest import RIDGE
from tests.terminal import run, run_apart

LEDGER_KEYS = {
    "lines",
    "unresolved",
    "batter_g",
    "water",
    "lift",
    "set",
    "sweetness_g",
    "fat_g",
    "sodium_mg",
    "browning",
    "nutrition",
    "diets",
    "allergens",
    "warnings",
}
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
    done = run_apart("ledger", str(path), "--form", "griddle", "--rest", "5", "--json")
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
        assert answer["ledger"]["diets"]["vegan"]["verdict"] == answer["ledger"]["diets"]["gluten_free"]["verdict"] == "fits"
        assert all(set(x) >= {"ingredient", "name", "grams", "measure"} for x in answer["lines"])
        assert all(set(c) == {"from", "to", "reason"} for c in answer["changes"])
        assert answer["cautions"] and 0 < answer["score"] <= 1


def test_a_kitchen_of_other_spoons_is_told_in_its_own(tmp_path):
    """A table spoon of 20 mL: what is asked for in spoons comes out as fewer of them."""
    (tmp_path / "profile.toml").write_text("tbsp_ml = 20.0\ncup_ml = 250.0\n", encoding="utf-8")
    ours, theirs = (
        json.loads(run("adapt", "-", "--diet", "vegan", *args, "--json", stdin=RIDGE).stdout)["alternatives"][0]["lines"]
        for args in (("--kitchen", str(tmp_path)), ())
    )
    spoons = {x["ingredient"]: x["measure"] for x in ours}
    assert spoons != {x["ingredient"]: x["measure"] for x in theirs}


def test_version_and_one_line_for_what_is_no_number():
    assert run_apart("--version").stdout.strip() == f"mutabilis {__version__}"
    for args in (("ledger", "-", "--servings", "abc"), ("ledger", "-", "--rest", "nan"), ("ledger", "-", "--temperature", "90")):
        done = run(*args, stdin=RIDGE)
        assert done.returncode == 2 and done.stderr.count("\n") == 1 and "invalid" not in done.stderr


def test_the_slots_stand_beside_the_answers():
    found = json.loads(run("adapt", "-", "--diet", "vegan", "--alternatives", "5", "--json", stdin=RIDGE).stdout)
    slots = {s["kind"]: s for s in found["slots"]}
    assert list(slots) == ["nearest", "larder", "least_to_buy", "most_protein", "simplest"] and slots["nearest"]["alternative"] == 0
    assert slots["larder"]["alternative"] is None and "Larder" in slots["larder"]["empty"]
    assert all(a["reasons"] for a in found["alternatives"])


def test_a_fault_is_mended():
    soda = "220 g flour\n300 g soy drink\n6 g baking soda\n20 g sugar\n"
    found = json.loads(run("mend", "-", "--json", stdin=soda).stdout)
    assert [f["code"] for f in found["faults"]] == ["alkali_left"] and found["mend"]["codes"] == ["alkali_left"]
    check_ledger(found["mend"]["ledger"])
    assert found["mend"]["ledger"]["lift"]["residual_alkali_meq_per_100g"] < 2.5
    told = run("mend", "-", stdin=soda).stdout
    assert told.startswith("! Soda finds no acid") and found["mend"]["words"] in told
    assert run("mend", "-", stdin="200 g flour\n300 g milk\n9 g baking powder\n2 g salt\n").stdout.strip() == "Nothing is at fault."


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
    assert "Flow" in ledger and "DOES NOT FIT" in ledger and "760 g" in ledger
    assert "→" in adapted and "soda" not in ledger.lower().split("warn")[0][:50]


@pytest.mark.parametrize(
    "args",
    [
        ("ledger", "/nowhere.txt"),
        ("ledger", "/"),
        ("adapt", "-", "--diet", "moon"),
        ("ledger", "-", "--form", "bun"),
        ("ledger", "-", "--rest", "-1"),
        ("adapt", "-", "--servings", "nan"),
        ("nothing",),
        (),
    ],
)
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


def test_conditions_of_the_rest():
    """The cold keeps the lift that a warm kitchen loses; a blender makes rice drink at once."""
    warm, cold = (json.loads(run("ledger", "-", "--rest", "120", "--temperature", t, "--json", stdin=RIDGE).stdout) for t in ("30", "4"))
    assert cold["lift"]["co2_left_ml"] > warm["lift"]["co2_left_ml"]
    rice = "200 g rice flour\n260 g water\n"
    bowl, blender = (json.loads(run("ledger", "-", "--rest", "1", "--json", *more, stdin=rice).stdout) for more in ((), ("--blender",)))
    assert blender["water"]["bound_g"] > 1.5 * bowl["water"]["bound_g"]


def test_hold_back_yield_and_plate_are_told():
    ledger = json.loads(run("ledger", "-", "--json", stdin=RIDGE + "\nbutter for frying\n").stdout)
    scale, cups = ledger["hold_back"]["scale"], ledger["hold_back"]["cups"]
    assert scale["ingredient"] == "whole_milk" and 0 < scale["hold_g"] < cups["hold_g"]
    assert ledger["yield"]["pieces"] == 12 and 0 <= ledger["yield"]["last_share"] < 1
    assert ledger["plate"]["lines"] == 1 and ledger["plate"]["nutrition"]["fat_g"] > ledger["nutrition"]["fat_g"]
    for one in ledger["ledgers"]:
        assert set(one) >= {"key", "unit", "total", "per_100g", "per_piece", "low", "high", "verdict", "contributions"}
        assert all(c["rule"] and c["confidence"] in ("high", "medium", "low") for c in one["contributions"])


def test_a_kitchen_brings_its_own_diets(tmp_path):
    (tmp_path / "diets").mkdir()
    (tmp_path / "diets/quiet.toml").write_text(
        'key = "quiet"\nlabel = "Quiet"\n[[deny]]\ningredient = ["sea_salt_fine", "salt"]\nreason = "no salt here"\n'
    )
    (tmp_path / "diets/broken.toml").write_text('key = "broken"\nlabel = "Broken"\n[[deny]]\nallergen = ["milk"]\n')
    done = run("adapt", "-", "--kitchen", str(tmp_path), "--diet", "quiet", "--json", stdin=RIDGE)
    found = json.loads(done.stdout)
    assert "broken.toml, line 3" in done.stderr and done.returncode == 0
    assert found["base"]["diets"]["quiet"]["reasons"][0]["reason"].endswith("no salt here")
    assert not {"sea_salt_fine", "salt"} & {x["ingredient"] for x in found["alternatives"][0]["lines"]}


LABEL = """id = "hill_mix"
name = "Hill stores pancake flour"
kind = "flour"
kcal = 350
fat_g = 2
saturates_g = 0.4
carbohydrate_g = 70
sugars_g = 1
fibre_g = 6
protein_g = 9
salt_g = 0
contains = ["soy"]
vegan = true
certified_gluten_free = true
"""
PACKS = """[in_use]
margarine = "blue tub"
[[reading]]
ingredient = "margarine"
pack = "%s"
by = "Ilsabet"
on = "2026-02-03"
vegan = true
"""


def test_a_kitchen_brings_its_labels_its_readings_and_its_cups(tmp_path):
    (tmp_path / "labels").mkdir()
    (tmp_path / "labels/mix.toml").write_text(LABEL)
    (tmp_path / "labels/wrong.toml").write_text(LABEL.replace("kcal = 350", "kcal = 900"))
    (tmp_path / "labels/taken.toml").write_text(LABEL.replace("hill_mix", "sugar"))
    (tmp_path / "profile.toml").write_text("cup_ml = 250\n")
    (tmp_path / "packs.toml").write_text(PACKS % "blue tub")
    text = "1 cup milk\n100 g hill stores pancake flour\n20 g margarine\n"
    done = run("ledger", "-", "--kitchen", str(tmp_path), "--json", stdin=text)
    ledger = json.loads(done.stdout)
    assert "wrong.toml" in done.stderr and "sugar: a shipped ingredient" in done.stderr
    assert [x["ingredient"] for x in ledger["lines"]] == ["whole_milk", "hill_mix", "margarine"]
    assert ledger["lines"][0]["grams"] == pytest.approx(244 * 250 / 236.588, rel=1e-3)
    assert ledger["diets"]["soy_free"]["verdict"] == "conflicts" and ledger["diets"]["gluten_free"]["verdict"] != "conflicts"
    assert not [r for r in ledger["diets"]["vegan"]["reasons"] if "margarine" in r["reason"]]
    assert any("Ilsabet" in c for c in ledger["diets"]["vegan"]["cautions"])
    # What the file says vouches for what it says: "vegan" for a vegan guest, and for nobody who reacts to milk or soy.
    alone = [json.loads(run("ledger", "-", "--kitchen", str(tmp_path), "--json", stdin="50 g margarine").stdout)["diets"]]
    (tmp_path / "packs.toml").write_text(PACKS % "blue tub" + "contains = []\n")  # the whole label, and it names none
    alone.append(json.loads(run("ledger", "-", "--kitchen", str(tmp_path), "--json", stdin="50 g margarine").stdout)["diets"])
    told = [[d[key]["verdict"] for key in ("vegan", "vegetarian", "dairy_free", "egg_free", "soy_free")] for d in alone]
    assert told == [["fits", "fits", *["cannot_vouch"] * 3], ["fits"] * 5]
    (tmp_path / "packs.toml").write_text(PACKS % "red tub")  # another pack is in use now: the reading lapses
    lapsed = json.loads(run("ledger", "-", "--kitchen", str(tmp_path), "--json", stdin=text).stdout)
    assert [r for r in lapsed["diets"]["vegan"]["reasons"] if "margarine" in r["reason"]]


def test_a_base_that_fits_comes_back_as_it_was_written():
    text = "150 g certified gluten-free rice flour\n3 eggs\n320 g milk\n2 g salt\n"
    found = json.loads(run("adapt", "-", "--form", "crepe", "--diet", "gluten_free", "--json", stdin=text).stdout)
    (answer,) = found["alternatives"]
    assert [x["grams"] for x in answer["lines"]] == [150, 150, 320, 2] and answer["changes"] == [] and answer["score"] == 1


def test_the_server_says_plainly_why_it_does_not_start(tmp_path):
    (tmp_path / "letter.sqlite3").write_text("Dear cook, " * 400)
    done = run("serve", "--database", str(tmp_path / "letter.sqlite3"), "--port", "18990")
    assert done.returncode == 2 and "is not a book" in done.stderr and "Traceback" not in done.stderr


def test_json_is_all_that_stands_on_standard_output():
    """The solver greets on standard output; a script must not hear it."""
    done = run("adapt", "-", "--diet", "egg_free", "--diet", "dairy_free", "--json", stdin=RIDGE)
    assert done.stdout.lstrip().startswith("{") and done.stdout.rstrip().endswith("}") and done.stderr == ""


def test_powder_for_soda_in_this_very_batter():
    """Soda that the buttermilk meets wants three and a half times its weight of powder; spoon for spoon a third of the gas is left."""
    text = "250 g flour\n4.6 g bicarb\n500 g buttermilk\n"
    found = json.loads(run("leavening", "-", "--instead-of", "bicarb", "--put", "baking powder", "--json", stdin=text).stdout)
    assert found["to"] == "baking_powder" and 2.8 < found["to_g"] / found["from_g"] < 3.6
    assert found["spoon_for_spoon_ml"] == pytest.approx(found["co2_ml"] / (found["to_g"] / found["from_g"]), rel=0.01)
    back = json.loads(
        run(
            "leavening",
            "-",
            "--instead-of",
            "baking_powder",
            "--put",
            "baking_soda",
            "--json",
            stdin="250 g flour\n16 g baking powder\n400 g water\n",
        ).stdout
    )
    assert back["acid_change_meq"] < -20  # nothing waits to meet the soda
    assert run("leavening", "-", "--instead-of", "bicarb", "--put", "salt", stdin=text).returncode == 2
    assert "there is no" in run("leavening", "-", "--instead-of", "baking powder", "--put", "bicarb", stdin=text).stderr


def test_bash_completes_commands_and_long_options():
    """The script that is printed is run by a real bash, which is asked what it would complete."""
    script = run("--completion").stdout

    def completed(*words):
        code = f"{script}\nCOMP_WORDS=({' '.join(repr(w) for w in words)}); COMP_CWORD={len(words) - 1}; _mutabilis; printf '%s\\n' \"${{COMPREPLY[@]}}\""
        return subprocess.run(["bash", "-c", code], capture_output=True, text=True, check=True).stdout.split()

    assert set(completed("mutabilis", "le")) == {"ledger", "leavening"}
    assert completed("mutabilis", "adapt", "--max") == ["--max-net-carb"]
    assert "--put" in completed("mutabilis", "leavening", "--") and "--put" not in completed("mutabilis", "ledger", "--")
    assert "--version" in completed("mutabilis", "--")


def test_a_long_option_may_be_shortened_while_it_is_one(tmp_path):
    file = tmp_path / "b.txt"
    file.write_text(RIDGE)
    assert run("adapt", str(file), "--di", "vegan", "--js").returncode == 0
    short = run("ledger", str(file), "--se", "4", "--json")
    assert short.returncode == 0 and json.loads(short.stdout)["servings"] == 4
