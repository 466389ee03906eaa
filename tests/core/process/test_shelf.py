"""What is taken off the shelf: to the gram, each line once; and the ways and words of a plan."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.process.parts import Ways
from mutabilis.core.process.shelf import Shelf
from mutabilis.core.process.sorting import Item
from mutabilis.core.process.ways import resolved, rest_and_moment
from mutabilis.core.process.words import cap, named, names, portion_names, small
from mutabilis.core.recipe.leftovers import Leftovers
from mutabilis.core.service.saying import later
from mutabilis.core.service.wishes import Guest


@pytest.fixture
def items(batter, facts):
    lines = batter("200 g flour\n100 g eggs\n60 g egg whites\n300 g milk").lines
    return [
        Item(at=n, line=x, i=facts.ingredients[x.ingredient], grams=x.grams, use="wet", white={"egg": 0.6, "egg_white": 1.0}.get(x.ingredient, 0.0))
        for n, x in enumerate(lines)
    ]  # fmt: skip


@given(takes=st.lists(st.tuples(st.integers(0, 3), st.one_of(st.none(), st.floats(0, 400))), max_size=12))
def test_whatever_is_taken_the_grams_of_a_line_are_given_once(items_of_four, takes):
    shelf, given_out = Shelf(items_of_four), [0.0] * 4
    for at, grams in takes:
        for p in shelf.take(items_of_four[at], grams):
            assert p.grams > 0 and p.line == at
            given_out[at] += p.grams
    shelf_rest = shelf.take_all(items_of_four)
    for p in shelf_rest:
        given_out[p.line] += p.grams
    assert given_out == pytest.approx([x.grams for x in items_of_four])
    assert shelf.take_all(items_of_four) == ()  # and the shelf is empty


@pytest.fixture(scope="module")
def items_of_four(batter, facts):
    lines = batter("200 g flour\n100 g eggs\n60 g butter\n300 g milk").lines
    return [Item(at=n, line=x, i=facts.ingredients[x.ingredient], grams=x.grams, use="wet") for n, x in enumerate(lines)]


def test_an_egg_is_parted_and_its_yolk_is_what_is_left(items, facts):
    shelf = Shelf(items)
    white, whites = shelf.white(items[1]), shelf.white(items[2])
    assert [(p.ingredient, p.grams) for p in white] == [("egg_white", pytest.approx(60.0))] and white[0].share == pytest.approx(0.6)
    assert [(p.ingredient, p.grams) for p in whites] == [("egg_white", 60.0)]  # a line of whites foams whole
    rest = shelf.take_all(items)
    assert [(p.ingredient, round(p.grams)) for p in rest] == [("all_purpose_flour", 200), ("egg_yolk", 40), ("whole_milk", 300)]
    assert named((*white, *rest), facts.ingredients) == [
        "whites",
        facts.ingredients["all_purpose_flour"].short,
        "yolks",
        facts.ingredients["whole_milk"].short,
    ]
    assert portion_names((), facts.ingredients) == "nothing" and portion_names(white, facts.ingredients) == "whites"


def test_words_in_a_row(facts):
    egg = facts.ingredients["egg"]
    assert names([egg, egg]) == egg.short and names([]) == "nothing"
    assert (cap(""), cap("éclair"), small("Éclair")) == ("", "Éclair", "éclair")


def test_the_day_decides_over_the_version_and_the_version_over_what_is_usual(batter):
    plain = batter("200 g flour\n300 g milk\n10 g baking powder")
    assert (
        resolved(Ways(), plain).order == "two_bowls"
        and resolved(Ways(), plain).whites == "soft"
        and resolved(Ways(), plain, stiff=True).whites == "stiff"
    )
    blended = plain.model_copy(update={"blender": True})
    one = blended.model_copy(update={"order": "one_bowl", "whites": "soft", "leavening": "last"})
    assert resolved(Ways(), blended).order == "blender" and resolved(Ways(), one).order == "one_bowl"
    assert resolved(Ways(), one, stiff=True).whites == "soft" and resolved(Ways(), one).leavening == "last"
    day = resolved(Ways(order="blender", whites="stiff", leavening="dry", bag=True), one)
    assert (day.order, day.whites, day.leavening, day.bag) == ("blender", "stiff", "dry", True)


def test_a_rest_that_outlives_the_lift_is_cut_short_or_the_leavening_waits(analysed):
    """Soda and vinegar are spent in minutes, double-acting powder in hours: the rest or the moment follows, as is chosen."""
    quick = analysed("200 g flour\n300 g milk\n4 g baking soda\n20 g lemon juice", rest_min=60.0)
    slow = analysed("200 g flour\n300 g milk\n10 g baking powder", rest_min=10.0)
    assert rest_and_moment(slow, Ways())[:2] == (10.0, "dry")
    rest, moment, why = rest_and_moment(quick, Ways())
    assert (rest, moment) == (60.0, "hot") and "half spent" in why
    rest, moment, why = rest_and_moment(quick, Ways(leavening="dry"))
    assert moment == "dry" and rest == int(quick.lift.latest_min) < 60 and "cut short" in why
    assert rest_and_moment(quick, Ways(leavening="last"))[:2] == (60.0, "last")


def test_guests_are_named_up_to_three_and_counted_beyond():
    guests = [Guest(id=f"g{n}", name=x, at=7 * 3600, pieces=1) for n, x in enumerate(("Ada", "Bram", "Cleo", "Dora"))]
    assert later(guests[:3], 8 * 3600).words == "Ada, Bram and Cleo at 08:00"
    many = later(guests, 8 * 3600)
    assert many.words == "4 guests at 08:00" and [c.guest for c in many.changes] == ["g0", "g1", "g2", "g3"]


def test_a_pack_and_half_an_egg_weigh_something(facts):
    for pack in ({"pack_g": 0, "of": "tin", "use": "x"}, {"pack_g": -1, "of": "tin", "use": "x"}):
        with pytest.raises(ValueError):
            Leftovers.model_validate({"pack": {"coconut_drink": pack}})
    with pytest.raises(ValueError):
        Leftovers.model_validate({"egg": {"egg_white": {"other": "egg_yolk", "grams": 0, "use": "x"}}})
    halves = facts.leftovers.egg
    assert {halves[f"egg_{x.other}"].other for x in halves.values()} == {"white", "yolk"}
    assert sum(x.grams for x in halves.values()) == 50  # a large egg out of its shell
