"""The largest piece: as wide as it can be turned, as thick as some heat cooks it through, on this kitchen's surface; one answer everywhere."""

from dataclasses import replace

import pytest

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.heat.largest_piece import STEP_ML, largest_piece, time_words, turnable_cm
from mutabilis.core.heat.pieces import piece_on, reckon, surfaces_for
from mutabilis.core.heat.surfaces import WEB_MM
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.recipe.card import card
from tests.reference.kinds import kinds


@pytest.fixture(scope="module")
def look(facts, profile):
    return lambda text, form="griddle": analyse(Batter(lines=read_lines(text, facts, profile), form=form), facts, profile)


PLAIN = "200 g flour\n290 g milk\n1 egg\n9 g baking powder\n2.5 g salt\n30 g butter"


def test_it_works_at_the_heat_it_names_over_all_kinds(facts):
    profile = Profile()
    for kind in kinds(facts, profile):
        a = analyse(kind.batter, facts, profile, {})
        found = largest_piece(a, facts)
        if found is None:
            continue
        cooked = reckon(facts.heat, a.batter.form, found.thickness_mm, found.celsius, "film")
        assert cooked.verdict == "works" and cooked.done_s == found.done_s, kind.name
        assert f"{found.celsius:.0f} °C" in found.words and time_words(found.done_s) in found.words
        if a.batter.form == "griddle":
            form = facts.forms["griddle"]
            assert found.diameter_cm <= turnable_cm(a.setting.per_100g, form.set_floor, form.set_comfort, facts) + 0.1, kind.name
            assert found.portion_ml % STEP_ML == 0


def test_what_holds_less_is_made_smaller(facts):
    form, points = facts.forms["griddle"], facts.turning
    wide = [turnable_cm(s, form.set_floor, form.set_comfort, facts) for s in (0.05, form.set_floor, 0.2, form.set_comfort, 0.4, 2.0)]
    assert (
        wide == sorted(wide)
        and wide[0] == wide[1] == points.turn_floor_cm
        and wide[3] == points.turn_comfort_cm
        and wide[-1] == points.turn_most_cm
    )


def test_a_thick_batter_takes_a_gentler_heat_or_a_smaller_piece(look, facts):
    """What would burn before its middle is safe is never the largest piece."""
    thick = look("300 g flour\n290 g milk\n1 egg\n12 g baking powder\n60 g butter\n60 g sugar")
    found, griddle = largest_piece(thick, facts), surfaces_for("griddle", facts.surfaces)[0]
    wider = piece_on(thick, griddle, 1.5 * found.portion_ml, "film", facts)
    assert wider.thickness_mm > found.thickness_mm
    assert found.celsius <= griddle.usual_c + 10


def test_surfaces_have_their_own_size(look, facts):
    waffle, crepe, tray = look(PLAIN, "waffle"), look("250 g flour\n500 g milk\n3 eggs", "crepe"), look(PLAIN, "tray")
    iron = surfaces_for("waffle", facts.surfaces)[0]
    assert largest_piece(waffle, facts).portion_ml == iron.iron_ml and largest_piece(waffle, facts).thickness_mm == iron.cooked_mm
    assert surfaces_for("crepe", facts.surfaces)[0].kind == "pan" and largest_piece(crepe, facts).surface == "Wide pan"
    assert largest_piece(tray, facts).words.startswith("The whole tray") and largest_piece(tray, facts).turn_s is None


def test_a_waffle_is_cooked_at_its_web(facts):
    iron = surfaces_for("waffle", facts.surfaces)[0]
    shallow, deep, told = (iron.model_copy(update=x) for x in ({"depth_mm": 9.0}, {"depth_mm": 32.0}, {"depth_mm": 32.0, "web_mm": 10.0}))
    assert (shallow.cooked_mm, deep.cooked_mm, told.cooked_mm) == (9.0, WEB_MM, 10.0)
    done = [reckon(facts.heat, "waffle", s.cooked_mm, 190, "film").done_s for s in (told, deep)]
    assert done[0] < done[1] < 300  # a deep iron is no oven: its waffle is done in minutes


@pytest.mark.parametrize(("seconds", "words"), [(2, "0 s"), (48, "50 s"), (60, "1 min"), (124, "2 min 5 s"), (599, "10 min")])
def test_times_are_said_to_five_seconds(seconds, words):
    assert time_words(seconds) == words


def test_nothing_to_make_has_no_piece(look, facts):
    assert largest_piece(look("5 g flour"), facts) is None
    assert largest_piece(look("200 g flour\n60 g milk"), facts) is None  # it does not flow
    assert largest_piece(look(PLAIN), replace(facts, surfaces=())) is None


def test_the_card_says_the_same(look, facts, profile):
    a = look(PLAIN)
    assert card("Plain", a, (), facts, profile).largest == largest_piece(a, facts).words
