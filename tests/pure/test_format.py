"""Numbers as this kitchen writes them, and as it types them."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sizes import many

FEW = settings(max_examples=many(60), deadline=None)


@pytest.mark.parametrize(
    ("value", "point", "comma"),
    [(0, "0", "0"), (0.07, "0.07", "0,07"), (0.494, "0.49", "0,49"), (0.5, "0.5", "0,5"), (3.04, "3", "3"), (9.94, "9.9", "9,9"),
     (9.96, "10", "10"), (204.4, "204", "204"), (12345.6, "12346", "12346")],
)  # fmt: skip
def test_grams_are_written_as_a_scale_shows_them(pure, value, point, comma):
    assert pure("['point', 'comma'].map((d) => p.numbersFor(d).grams(a))", value) == [point, comma]


@pytest.mark.parametrize(
    ("value", "unit", "written"),
    [(None, "cm", "–"), (11, "cm", "11.0"), (212.4, "mL / 100 g", "212"), (0.5, "egg / 100 g", "0.50"), (1.24, "meq", "+1.2"), (-1.24, "meq", "−1.2"),
     (0.04, "meq", "0.0"), (-0.04, "meq", "0.0"), (87.6, "index", "88"), (9.96, "g", "10.0"), (10.4, "g", "10")],
)  # fmt: skip
def test_a_figure_has_as_many_places_as_its_unit_deserves(pure, value, unit, written):
    assert pure("p.numbersFor('point').figure(a, b)", value, unit) == written


@given(value=st.floats(-9999, 9999, allow_nan=False), decimal=st.sampled_from(["point", "comma"]))
@FEW
def test_what_is_written_is_read_again(pure, value, decimal):
    text, read = pure("{ const t = p.numbersFor(b).places(a, 3); return [t, p.readNumber(t.replace('−', '-'))] }", value, decimal)
    assert read == pytest.approx(value, abs=0.00051) and ("." if decimal == "comma" else ",") not in text
    assert text not in ("-0", "−0") and " " not in text


@pytest.mark.parametrize("text", ["", " ", "1.2.3", "1e3", "0x1f", "Infinity", "NaN", "١٢", "1 000", "--2", "12g", "½"])
def test_what_is_no_number_is_none(pure, text):
    assert pure("p.readNumber(a)", text) is None


def test_a_field_of_grams_says_why_it_holds_none(pure):
    found = pure("['', '12,5', 'x', '-1', '100001'].map((t) => p.readGrams(t))")
    assert found[1] == {"grams": 12.5} and all(f["problem"].endswith((".", ").")) for n, f in enumerate(found) if n != 1)


@pytest.mark.parametrize(("n", "words"), [(0, "0 loads"), (1, "1 load"), (2, "2 loads"), (21, "21 loads")])
def test_a_count_brings_its_words(pure, n, words):
    assert pure("p.counted(a, { one: '1 load', other: '# loads' })", n) == words


def test_heat_is_written_and_read_in_the_kitchens_degrees(pure):
    assert pure("[p.numbersFor('point').degrees(190), p.numbersFor('point', 'fahrenheit').degrees(190), p.heatFor('gas').unit]") == [
        "190 °C",
        "374 °F",
        "°C",
    ]
    assert (
        pure("[60, 190, 350].map((c) => Math.abs(p.heatFor('fahrenheit').read(p.heatFor('fahrenheit').shown(c)) - c) < 0.6)") == [True] * 3
    )
