"""Degrees in the kitchen's own scale, in every sentence that the core says."""

import re

import pytest

from mutabilis.core.heat.surfaces import heat_words
from mutabilis.core.measures.degrees import fahrenheit, gas_mark, told
from mutabilis.core.measures.profile import Profile
from mutabilis.core.recipe.card import card


@pytest.mark.parametrize(
    ("said", "heard"),
    [
        ("Heat it to about 190 °C.", "Heat it to about 375 °F."), ("lukewarm: 35 to 38 °C, never hotter than 43 °C", "lukewarm: 95 to 100 °F, never hotter than 109 °F"),
        ("about 15 °C cooler", "about 25 °F cooler"), ("12 °C too hot: one step down", "20 °F too hot: one step down"), ("71 °C (160 °F) in the middle", "71 °C (160 °F) in the middle"),
        ("no degrees in it", "no degrees in it"),
    ],
)  # fmt: skip
def test_a_sentence_in_fahrenheit(said, heard):
    assert told(said, "fahrenheit") == heard and told(said, "celsius") == said


def test_gas_marks_stand_by_an_ovens_heat_and_nowhere_else():
    assert [gas_mark(c) for c in (130, 140, 150, 180, 190, 200, 220, 230, 300)] == [None, 1, 2, 4, 5, 5, 7, 7, None]
    assert told("Heat the oven and tray to about 220 °C", "gas").endswith("220 °C (gas 7)")
    assert told("Heat the pan to about 190 °C", "gas") == "Heat the pan to about 190 °C"


def test_scales_agree_at_the_points_that_everybody_knows():
    assert [fahrenheit(c) for c in (0, 38, 100, 180, 200)] == [32, 100, 210, 355, 390]


def test_a_card_of_a_fahrenheit_kitchen_names_no_bare_celsius(analysed, facts):
    made = card("x", analysed("200 g flour\n300 g milk\n2 eggs\n8 g baking powder"), (), facts, Profile(heat="fahrenheit"))
    said = " ".join((*(f"{s.text} {s.why}" for s in made.steps), *made.cautions, made.largest))
    assert not re.findall(r"\d+ °C(?! \()", said) and re.search(r"375 °F", said)


def test_knobs_come_before_degrees(facts):
    pan = next(s for s in facts.surfaces if s.knob_c)
    assert "knob" in told(heat_words(pan, -25), "fahrenheit")
