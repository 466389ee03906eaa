"""Surfaces, pieces and the chart: geometry by hand, and nothing that the heat model itself calls burnt."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.heat.chart import heat_map, working_range
from mutabilis.core.heat.cooking import browning_rate, cook, risen_mm, smokes_at
from mutabilis.core.heat.pieces import piece_on, surfaces_for
from mutabilis.core.heat.surfaces import FORMS, Surface, heat_words, on_plate, per_load
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts

FACTS = load_facts()
HEAT = FACTS.heat
BASE = {"id": "mine", "name": "Mine", "usual_c": 190, "heat_up_min": 5, "recover_s": 20}


def surface(kind="griddle", width=60.0, **more):
    return Surface(**{**BASE, "kind": kind, "width": width, **more})


def looked(text="200 g plain flour\n300 g whole milk\n2 eggs\n9 g baking powder\n30 g butter", form="griddle"):
    return analyse(Batter(lines=read_lines(text, FACTS, Profile()), form=form), FACTS, Profile(), {})


@pytest.mark.parametrize(
    ("width", "length", "cm", "gap", "fits"),
    [(60, 30, 10, 0, 18), (60, 30, 10, 1, 15), (10, 10, 10, 1, 1), (9, 9, 10, 1, 0), (31, 31, 10, 0.5, 9), (100, 18.7, 10, 0, 19)],
)
def test_circles_lie_on_a_plate_as_they_can(width, length, cm, gap, fits):
    assert on_plate(width, length, cm, gap) == on_plate(length, width, cm, gap) == fits


@given(st.floats(12, 120), st.floats(12, 120), st.floats(6, 20), st.floats(0, 4))
def test_no_more_lie_there_than_their_area(width, length, cm, gap):
    n = on_plate(width, length, cm, gap)
    assert n * math.pi * (cm / 2) ** 2 <= width * length + 1e-6
    assert on_plate(width + 5, length + 5, cm, gap) >= n >= on_plate(width, length, cm + 1, gap)


@pytest.mark.parametrize(
    ("made", "form", "cm", "n"),
    [(surface(length=30, gap_cm=1.0), "griddle", 10, 15), (surface("pan", 26), "griddle", 24, 1), (surface("pan", 26), "griddle", 10, 4), (surface("pan", 26), "crepe", 20, 1), (surface("two_pans", 26), "crepe", 20, 2),
     (surface("two_pans", 26), "griddle", 10, 8), (surface("iron", 20, places=4, iron_ml=120), "waffle", None, 4), (surface("oven", 40, length=30), "tray", None, 1), (surface(width=8), "griddle", 20, 1)],
)  # fmt: skip
def test_a_load_is_what_lies_there_at_once(made, form, cm, n):
    assert per_load(made, form, cm) == n


def test_areas_and_webs():
    assert surface(width=60, length=30).area_cm2 == 1800 and surface("oven", 40).area_cm2 == 1600
    assert surface("pan", 26).area_cm2 == pytest.approx(math.pi * 169)
    iron = surface("iron", 20, iron_ml=120)
    assert iron.cooked_mm == 13 and surface("iron", 20, depth_mm=10).cooked_mm == 10 and surface("iron", 20, depth_mm=30).cooked_mm == 13
    assert surface("iron", 20, depth_mm=30, web_mm=16).cooked_mm == 16
    assert all(surface(kind).forms == forms for kind, forms in FORMS.items())


@pytest.mark.parametrize(
    "wrong",
    [
        {"width": 1},
        {"usual_c": 20},
        {"usual_c": 400},
        {"recover_s": -1},
        {"id": "Ä"},
        {"name": "  "},
        {"knob_c": 0},
        {"kind": "moon"},
        {"width": float("nan")},
    ],
)
def test_what_is_no_surface_is_refused(wrong):
    with pytest.raises(ValidationError):
        Surface(**{**BASE, "kind": "griddle", "width": 30, **wrong})


@pytest.mark.parametrize(
    ("knob", "by", "words"),
    [(20, 20, "one step up on the knob"), (20, -10, "half a step down on the knob"), (20, 30, "one and a half steps up on the knob"), (20, 4, ""), (20, 100, "5 steps up on the knob"),
     (None, 12, "about 10 °C hotter"), (None, -13, "about 15 °C cooler"), (None, 2, "")],
)  # fmt: skip
def test_a_move_of_the_heat_is_told_as_it_can_be_made(knob, by, words):
    assert heat_words(surface(knob_c=knob), by) == words


def test_a_crepe_has_a_pan_and_a_waffle_its_iron():
    assert (
        all("crepe" in s.forms for s in surfaces_for("crepe", FACTS.surfaces))
        and surfaces_for("crepe", FACTS.surfaces)[0].kind != "griddle"
    )
    assert {s.kind for s in surfaces_for("waffle", FACTS.surfaces)} == {"iron"} and surfaces_for("tray", ()) == ()


def test_a_piece_spreads_by_its_volume_rises_by_its_crumb_and_takes_grease_by_its_faces():
    a, plate = looked(), surface(width=60, length=40)
    small, large = piece_on(a, plate, 60, "film", FACTS), piece_on(a, plate, 120, "film", FACTS)
    assert small.diameter_cm == pytest.approx(a.water.spread_cm) and large.diameter_cm == pytest.approx(a.water.spread_cm * 2**0.4)
    poured = 10 * 60 / (math.pi * small.diameter_cm**2 / 4)
    assert small.thickness_mm == pytest.approx(max(1.2, poured * 1050 / HEAT.crumb.density))
    assert risen_mm(poured, HEAT.crumb) == pytest.approx(poured * 1050 / HEAT.crumb.density)
    assert small.portion_g == pytest.approx(60 * a.yields.density_g_per_ml)
    assert small.grease_g == pytest.approx(2 * HEAT.grease["film"].fat_g * math.pi * small.diameter_cm**2 / 4 / 100)
    assert (
        piece_on(a, plate, 60, "none", FACTS).grease_g == 0 and piece_on(a, surface("pan", 9), 200, "film", FACTS).diameter_cm == 10
    )  # no wider than its pan


def test_browning_doubles_by_arrhenius_and_one_is_a_minute_at_150():
    b = HEAT.brown
    assert browning_rate(b, b.reference_c) == pytest.approx(1 / b.reference_s) and b.reference_c == 150 and b.reference_s == 60
    by_hand = math.exp(-b.activation / b.gas_constant * (1 / 443.15 - 1 / 423.15)) / 60
    assert browning_rate(b, 170.0) == pytest.approx(by_hand) and b.gas_constant == pytest.approx(8.314, abs=0.001)


def test_the_range_that_works_is_read_off_the_chart_and_holds_in_the_reckoning():
    chart = heat_map(HEAT, "griddle")
    assert len(chart.verdicts) == len(chart.thick_mm) and all(len(row) == len(chart.heats_c) for row in chart.verdicts)
    seen = 0
    for mm, row in zip(chart.thick_mm, chart.verdicts, strict=True):
        for celsius, verdict in zip(chart.heats_c, row, strict=True):
            if verdict == "works":
                seen += 1
                found = working_range(HEAT, "griddle", mm, celsius)
                assert found.low_c <= celsius <= found.high_c and found.thickest_mm >= mm
    assert seen >= 5
    middle = working_range(HEAT, "griddle", 12.0, 190.0)
    if middle.low_c is not None:
        assert cook(HEAT, "griddle", 12.0, (middle.low_c + middle.high_c) / 2).verdict in ("works", "dark", "pale")


def test_the_lowest_smoke_point_decides():
    assert smokes_at(HEAT, ("butter", "ghee")) == min(HEAT.smoke["butter"], HEAT.smoke["ghee"]) and smokes_at(HEAT, ("water",)) is None
