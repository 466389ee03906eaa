"""A batter of the Book as an offer: its seconds from the heat model, its life from the lift, its allergens from the plate."""

import pytest

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.errors import CannotBe
from mutabilis.core.heat.largest_piece import largest_piece
from mutabilis.core.heat.pieces import surfaces_for
from mutabilis.core.measures.profile import Profile
from mutabilis.core.process.process import process
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.service.moments import LEAST_MIN, foam_life_min, offer_of, station_of
from mutabilis.data import load_facts

from .planned import RULES

FACTS = load_facts()
PLAIN = "200 g plain flour\n230 g milk\n2 eggs\n10 g baking powder\n25 g sugar\n30 g butter, melted"


def made(text, form="griddle", **more):
    b = Batter(lines=read_lines(text, FACTS, Profile()), form=form, **more)
    a = analyse(b, FACTS, Profile())
    surface = surfaces_for(form, FACTS.surfaces)[0]
    return a, surface, offer_of("b", "Batter", a, process(a, FACTS), surface, FACTS, RULES)


@pytest.mark.parametrize(("form", "turned"), [("griddle", True), ("waffle", False), ("tray", False)])
def test_the_moments_are_the_heat_models_own(form, turned):
    a, surface, o = made(PLAIN, form)
    piece = largest_piece(a, FACTS, surface)
    assert o.done_s == round(piece.done_s) and (o.turn_at_s == round(piece.turn_s) if turned else o.turn_at_s is None and o.turn_s == 0)
    assert o.hold_s == RULES.hold_s[form] and (o.oven_c is not None) == (form == "tray")
    assert o.weigh_s % 15 == o.mix_s % 15 == 0 and o.weigh_s > 60 and o.life_s >= o.rest_s


def test_a_bowl_lasts_as_long_as_its_lift_and_foam_less():
    """Whipped air keeps 85 % of itself for log2(1/0.85) of its half-life of 25 minutes: 5.9 minutes after the fold."""
    assert foam_life_min() == pytest.approx(5.86, abs=0.01)
    _, _, powder = made(PLAIN)
    _, _, foam = made(PLAIN.replace("2 eggs", "2 eggs, separated"))
    assert foam.life_s - foam.rest_s == pytest.approx(60 * foam_life_min(), abs=15) and powder.life_s - powder.rest_s >= 60 * LEAST_MIN - 15


def test_soda_that_is_wetted_last_begins_to_lose_at_the_end_of_the_rest():
    _, _, o = made("200 g plain flour\n240 g buttermilk\n1 egg\n4 g baking soda\n20 g oil", rest_min=30)
    assert o.rest_s == 1800 and 60 <= o.life_s - o.rest_s < 1800


def test_what_may_be_in_it_counts_and_what_was_not_read_may_be_anything():
    _, _, o = made(PLAIN + "\n10 g zorbledfrast")
    assert {"egg", "milk", "wheat"} <= set(o.contains) and "unknown" in o.may_contain and "vegan" not in o.fits
    _, _, free = made("200 g certified gluten-free oat flour\n230 g oat drink\n2 eggs\n8 g baking powder\n20 g oil")
    assert "gluten" not in free.contains


def test_what_no_heat_cooks_through_is_not_offered():
    a = analyse(Batter(lines=read_lines("500 g plain flour\n100 g water", FACTS, Profile())), FACTS, Profile())
    with pytest.raises(CannotBe, match="cooks it through before it burns"):
        offer_of("b", "Bricks", a, process(a, FACTS), surfaces_for("griddle", FACTS.surfaces)[0], FACTS, RULES)


def test_an_iron_is_not_cleaned_of_what_it_met_and_a_plate_can_be():
    iron, plate = surfaces_for("waffle", FACTS.surfaces)[0], surfaces_for("griddle", FACTS.surfaces)[0]
    assert not station_of(iron, 2, ("wheat",)).cleanable and station_of(plate, 6).cleanable
    assert station_of(iron, 2, ("wheat",)).met == ("wheat",) and station_of(plate, 6).heat_up_s == 60 * plate.heat_up_min
