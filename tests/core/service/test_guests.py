"""Guests read from lines: needs are graded with care, and what is not understood puts nobody down."""

import pytest

from mutabilis.core.food.allergen_tokens import ALLERGENS
from mutabilis.core.service.guests import read_guests
from mutabilis.core.service.hours import seconds

from .planned import RULES


def read(text, **more):
    return read_guests(text, RULES, ALLERGENS, **more)


@pytest.mark.parametrize(
    ("line", "needs"),
    [
        ("Bram, 07:30, egg allergy", [("egg", "allergy")]),
        ("Bram; 7.30; allergic to sesame", [("sesame", "allergy")]),
        ("Anneke, 07:30, lactose intolerant", [("milk", "intolerance")]),
        ("Juna, 07:30, vegan", [("vegan", "preference")]),
        ("Juna, 07:30, vegan, coeliac", [("vegan", "preference"), ("gluten", "allergy")]),
        ("Cleo, 07:30, dairy-free by choice", [("dairy_free", "preference")]),
        ("Cleo, 07:30, gluten-free", [("gluten_free", "allergy")]),  # nobody says how bad it is: taken for the worst
        ("Cleo, 07:30, no nuts", [("nut_free", "allergy")]),  # peanuts may be meant too
        ("Cleo, 07:30, shellfish allergy", [("shellfish", "allergy")]),
        ("Cleo, 07:30, eats anything", []),
        (
            "Cleo, 07:30, severe nut allergy, allergic to sesame and soya",
            [("nut_free", "allergy"), ("sesame", "allergy"), ("soy", "allergy")],
        ),
        ("Cleo, 07:30, can't have dairy or eggs", [("milk", "allergy"), ("egg", "allergy")]),
        ("Cleo, 07:30, GF/df", [("gluten_free", "allergy"), ("dairy_free", "allergy")]),
        ("Cleo, 07:30, everything but eggs", [("egg", "allergy")]),
        ("Cleo, 07:30, severely lactose intolerant", [("milk", "allergy")]),
        ("Cleo, 07:30, strict vegan and coeliac please", [("vegan", "preference"), ("gluten", "allergy")]),
        ("Cleo egg allergy 07:30", [("egg", "allergy")]),
        ('"Cleo Fish", 07:30', []),
    ],
)
def test_needs_are_read_with_their_grade(line, needs):
    (guest,), unread = read(line)
    assert not unread and [(n.what, n.grade) for n in guest.needs] == needs and guest.at == seconds("07:30")


@pytest.mark.parametrize(
    ("line", "why"),
    [
        ("Ada, 07:30, strawberry allergy", "cannot be vouched for"), ("Ada, 07:30, kiwi", "not understood"), ("Ada", "an hour is missing"), ("Ada, 07:30, 400 cakes", "more than one guest"),
        ("Ada Fish, 07:30", "in quotes"), ("Ada, 7, vegan", "3 cakes"), ("Ada, 07:30, 08:00", "two hours"), ("Bo and his coeliac wife, 07:30", "after a comma"),
        ("Ada, 07:30, not vegan", "not understood"), ("Ada, 07:30, no raw egg", "not understood"), ("nine, 07:30, two vegan", "not so many"),
        ("nine walkers, 07:30, two vegan, one of them coeliac", "not understood"),  # whose is it?
        ("three walkers, 07:30, four vegan", "not so many"), ("Ada, 25:00", "an hour is written"), ("Ada, 07:30, no onion", "not understood"),
    ],
)  # fmt: skip
def test_a_line_with_anything_that_is_not_understood_puts_nobody_down(line, why):
    guests, unread = read(f"{line}\nBo, 08:00")
    assert [g.name for g in guests] == ["Bo"] and len(unread) == 1 and why in unread[0].why


@pytest.mark.parametrize("line", ["{name} {need}, 07:30", "{need} {name}, 07:30", "{name} ({need}), 07:30, 3 cakes", "{name}: {need}, 07:30", "{name} – {need}, 07:30",
    "{name} 07:30 {need}", "{name}/{need}, 07:30", "{name}-{need}, 07:30", "{name} who is {need}, 07:30", "07:30, {name}, {need}", "{name} and {need} wife, 07:30", "2x {need}, 07:30"])  # fmt: skip
@pytest.mark.parametrize(("need", "what"), [("coeliac", "gluten"), ("egg allergy", "egg"), ("vegan", "vegan"), ("nutfree", "nut_free"), ("no sesame", "sesame"), ("allergic to peanuts", "peanut"),
    ("dairy-free", "dairy_free"), ("GF", "gluten_free"), ("kiwi allergy", ""), ("diabetic", ""), ("soy", "soy")])  # fmt: skip
def test_a_need_is_never_taken_for_a_part_of_the_name(line, need, what):
    guests, unread = read(line.format(name="Ada Lind", need=need))
    assert unread or (guests and all(what in [n.what for n in g.needs] for g in guests))


def test_a_group_is_so_many_guests_and_each_need_is_somebody_elses():
    guests, unread = read("nine walkers, 07:30, two vegan, one coeliac, 2 waffles")
    assert not unread and len(guests) == 9 and len({g.id for g in guests}) == 9
    assert [[n.what for n in g.needs] for g in guests[:4]] == [["vegan"], ["vegan"], ["gluten"], []]
    assert all((g.pieces, g.form, g.seat) == (2, "waffle", "walkers") for g in guests)


def test_two_of_one_name_are_two_guests_and_the_hour_may_be_given_for_all():
    guests, _ = read("Ada, 3 cakes\nAda, 07:40, table 4", at=seconds("07:30"), taken=["ada"])
    pair, _ = read("Ada & Bo, 07:30, both vegan\nParty of twelve, 08:00, 2")
    assert [(g.name, g.seat, len(g.needs)) for g in pair[:2]] == [("Ada", "Ada & Bo", 1), ("Bo", "Ada & Bo", 1)] and [
        g.pieces for g in pair[2:]
    ] == [2] * 12
    assert [(g.id, g.at, g.table, g.form) for g in guests] == [("ada_2", 27000, None, "griddle"), ("ada_3", 27600, "4", None)]


@pytest.mark.parametrize("hour", ["7:30 am", "at 7.30", "07:30h", "7:30 A.M."])
def test_an_hour_of_the_morning_is_read_as_people_scribble_it(hour):
    (guest,), unread = read_guests(f"Mo, {hour}, anaphylactic to peanut, 2 cakes", RULES, ALLERGENS)
    assert not unread and guest.at == 7 * 3600 + 1800 and [(n.what, n.grade) for n in guest.minds] == [("peanut", "allergy")]


@pytest.mark.parametrize(
    "line", ["Di, 7:30 pm, vegan", "Flo, 07:30, allergic to everything", "Lu, 07:30, kein Ei", "Kid, 8:00, allergic to egss"]
)
def test_what_is_not_understood_puts_nobody_down(line):
    guests, unread = read_guests(line, RULES, ALLERGENS)
    assert guests == () and len(unread) == 1 and unread[0].why
