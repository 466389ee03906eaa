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
