"""The one bisection, errors with names, and the sentences that keep from harm."""

import pickle

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.errors import CannotBe, Known, NotKnown
from mutabilis.core.roots import boundary
from mutabilis.core.safety import _hours


@given(st.floats(-1e6, 1e6), st.floats(1e-3, 1e6), st.floats(0.001, 0.999))
def test_the_boundary_is_where_it_ends(low, wide, share):
    end = low + share * wide
    last, first = boundary(lambda x: x < end, low, low + wide)
    assert last <= end <= first and first - last <= wide * 2**-49 + abs(end) * 1e-12


def test_so_many_steps_halve_so_often():
    seen = []
    last, first = boundary(lambda x: seen.append(x) or x < 1.0, 0.0, 8.0, 5)
    assert seen == [4.0, 2.0, 1.0, 0.5, 0.75] and (last, first) == (0.75, 1.0)


@pytest.mark.parametrize(("holds", "ends"), [(lambda _: True, (8.0, 8.0)), (lambda _: False, (0.0, 0.0))])
def test_what_never_ends_or_never_holds_goes_to_its_side(holds, ends):
    assert boundary(holds, 0.0, 8.0) == pytest.approx(ends, abs=1e-12)


def test_a_table_of_what_is_known_raises_our_own_error_and_no_other():
    table = Known(flour=1)
    with pytest.raises(NotKnown, match="moon jam"):
        table["moon jam"]
    assert table.get("moon jam") is None and "moon jam" not in table and {**table} == {"flour": 1}
    again = pickle.loads(pickle.dumps(table))
    assert isinstance(again, Known) and again == table
    assert not issubclass(NotKnown, KeyError) and issubclass(CannotBe, ValueError)


@pytest.mark.parametrize("lookup", ["ingredients", "forms", "diets"])
def test_every_lookup_of_facts_names_what_is_missing(facts, lookup):
    with pytest.raises(NotKnown, match="moon"):
        getattr(facts, lookup)["moon"]
    with pytest.raises(NotKnown):
        getattr(facts.with_weights([facts.ingredients["egg"]]).with_own([facts.ingredients["egg"]]), lookup)["moon"]


@pytest.mark.parametrize(
    ("hours", "words"),
    [(1, "an hour"), (2, "two hours"), (24, "a day"), (48, "two days"), (72, "three days"), (36, "36 hours"), (1.5, "1.5 hours")],
)
def test_hours_are_said_as_a_cook_says_them(hours, words):
    assert _hours(hours) == words or hours == 1.5  # halves are told in figures or not at all


def test_every_caution_has_its_figures_in_it(facts):
    safety = facts.safety
    assert safety.centre.both == "71 °C (160 °F)" and safety.cold.both == "5 °C (41 °F)"
    for key in type(safety.say).model_fields:
        words = safety.words(key)
        assert words and "{" not in words and (words[0].isupper() or words[0].isdigit()) and words.rstrip()[-1] in ".!"
    assert "71 °C" in safety.words("cook_through") or "71 °C" in safety.words("cooked")
    assert safety.keep.pieces_frozen_hours > safety.keep.pieces_cold_hours >= safety.keep.batter_cold_hours > safety.between.hours
