"""Bags of the evening: who shares one, how much goes in, what may not get in, and what the whole morning takes."""

import pytest

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.service.evening import batches, evening_mixes, takes
from mutabilis.core.service.inputs import read_service
from mutabilis.data import load_facts

from .making import batter
from .planned import RULES, planned, wishes

FACTS = load_facts()
DRY = "200 g plain flour\n20 g sugar\n10 g baking powder\n2 g salt\n"
TEXTS = {
    "milk": DRY + "240 g milk\n2 eggs\n30 g oil", "oat": DRY + "300 g oat drink\n40 g oil", "sweet": DRY.replace("20 g sugar", "60 g sugar") + "240 g milk\n2 eggs", "wet": "300 g yogurt\n3 eggs\n100 g plain flour",
}  # fmt: skip


def analysed(id):
    return analyse(Batter(lines=read_lines(TEXTS[id], FACTS, Profile())), FACTS, Profile(), {}) if id in TEXTS else None


def evening(*ids, minds=None):
    griddle = [{"id": "g", "kind": "griddle", "places": 8, "heat_up_s": 60}]
    guests = [{"id": f"guest_{i}", "name": i.title(), "at": "07:30", "pieces": 4, "batter": i} for i in ids]
    offers = [batter({"id": i, "name": f"{i.title()} cakes", "form": "griddle", "done_s": 200}) for i in ids]
    told = wishes(griddle, offers, guests)
    plan = planned(told, 0.3)
    return evening_mixes(read_service(told, RULES), plan, minds or {}, analysed, FACTS, Profile()), plan


def test_the_same_dry_lines_are_one_bag_and_other_ones_another():
    bags, _ = evening("milk", "oat", "sweet")
    assert sorted(sorted(b.name for b in bag.branches) for bag in bags) == [["Milk cakes", "Oat cakes"], ["Sweet cakes"]]
    shared = next(bag for bag in bags if len(bag.branches) == 2)
    assert shared.grams == pytest.approx(sum(232 * batches(analysed(i), 4) for i in ("milk", "oat")), rel=0.01)
    oat = next(b for b in shared.branches if b.name == "Oat cakes")
    assert "oat drink" in oat.add and "milk" not in oat.add.replace("oat", "") and oat.guests == ("Oat",) and oat.pieces == 4


def test_what_any_of_its_guests_may_not_meet_may_not_get_into_a_bag():
    bags, _ = evening("milk", "oat", minds={"oat": frozenset({"egg"}), "milk": frozenset({"tree_nut"})})
    assert [b.free_of for b in bags] == [("egg", "tree_nut")]


def test_what_cannot_be_mixed_ahead_is_weighed_on_the_day():
    (bag,), _ = evening("wet")
    assert (bag.grams, bag.inside, bag.branches[0].add) == (0, (), "Weighed on the day.")


def test_a_morning_takes_each_batter_as_often_as_its_pieces_need():
    _, plan = evening("milk", "oat")
    found = takes(plan, analysed)
    times = {i: batches(analysed(i), 4) for i in ("milk", "oat")}
    assert found["whole_milk"] == pytest.approx(240 * times["milk"]) and found["all_purpose_flour"] == pytest.approx(
        200 * sum(times.values())
    )
    assert list(found.values()) == sorted(found.values(), reverse=True) and "water" not in found
    assert takes(plan, lambda _: None) == {}


def test_a_label_says_for_whom_what_may_not_get_in_and_what_is_added():
    from mutabilis.core.service.evening import Branch, EveningMix, labels_of

    bag = EveningMix(
        grams=286.4, inside=("175 g buckwheat flour",), free_of=("gluten", "milk"), branches=(Branch(name="Cakes", pieces=6, guests=("Ada",), add="Add 200 g milk."),)
    )  # fmt: skip
    empty = EveningMix(grams=0.0, inside=(), free_of=(), branches=(Branch(name="Foam", pieces=1, guests=(), add="Weighed on the day."),))
    (label,) = labels_of([bag, empty], "2030-05-14")
    assert (
        label[0] == "Cakes"
        and "286 g" in label[1]
        and "2030-05-14" in label[1]
        and "gluten, milk" in label[2]
        and label[3].endswith("Add 200 g milk.")
    )
