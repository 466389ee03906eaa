"""Many slabs at once against one slab at a time, the steady state of textbooks, and the account of heat."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.heat.chart import heat_map
from mutabilis.core.heat.conduction import Conduction
from mutabilis.core.heat.cooking import cook
from mutabilis.core.heat.stack import CELLS, Stack
from mutabilis.data import load_facts

HEAT = load_facts().heat
CRUMB = HEAT.crumb


def run(stack, steps, below_c, below, above_c, above):
    m = len(stack.dx)
    for _ in range(steps):
        faces = stack.go(np.full(m, below_c), np.full(m, below), np.full(m, above_c), np.full(m, above))
    return faces


@given(st.floats(2, 40), st.floats(120, 240), st.floats(50, 800), st.floats(0, 30))
def test_one_of_a_stack_is_the_same_as_one_alone(thick_mm, celsius, contact, above):
    """By other algebra (elimination in place of an inverse) the same temperatures, boiled water and faces, cell by cell."""
    thick = thick_mm / 1000
    one = Conduction(CRUMB, thick, 20.0, cell=thick / CELLS, step=2.0)
    many = Stack(CRUMB, np.array([thick / 2, thick]), 20.0, 2.0)
    assert one.n == CELLS
    for _ in range(60):
        faces = one.go(celsius, contact, 22.0, above)
        both = many.go(np.full(2, celsius), np.full(2, contact), np.full(2, 22.0), np.full(2, above))
    assert many.at[:, 1] == pytest.approx(one.at, abs=1e-6) and many.water[:, 1] == pytest.approx(one.water, abs=1e-9)
    assert [f[1] for f in both] == pytest.approx(faces, abs=1e-6) and many.steamed[1] == pytest.approx(one.steamed, rel=1e-6, abs=1e-3)


def test_below_the_boil_it_settles_to_the_straight_line_of_resistances_in_series():
    """q = ΔT / (1/h₁ + L/k + 1/h₂): the faces stand where the resistances divide the difference."""
    thick, h1, h2, hot, cold = 0.01, 200.0, 50.0, 90.0, 20.0
    stack = Stack(CRUMB, np.array([thick]), 20.0, 20.0)
    low, high = run(stack, 2000, hot, h1, cold, h2)
    q = (hot - cold) / (1 / h1 + thick / CRUMB.conductivity + 1 / h2)
    assert low[0] == pytest.approx(hot - q / h1, abs=0.01) and high[0] == pytest.approx(cold + q / h2, abs=0.01)
    assert np.diff(stack.at[:, 0]) == pytest.approx(np.full(CELLS - 1, -q * thick / CELLS / CRUMB.conductivity), abs=1e-3)


def test_a_shut_slab_keeps_its_heat_and_halves_change_places_when_it_is_turned():
    stack = Stack(CRUMB, np.array([0.01, 0.01]), 20.0, 1.0)
    run(stack, 30, 180.0, 400.0, 20.0, 0.0)
    whole, lowest = stack.at.sum(axis=0), stack.at[0].copy()
    stack.turn(np.array([True, False]))
    assert stack.at[-1, 0] == lowest[0] and stack.at[0, 1] == lowest[1]
    run(stack, 100, 0.0, 0.0, 0.0, 0.0)
    assert stack.at.sum(axis=0) == pytest.approx(whole, rel=1e-9)  # nothing goes in or out
    assert np.ptp(stack.at[:, 0]) < np.ptp(np.array([lowest[0], 20.0]))  # it evens out


def test_while_a_cell_has_water_it_stays_at_the_boil_and_what_flows_in_boils_it_away():
    stack = Stack(CRUMB, np.array([0.003]), 20.0, 0.5)
    water = stack.water.sum()
    run(stack, 400, 230.0, 600.0, 230.0, 600.0)
    assert (stack.water >= 0).all() and stack.water.sum() < water
    assert stack.at[stack.water > 1e-9].max(initial=0.0) <= CRUMB.boils_c + 1e-6
    assert stack.steamed[0] == pytest.approx((water - stack.water.sum()) * CRUMB.latent, rel=1e-9)


def test_those_that_are_done_leave_the_others_as_they_were():
    stack = Stack(CRUMB, np.array([0.005, 0.01, 0.02]), 20.0, 1.0)
    run(stack, 20, 180.0, 300.0, 20.0, 10.0)
    kept = stack.at[:, 1:].copy()
    stack.keep(np.array([False, True, True]))
    assert (stack.at == kept).all() and stack.dx.shape == stack.heat.shape == stack.steamed.shape == (2,)
    alone = Stack(CRUMB, np.array([0.01, 0.02]), 20.0, 1.0)
    run(alone, 30, 180.0, 300.0, 20.0, 10.0)
    run(stack, 10, 180.0, 300.0, 20.0, 10.0)
    assert stack.at == pytest.approx(alone.at, abs=1e-9)


@pytest.mark.parametrize("form", ["griddle", "crepe"])
def test_the_chart_says_what_a_run_of_the_piece_says(form):
    """Every other field of it, thin ones too: in steps twice as long a thin piece at a good heat was said to burn."""
    chart = heat_map(HEAT, form)
    fields = [(n, m) for n in range(0, len(chart.thick_mm), 2) for m in range(0, len(chart.heats_c), 2)]
    fine = [cook(HEAT, form, chart.thick_mm[n], chart.heats_c[m]).verdict for n, m in fields]
    assert [chart.verdicts[n][m] for n, m in fields] == fine and len(set(fine)) > 1
