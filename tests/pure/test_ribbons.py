"""Ribbons between two batters: in their rows, in their order, as thick as what they carry."""

from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sizes import many

MOVED = st.fixed_dictionaries({
    "function": st.sampled_from(["flour", "water", "set"]), "amount": st.floats(0.1, 500), "unit": st.just("g"),
    "source": st.sampled_from(["a", "b", "c", None, "gone"]), "target": st.sampled_from(["x", "y", None]), "weight": st.floats(0, 40),
})  # fmt: skip


@given(st.lists(MOVED, max_size=12))
@settings(max_examples=many(50), deadline=None)
def test_every_ribbon_stays_in_its_row_and_none_lies_over_another(pure, moved):
    ribbons, heights, row = pure("{ const r = p.ribbonsOf(['a', 'b', 'c'], ['x', 'y'], a); return [r, p.stacked(r), p.ROW] }", moved)
    assert len(ribbons) == len(heights) and all(r["source"] in "abc" and r["target"] in "xy" for r in ribbons)
    for side, key in (("left", "from"), ("right", "to")):
        for at in range(3):
            spans = sorted((h[side], h[side] + h["width"]) for r, h in zip(ribbons, heights, strict=True) if r[key] == at)
            assert all(at * row <= low and high <= (at + 1) * row for low, high in spans)
            assert all(a[1] <= b[0] + 1e-6 for a, b in pairwise(spans))


def test_more_work_is_a_thicker_ribbon_and_a_trace_is_none(pure):
    def widths(*weights):
        moved = [
            {"function": "flour", "amount": 1, "unit": "g", "source": s, "target": "x", "weight": w}
            for s, w in zip("abc", weights, strict=True)
        ]
        return [r["width"] for r in pure("p.ribbonsOf(['a', 'b', 'c'], ['x'], a)", moved)]

    one, two, three = widths(0.5, 1, 2)
    assert one < two < three
    assert len(widths(0.0, 0.001, 1)) == 1
