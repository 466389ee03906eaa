"""Trends that are said only when they are, and comparisons that prove no more than they can."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mutabilis.core.journal.compare import Inputs, differences, proves
from mutabilis.core.journal.trends import drift
from tests.sizes import many


def test_a_slope_by_hand_with_one_wild_value():
    """1, 2, 3, 40, 5: the slopes 1, 1, 13, 1, 1, 19, 1, 37, 1 and −35 have the median 1."""
    d = drift([1, 2, 3, 40, 5])
    assert d is not None and d.slope == 1 and d.median == 3 and not d.drifts  # five batches are too few


def test_noise_is_no_drift_and_a_slope_is():
    dice = random.Random(5)
    false = sum(bool((d := drift([dice.gauss(0, 1) for _ in range(12)])) and d.drifts) for _ in range(400))
    assert false / 400 < 0.08  # one in twenty by design
    found = sum(bool((d := drift([0.5 * n + dice.gauss(0, 1) for n in range(12)])) and d.drifts) for _ in range(100))
    assert found > 90
    assert drift([3.0]) is None and drift([]) is None


@settings(max_examples=many(60))
@given(st.lists(st.floats(-100, 100), min_size=2, max_size=14), st.floats(-50, 50), st.floats(0.1, 9))
def test_a_drift_moves_with_the_scale_and_not_with_the_level(values, level, scale):
    one, other = drift(values), drift([scale * v + level for v in values])
    assert other.slope == pytest.approx(scale * one.slope, abs=1e-6) and one.low <= one.slope <= one.high


def inputs(**more):
    return Inputs(**{"liquid": 1.2, "rest": 10.0, "heat": 190.0, "grams": {"sugar": 10.0}, "packs": {}} | more)


@pytest.mark.parametrize(
    ("other", "noticed"),
    [
        ({}, []), ({"liquid": 1.21}, []), ({"liquid": 1.3}, ["liquid"]), ({"rest": 12.0}, []), ({"rest": 20.0}, ["rest"]), ({"heat": 197.0}, []), ({"heat": 199.0}, ["heat"]),
        ({"grams": {"sugar": 20.0}}, ["sugar"]), ({"heat": 170.0, "liquid": 1.4}, ["liquid", "heat"]), ({"rest": None}, []),
    ],
)  # fmt: skip
def test_what_differs_is_what_a_cook_would_notice(other, noticed):
    found = differences([inputs(), inputs(**other)], {})
    assert [d.name for d in found if d.noticed] == noticed
    words = proves(found)
    assert words.startswith({0: "Nothing", 1: "One thing"}.get(len(noticed), f"{len(noticed)} things changed; this comparison proves none"))
