"""Strips, marks and words of the Journal: nothing leaves its scale, and a word never says more than its figure."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sizes import many


@given(st.lists(st.floats(-1000, 1000), min_size=1, max_size=20))
@settings(max_examples=many(40), deadline=None)
def test_every_point_lies_on_the_strip_and_more_lies_higher(pure, values):
    found = pure("p.strip(a, 320, 96)", values)
    points = found["points"]
    assert len(points) == len(values) and all(0 <= q["x"] <= 320 and 0 <= q["y"] <= 96 for q in points)
    assert all((values[i] <= values[j]) or points[i]["y"] <= points[j]["y"] + 1e-6 for i in range(len(values)) for j in range(len(values)))


@given(st.lists(st.floats(-100, 100), min_size=1, max_size=9), st.floats(-300, 300), st.floats(0.1, 300))
@settings(max_examples=many(40), deadline=None)
def test_the_band_that_was_reckoned_is_on_the_scale_whole(pure, values, low, reach):
    found = pure("p.strip(a[0], 320, 96, a[1])", [values, [low, low + reach]])
    assert 0 <= found["band"]["top"] <= found["band"]["bottom"] <= 96
    for v, q in zip(values, found["points"], strict=True):
        inside = low <= v <= low + reach
        assert not inside or found["band"]["top"] - 1e-6 <= q["y"] <= found["band"]["bottom"] + 1e-6


@given(st.lists(st.tuples(st.floats(-50, 50), st.floats(0.01, 20)), min_size=1, max_size=8))
@settings(max_examples=many(40), deadline=None)
def test_a_funnel_narrows_with_the_doubt_and_what_was_told_never_leaves_it(pure, rows):
    beliefs = [{"value": v, "doubt": d} for v, d in rows]
    found = pure("p.funnel(a, a.map((b, n) => (n % 2 ? null : { value: b.value * 9, doubt: b.doubt })), 420, 110)", beliefs)
    assert len(found["middle"]) == len(rows) and found["wall"].count("L") == 2 * len(rows) - 1
    shown = [s for s in found["seen"] if s]
    assert len(shown) == (len(rows) + 1) // 2 and all(0 <= s["top"] <= s["y"] <= s["bottom"] <= 110 for s in shown)
    assert found["low"] <= min(v for v, _ in rows) <= max(v for v, _ in rows) <= found["high"]


@given(st.floats(0.1, 1000), st.floats(-2000, 2000))
@settings(max_examples=many(40), deadline=None)
def test_the_meant_stands_in_the_middle_and_the_happened_never_leaves_the_line(pure, meant, happened):
    found = pure("p.beside(a[0], a[1], 'g')", [meant, happened])
    assert found["meant"] == 50 and 0 <= found["happened"] <= 100
    assert (found["happened"] > 50) == (happened > meant) or abs(happened - meant) < 1e-6


def test_strong_signs_are_counted_and_what_speaks_against_is_not(pure):
    assert pure("[p.signs([2.4, 1.2, -1]), p.signs([0.9]), p.signs([0.5, -2]), p.signs([]), p.signs([2.5, 2.5, 2.5, 2.5])]") == [
        3,
        1,
        0,
        0,
        3,
    ]
    assert pure("[0.95, 0.6, 0.3, 0.1].map(p.likely)") == ["very likely", "likely", "possible", "unlikely"]
