"""A batch read afterwards: every figure from an event, what was not recorded left out, and the record for its diagnosis."""

import pytest

from mutabilis.core.batter.batter import Batter
from mutabilis.core.heat.pieces import surfaces_for
from mutabilis.core.journal.entry import entry, record_of
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.batch import Batch
from mutabilis.core.stove.events import EVENT
from mutabilis.data import load_facts

FACTS = load_facts()
PLAN = Batter(
    lines=read_lines("200 g plain flour\n230 g milk\n100 g egg\n10 g baking powder\n25 g sugar", FACTS, Profile()), form="griddle"
)
PLATE = surfaces_for("griddle", FACTS.surfaces)[0]


def batch(*happened):
    events, at = [], 1000.0
    for n, e in enumerate(happened):
        at += e.pop("after", 10.0)
        events.append(EVENT.validate_python({"id": f"{n + 1:016x}", "at": at, **e}))
    return Batch(
        id="0" * 16, version_id="1" * 16, batter_id="2" * 16, name="Cakes", number=1, plan=PLAN, diets=(), whom="", first_at=None, order="two_bowls", mark=0, started=1000.0, finished=None, events=tuple(events),
    )  # fmt: skip


def poured(line, grams, **more):
    return {"kind": "poured", "line": line, "slot": 0, "grams": grams, **more}


WHOLE = [
    poured(0, 200), poured(1, 180), poured(2, 100), poured(3, 10), poured(4, 25), {"kind": "heat_on"}, {"kind": "step_done", "key": "mix", "wets": True},
    {"kind": "judged", "way": "spread", "value": 9.5, "after": 300}, {"kind": "surface_chosen", "surface": PLATE.model_dump(), "celsius": 190, "portion_ml": 60, "per_load": 4},
    {"kind": "heat_read", "celsius": 164, "after": 290}, {"kind": "load_on", "load": 0, "pieces": 4, "after": 40}, {"kind": "turned", "load": 0, "after": 80}, {"kind": "off", "load": 0, "good": 4, "after": 60},
    {"kind": "load_on", "load": 1, "pieces": 4, "after": 30}, {"kind": "turned", "load": 1, "after": 90}, {"kind": "off", "load": 1, "good": 3, "after": 60}, {"kind": "faults_seen", "faults": ["thick"]},
]  # fmt: skip


def whole(*more, without=()):
    return batch(*[dict(e) for e in WHOLE if e["kind"] not in without], *more)


def test_what_differs_is_told_in_its_own_unit_and_what_is_near_is_near():
    rows = {r.key: r for r in entry(whole(), FACTS, Profile()).rows}
    milk = rows["line 1"]
    assert (milk.meant, milk.happened, milk.near, milk.words) == (230, 180, False, "50 g less")
    assert "line 0" not in rows and rows["line 2"].near  # flour as it was meant is no news; what is wet is always told
    assert rows["heat"].words.endswith("°C too cool") and rows["heat"].happened == 164
    assert rows["turned"].happened == 85 and rows["turned"].unit == "s" and not rows["turned"].near  # the mean of 80 and 90 s
    assert rows["off"].happened == 145 and rows["pieces"].happened == 7
    assert rows["rest"].happened == pytest.approx(10.8, abs=0.2)


@pytest.mark.parametrize(
    ("without", "gone"),
    [
        (("heat_read",), "heat"), (("turned",), "turned"), (("off", "turned"), "off"), (("step_done",), "rest"), (("load_on", "turned", "off"), "pieces"), (("surface_chosen", "heat_read"), "turned"),
    ],
)  # fmt: skip
def test_what_nobody_recorded_is_left_out(without, gone):
    rows = {r.key for r in entry(whole(without=without), FACTS, Profile()).rows}
    assert gone not in rows and "line 1" in rows


def test_a_test_piece_says_nothing_of_the_turn():
    test = [{"kind": "load_on", "load": 2, "pieces": 1, "test": True, "after": 10}, {"kind": "turned", "load": 2, "after": 600}]
    rows = {r.key: r for r in entry(whole(*test), FACTS, Profile()).rows}
    assert rows["turned"].happened == 85


def test_the_record_holds_what_the_clock_the_scale_and_the_thermometer_said():
    r = record_of(whole(), PLAN, True, FACTS, {"baking_powder": 400.0})
    assert r is not None and r.faults == ("thick",) and r.reference_is == "proven" and r.by == "scale"
    assert r.poured == {0: 200, 1: 180, 2: 100, 3: 10, 4: 25} and r.as_poured.lines[1].grams == 180
    e = r.events
    assert (e.read_c, e.turned_s, e.off_s, e.grease, e.loads_since_wiped, e.gap_s) == (164, 85, 145, "film", 2, 30)
    assert (
        e.heat_up_min == PLATE.heat_up_min
        and e.heat_on_min == pytest.approx(11, abs=0.3)
        and e.wet_to_first_min == pytest.approx(10.8, abs=0.2)
    )
    assert [(j.cm, j.minutes) for j in r.judged] == [(9.5, 5.0)] and r.packs["baking_powder"].opened_days == 400


def test_faults_told_afterwards_stand_in_place_of_the_stoves_and_none_is_no_record():
    assert record_of(whole(), None, False, FACTS, faults=("dense", "dense"), when="first").faults == ("dense",)
    assert record_of(whole(without=("faults_seen",)), None, False, FACTS) is None
    assert record_of(whole(), None, False, FACTS, faults=()) is None
    cups = batch(poured(0, 200, by="measure"), {"kind": "faults_seen", "faults": ["dense"]})
    assert record_of(cups, None, False, FACTS).by == "measure"


def test_what_is_still_to_come_counts_under_way_and_what_was_added_counts_always():
    """Milk done at 180 and asked up to 230 again, sugar begun; powder that was not in the plan has a line of its own, of which nothing was meant."""
    more = {
        "kind": "retargeted",
        "targets": [{"line": 1, "ingredient": "whole_milk", "grams": 230}, {"line": 5, "ingredient": "baking_powder", "grams": 4}],
    }
    made = batch(poured(0, 200), poured(1, 180), poured(4, 10, done=False), more)
    over = record_of(made, None, False, FACTS, faults=("thick",))
    assert over.poured == {0: 200.0, 1: 180.0, 4: 10.0} and over.batter.lines[5].grams == 0.0 and len(over.batter.lines) == 6
    now = record_of(made, None, False, FACTS, faults=("thick",), under_way=True)
    assert now.poured == {0: 200.0, 1: 230.0, 2: 100.0, 3: 10.0, 4: 25.0, 5: 4.0} and now.as_poured.lines[5].grams == 4.0
    held = record_of(batch(poured(1, 180, held=True)), None, False, FACTS, faults=("thick",), under_way=True)
    assert held.poured[1] == 180.0  # what stands in a cup is not in the bowl
