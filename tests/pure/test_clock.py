"""Clocks: they follow the server, count through midnight, and know that an hour on the wall is not so many hours from now."""

from datetime import datetime
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sizes import many


def at(text, zone="Europe/Berlin"):
    return datetime.fromisoformat(text).replace(tzinfo=ZoneInfo(zone)).timestamp()


def test_a_clock_follows_what_it_was_told(pure):
    """A device that is an hour behind shows the server's time, also as its own clock goes on."""
    assert pure(
        "{ let t = 1000; const c = new p.Clock(() => t); const one = c.now(); c.heard(4600); t = 1010; return [one, c.now()] }"
    ) == [1000, 4610]


@given(st.integers(-200_000, 200_000))
@settings(max_examples=many(60), deadline=None)
def test_a_span_says_its_seconds_back(pure, seconds):
    text = pure("p.span(a)", seconds)
    assert text.startswith("+") == (seconds < 0)
    parts = [int(x) for x in text.lstrip("+").split(":")]
    assert all(x < 60 for x in parts[1:]) and sum(x * 60**n for n, x in enumerate(reversed(parts))) == abs(seconds)


@pytest.mark.parametrize(
    ("now", "hour", "then"),
    [
        ("2026-06-10 05:00", "07:30", "2026-06-10 07:30"),
        ("2026-06-10 07:30:40", "07:30", "2026-06-10 07:30"),  # this minute is still it
        ("2026-06-10 07:31:30", "07:30", "2026-06-11 07:30"),
        ("2026-06-10 23:59:30", "00:01", "2026-06-11 00:01"),
        ("2026-12-31 22:00", "5:05", "2027-01-01 05:05"),
        ("2026-03-28 22:00", "07:30", "2026-03-29 07:30"),  # clocks go forward in the night: eight and a half hours
        ("2026-10-24 22:00", "07:30", "2026-10-25 07:30"),  # and back: ten and a half
    ],
)
def test_an_hour_is_the_next_one_on_the_wall(pure, now, hour, then):
    assert pure("p.atHour(a, b)", hour, at(now)) == at(then)
    assert pure("p.hour(a)", at(then)) == f"{hour:0>5}"


def test_it_is_the_wall_of_this_kitchen(pure_in):
    tokyo = pure_in("Asia/Tokyo")
    now = at("2026-06-10 05:00", "Asia/Tokyo")
    assert tokyo("p.atHour('07:30', a)", now) == at("2026-06-10 07:30", "Asia/Tokyo")


@pytest.mark.parametrize("text", ["", "7", "24:00", "12:60", "7.30", "07:30 pm", "aa:bb"])
def test_what_is_no_hour_is_none(pure, text):
    assert pure("p.atHour(a, 0)", text) is None
