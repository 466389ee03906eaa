"""How balances are drawn and told: fixed ends, what a cook notices, and the words for it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.balances.entry import Band
from mutabilis.core.balances.marks import Tellings
from mutabilis.data import load_facts

TELLINGS = load_facts().tellings


@pytest.mark.parametrize(
    ("key", "before", "after", "words"),
    [
        ("flow", 12.0, 12.4, "as before"), ("flow", 12.0, 12.6, "runs further"), ("flow", 12.0, 11.0, "stands thicker"), ("set", 0.5, 0.31, "holds less"),
        ("browning", 28, 14, "browns later"), ("sweetness", 5, 6, "sweeter"), ("acid", -1.0, -1.9, "as before"), ("acid", -1.0, 0.5, "sourer"), ("lift", 111, 109, "as before"),
        ("salt", None, 1.0, "as before"), ("moonlight", 1, 9, "as before"),
    ],
)  # fmt: skip
def test_a_move_is_told_as_a_cook_says_it(key, before, after, words):
    assert TELLINGS.said(key, before, after) == words
    assert TELLINGS.noticeable(key, before, after) is (words != "as before" or before is None)


def test_every_balance_that_has_a_track_is_told_and_has_its_ends(analysed):
    for form in ("griddle", "waffle", "crepe", "tray"):
        a, b = (
            analysed(t, form) for t in ("200 g flour\n300 g milk\n2 eggs\n8 g baking powder", "60 g rice flour\n90 g oat drink\n3 g salt")
        )
        for x, y in zip(a.ledgers, b.ledgers, strict=True):
            assert x.key in TELLINGS.balances
            assert TELLINGS.ends(x.key, x.band) == TELLINGS.ends(y.key, y.band) is not None, "one scale for every batter of a form"


@given(st.floats(0.1, 500), st.floats(0.1, 500))
def test_a_track_reaches_past_its_band_and_never_below_nought_for_what_cannot_be(low, width):
    ends = TELLINGS.ends("lift", Band(low, low + width))
    assert 0 <= ends.low <= low and ends.high == pytest.approx(low + (1 + TELLINGS.beyond) * width)
    below = TELLINGS.ends("acid", Band(-low, width))
    assert below.low < -low


def test_an_unknown_word_in_the_file_is_refused():
    with pytest.raises(ValueError):
        Tellings.from_table({"beyond": 0.5, "flow": {"more": "a", "less": "b", "sideways": 1}})


def test_a_share_is_taken_of_the_larger_and_of_no_less_than_a_tenth():
    told = Tellings.from_table({"beyond": 0.5, "flow": {"more": "a", "less": "b", "share": 0.1}, "set": {"more": "c", "less": "d", "noticed": 0.5, "scale": {"low": 0, "high": 9}}})  # fmt: skip
    flow, held = told.balances["flow"], told.balances["set"]
    assert told.beyond == 0.5 and list(told.balances) == ["flow", "set"]
    assert not flow.notices(10.0, 9.0) and flow.notices(10.0, 8.99) and flow.notices(8.99, 10.0)  # a tenth of ten, either way
    assert not flow.notices(0.0, 0.0099) and flow.notices(0.0, 0.0101)  # of a tenth, where both are almost nothing
    assert flow.notices(None, 0.0) and flow.notices(0.0, None) and not flow.notices(None, None)
    assert not held.notices(1.0, 1.5) and held.notices(1.0, 1.51)
    assert told.said("set", 2.0, 1.0) == "d" and told.said("set", 1.0, 2.0) == "c"
    assert told.ends("set", None) == Band(0, 9) and told.ends("flow", None) is None and told.ends("moonlight", None) is None
    assert told.ends("flow", Band(0.0, 4.0)) == Band(0.0, 6.0) and told.ends("flow", Band(-2.0, 2.0)) == Band(-4.0, 4.0)
