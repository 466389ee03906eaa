"""The hill: later is farther up, nothing leaves it, and every contour is an hour worth naming."""

from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sizes import many


@given(st.integers(0, 80_000), st.integers(1, 20_000), st.integers(0, 90_000))
@settings(max_examples=many(40), deadline=None)
def test_later_is_farther_up_and_nothing_leaves_the_hill(pure, start, length, at):
    one, other = pure("[p.far(a[2], a[0], a[0] + a[1]), p.far(a[2] + 60, a[0], a[0] + a[1])]", [start, length, at])
    assert 0 <= one <= other <= 1


def test_the_counter_is_at_the_foot_and_the_middle_is_the_middle(pure):
    foot, far, left, right = pure("[p.place(0.5, 0), p.place(0.5, 1), p.place(0, 0.5), p.place(1, 0.5)]")
    assert foot["y"] > far["y"] and foot["x"] == far["x"] == (left["x"] + right["x"]) / 2 and left["y"] == right["y"]


def test_contours_are_half_hours_far_off_and_ten_minutes_near(pure):
    found = pure("p.contours(7 * 3600 + 60, 9 * 3600)")
    assert [pure("p.hourOf(a)", t) for t in found][:5] == ["07:10", "07:20", "07:30", "07:40", "08:00"]
    assert pure("p.secondsOf('07:30:15')") == 27015


def test_rings_stand_in_rows_and_say_how_many_have_no_room(pure):
    assert pure("p.rows(8)").pop()["more"] == 3 and len(pure("p.rows(2)")) == 2
    assert len({(r["dx"], r["dy"]) for r in pure("p.rows(6)")}) == 6
    assert [pure("p.initials(a)", n) for n in ("Bram Quell", "ada", "")] == ["BQ", "AD", ""]


def test_a_thread_is_as_long_as_the_waiting_and_dotted_beyond_what_is_free(pure):
    assert pure("p.thread(100, 120)") is None
    assert pure("p.thread(100, 400)") == {"from": 100, "to": 400, "dotted": None}
    assert pure("p.thread(100, 401)")["dotted"] == 400


@given(st.lists(st.integers(0, 3000), min_size=1, max_size=40))
@settings(max_examples=many(30), deadline=None)
def test_every_moment_has_a_bead_and_the_busiest_quarter_of_an_hour_is_the_busiest(pure, times):
    found = pure("p.beads(a.map((at) => ({at, done: false})), 0, 3000)", times)
    assert len(found["beads"]) == len(times) and all(0 <= b["x"] <= 1 for b in found["beads"])
    most = max(sum(1 for t in times if a <= t < a + 900) for a in times)
    assert (found["busiest"] or {"acts": min(most, 2)})["acts"] == most
    assert [b["x"] for b in found["beads"]] == sorted(b["x"] for b in found["beads"])


@given(st.lists(st.floats(0, 300), max_size=12))
@settings(max_examples=many(30), deadline=None)
def test_loads_that_would_cover_each_other_are_one_heap_and_none_is_lost(pure, ups):
    heaps = pure("p.heaps(a)", ups)
    assert sorted(n for heap in heaps for n in heap) == list(range(len(ups)))
    assert all(ups[n] - ups[heap[0]] < 24 for heap in heaps for n in heap)
    firsts = [ups[heap[0]] for heap in heaps]
    assert all(b - a >= 24 for a, b in pairwise(firsts))
