"""Numbers as cooks write them: one rule for each way, and nothing that is no number."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.measures.numbers import VULGAR, take_range, value


@pytest.mark.parametrize(
    ("text", "number"),
    [("2", 2), ("0.25", 0.25), (".5", 0.5), ("0,5", 0.5), ("1,5", 1.5), ("1,250", 1250), ("0,250", 0.25), ("1,000,000", 1_000_000), ("1 1/2", 1.5),
     ("1-1/2", 1.5), ("3/4", 0.75), ("1⁄3", 1 / 3), ("½", 0.5), ("2½", 2.5), ("1 ¾", 1.75), ("two", 2), ("a", 1), ("an", 1), ("half", 0.5), ("half a", 0.5),
     ("one and a half", 1.5), ("a dozen", 12), ("half a dozen", 6), ("2 dozen", 24), ("a couple", 2), ("three quarters", 0.75), ("1 and 1/2", 1.5), ("1 & ½", 1.5)],
)  # fmt: skip
def test_a_number_is_what_it_spells(text, number):
    assert value(text) == pytest.approx(number)
    assert value(f"  {text.upper()} ") == pytest.approx(number)


@pytest.mark.parametrize("text", ["", "x", "1/0", "one and a cow", "1e400", "--2"])
def test_what_spells_none_is_refused(text):
    with pytest.raises((ValueError, KeyError)):
        value(text)


@pytest.mark.parametrize(
    ("text", "low", "high", "rest"),
    [("2-3 eggs", 2, 3, "eggs"), ("2 to 3 eggs", 2, 3, "eggs"), ("2 or 3 eggs", 2, 3, "eggs"), ("3–2 eggs", 2, 3, "eggs"), ("between 2 and 3 eggs", 2, 3, "eggs"),
     ("one or two pinches", 1, 2, "pinches"), ("1/2-3/4 cup", 0.5, 0.75, "cup"), ("5 g", 5, 5, "g")],
)  # fmt: skip
def test_a_range_has_two_ends_the_smaller_first(text, low, high, rest):
    assert take_range(text) == (pytest.approx(low), pytest.approx(high), rest)


@pytest.mark.parametrize("text", ["eggs", "2 and 3 eggs", "1/0 cup", ""])
def test_what_is_no_range_is_none(text):
    assert take_range(text) is None or take_range(text)[1] == 2


@given(st.integers(0, 400), st.sampled_from(sorted(VULGAR)))
def test_a_whole_number_and_a_sign_add_up(whole, sign):
    assert value(f"{whole} {sign}") == pytest.approx(whole + VULGAR[sign]) == pytest.approx(value(f"{whole}{sign}"))


@given(st.integers(1, 99), st.integers(1, 64), st.integers(1, 64))
def test_a_mixed_fraction_is_its_sum(whole, top, bottom):
    assert value(f"{whole} {top}/{bottom}") == pytest.approx(whole + top / bottom)
