"""The method: every step follows from what is in the batter, and nothing in the bowl is left out of it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.measures.profile import Profile
from mutabilis.core.process.parts import Ways
from mutabilis.core.recipe.card import card
from mutabilis.core.recipe.method import method
from tests.conftest import BUTTERMILK, COCONUT, CREPE, PLAIN, RIDGE, WAFFLE

BEFORE = {"warm_up", "drain", "soak", "sour", "melt"}


def steps(a, facts):
    return {s.key: s for s in method(a, facts).steps}


@pytest.mark.parametrize("order", ["two_bowls", "one_bowl", "blender"])
@pytest.mark.parametrize(
    ("text", "form"),
    [(RIDGE, "griddle"), (PLAIN, "griddle"), (COCONUT, "griddle"), (WAFFLE, "waffle"), (CREPE, "crepe"), (BUTTERMILK, "tray")],
)
def test_every_line_has_one_use_and_a_step_that_names_it(text, form, order, analysed, facts):
    a = analysed(text, form)
    m = method(a, facts, Ways(order=order))
    used = [at for _, places in m.uses for at in places]
    assert sorted(used) == [at for at, line in enumerate(a.batter.lines) if line.ingredient and line.grams > 0]
    named = {at for s in m.steps for at in s.lines}
    assert named >= set(used)
    keys = [s.key for s in m.steps]
    assert keys.index("heat") < keys.index("pour") < keys.index("lift_off")
    assert "71 °C" in m.steps[keys.index("lift_off")].why


def test_what_needs_time_comes_first_the_longest_before(analysed, facts):
    a = analysed(
        "200 g flour\n14 g ground flaxseed\n250 g soy drink\n10 g cider vinegar\n40 g plant butter\n60 g plain yogurt\n150 g grated courgette\n4 g bicarb"
    )
    found = [s for s in method(a, facts).steps if s.key in BEFORE]
    assert {s.key for s in found} == BEFORE
    assert [s.minutes for s in found] == sorted((s.minutes for s in found), reverse=True)
    soak = next(s for s in found if s.key == "soak")
    assert "56 g of the soy drink" in soak.text and "never eaten dry" in soak.why and soak.minutes >= 5


@pytest.mark.parametrize(
    ("text", "form", "words"),
    [
        (PLAIN, "griddle", "lumps are left"),
        (CREPE, "crepe", "Half of the wet"),
        ("120 g rice flour\n40 g tapioca starch\n200 g milk\n2 eggs\n6 g baking powder", "griddle", "whisk it smooth"),
    ],
)
def test_how_to_mix_follows_from_gluten_and_form(text, form, words, analysed, facts):
    assert words in steps(analysed(text, form), facts)["together"].text


def test_the_moment_of_the_leavening(analysed, facts):
    late = steps(analysed(BUTTERMILK, rest_min=30), facts)
    assert "when the surface is hot" in late["leaven"].text and "baking soda" not in late["dry"].text
    assert "leaven" not in steps(analysed(WAFFLE, "waffle"), facts)


def test_foam_is_folded_and_a_bowl_is_big_enough(analysed, facts):
    foam = analysed("200 g flour\n220 g milk\n2 egg yolks\n2 egg whites, whipped\n30 g sugar\n4 g baking powder", "waffle")
    found = steps(foam, facts)
    assert (
        "a third of it first" in found["fold"].text
        and list(found).index("judge") < list(found).index("fold")
        and "no yolk" in found["separate"].text
        and "By eye" in found["judge"].text
    )
    stiff = steps(analysed("200 g flour\n220 g milk\n2 egg yolks\n2 egg whites, beaten stiff", "waffle"), facts)
    assert "stand" in stiff["whip"].text and "all at once" in stiff["fold"].text
    small, large = method(foam, facts).bowl_l, method(analysed(WAFFLE, "waffle"), facts).bowl_l
    assert small * 2 % 1 == 0 and large >= 2 * foam.batter_g / 1050


@given(st.floats(0.2, 20))
def test_the_bowl_grows_with_the_batter(times):
    from mutabilis.core.reading.reading import read_lines
    from mutabilis.data import load_facts

    facts = load_facts()
    batter = Batter(lines=read_lines(PLAIN, facts, Profile())).scaled(times)
    a = analyse(batter, facts, Profile(), {})
    assert method(a, facts).bowl_l >= 1.9 * a.batter_g / 1050


def test_what_is_left_over_has_a_use(analysed, facts):
    said = " ".join(method(analysed("150 g flour\n3 egg whites\n150 g coconut milk\n1 tsp baking powder\n100 g milk"), facts).leftovers)
    assert "3 yolks left over" in said and "250 g of the tin of coconut milk" in said
    assert method(analysed("150 g flour\n2 egg whites\n2 egg yolks\n200 g milk"), facts).leftovers == ()


def test_the_card_counts_the_plate_and_hides_nothing(batter, facts, profile):
    b = batter(PLAIN + "\n30 g butter, to serve\n50 g moon dust")
    a = analyse(b, facts, profile)
    made = card("Plain", a, ("vegan", "nut_free"), facts, profile)
    assert made.unread == ("50 g moon dust",) and made.per_piece_plate["fat_g"] > made.per_piece["fat_g"] > 0
    assert next(v.verdict for v in made.verdicts) == "conflicts" and made.verdicts[1].verdict == "cannot_vouch"
    total = made.per_piece["kcal"] * a.yields.pieces
    assert total == pytest.approx(a.nutrition.kcal) and any("Local rules decide" in c for c in made.cautions)
