"""The server's clock, and the devices as they are read: no screen and no other process can move either."""

import pytest

from mutabilis.api.clock import Clock
from mutabilis.api.hub import Hub


class Wall:
    """A wall clock that someone sets, and a steady one that nobody can."""

    def __init__(self, at=1_000_000.0):
        self.wall, self.steady = at, 50.0

    def go(self, seconds):
        self.wall += seconds
        self.steady += seconds

    def clock(self, latest=0.0):
        return Clock(latest, wall=lambda: self.wall, steady=lambda: self.steady)


def test_it_goes_on_whatever_the_wall_is_set_to():
    w = Wall()
    c = w.clock()
    w.go(60)
    assert c.now() == 1_000_060 and c.words() == ""
    w.wall -= 3600  # somebody sets it back
    assert c.now() == 1_000_060 and "set back by 60 minutes" in c.words()
    w.go(30)
    assert c.now() == 1_000_090
    w.wall += 3600 + 40
    assert "set forward by 40 seconds" in c.words() and c.off_by_s == pytest.approx(40)


@pytest.mark.parametrize(("off", "told"), [(4.9, False), (-4.9, False), (5.1, True), (-5.1, True)])
def test_a_few_seconds_are_nothing_to_tell(off, told):
    w = Wall()
    c = w.clock()
    w.wall += off
    assert (c.words() != "") is told


def test_it_never_starts_before_the_last_moment_in_the_book():
    w = Wall()
    c = w.clock(latest=1_000_500.0)
    assert c.now() == 1_000_500 and "set back" in c.words()
    w.go(5)
    assert c.now() == 1_000_505


def hub(facts):
    now = [100.0]
    return Hub(facts.stove.scale, steady=lambda: now[0]), now


def test_the_scale_is_read_no_oftener_than_it_can_be_whoever_asks(facts):
    h, now = hub(facts)
    h.scale.pour(100)
    counts = set()
    for _ in range(40):
        readings, at = h.readings()
        counts.add(readings[-1].n)
        assert at == now[0]
        now[0] += facts.stove.scale.apart_s / 10
    assert len(counts) <= 40 / 10 / 0.4 + 1  # forty askers in four steps of the scale


def test_the_last_seconds_are_kept_in_their_order_and_no_more(facts):
    h, now = hub(facts)
    for _ in range(300):
        h.readings()
        now[0] += 0.1
    readings, at = h.readings()
    assert [r.n for r in readings] == sorted(r.n for r in readings) and at - readings[0].at <= 8.0 + 0.11
    now[0] += 100.0  # nobody asked for a long while
    assert len(h.readings()[0]) == 1


def test_a_scale_that_comes_back_is_heard_at_once(facts):
    h, now = hub(facts)
    h.scale.pour(100)
    h.readings()
    h.scale.plugged = False
    now[0] += 0.2
    assert h.readings()[0][-1].status == "unplugged"
    h.scale.plugged = True
    now[0] += 0.001
    assert h.readings()[0][-1].status == "ok"


def test_the_surface_is_read_in_whole_degrees_and_not_at_all_where_it_is_unplugged(facts):
    h, now = hub(facts)
    h.thermometer.aim(190.0)
    first = h.surface_c()
    now[0] += 900
    assert first == round(first) and h.surface_c() == 190.0
    h.thermometer.plugged = False
    assert h.surface_c() is None
