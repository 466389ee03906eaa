"""A diagnosis from a terminal: keys that scripts hold on to, and one line for what cannot be read."""

import json
import subprocess

from tests import terminal

BATCH = {
    "form": "griddle", "lines": ["200 g plain flour", "2 eggs", "8 g baking powder", "20 g sugar", "250 g milk"], "reference": ["200 g plain flour", "2 eggs", "8 g baking powder", "20 g sugar", "250 g milk"],
    "reference_is": "proven", "poured": {"4": 195}, "by": "scale",
    "events": {
        "wet_to_first_min": 12, "wet_to_last_min": 30, "foam_to_last_min": 55, "set_c": 185, "read_c": 225, "heat_on_min": 3, "heat_up_min": 8, "gap_s": 40, "recover_s": 60, "turned_s": 100, "off_s": 150,
        "thickness_mm": 13, "grease": "none", "loads_since_wiped": 2, "mix_s": 25, "held": "rack", "fruit": "fresh",
    },
    "judged": [{"way": "spread", "cm": 9.0, "minutes": 10}], "packs": {"baking_powder": {"opened_days": 430}}, "faults": ["thick", "dense"], "when": "all", "answers": {"fizz": "weakly"},
}  # fmt: skip


def run(told: object, *args: str, by=terminal.run) -> subprocess.CompletedProcess[str]:
    return by("diagnose", "-", *args, stdin=told if isinstance(told, str) else json.dumps(told))


def test_a_diagnosis_has_its_keys_and_is_the_same_each_time():
    done = run(BATCH, "--json", by=terminal.run_apart)
    found = json.loads(done.stdout)
    assert done.returncode == 0 and done.stdout == run(BATCH, "--json").stdout
    assert set(found) == {"causes", "none_of_these", "thin", "question", "not_recorded"}
    for cause in found["causes"]:
        assert set(cause) == {"cause", "name", "p", "evidence", "correction", "trial"} and 0 <= cause["p"] <= 1
        assert {"change", "ingredient", "grams", "predicts", "warnings_raised"} <= set(cause["correction"])
        assert set(cause["trial"]) == {"change_one_thing", "arms", "pairs"}
        assert all(set(e) == {"feature", "value", "weight", "text"} for e in cause["evidence"])
    assert any(c["cause"] == "water_low" for c in found["causes"])
    assert run(BATCH).returncode == 0


def test_what_cannot_be_read_is_one_line_and_status_two():
    for change, said in (
        ({"faults": []}, "name at least one"), ({"faults": ["purple"]}, "no fault “purple”"), ({"lines": ["a cloud of dreams"]}, "cannot be read"), ({"lines": []}, "a list of one to 200"),
        ({"form": "cloud"}, "no form"), ({"events": {"mix": 3}}, "events mix"), ({"poured": {"x": 1}}, "poured"), ({"reference_is": "best"}, "reference_is"), ({"poured": {"40": 1}}, "no line 40"),
    ):  # fmt: skip
        done = run({**BATCH, **change}, "--json")
        assert done.returncode == 2 and len(done.stderr.splitlines()) == 1 and said in done.stderr, change
    assert run("{").returncode == 2
