"""What the solver thinks is what the ledger shows: its rows against the ledgers, for any amounts; and where the work went."""

import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.job import Job
from mutabilis.core.adapt.program import GEL_TANGENTS, Program
from mutabilis.core.adapt.rounding import settle, stress_of, to_step
from mutabilis.core.adapt.transfers import FUNCTIONS, say, transfers, work
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.setting import gel_set
from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.batter.bowl import fill
from mutabilis.core.batter.flow import solids_for, yield_stress
from tests.conftest import BUTTERMILK, RIDGE, WAFFLE


@pytest.fixture(scope="module")
def job(batter, facts, profile):
    base = adapt(batter(BUTTERMILK), Wishes(), facts, profile).base
    return Job(base.batter, base, Wishes(diets=("vegan", "gluten_free")), facts, profile, None)


def as_batter(program: Program, grams: list[float]) -> Batter:
    lines = [
        BatterLine(text=c.ingredient.id, ingredient=c.ingredient.id, grams=g)
        for c, g in zip(program.candidates, grams, strict=True)
        if g > 0
    ]
    return Batter(lines=tuple(lines))


AMOUNTS = st.lists(st.floats(0, 120), min_size=60, max_size=60)


@given(AMOUNTS)
def test_the_flow_row_is_the_water_ledger(job, facts, profile, amounts):
    """Vf − ((1 − φ)/φ)·Vs of the program is nought exactly where the ledger's φ is the φ aimed at."""
    program = job.program
    grams = [round(a, 2) for a in amounts[: program.n]]
    bowl = fill(as_batter(program, grams), facts)
    if bowl.batter_g < 10:
        return
    solid = sum(g * p.flow_solid for g, p in zip(grams, program.per, strict=True))
    free = sum(g * p.flow_free for g, p in zip(grams, program.per, strict=True))
    w = analyse(as_batter(program, grams), facts, profile, {}).water
    if w.missing_g == 0 and solid > 0:
        assert w.solids_fraction == pytest.approx(solid / (solid + free), rel=1e-9)
        assert stress_of([(c.ingredient, g) for c, g in zip(program.candidates, grams, strict=True)], 10.0) == pytest.approx(
            w.yield_stress_pa, rel=1e-9
        )
    assert program.theta(grams) == pytest.approx(w.thickening, abs=1e-12)


@given(AMOUNTS)
def test_gas_less_hidden_alkali_is_the_lift_ledger(job, facts, profile, amounts):
    """gas = 24.47·(B − 0.7·max(0, B − A − buffer)): the program's way of saying the ledger's min(A, B)."""
    program = job.program
    grams = [round(a, 2) for a in amounts[: program.n]]
    lift = analyse(as_batter(program, grams), facts, profile, {}).lift
    soda, acid, buffer = (sum(g * getattr(p, k) for g, p in zip(grams, program.per, strict=True)) for k in ("soda", "acid", "buffer"))
    assert 24.47 * (soda - 0.7 * max(0.0, soda - acid - buffer)) == pytest.approx(lift.co2_ml, rel=1e-9, abs=1e-9)


@given(st.floats(0, 4), st.floats(20, 500))
def test_the_tangents_bound_the_set_of_gels_from_above_and_closely(gel, flour):
    most = 0.012
    bound = min(flour * (most * (1 - math.exp(-r / most)) - r * math.exp(-r / most)) + math.exp(-r / most) * gel for r in GEL_TANGENTS)
    assert bound >= gel_set(gel, flour) - 1e-9
    assert bound <= gel_set(gel, flour) + 0.1 * most * flour


@given(st.floats(0.1, 60), st.floats(0, 0.9))
def test_the_solids_aimed_at_give_the_stress_wanted(tau, theta):
    phi = solids_for(tau, theta)
    assert phi is None or yield_stress(phi, theta) == pytest.approx(tau, rel=1e-9)


@pytest.mark.parametrize(
    ("text", "form", "diets"),
    [(RIDGE, "griddle", ("vegan",)), (WAFFLE, "waffle", ("low_carb",)), (BUTTERMILK, "griddle", ("vegan", "gluten_free"))],
)
def test_what_was_lost_is_accounted_for(text, form, diets, batter, facts, profile):
    """For each function, what left each ingredient of the base is all told: kept, passed on, or not made good."""
    found = adapt(batter(text, form), Wishes(diets=diets), facts, profile)
    pairs = [[(facts.ingredients[x.ingredient], x.grams) for x in a.batter.lines] for a in (found.base, found.answers[0].analysis)]
    before, after = (work(p, 10.0) for p in pairs)
    moved = transfers(before, after)
    assert moved == found.answers[0].transfers
    for name, _, least, _ in FUNCTIONS:
        for ingredient, amount in before[name].items():
            told = sum(t.amount for t in moved if t.function == name and t.source == ingredient)
            parts = 1 + len(after[name])
            assert told <= amount + 1e-9 and told >= amount - parts * least
    assert say(0.04, "egg", "set") == "0.0 egg of set"


def test_reasons_name_the_work_that_moved(batter, facts, profile):
    found = adapt(batter(RIDGE), Wishes(diets=("vegan",)), facts, profile).answers[0]
    by = {c.source_id: c for c in found.changes if c.source_id}
    milk = by["whole_milk"]
    assert "brings the liquid" in milk.reason and "comes from an animal" in milk.reason and "g of water" in milk.figures
    assert "brings the fat" in by["butter"].reason
    assert not any(re.search(r"\d+ (g|meq|mmol|egg)\b", c.reason) for c in found.changes)  # figures only where they are asked for
    assert all(c.target_id is None or c.target_id in {x.ingredient for x in found.analysis.batter.lines} for c in found.changes)
    new = {x.ingredient for x in found.analysis.batter.lines} - {x.ingredient for x in batter(RIDGE).lines}
    assert new <= {c.target_id for c in found.changes}


@given(st.floats(120, 400), st.floats(1.0, 30.0))
def test_settling_the_liquid_meets_the_stress(facts, flour, tau):
    i = facts.ingredients
    portions = [(i["all_purpose_flour"], flour), (i["soy_drink"], 1.5 * flour), (i["sugar"], 20.0)]
    grams = settle(portions, 1, tau, 10.0, 1.0)
    assert stress_of([portions[0], (i["soy_drink"], grams), portions[2]], 10.0) == pytest.approx(tau, rel=0.04)


@given(st.floats(0.01, 2000))
def test_a_scale_can_follow_every_step(facts, grams):
    for id_ in ("all_purpose_flour", "baking_powder", "soy_drink"):
        rounded = to_step(facts.ingredients[id_], grams)
        assert abs(rounded - grams) <= 0.5 + 1e-9 and rounded == pytest.approx(round(rounded, 2))
