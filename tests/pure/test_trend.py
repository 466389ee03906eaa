"""Strips, marks and words of the Journal: nothing leaves its scale, and a word never says more than its figure."""

from hypothesis import given, settings
from hypothesis import strategies as st


@given(st.lists(st.floats(-1000, 1000), min_size=1, max_size=20))
@settings(max_examples=40, deadline=None)
def test_every_point_lies_on_the_strip_and_more_lies_higher(pure, values):
    found = pure("p.strip(a, 320, 96)", values)
    points = found["points"]
    assert len(points) == len(values) and all(0 <= q["x"] <= 320 and 0 <= q["y"] <= 96 for q in points)
    assert all((values[i] <= values[j]) or points[i]["y"] <= points[j]["y"] + 1e-6 for i in range(len(values)) for j in range(len(values)))


@given(st.floats(0.1, 1000), st.floats(-2000, 2000))
@settings(max_examples=40, deadline=None)
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
