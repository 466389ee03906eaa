"""Heat: the account closes, known limits are met, the grid does not matter, and the trade's facts come out."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mutabilis.core.heat.chart import heat_map, working_range
from mutabilis.core.heat.conduction import Conduction, slab
from mutabilis.core.heat.cooking import cook, risen_mm, smokes_at
from mutabilis.data import load_facts
from tests.sizes import many

HEAT = load_facts().heat
PIECE = HEAT.crumb
ALPHA = PIECE.conductivity / (PIECE.density * PIECE.heat_capacity)


@given(
    st.sampled_from(["griddle", "crepe", "waffle", "tray"]),
    st.floats(1.5, 25),
    st.floats(140, 260),
    st.sampled_from(["none", "film", "generous"]),
)
def test_the_account_of_heat_closes(form, mm, celsius, grease):
    assert cook(HEAT, form, mm, celsius, grease).heat_balance < 0.01


def test_a_thin_piece_warms_as_a_whole():
    """Biot number far below 0.1: T = T_out − (T_out − T_0)·exp(−h·t/(ρ·c·L))."""
    thin, contact = 0.001, 10.0
    s = slab(PIECE, thin, 20, 90, contact, 20, 0, 300, cell=thin / 8, wet=False)
    exact = 90 - 70 * np.exp(-contact * s.times / (PIECE.density * PIECE.heat_capacity * thin))
    assert np.max(np.abs(s.profiles.mean(axis=1) - exact)) < 0.02 * 70


def _series(x, t, half, biot, terms=40):
    """A slab of half-thickness `half`, both faces in a fluid: θ = Σ C_n·exp(−ζ_n²·Fo)·cos(ζ_n·x/half), ζ·tan ζ = Bi (Incropera, chapter 5)."""
    theta = np.zeros_like(x)
    for n in range(terms):
        low, high = n * math.pi + 1e-9, n * math.pi + math.pi / 2 - 1e-9
        for _ in range(80):
            z = (low + high) / 2
            low, high = (z, high) if z * math.tan(z) < biot else (low, z)
        c = 4 * math.sin(z) / (2 * z + math.sin(2 * z))
        theta += c * math.exp(-(z**2) * ALPHA * t / half**2) * np.cos(z * x / half)
    return theta


@pytest.mark.parametrize("contact", [150.0, 1e7])  # the last is a face held at its temperature
@pytest.mark.parametrize("seconds", [30, 90, 240])
def test_the_analytic_slab(contact, seconds):
    thick = 0.012
    s = slab(PIECE, thick, 20, 95, contact, 95, contact, seconds, cell=0.0002, step=0.1, wet=False)
    n = s.profiles.shape[1]
    x = (np.arange(n) + 0.5) * thick / n - thick / 2
    exact = 95 - 75 * _series(x, seconds, thick / 2, contact * (thick / 2) / PIECE.conductivity)
    assert np.max(np.abs(s.profiles[-1] - exact)) < 0.02 * 75


@pytest.mark.parametrize("mm, celsius", [(6, 200), (9, 190), (10.4, 157), (12, 175), (14, 165)])
def test_a_finer_grid_changes_no_time_by_two_per_cent(mm, celsius):
    usual = cook(HEAT, "griddle", mm, celsius)
    fine = cook(HEAT, "griddle", mm, celsius, cell=0.000125, step=0.25)
    assert usual.turn_s == pytest.approx(fine.turn_s, rel=0.02, abs=1)
    assert usual.done_s == pytest.approx(fine.done_s, rel=0.02, abs=1)


def test_what_the_trade_knows():
    nine = cook(HEAT, "griddle", 9, 190, "none")
    assert 120 <= nine.turn_s <= 180 and 0.5 <= nine.first_brown <= 2
    assert 180 <= cook(HEAT, "waffle", 13, 190, "none").done_s <= 300
    twelve = cook(HEAT, "griddle", 12, 190, "none")
    assert 140 <= twelve.turn_s <= 180 and 80 <= twelve.done_s - twelve.turn_s <= 120 and twelve.verdict == "works"
    assert cook(HEAT, "griddle", 14, 210).verdict == "dark" and cook(HEAT, "griddle", 16, 225).verdict == "burnt"
    assert cook(HEAT, "griddle", 15, 175, "none").verdict == "works"
    assert 12 * 60 <= cook(HEAT, "tray", 15, 220, "none").done_s <= 20 * 60
    crepe = cook(HEAT, "crepe", 1.8, 205)
    assert 40 <= crepe.turn_s <= 75 and crepe.verdict == "works"


@given(st.floats(5, 16), st.floats(150, 230))
def test_nothing_is_done_before_it_is_safe(mm, celsius):
    piece = cook(HEAT, "griddle", mm, celsius)
    if piece.done_s is not None:
        assert piece.safe_s is not None and piece.safe_s <= piece.done_s and piece.turn_s < piece.done_s
        last = np.array([f.profile_c for f in piece.frames()])
        assert last.max(axis=0).min() >= PIECE.safe_c - 1


@settings(max_examples=many(12))
@given(st.floats(5, 12), st.floats(160, 210))
def test_hotter_browns_sooner_and_thicker_turns_later(mm, celsius):
    a, hot, thick = (cook(HEAT, "griddle", x, c) for x, c in ((mm, celsius), (mm, celsius + 15), (mm * 1.2, celsius)))
    assert hot.turn_s <= a.turn_s <= thick.turn_s
    by = a.turn_s - 5
    assert cook(HEAT, "griddle", mm, celsius + 15, turn_at=by).first_brown >= cook(HEAT, "griddle", mm, celsius, turn_at=by).first_brown


def test_water_boils_off_before_the_crust_grows_hot():
    body = Conduction(PIECE, 0.009, 20)
    wet = body.water.sum()
    for _ in range(200):
        body.go(190, 300, 22, 12)
    assert body.at.max() <= 190 and (body.at[body.water > 0] <= PIECE.boils_c + 1e-6).all()
    assert (wet - body.water.sum()) * PIECE.latent == pytest.approx(body.steamed)


def test_the_chart_has_its_three_regions():
    chart = heat_map(HEAT, "griddle", "film", 7, 6)
    assert {"works", "burnt", "pale"} <= {v for row in chart.verdicts for v in row}
    assert chart.verdicts[0][-1] == "works" and chart.verdicts[-1][-1] == "burnt" and chart.verdicts[-1][0] == "pale"
    span = working_range(HEAT, "griddle", 9.0, 180.0, "film")
    assert span.low_c < 180 < span.high_c + 15 and 14 < span.thickest_mm < 18


def test_grease_meets_browns_and_smokes():
    dry, film = cook(HEAT, "griddle", 9, 180, "none"), cook(HEAT, "griddle", 9, 180, "generous")
    assert film.done_s < dry.done_s and film.first_brown > 0.95 * dry.first_brown
    assert smokes_at(HEAT, ("butter", "sunflower_oil")) == 150 and smokes_at(HEAT, ("water",)) is None
    assert risen_mm(6, PIECE) == pytest.approx(9)


@pytest.mark.parametrize("mm, celsius", [(0, 190), (200, 190), (9, 20), (9, 900)])
def test_what_is_no_piece_is_refused(mm, celsius):
    with pytest.raises(ValueError):
        cook(HEAT, "griddle", mm, celsius)


@pytest.mark.parametrize("hot", [160.0, 200.0])
def test_the_boiling_front_moves_as_stefan_and_neumann_have_it(hot):
    """A slab at the boiling point, one face held at `hot`: X = 2·λ·√(α·t), λ·exp(λ²)·erf(λ) = St/√π (Carslaw and Jaeger, chapter 11)."""
    thick, seconds = 0.012, 120
    body = Conduction(PIECE, thick, PIECE.boils_c, cell=0.0002, step=0.1)
    for _ in range(int(seconds / 0.1)):
        body.go(hot, 1e7, PIECE.boils_c, 0.0)
    stefan = PIECE.heat_capacity * (hot - PIECE.boils_c) / (PIECE.free_water * PIECE.latent)
    low, high = 0.0, 2.0
    for _ in range(80):
        z = (low + high) / 2
        low, high = (z, high) if z * math.exp(z * z) * math.erf(z) < stefan / math.sqrt(math.pi) else (low, z)
    front = 2 * z * math.sqrt(ALPHA * seconds)
    dried = float((1 - body.water / (PIECE.free_water * PIECE.density * body.dx)).sum() * body.dx)
    assert dried == pytest.approx(front, rel=0.03)
    assert body.steamed == pytest.approx(dried * PIECE.free_water * PIECE.density * PIECE.latent)


def test_a_deep_slab_takes_heat_through_its_face_as_the_half_space_does():
    """(T − T_0)/(T_out − T_0) = erfc(ξ) − exp(h·x/k + h²·α·t/k²)·erfc(ξ + h·√(α·t)/k), ξ = x/(2·√(α·t)) (Carslaw and Jaeger, 2.7)."""
    thick, h, t = 0.08, 300.0, 60.0
    s = slab(PIECE, thick, 20, 95, h, 20, 0, t, cell=0.0004, step=0.1, wet=False)
    n = s.profiles.shape[1]
    for x_mm in (1.0, 3.0, 6.0):
        at = int(x_mm / 1000 * n / thick)
        x = (at + 0.5) * thick / n
        xi, root = x / (2 * math.sqrt(ALPHA * t)), h * math.sqrt(ALPHA * t) / PIECE.conductivity
        exact = math.erfc(xi) - math.exp(h * x / PIECE.conductivity + root**2) * math.erfc(xi + root)
        assert (s.profiles[-1][at] - 20) / 75 == pytest.approx(exact, abs=0.02)


def test_a_point_sets_by_the_heat_it_has_had_and_the_picture_says_so():
    """The state of a frame follows the dose: raw until every point was safe, set once every point has had its seconds of heat; a point that has
    set stays set, also where it cools after the turn."""
    for form, mm in (("griddle", 14.0), ("crepe", 1.5), ("waffle", 13.0)):
        piece = cook(HEAT, form, mm, HEAT.form[form].usual_c)
        frames = piece.frames()
        order = ["raw", "safe", "set"]
        states = [order.index(f.state) for f in frames]
        assert states == sorted(states) and states[0] == 0 and (states[-1] == 2) == (piece.done_s is not None)
        assert all((f.state == "raw") == (piece.safe_s is None or f.at_s < piece.safe_s) for f in frames)
        shares = [sum(f.has_set) for f in frames]
        assert shares == sorted(shares) and shares[0] == 0 and len(frames[0].has_set) == len(frames[0].profile_c)
        # Safe is below setting: no point of a raw piece's coldest has set, and a set point has been at least nearly as hot as set_c.
        hottest = np.maximum.accumulate(np.array([f.profile_c for f in frames]), axis=0)
        for f, most in zip(frames, hottest, strict=True):
            assert all(m > HEAT.crumb.set_c - 4 * HEAT.crumb.set_z for m, on in zip(most, f.has_set, strict=True) if on)


@pytest.mark.parametrize("form", ["griddle", "waffle", "crepe", "tray"])
@pytest.mark.parametrize("grease", ["none", "film", "generous"])
def test_many_pieces_at_once_come_out_as_each_by_itself(form, grease):
    chart = heat_map(HEAT, form, grease, 5, 4)
    alone = [tuple(cook(HEAT, form, mm, c, grease, cell=mm / 12_000).verdict for c in chart.heats_c) for mm in chart.thick_mm]
    assert alone == list(chart.verdicts)
